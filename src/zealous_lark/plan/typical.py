"""Aircraft to start from: one of each usual class, invented."""

from __future__ import annotations

from zealous_lark.plan.document import AircraftPart, LinkPart, SpeedsPart

DUNLIN = AircraftPart(
    name="Dunlin",
    mass_g=249,
    size_m=0.36,
    rotor_count=4,
    rotor_diameter_m=0.12,
    battery_wh=18.1,
    hover_time_min=30,
    speeds_ms=SpeedsPart(slow=6, normal=10, fast=16),
    rth_speed_ms=9,
    ascent_ms=4,
    descent_ms=3,
    max_wind_ms=10.7,
    link=LinkPart(band_ghz=2.4, range_m=6000),
)
"""The light one, under 250 g."""

PLOVER = AircraftPart(
    name="Plover",
    mass_g=720,
    size_m=0.55,
    rotor_count=4,
    rotor_diameter_m=0.21,
    battery_wh=43.6,
    hover_time_min=33,
    speeds_ms=SpeedsPart(slow=7, normal=12, fast=19),
    rth_speed_ms=12,
    ascent_ms=6,
    descent_ms=4,
    max_wind_ms=12,
    link=LinkPart(band_ghz=2.4, range_m=9000),
)
"""The larger one, with more battery, for more wind."""

BITTERN = AircraftPart(
    name="Bittern",
    mass_g=1380,
    size_m=0.78,
    rotor_count=4,
    rotor_diameter_m=0.31,
    battery_wh=95,
    hover_time_min=36,
    speeds_ms=SpeedsPart(slow=7, normal=14, fast=21),
    rth_speed_ms=14,
    ascent_ms=7,
    descent_ms=5,
    max_wind_ms=13,
    link=LinkPart(band_ghz=2.4, range_m=10000),
)
"""A large one, for steady pictures in more wind."""

CLASSES = (
    ("Light, under 250 g", DUNLIN),
    ("Middle, 250 to 900 g", PLOVER),
    ("Large, over 900 g", BITTERN),
)
"""Typical classes to start a spec sheet from; the figures are invented, none is of a real aircraft."""
