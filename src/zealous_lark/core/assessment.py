"""Everything that is computed about a situation, before anything is judged."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import ArrayLike
from propcache.api import cached_property

from zealous_lark.core.air import Wind, density_kgm3
from zealous_lark.core.battery import usable_wh
from zealous_lark.core.best_way_home import BestWayHome, best_way_home
from zealous_lark.core.chance import Chance, chance
from zealous_lark.core.geodesy import xy
from zealous_lark.core.light import Light, Sun, light, sun
from zealous_lark.core.moves import Swept, sweep
from zealous_lark.core.power import power_model
from zealous_lark.core.radio import Signal, signal, slant_m
from zealous_lark.core.return_height import ReturnHeight, return_height
from zealous_lark.core.sight import Sight, sight
from zealous_lark.core.site_wind import SiteWind, site_wind
from zealous_lark.core.situation import Situation
from zealous_lark.core.trip import Flyer, LegName, Reach, Trip
from zealous_lark.core.weather import cloud_base_m, wind_chill_c
from zealous_lark.core.world import World, world_of

REACH_BEARINGS_DEG = np.arange(0.0, 360.0, 5.0)
CHANCE_RESTS_ON = frozenset({"weather.winds", "pack.charge_pct"})
"""Keys of the plan without which no chance is told."""
_CLIMB_M = (2.0, 5.0, 10.0, 20.0, 30.0, 45.0, 60.0, 80.0, 100.0)
"""Heights at which the climb looks at the wind, beside those of the readings [m]."""

_OF_THE_WIND = ("site", "weather", "minimums", "land", "takeoff_at")
_RESTS_ON = {
    "density_kgm3": ("site", "weather"),
    "world": ("site", "land"),
    "wind": _OF_THE_WIND,
    "winds_flown": (*_OF_THE_WIND, "flight", "settings"),
    "far_end": ("flight",),
    "sight": ("aircraft", "weather", "minimums"),
    "light": ("site", "takeoff_at"),
    "cloud_base_m": ("weather",),
}
"""Parts of an assessment that do not hang on the whole situation, and the parts of that on which they do."""


@dataclass(frozen=True)
class Assessment:
    """A situation and what follows from it; each part is computed once, when it is first asked for.

    Parts that need the wind are None while no reading says anything about the air above.
    Indoors the air is still.
    """

    situation: Situation

    def turned(self, situation: Situation) -> Assessment:
        """A situation that differs from this one in little: what rests on nothing that differs is taken over."""
        other = Assessment(situation)
        for part, rests_on in _RESTS_ON.items():
            if part in self.__dict__ and all(getattr(situation, x) is getattr(self.situation, x) for x in rests_on):
                other.__dict__[part] = self.__dict__[part]
        return other

    @cached_property
    def density_kgm3(self) -> float:
        s = self.situation
        return density_kgm3(s.site.elevation_m, s.weather.temperature_c)

    @cached_property
    def wind(self) -> SiteWind | None:
        """Wind over the site; None when not known, and indoors, where there is none."""
        s = self.situation
        if s.site.indoors:
            return None
        return site_wind(
            s.site,
            s.weather.winds,
            s.minimums.wind_aloft,
            upwind_top_m=self.world.shelter_top_m,
            at=s.takeoff_at,
            hover_rule=s.minimums.hover_rule,
        )

    @cached_property
    def world(self) -> World:
        """Everything that stands there, however it is known."""
        return world_of(self.situation.site.obstacles, self.situation.land)

    @cached_property
    def far_end(self) -> tuple[float, float]:
        """Where the flight turns [m east and north of the take-off point]."""
        f = self.situation.flight
        bearing = math.radians(f.bearing_deg)
        return f.distance_m * math.sin(bearing), f.distance_m * math.cos(bearing)

    @cached_property
    def flyer(self) -> Flyer | None:
        """Aircraft, air and pack; None while the wind is not known."""
        s = self.situation
        if self.wind is None and not s.site.indoors:
            return None
        usable = usable_wh(s.aircraft, s.pack, s.weather.temperature_c)
        power = power_model(s.aircraft, self.density_kgm3)
        return Flyer(s, power, usable, self.wind, self.winds_flown)

    @property
    def wind_counts(self) -> bool:
        """Whether what is known of the wind says anything good: not while every reading was taken in shelter."""
        return self.flyer is not None and (self.wind is None or not self.wind.sheltered)

    @property
    def working_height_m(self) -> float:
        """The higher of planned and return height: where the wind is strongest."""
        return self.situation.return_height_m

    @cached_property
    def wind_planned(self) -> Wind | None:
        return self._flown_at(self.situation.flight.height_m)

    @cached_property
    def wind_return(self) -> Wind | None:
        return self._flown_at(self.working_height_m)

    def _flown_at(self, height_m: float) -> Wind | None:
        return next((w for w in self.winds_flown if w.height_m == height_m), None)

    @cached_property
    def winds_flown(self) -> tuple[Wind, ...]:
        """The wind at every height that is flown through, the return included; none where it is not known."""
        if self.wind is None:
            return ()
        top = self.working_height_m
        heights = {self.situation.flight.height_m, top, *(x.height_m for x in self.wind.levels if x.height_m < top)}
        heights.update(h for h in _CLIMB_M if h < top)
        return self.wind.winds(sorted(heights))

    @cached_property
    def strongest_wind(self) -> Wind | None:
        """The strongest steady wind at any height flown."""
        return max(self.winds_flown, key=lambda w: (w.speed_ms, w.height_m), default=None)

    @cached_property
    def strongest_gust(self) -> Wind | None:
        """The wind at the height flown with the strongest gust."""
        return max(self.winds_flown, key=lambda w: (w.gust_ms, w.height_m), default=None)

    @cached_property
    def best_way_home(self) -> BestWayHome | None:
        """By which height and mode it lands with the most charge; None indoors and while the wind is not known."""
        if self.flyer is None or self.trip is None or self.situation.site.indoors:
            return None
        return best_way_home(self.flyer, self.trip, self.return_height.lowest_m)

    @cached_property
    def trip(self) -> Trip | None:
        return None if self.flyer is None else self.flyer.fly()

    @cached_property
    def chance(self) -> Chance | None:
        """How sure the charge on landing is; None while there is no way home, or nobody has said wind and charge."""
        if self.flyer is None or self.trip is None or self.situation.assumed & CHANCE_RESTS_ON:
            return None
        return chance(self.flyer, self.trip)

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
        """What the charge reaches on the planned bearing, whatever stands there; None as for `reach`."""
        if self.flyer is None or self.situation.site.indoors:
            return None
        return self.flyer.charge_reach(self.situation.flight.bearing_deg)

    @cached_property
    def moves(self) -> tuple[Swept, ...]:
        """The planned moves as they would be swept; none without a place, and while the wind is not known."""
        s = self.situation
        if s.land is None or self.flyer is None:
            return ()
        wind = (
            (0.0, 0.0) if self.wind_planned is None else (self.wind_planned.speed_ms, self.wind_planned.direction_deg)
        )
        return tuple(sweep(move, s.land, self.flyer.power, wind, self.world.typed) for move in s.flight.moves)

    @cached_property
    def return_height(self) -> ReturnHeight:
        return return_height(self.situation, self.flyer, self.world)

    @cached_property
    def farthest_m(self) -> float:
        """How far over the ground the aircraft comes to be from the pilot [m]; a deck moves on while it films."""
        s, deck = self.situation, self.situation.site.platform
        planned = s.flight.distance_m
        if not s.site.from_deck or deck.speed_ms <= 0 or self.trip is None:
            return planned
        seconds = 0.0
        for leg in self.trip.legs:
            seconds += leg.seconds
            if leg.name is LegName.STATION:
                break
        x, y = xy(deck.course_deg, deck.speed_ms * seconds)
        return max(planned, math.dist(self.far_end, (float(x), float(y))))

    @cached_property
    def slant_m(self) -> float:
        """From the hand to the aircraft where it is farthest [m]."""
        return slant_m(self.situation.flight, self.farthest_m)

    @cached_property
    def signal(self) -> Signal:
        return signal(self.situation, self.slant_m)

    @cached_property
    def sight(self) -> Sight:
        s, m = self.situation, self.situation.minimums
        return sight(s.aircraft.size_m, s.weather.visibility_m, m.sight_rule, m.sight_own_m)

    @cached_property
    def feels_c(self) -> float | None:
        """Wind chill for the pilot [°C], by the wind at 10 m as its index has it; None where it is no colder."""
        if self.wind is None:
            return None
        air = self.situation.weather.temperature_c
        felt = wind_chill_c(air, float(self.wind.speed_ms(10.0)) * 3.6)
        return felt if felt < air - 0.5 else None

    @cached_property
    def light(self) -> Light:
        site = self.situation.site
        return light(site.latitude, site.longitude, self.situation.takeoff_at)

    @cached_property
    def landing_at(self) -> datetime:
        """When it is down again; while the trip is not known, the station time counts alone."""
        if self.trip is None or self.trip.blocked is not None:
            return self.situation.takeoff_at + timedelta(minutes=self.situation.flight.station_min)
        # Against nearly all of its airspeed a leg lasts for years: the pack is empty long before.
        seconds = min(sum(leg.seconds for leg in self.trip.legs), 24 * 3600.0)
        return self.situation.takeoff_at + timedelta(seconds=seconds)

    @cached_property
    def suns(self) -> tuple[Sun, Sun]:
        """The sun at lift-off and on landing."""
        return self.sun_at(self.situation.takeoff_at), self.sun_at(self.landing_at)

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
