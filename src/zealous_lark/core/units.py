"""Units in which a pilot reads. Computation stays in SI; only sentences are written in these."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

METRES_PER_FOOT = 0.3048
"""International foot, exact."""


class SpeedUnit(StrEnum):
    MS = "ms"
    KMH = "kmh"
    MPH = "mph"
    KN = "kn"


class LengthUnit(StrEnum):
    M = "m"
    FT = "ft"


class TemperatureUnit(StrEnum):
    C = "c"
    F = "f"


PER_MS: dict[SpeedUnit, float] = {
    SpeedUnit.MS: 1.0,
    SpeedUnit.KMH: 3.6,
    SpeedUnit.MPH: 3600 / 1609.344,
    SpeedUnit.KN: 3600 / 1852,
}
_SPEED_NAME = {SpeedUnit.MS: "m/s", SpeedUnit.KMH: "km/h", SpeedUnit.MPH: "mph", SpeedUnit.KN: "kn"}


@dataclass(frozen=True, slots=True)
class Units:
    """How numbers are written in sentences and workings."""

    speed_unit: SpeedUnit = SpeedUnit.MS
    length_unit: LengthUnit = LengthUnit.M
    temperature_unit: TemperatureUnit = TemperatureUnit.C

    def speed(self, ms: float) -> str:
        """A speed [m/s] with its unit.

        >>> Units(SpeedUnit.KN).speed(5.35)
        '10.4 kn'
        """
        return f"{_plain(ms * PER_MS[self.speed_unit], 1)} {_SPEED_NAME[self.speed_unit]}"

    def length(self, m: float) -> str:
        """A length [m] with its unit.

        >>> Units(length_unit=LengthUnit.FT).length(120)
        '394 ft'
        """
        if self.length_unit is LengthUnit.FT:
            return f"{_plain(m / METRES_PER_FOOT, 0)} ft"
        return f"{_plain(m, 0)} m"

    def temperature(self, c: float) -> str:
        """A temperature [°C] with its unit.

        >>> Units(temperature_unit=TemperatureUnit.F).temperature(-10)
        '14 °F'
        """
        if self.temperature_unit is TemperatureUnit.F:
            return f"{_plain(c * 9 / 5 + 32, 0)} °F"
        return f"{_plain(c, 0)} °C"


def percent(pct: float) -> str:
    """A share in percent, to the whole point."""
    return f"{_plain(pct, 0)}%"


def angle(deg: float) -> str:
    """A direction as pilots write it, three digits.

    >>> angle(60)
    '060°'
    """
    return f"{round(deg) % 360:03d}°"


def day_of(at: date) -> str:
    """A day without its year, as it is said.

    >>> day_of(date(2026, 9, 8))
    '8 Sep'
    """
    return f"{at.day} {at:%b}"


def decibels(db: float) -> str:
    """A level difference with its unit."""
    return f"{_plain(db, 0)} dB"


def _plain(value: float, digits: int) -> str:
    # The nudge keeps 5.35, which binary holds a hair short, from being shown as 5.3.
    if value >= 1:  # most of what is said, and neither nothing nor below it
        return f"{value + 1e-9:,.{digits}f}"
    text = f"{value + math.copysign(1e-9, value):,.{digits}f}"
    return text.replace("-", "−") if float(text.replace(",", "")) != 0 else f"{0:.{digits}f}"


METRIC = Units()
