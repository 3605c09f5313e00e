"""The weather at one place and moment, and where each figure comes from."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum


class WindSource(StrEnum):
    """FORECAST: for open ground. MEASURED: with a meter, or by what is seen, at the site. HOVER: what the aircraft
    itself leans into, or its ground speeds into and down the wind, up there.
    """

    FORECAST = "forecast"
    MEASURED = "measured"
    HOVER = "hover"


class Precipitation(StrEnum):
    NONE = "none"
    LIGHT = "light"
    HEAVY = "heavy"
    FOG = "fog"


@dataclass(frozen=True, slots=True)
class WindLevel:
    """One wind reading: height [m], mean speed [m/s], direction it comes from [°], gust [m/s] or None.

    at: when it was read (aware), None: not known.
    """

    height_m: float
    speed_ms: float
    direction_deg: float
    source: WindSource
    gust_ms: float | None = None
    at: datetime | None = None


class Figure(StrEnum):
    """The figures of the weather by the names of its fields."""

    WINDS = "winds"
    TEMPERATURE = "temperature_c"
    DEW_POINT = "dew_point_c"
    VISIBILITY = "visibility_m"
    PRECIPITATION = "precipitation"
    KP = "kp"
    CLOUD_BASE = "cloud_base_m"


@dataclass(frozen=True, slots=True)
class Provenance:
    """Where a figure of the weather comes from, and when it was issued or read (aware); None: not known."""

    figure: Figure
    source: str
    as_of: datetime | None


@dataclass(frozen=True, slots=True)
class Weather:
    """cloud_base_m: a reported base over the site [m], None when only temperature and dew point tell.
    as_of: when what has no provenance of its own was read, None: not known.
    """

    winds: tuple[WindLevel, ...]
    temperature_c: float
    dew_point_c: float | None = None
    visibility_m: float = 10_000.0
    precipitation: Precipitation = Precipitation.NONE
    kp: float = 2.0
    cloud_base_m: float | None = None
    as_of: datetime | None = None
    provenance: tuple[Provenance, ...] = ()
