"""A forecast by hour and height, and the weather it gives for a moment.

References
----------
.. [1] Fog is a visibility under 1 km: WMO, quoted from memory.
.. [2] Rain of 2.5 mm/h and more is no longer light: AMS glossary, quoted from memory.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any

import numpy as np

from zealous_lark.core.readings import Figure, Precipitation, Provenance, Weather, WindLevel

FOG_VISIBILITY_M = 1_000.0
"""Visibility under which it is fog [m] [1]_."""
HEAVY_RAIN_MMH = 2.5
"""Rain rate from which it is not light any more [mm/h] [2]_."""
LEAST_RAIN_MMH = 0.1
"""Rain rate under which nothing falls that wets [mm/h]; common practice."""
LONGEST_GAP = timedelta(hours=3)
"""Hours further apart than this say nothing about what is between them."""
GOOD_VISIBILITY_M = 10_000.0


@dataclass(frozen=True, slots=True)
class Hour:
    """What is forecast, or was observed, for one moment (aware); None is not said.

    winds: levels, lowest first [m, m/s, °]. temperature_c, dew_point_c [°C]; cloud_pct: sky covered [%];
    rain_mmh: rain or melted snow [mm/h]; precipitation: in words, which goes before the rain rate;
    visibility_m [m]; kp; cloud_base_m: base of the lowest broken cloud over the ground [m].
    """

    at: datetime
    winds: tuple[WindLevel, ...] = ()
    temperature_c: float | None = None
    dew_point_c: float | None = None
    cloud_pct: float | None = None
    rain_mmh: float | None = None
    visibility_m: float | None = None
    kp: float | None = None
    precipitation: Precipitation | None = None
    cloud_base_m: float | None = None

    @property
    def falls(self) -> Precipitation | None:
        """What falls or hangs in the air: as said, else by rain rate and visibility; None when neither is known."""
        if self.precipitation is not None:
            return self.precipitation
        if self.rain_mmh is not None and self.rain_mmh >= LEAST_RAIN_MMH:
            return Precipitation.HEAVY if self.rain_mmh >= HEAVY_RAIN_MMH else Precipitation.LIGHT
        if self.visibility_m is not None and self.visibility_m < FOG_VISIBILITY_M:
            return Precipitation.FOG
        return None if self.rain_mmh is None and self.visibility_m is None else Precipitation.NONE


@dataclass(frozen=True, eq=False)
class Forecast:
    """Hours of one source, earliest first. issued_at: when it was made, or observed. holds: how long the last holds."""

    source: str
    issued_at: datetime
    hours: tuple[Hour, ...]
    holds: timedelta = timedelta()

    @property
    def begin(self) -> datetime:
        return self.hours[0].at

    @property
    def end(self) -> datetime:
        """Until when it says something: the last hour, and as long as that holds."""
        return self.hours[-1].at + self.holds

    def with_more_wind(self, more_ms: float) -> Forecast:
        """The same with every wind and gust stronger by so much [m/s], as its own flights have taught."""

        def stronger(level: WindLevel) -> WindLevel:
            gust = None if level.gust_ms is None else level.gust_ms + more_ms
            return replace(level, speed_ms=level.speed_ms + more_ms, gust_ms=gust)

        hours = tuple(replace(h, winds=tuple(stronger(level) for level in h.winds)) for h in self.hours)
        return replace(self, source=f"{self.source}, wind raised by your flights", hours=hours)

    def at(self, when: datetime) -> Hour | None:
        """The hour at a moment, between its neighbours; None outside and in gaps over three hours.

        Speeds, temperatures and cloud are linear in time, directions go through the vector mean.
        What may harm is taken from the worse of both neighbours: rain, fog, visibility, Kp, cloud base; on an hour
        from the hours before and after it too, since what they say may begin or end at any time between.
        """
        if not self.hours or not self.begin <= when <= self.end:
            return None
        after = bisect_right([h.at for h in self.hours], when)
        before = self.hours[after - 1]
        if before.at == when:
            around = [h for h in self.hours[max(after - 2, 0) : after + 1] if abs(h.at - when) <= LONGEST_GAP]
            return replace(before, at=when, **_worst_of(around))
        if after == len(self.hours):
            return replace(before, at=when)
        nxt = self.hours[after]
        if nxt.at - before.at > LONGEST_GAP:
            return None
        return _between(before, nxt, (when - before.at) / (nxt.at - before.at), when)

    def weather_at(self, when: datetime, base: Weather) -> Weather | None:
        """The weather at a moment, for judging a flight then; what is not said stays as in `base`.

        None where the forecast says nothing about the moment. Measured winds of the base belong to
        its own moment and are left out once the forecast has winds.
        """
        hour = self.at(when)
        if hour is None:
            return None
        falls = hour.falls
        said: dict[Figure, Any] = {
            Figure.WINDS: hour.winds or None,
            Figure.TEMPERATURE: hour.temperature_c,
            Figure.DEW_POINT: hour.dew_point_c,
            Figure.VISIBILITY: hour.visibility_m,
            Figure.PRECIPITATION: falls,
            Figure.KP: hour.kp,
            Figure.CLOUD_BASE: hour.cloud_base_m,
        }
        mine = {figure: value for figure, value in said.items() if value is not None}
        kept = tuple(p for p in base.provenance if p.figure not in mine)
        origins = tuple(Provenance(figure, self.source, self.issued_at) for figure in mine)
        return replace(base, **{figure.value: value for figure, value in mine.items()}, provenance=kept + origins)


def _linear(a: float | None, b: float | None, share: float) -> float | None:
    return None if a is None or b is None else a + (b - a) * share


def _known(values: Iterable[float | None]) -> list[float]:
    return [v for v in values if v is not None]


_WORST = (Precipitation.NONE, Precipitation.LIGHT, Precipitation.FOG, Precipitation.HEAVY)


def _worst_of(hours: Sequence[Hour]) -> dict[str, Any]:
    """What may harm, the worst that any of the hours says of it."""
    return {
        "rain_mmh": max(_known(h.rain_mmh for h in hours), default=None),
        "visibility_m": min(_known(h.visibility_m for h in hours), default=None),
        "kp": max(_known(h.kp for h in hours), default=None),
        "precipitation": max((h.falls for h in hours if h.falls is not None), key=_WORST.index, default=None),
        "cloud_base_m": min(_known(h.cloud_base_m for h in hours), default=None),
    }


def _between(a: Hour, b: Hour, share: float, when: datetime) -> Hour:
    return Hour(
        at=when,
        winds=_winds_between(a.winds, b.winds, share),
        temperature_c=_linear(a.temperature_c, b.temperature_c, share),
        dew_point_c=_linear(a.dew_point_c, b.dew_point_c, share),
        cloud_pct=_linear(a.cloud_pct, b.cloud_pct, share),
        **_worst_of((a, b)),
    )


def _winds_between(a: tuple[WindLevel, ...], b: tuple[WindLevel, ...], share: float) -> tuple[WindLevel, ...]:
    """Winds of the levels that both hours have."""
    later = {level.height_m: level for level in b}
    found = []
    for level in a:
        other = later.get(level.height_m)
        if other is None:
            continue
        angles = np.radians([level.direction_deg, other.direction_deg])
        speeds = np.array([level.speed_ms, other.speed_ms])
        weights = np.array([1 - share, share])
        vector = weights * (speeds if speeds.any() else np.ones(2))
        east, north = float(vector @ np.sin(angles)), float(vector @ np.cos(angles))
        speed = float(weights @ speeds)
        gust = _linear(level.gust_ms, other.gust_ms, share)
        found.append(
            replace(
                level,
                speed_ms=speed,
                direction_deg=float(np.degrees(np.arctan2(east, north)) % 360),
                gust_ms=None if gust is None else max(gust, speed),
            )
        )
    return tuple(found)
