"""Sun over the site. Times and positions come from astral, held against pvlib in the tests."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from astral import Observer
from astral.sun import sunrise, sunset


@dataclass(frozen=True, slots=True)
class Light:
    """Sunrise and sunset of the take-off's own day, in its own UTC offset; None where the sun does not."""

    sunrise: datetime | None
    sunset: datetime | None


def light(latitude: float, longitude: float, at: datetime) -> Light:
    """Light of the day of `at` (aware) at a place [°].

    In polar day and polar night the times are None.
    """
    observer = Observer(latitude, longitude)

    def of(event: object) -> datetime | None:
        try:
            return event(observer, date=at.date(), tzinfo=at.tzinfo)  # type: ignore[operator, no-any-return]
        except ValueError:  # astral's word for "the sun does not do that today"
            return None

    return Light(sunrise=of(sunrise), sunset=of(sunset))
