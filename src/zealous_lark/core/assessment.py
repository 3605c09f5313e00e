"""Everything that is computed about a situation, before anything is judged."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike

from zealous_lark.core.air import SiteWind, Wind, density_kgm3, site_wind
from zealous_lark.core.chance import Chance, chance
from zealous_lark.core.light import Light, Sun, light, sun
from zealous_lark.core.moves import Swept, sweep
from zealous_lark.core.pack import usable_wh
from zealous_lark.core.power import power_model
from zealous_lark.core.radio import Signal, signal
from zealous_lark.core.return_height import ReturnHeight, return_height
from zealous_lark.core.sight import Sight, sight
from zealous_lark.core.situation import Situation
from zealous_lark.core.trip import Flyer, Reach, Trip
from zealous_lark.core.weather import cloud_base_m

REACH_BEARINGS_DEG = np.arange(0.0, 360.0, 5.0)


@dataclass(frozen=True)
class Assessment:
    """A situation and what follows from it; each part is computed once, when it is first asked for.

    Parts that need the wind are None while no reading says anything about the air above.
    Indoors the air is still.
    """

    situation: Situation

    @cached_property
    def density_kgm3(self) -> float:
        s = self.situation
        return density_kgm3(s.site.elevation_m, s.weather.temperature_c)

    @cached_property
    def wind(self) -> SiteWind | None:
        """Wind over the site; None when not known, and indoors, where there is none."""
        s = self.situation
        return None if s.site.indoors else site_wind(s.site, s.weather.winds, s.minimums.wind_aloft)

    @cached_property
    def flyer(self) -> Flyer | None:
        """Aircraft, air and pack; None while the wind is not known."""
        s = self.situation
        if self.wind is None and not s.site.indoors:
            return None
        usable = usable_wh(s.aircraft, s.pack, s.weather.temperature_c)
        return Flyer(s, power_model(s.aircraft, self.density_kgm3), usable, self.wind)

    @property
    def working_height_m(self) -> float:
        """The higher of planned and return height: where the wind is strongest."""
        return self.situation.return_height_m

    @cached_property
    def wind_planned(self) -> Wind | None:
        return None if self.wind is None else self.wind.at(self.situation.flight.height_m)

    @cached_property
    def wind_return(self) -> Wind | None:
        return None if self.wind is None else self.wind.at(self.working_height_m)

    @cached_property
    def trip(self) -> Trip | None:
        return None if self.flyer is None else self.flyer.fly()

    @cached_property
    def chance(self) -> Chance | None:
        """How sure the charge on landing is; None while there is no way home, or no wind known."""
        return None if self.flyer is None or self.trip is None else chance(self.flyer, self.trip)

    @cached_property
    def other_way(self) -> Trip | None:
        """The same trip flown on the opposite bearing."""
        return None if self.flyer is None else self.flyer.fly(self.situation.flight.bearing_deg + 180)

    def _reach(self, bearings_deg: ArrayLike) -> Reach | None:
        if self.flyer is None or self.situation.site.indoors:
            return None
        return self.flyer.reach(bearings_deg)

    @cached_property
    def reach(self) -> Reach | None:
        """Reach on 72 bearings; None indoors and while the wind is not known."""
        return self._reach(REACH_BEARINGS_DEG)

    @cached_property
    def reach_on_bearing(self) -> Reach | None:
        """Reach on the planned bearing alone, which is all that a check needs; None as for `reach`."""
        return self._reach(self.situation.flight.bearing_deg)

    @cached_property
    def moves(self) -> tuple[Swept, ...]:
        """The planned moves as they would be swept; none without a place, and while the wind is not known."""
        s = self.situation
        if s.land is None or self.flyer is None:
            return ()
        wind = (
            (0.0, 0.0) if self.wind_planned is None else (self.wind_planned.speed_ms, self.wind_planned.direction_deg)
        )
        return tuple(sweep(move, s.land, self.flyer.power, wind) for move in s.flight.moves)

    @cached_property
    def return_height(self) -> ReturnHeight:
        return return_height(self.situation, self.flyer)

    @cached_property
    def signal(self) -> Signal:
        return signal(self.situation)

    @cached_property
    def sight(self) -> Sight:
        s, m = self.situation, self.situation.minimums
        return sight(s.aircraft.size_m, s.weather.visibility_m, m.sight_rule, m.sight_own_m)

    @cached_property
    def light(self) -> Light:
        site = self.situation.site
        return light(site.latitude, site.longitude, self.situation.takeoff_at)

    @cached_property
    def landing_at(self) -> datetime:
        """When it is down again; while the trip is not known, the station time counts alone."""
        if self.trip is None or self.trip.blocked is not None:
            return self.situation.takeoff_at + timedelta(minutes=self.situation.flight.station_min)
        return self.situation.takeoff_at + timedelta(seconds=sum(leg.seconds for leg in self.trip.legs))

    def sun_at(self, when: datetime) -> Sun:
        """Where the sun stands over the site at a moment."""
        site = self.situation.site
        return sun(site.latitude, site.longitude, when)

    @cached_property
    def cloud_base_m(self) -> float | None:
        """Cloud base over the site [m]: the lower of the reported and the dew point's; None without both."""
        weather = self.situation.weather
        bases = [] if weather.cloud_base_m is None else [weather.cloud_base_m]
        if weather.dew_point_c is not None:
            bases.append(cloud_base_m(weather.temperature_c, weather.dew_point_c))
        return min(bases, default=None)
