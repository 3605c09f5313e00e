"""The trip: its legs, the charge at each point, when to turn back, how far the pack reaches.

The model is straight out, time on station, straight back. From solid ground the cost is
linear in distance, so the reach has a closed form; from a moving deck it is found by halving.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import ArrayLike, NDArray
from propcache.api import cached_property

from zealous_lark.core.air import Wind
from zealous_lark.core.geodesy import polar, xy
from zealous_lark.core.leg_costs import HOVER_CHECK_S, LANDING_S, Cost, LegCosts, N
from zealous_lark.core.motion import angle_between_deg, ground_speed_ms
from zealous_lark.core.power import PowerModel
from zealous_lark.core.return_clearance import clearance_m
from zealous_lark.core.site_wind import SiteWind
from zealous_lark.core.situation import PlatformKind, Situation, SpeedMode

Floats = NDArray[np.float64]


class LegName(StrEnum):
    """Legs in the order in which they are flown."""

    HOVER_CHECK = "hover_check"
    CLIMB = "climb"
    OUTBOUND = "outbound"
    STATION = "station"
    RETURN_CLIMB = "return_climb"
    RETURN = "return"
    DESCENT = "descent"
    LANDING = "landing"


class ReachLimit(StrEnum):
    """What ends the reach on a bearing: the charge, no headway in the wind, or the way home not being clear."""

    CHARGE = "charge"
    WIND = "wind"
    GROUND = "ground"


@dataclass(frozen=True, slots=True)
class Leg:
    """One leg: duration [s], energy [Wh], charge left after it [%]."""

    name: LegName
    seconds: float
    wh: float
    charge_after_pct: float


@dataclass(frozen=True, slots=True)
class Trip:
    """A flown plan. `blocked` names the leg that makes no headway; the legs end before it.

    spent_wh, landing_pct, turn_back_pct: None when the trip is blocked.
    turn_back_pct: charge at which to turn back at the farthest point, the reserve included [%].
    """

    legs: tuple[Leg, ...]
    usable_wh: float
    ground_speed_out_ms: float
    ground_speed_home_ms: float
    spent_wh: float | None
    landing_pct: float | None
    turn_back_pct: float | None
    blocked: LegName | None = None


@dataclass(frozen=True, slots=True)
class Reach:
    """Farthest distance [m] from which the aircraft is home with the reserve, per bearing [°]."""

    bearing_deg: tuple[float, ...]
    distance_m: tuple[float, ...]
    limited_by: tuple[ReachLimit, ...]


@dataclass(frozen=True)
class Flyer:
    """Aircraft, air and pack of a situation, ready for computing trips.

    wind: the profile over the site; None is still air (indoors).
    usable_wh: energy of the full pack [Wh].
    looked_up: winds of that profile that are known already, at whatever heights.
    """

    situation: Situation
    power: PowerModel
    usable_wh: float
    wind: SiteWind | None
    looked_up: tuple[Wind, ...] = ()

    def wind_at(self, height_m: ArrayLike) -> tuple[Floats, Floats]:
        """Speed [m/s] and direction [°] at heights [m], same shape."""
        z = np.asarray(height_m, dtype=float)
        if self.wind is None:
            return np.zeros_like(z), np.zeros_like(z)
        return self.wind.speed_ms(z), self.wind.direction_deg(z)

    @cached_property
    def _winds(self) -> tuple[Floats, Floats]:
        """Speeds [m/s] and directions [°] at the planned height and at that of the way home."""
        heights = [self.situation.flight.height_m, self.situation.return_height_m]
        known = {w.height_m: w for w in self.looked_up}
        if not all(h in known for h in heights):
            return self.wind_at(heights)
        both = [known[h] for h in heights]
        return np.array([w.speed_ms for w in both]), np.array([w.direction_deg for w in both])

    @property
    def wind_out(self) -> tuple[Floats, Floats]:
        """Speed [m/s] and direction [°] at the planned height."""
        speed, direction = self._winds
        return speed[0], direction[0]

    @property
    def wind_home(self) -> tuple[Floats, Floats]:
        """Speed [m/s] and direction [°] at the height of the way home."""
        speed, direction = self._winds
        return speed[1], direction[1]

    @property
    def starts_with_wind(self) -> bool:
        """Whether the first leg goes with a wind of over a third of the airspeed out, over 90° off upwind."""
        speed, direction = (float(v) for v in self.wind_out)
        off = angle_between_deg(direction, self.situation.flight.bearing_deg)
        return off > 90 and speed > self.situation.aircraft.airspeed_ms(self.situation.flight.outbound_mode) / 3

    def _speeds_ms(self, bearing_deg: float) -> tuple[float, float]:
        """Ground speeds out and straight home [m/s] on one bearing [°]; looked up once, with the opposite one's."""
        if bearing_deg not in self._known_speeds:
            s = self.situation
            airspeeds = 2 * [s.aircraft.airspeed_ms(mode) for mode in (s.flight.outbound_mode, s.flight.return_mode)]
            speed, direction = (np.concatenate([w, w]) for w in self._winds)
            back = bearing_deg + 180
            found = ground_speed_ms(airspeeds, speed, direction, [bearing_deg, back, back, bearing_deg]).tolist()
            self._known_speeds[bearing_deg], self._known_speeds[back] = (found[0], found[1]), (found[2], found[3])
        return self._known_speeds[bearing_deg]

    @cached_property
    def _known_speeds(self) -> dict[float, tuple[float, float]]:
        return {}

    def speed_out_ms(self, bearing_deg: ArrayLike) -> Floats:
        """Ground speed outbound [m/s] on bearings [°] at the planned height; NaN where none holds."""
        if isinstance(bearing_deg, float):
            return np.float64(self._speeds_ms(bearing_deg)[0])
        airspeed = self.situation.aircraft.airspeed_ms(self.situation.flight.outbound_mode)
        return ground_speed_ms(airspeed, *self.wind_out, bearing_deg)

    def speed_home_ms(self, bearing_deg: ArrayLike, return_height_m: ArrayLike | None = None) -> Floats:
        """Ground speed home [m/s] from bearings [°] at the return height [m]; NaN where none holds."""
        if return_height_m is None and isinstance(bearing_deg, float):
            return np.float64(self._speeds_ms(bearing_deg)[1])
        airspeed = self.situation.aircraft.airspeed_ms(self.situation.flight.return_mode)
        wind = self.wind_home if return_height_m is None else self.wind_at(return_height_m)
        return ground_speed_ms(airspeed, *wind, np.asarray(bearing_deg, dtype=float) + 180)

    @property
    def moving_deck(self) -> bool:
        """Whether the way home ends where a deck will be by then: by hand only, the automatic return does not know."""
        platform = self.situation.site.platform
        return (
            platform.kind is not PlatformKind.GROUND
            and platform.speed_ms > 0
            and self.situation.flight.return_mode is not SpeedMode.RTH
        )

    def way_home(
        self, bearing_deg: ArrayLike, distance_m: ArrayLike, out_ms: ArrayLike, return_height_m: ArrayLike | None = None
    ) -> tuple[Floats, Floats]:
        """Length [m] and ground speed [m/s] of the way home from a far end, broadcast; NaN where no heading holds it.

        out_ms: ground speed on the way out. To a moving deck, the way to where it will be.
        """
        home = self.speed_home_ms(bearing_deg, return_height_m)
        distance = np.asarray(distance_m, dtype=float)
        if not self.moving_deck:
            return distance + np.zeros_like(home), home
        s, deck = self.situation, self.situation.site.platform
        height = s.return_height_m if return_height_m is None else np.asarray(return_height_m, dtype=float)
        wind = self.wind_home if return_height_m is None else self.wind_at(return_height_m)
        airspeed = s.aircraft.airspeed_ms(s.flight.return_mode)
        with np.errstate(divide="ignore", invalid="ignore"):
            left = (
                HOVER_CHECK_S
                + np.maximum(height, s.flight.height_m) / s.aircraft.ascent_ms
                + distance / np.asarray(out_ms, dtype=float)
                + s.flight.station_min * 60
            )
            far_x, far_y = xy(bearing_deg, distance)
            seconds = np.zeros(np.broadcast_shapes(home.shape, distance.shape))
            length, speed = seconds, home
            for _ in range(20):
                deck_x, deck_y = xy(deck.course_deg, deck.speed_ms * (left + seconds))
                course, length = polar(deck_x - far_x, deck_y - far_y)
                speed = ground_speed_ms(airspeed, *wind, course)
                seconds = np.where(speed > 0.1, length / speed, 0.0)
        # A deck that runs away as fast as the aircraft follows is never caught.
        caught = speed > deck.speed_ms * 1.05
        return np.asarray(length), np.where(caught | ~(speed > 0), speed, np.nan)

    def course_home(self, trip: Trip) -> tuple[float, float]:
        """Course [°] and length [m] of the way home from the far end; to where a moving deck is by the landing."""
        flight, deck = self.situation.flight, self.situation.site.platform
        if deck.kind is PlatformKind.GROUND or deck.speed_ms <= 0:
            return (flight.bearing_deg + 180) % 360, flight.distance_m
        far_x, far_y = xy(flight.bearing_deg, flight.distance_m)
        deck_x, deck_y = xy(deck.course_deg, deck.speed_ms * sum(leg.seconds for leg in trip.legs))
        course, length = polar(deck_x - far_x, deck_y - far_y)
        return float(course), float(length)

    @cached_property
    def costs(self) -> LegCosts:
        """What each kind of leg costs; at the far point it holds still in the wind of the planned height."""
        return LegCosts(self.situation.aircraft, self.power, float(self.wind_out[0]))

    @cached_property
    def _home_as_planned(self) -> tuple[Cost[float], Cost[float]]:
        """The climb to the return height, and the descent from it."""
        s = self.situation
        return self.costs.climb(max(s.return_height_m - s.flight.height_m, 0.0)), self.costs.descend(s.return_height_m)

    @cached_property
    def _far_wh(self) -> float:
        """Energy [Wh] up to the far end and there, but for the way."""
        flight = self.situation.flight
        up = self.costs.hover(HOVER_CHECK_S) + self.costs.climb(flight.height_m)
        return up.wh + self.costs.station(flight.station_min * 60).wh

    def fly(self, bearing_deg: float | None = None) -> Trip:
        """The planned trip, or the same trip on another bearing [°]."""
        s = self.situation
        flight = s.flight
        bearing = flight.bearing_deg if bearing_deg is None else bearing_deg
        out, home = self._speeds_ms(bearing)
        way = flight.distance_m
        if self.moving_deck:
            way, home = (float(x) for x in self.way_home(bearing, way, out))
        blocked = None
        if not out > 0:
            blocked = LegName.OUTBOUND
        elif not home > 0:
            blocked = LegName.RETURN
        costs = self.costs
        rise, descent = self._home_as_planned
        plan: list[tuple[LegName, Cost[float]]] = [
            (LegName.HOVER_CHECK, costs.hover(HOVER_CHECK_S)),
            (LegName.CLIMB, costs.climb(flight.height_m)),
            (LegName.OUTBOUND, costs.level(flight.outbound_mode, flight.distance_m, out)),
            (LegName.STATION, costs.station(flight.station_min * 60)),
            (LegName.RETURN_CLIMB, rise),
            (LegName.RETURN, costs.level(flight.return_mode, way, home)),
            (LegName.DESCENT, descent),
            (LegName.LANDING, costs.hover(LANDING_S)),
        ]
        legs: list[Leg] = []
        spent = 0.0
        for name, cost in plan:
            if name is blocked:
                break
            spent += cost.wh
            legs.append(Leg(name, cost.seconds, cost.wh, s.pack.charge_pct - 100 * spent / self.usable_wh))
        if blocked is not None:
            return Trip(tuple(legs), self.usable_wh, out, home, None, None, None, blocked)
        way_home = sum(leg.wh for leg in legs[4:])
        return Trip(
            legs=tuple(legs),
            usable_wh=self.usable_wh,
            ground_speed_out_ms=out,
            ground_speed_home_ms=home,
            spent_wh=spent,
            landing_pct=legs[-1].charge_after_pct,
            turn_back_pct=s.reserve_pct + 100 * way_home / self.usable_wh,
        )

    def landing_pct(self, return_height_m: ArrayLike) -> Floats:
        """Charge on landing [%] for return heights [m], same shape; −inf where there is no way."""
        return self.home_and_landing(return_height_m)[1]

    def home_and_landing(self, return_height_m: ArrayLike) -> tuple[Floats, Floats]:
        """Ground speed home [m/s] and charge on landing [%] for return heights [m], as `landing_pct`."""
        flight = self.situation.flight
        height = np.maximum(np.asarray(return_height_m, dtype=float), flight.height_m)
        out = self.speed_out_ms(flight.bearing_deg)
        way, home = self.way_home(flight.bearing_deg, flight.distance_m, out, height)
        wh = (
            self._far_wh
            + self.costs.level(flight.outbound_mode, flight.distance_m, out).wh
            + self.costs.level(flight.return_mode, way, home).wh
            + self.costs.to_height_and_down(flight.height_m, height).wh
        )
        left = self.situation.pack.charge_pct - 100 * wh / self.usable_wh
        return home, np.where((out > 0) & (home > 0), left, -np.inf)

    def reach(self, bearings_deg: ArrayLike) -> Reach:
        """Reach on bearings [°], with the plan's own station time and the reserve kept.

        Where the ground speed home is under the least that the minimums allow it stays what the charge gives, and
        the wind is what ends it; zero only where there is no way out or home at all. Over a drawn place it ends
        where the way home no longer clears at the return height as set.
        """
        by_charge = self.charge_reach(bearings_deg)
        if self.situation.land is None:
            return by_charge
        distance, limits = list(by_charge.distance_m), list(by_charge.limited_by)
        for i, clear in enumerate(self._clear_m(np.array(by_charge.bearing_deg), np.array(distance))):
            if clear < distance[i]:
                distance[i], limits[i] = clear, ReachLimit.GROUND
        return Reach(by_charge.bearing_deg, tuple(distance), tuple(limits))

    def charge_reach(self, bearings_deg: ArrayLike) -> Reach:
        """As `reach`, whatever is drawn."""
        if isinstance(bearings_deg, float) and not self.moving_deck:
            out, home = self._speeds_ms(bearings_deg)
            wh = self._wh_per_m(out, home)
            return Reach((bearings_deg,), (self._to_spend_wh / wh,), (self._limits([home])))
        distance, speeds = (np.atleast_1d(x) for x in self.charge_reach_m(bearings_deg))
        bearings = np.atleast_1d(np.asarray(bearings_deg, dtype=float))
        return Reach(tuple(bearings.tolist()), tuple(distance.tolist()), self._limits(speeds.tolist()))

    def _limits(self, home_ms: list[float]) -> tuple[ReachLimit, ...]:
        least = self.situation.minimums.return_speed_ms
        return tuple(ReachLimit.CHARGE if home >= least else ReachLimit.WIND for home in home_ms)

    @cached_property
    def _to_spend_wh(self) -> float:
        """Energy [Wh] that is left for the way out and home, the reserve kept."""
        s = self.situation
        climb, descent = self._home_as_planned
        fixed = self._far_wh + climb.wh + descent.wh + self.costs.hover(LANDING_S).wh
        return max((s.pack.charge_pct - s.reserve_pct) / 100 * self.usable_wh - fixed, 0.0)

    def _wh_per_m(self, out_ms: N, home_ms: N) -> N:
        """Energy of a metre out and home [Wh/m] at ground speeds [m/s]; infinite where there is no headway."""
        flight = self.situation.flight
        out, home = (
            self.costs.level(flight.outbound_mode, 1.0, out_ms),
            self.costs.level(flight.return_mode, 1.0, home_ms),
        )
        return out.wh + home.wh

    def charge_reach_m(self, bearings_deg: ArrayLike) -> tuple[Floats, Floats]:
        """Distance [m] from which out, station and home just leave the reserve, and ground speed home [m/s]."""
        out = self.speed_out_ms(bearings_deg)
        if self.moving_deck:
            return self._reach_to_deck_m(np.asarray(bearings_deg, dtype=float), out, self._to_spend_wh)
        home = self.speed_home_ms(bearings_deg)
        return np.asarray(self._to_spend_wh / self._wh_per_m(out, home)), home

    def _reach_to_deck_m(self, bearings: Floats, out: Floats, to_spend: float) -> tuple[Floats, Floats]:
        """As `charge_reach_m`, by smaller and smaller steps: to a deck that moves it is not linear in the way out."""
        flight = self.situation.flight
        low, step = np.zeros(bearings.shape), 30_000.0
        for _ in range(7):
            # As many at once as cost no more than one: each round is as good as five halvings.
            step /= 32
            tried = low[..., None] + step * np.arange(1, 32)
            way, home = self.way_home(bearings[..., None], tried, out[..., None])
            there = self.costs.level(flight.outbound_mode, tried, out[..., None])
            back = self.costs.level(flight.return_mode, way, home)
            good = there.wh + back.wh <= to_spend
            low = low + step * np.logical_and.accumulate(good, axis=-1).sum(axis=-1)
        return low, self.way_home(bearings, low, out)[1]

    def _clear_m(self, bearings: Floats, upto: Floats) -> list[float]:
        """Distance [m] on each bearing up to which the way home at the return height as set clears what is drawn."""
        s = self.situation
        found: list[float] = []
        if s.land is None:
            return found
        rays = s.land.rays(bearings.tolist(), float(upto.max()))
        for ray, farthest in zip(rays, upto, strict=True):
            ray = ray.within(float(farthest))
            wanted = ray.top_m + clearance_m(ray.top_m, s.minimums.rth_margin_m)
            # What is no higher than the ground at hand needs no more than the floor of the return height.
            blocked = np.flatnonzero((wanted > s.return_height_m) & (ray.top_m > 0))
            found.append(float(ray.distance_m[max(blocked[0] - 1, 0)]) if blocked.size else np.inf)
        return found
