"""Drills: what is practised in the field, when it may start, when it is due again."""
