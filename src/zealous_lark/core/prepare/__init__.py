"""What goes along: packs and their care, charging, upkeep, the kit list, and which pack films what."""
