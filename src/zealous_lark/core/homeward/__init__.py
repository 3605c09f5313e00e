"""A flight flown step by step, where something may go wrong: the physics of coming home."""
