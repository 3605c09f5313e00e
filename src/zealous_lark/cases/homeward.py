"""Flights to bring home, by seed: a place, a day, and what goes wrong; the same on every machine."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from statistics import NormalDist

from zealous_lark.cases.dice import Dice
from zealous_lark.cases.drawing import NoCaseError
from zealous_lark.cases.scenes import Own, easy_day
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.homeward.acts import Act, End
from zealous_lark.core.homeward.flying import STEP_S, Flights, Normals
from zealous_lark.core.homeward.mishap import Kind, Mishap
from zealous_lark.core.homeward.sheet import Band, Ground, Sheet, sheet_of
from zealous_lark.core.minimums import SightRule
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.situation import LostLink, PlatformKind, SpeedMode
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.document import ObstaclePart, PlatformPart

TRIES = 12
_NEAR_M, _FAR_M, _LEAST_M, _OVER_WATER_M = 350.0, 800.0, 150.0, 190.0
_MOST_STATION_MIN = 20.0
_STRETCH_M = 25.0
_SHORE_M = 15.0
_FLIES = (Verdict.LAUNCH, Verdict.CARE)
_LOST_LINK = (LostLink.RETURN, LostLink.RETURN, LostLink.RETURN, LostLink.HOVER)
_AIR_S = 600.0
"""After so long the same gusts come again [s]."""


@dataclass(frozen=True, slots=True)
class Scene:
    """A flight to bring home. place: in words. begins_s: when its pilot takes over; turn_s: when it is to turn back."""

    seed: int
    place: str
    plan: PlanDocument
    mishap: Mishap
    bands: tuple[Band, ...]
    begins_s: float
    turn_s: float

    @property
    def sheet(self) -> Sheet:
        """What it is flown by."""
        return _sheet(self.plan.model_dump_json(), self.bands)

    @property
    def decides_from_s(self) -> int:
        """From when on there is something to decide [s]."""
        return math.ceil(max(self.begins_s, self.mishap.at_s))

    @property
    def normals(self) -> tuple[Normals, ...]:
        """Its gusts, in standard normal numbers, three for each step."""
        return _normals(self.seed)


@lru_cache(maxsize=32)
def _sheet(plan: str, bands: tuple[Band, ...]) -> Sheet:
    return sheet_of(Assessment(situation_of(PlanDocument.model_validate_json(plan))), bands)


@lru_cache(maxsize=32)
def _normals(seed: int) -> tuple[Normals, ...]:
    dice, normal = Dice("air", seed), NormalDist()

    def one() -> float:
        return round(normal.inv_cdf(max(dice.share(), 1e-12)), 3)

    return tuple((one(), one(), one()) for _ in range(int(_AIR_S / STEP_S)))


def kind_of(seed: int) -> Kind:
    """What goes wrong on the flight of a seed."""
    return Dice("homeward", seed).one(tuple(Kind))


def draw_flight(seed: int, own: Own) -> Scene:
    """The flight of a seed, which can be brought home. Raises NoCaseError where no flight is within limits."""
    kind = kind_of(seed)
    for attempt in range(TRIES):
        dice = Dice("homeward", seed, attempt)
        plan, place = easy_day(dice, own)
        laid = _laid_out(plan, kind, dice)
        if laid is None:
            continue
        plan, bands = laid
        a = Assessment(situation_of(plan))
        trip = a.trip
        if trip is None or a.wind_return is None or judge(a.situation).verdict not in _FLIES:
            continue
        legs = [leg.seconds for leg in trip.legs]
        station, turn, home = sum(legs[:3]), sum(legs[:4]), sum(legs[4:6])
        at = station + dice.between(0.2, 0.75) * (turn - station)
        if kind is Kind.PAD:
            at = turn + dice.between(0.3, 0.6) * home
        mishap = _MISHAPS[kind](a, at, dice)
        begins = max(min(at, turn) - dice.between(25.0, 60.0), sum(legs[:2]))
        scene = Scene(seed, place, plan, mishap, bands, round(begins), round(turn))
        if _can_be_brought_home(scene):
            return scene
    raise NoCaseError("homeward")


def _laid_out(plan: PlanDocument, kind: Kind, dice: Dice) -> tuple[PlanDocument, tuple[Band, ...]] | None:
    """A longer flight over what may be in its way, with some charge to spare; None where there is no such flight."""
    bearing = plan.flight.bearing_deg
    boat = kind is Kind.BOAT
    under = Ground.WATER if boat else dice.one((Ground.OPEN, Ground.OPEN, Ground.TREES, Ground.WATER))
    over_water = min(_OVER_WATER_M, 0.95 * plan.minimums.water_distance_m)
    far = over_water if under is Ground.WATER else dice.stepped(_NEAR_M, _FAR_M, 50)
    bare = boat or far < _LEAST_M  # so near to the pilot there is no room for trees on the way
    belt = dice.stepped(0.3, 0.6, 0.05) * far
    depth = dice.stepped(20, 60, 10)
    trees = ObstaclePart(
        kind=ObstacleKind.TREES, height_m=dice.stepped(12, 20, 1), distance_m=belt, depth_m=depth,
        bearing_deg=bearing,
    )  # fmt: skip
    bands = [Band(belt - _STRETCH_M / 2, belt + depth + _STRETCH_M / 2, Ground.TREES)]
    if bare:
        bands = [Band(0.0 if boat else _SHORE_M, math.inf, Ground.WATER)]
    elif under is not Ground.OPEN:
        bands.append(Band(belt + depth + _STRETCH_M / 2, math.inf, under))
    site = plan.site.model_copy(
        update={
            "obstacles": [] if bare else [trees],
            "over_water": under is Ground.WATER,
            "wave_height_m": 0.1 if under is Ground.WATER else None,
            "platform": PlatformPart(kind=PlatformKind.BOAT) if boat else plan.site.platform,
            "name": "Rowing boat on a lake" if boat else plan.site.name,
        }
    )
    settings = plan.settings.model_copy(update={"lost_link": LostLink.HOVER if boat else dice.one(_LOST_LINK)})
    by_hand = boat or dice.share() < 0.5
    flight = plan.flight.model_copy(
        update={"distance_m": far, "height_m": dice.stepped(40, 60, 5), "station_min": 1.0,
                "return_mode": SpeedMode.NORMAL if by_hand else SpeedMode.RTH}
    )  # fmt: skip
    if kind is Kind.FOG:
        cold = dice.stepped(1, 4, 1)
        drier = {"temperature_c": cold, "dew_point_c": cold - dice.stepped(6, 8, 1)}
        plan = plan.model_copy(update={"weather": plan.weather.model_copy(update=drier)})
    minimums = plan.minimums.model_copy(update={"sight_rule": SightRule.OBSERVER})
    plan = plan.model_copy(update={"site": site, "settings": settings, "flight": flight, "minimums": minimums})
    return _with_charge(plan, bands, dice.between(5.0, 12.0))


def _with_charge(plan: PlanDocument, bands: list[Band], spare: float) -> tuple[PlanDocument, tuple[Band, ...]] | None:
    """Filming so long that it lands with so many points [%] over the reserve, as near as it must be for that."""
    least = min(_LEAST_M, plan.flight.distance_m)
    while plan.flight.distance_m >= least:
        a = Assessment(situation_of(plan))
        height = a.return_height.recommended_m
        if height is None or a.trip is None or a.trip.landing_pct is None:
            return None
        rth = max(height, plan.flight.height_m)
        plan = plan.model_copy(update={"settings": plan.settings.model_copy(update={"rth_altitude_m": rth})})
        a = Assessment(situation_of(plan))
        assert a.trip is not None
        over = (a.trip.landing_pct or 0.0) - a.situation.reserve_pct - spare
        a_minute = 100 * a.trip.legs[3].wh / a.trip.usable_wh
        minutes = 1.0 + over / a_minute
        linked = a.signal.margin_db >= 2 * a.situation.minimums.link_margin_db
        if minutes >= 1.0 and linked:
            station = round(min(minutes, _MOST_STATION_MIN), 1)
            flight = plan.flight.model_copy(update={"station_min": station})
            return plan.model_copy(update={"flight": flight}), tuple(bands)
        nearer = plan.flight.model_copy(update={"distance_m": plan.flight.distance_m - 50})
        plan = plan.model_copy(update={"flight": nearer})
    return None


def _nothing(_a: Assessment, _at: float, _dice: Dice) -> Mishap:
    return Mishap(Kind.NONE)


def _headwind(a: Assessment, at: float, dice: Dice) -> Mishap:
    """The wind turns against the way home and grows, up to where the automatic return gains little or nothing."""
    s, wind = a.situation, a.wind_return
    assert wind is not None
    craft = s.aircraft
    wanted = min(dice.between(0.8, 1.1) * craft.airspeed_ms(SpeedMode.RTH), 0.7 * craft.fastest_ms)
    from_deg = s.flight.bearing_deg + 180 + dice.between(-20, 20)
    turn = (from_deg - wind.direction_deg + 180) % 360 - 180
    factor = max(wanted / max(wind.speed_ms, 0.5), 1.0)
    return Mishap(Kind.HEADWIND, at, dice.between(40, 90), wind_factor=factor, wind_turn_deg=turn)


def _drain(_a: Assessment, at: float, dice: Dice) -> Mishap:
    return Mishap(Kind.DRAIN, at, 5.0, drain=dice.between(1.4, 2.0), drop_points=dice.stepped(5, 12, 1))


def _picture(_a: Assessment, at: float, _dice: Dice) -> Mishap:
    return Mishap(Kind.PICTURE, at, picture_lost=True)


def _link(a: Assessment, at: float, dice: Dice) -> Mishap:
    """Something comes between pilot and aircraft, where the pilot stands: enough to lose control out there."""
    return Mishap(Kind.LINK, at, 10.0, noise_db=a.signal.margin_db + dice.between(3, 9))


def _fog(a: Assessment, at: float, dice: Dice) -> Mishap:
    """It rises above the height flown, in two to five minutes."""
    return Mishap(Kind.FOG, at, fog_rise_ms=a.situation.return_height_m / dice.between(120, 300))


def _bird(_a: Assessment, at: float, _dice: Dice) -> Mishap:
    return Mishap(Kind.BIRD, at, bird=True)


def _pad(_a: Assessment, at: float, dice: Dice) -> Mishap:
    return Mishap(Kind.PAD, at, pad_for_s=dice.between(120, 240))


def _boat(a: Assessment, at: float, dice: Dice) -> Mishap:
    """It drifts with the wind, some way to the side."""
    wind = a.wind_return
    assert wind is not None
    course, speed = math.radians(wind.direction_deg + 180 + dice.between(-60, 60)), dice.between(0.2, 0.5)
    begins = min(at, 60.0)  # from early on: nobody sees it begin
    return Mishap(Kind.BOAT, begins, deck_ms=(speed * math.sin(course), speed * math.cos(course)))


_MISHAPS: dict[Kind, Callable[[Assessment, float, Dice], Mishap]] = {
    Kind.NONE: _nothing, Kind.HEADWIND: _headwind, Kind.DRAIN: _drain, Kind.PICTURE: _picture, Kind.LINK: _link,
    Kind.FOG: _fog, Kind.BIRD: _bird, Kind.PAD: _pad, Kind.BOAT: _boat,
}  # fmt: skip


def _can_be_brought_home(scene: Scene) -> bool:
    """Whether at least one way that a pilot would find, soon after it begins, brings it home."""
    at = max(scene.mishap.at_s, scene.begins_s) + 8.0
    turn = max(scene.turn_s, at)
    ways = (
        [(turn, Act.TURN_BACK)],
        [(at, Act.BY_HAND)],
        [(at, Act.CLIMB), (at + 6, Act.FAST), (at + 6, Act.BY_HAND)],
        [(at, Act.WALK), (at + 30, Act.BY_HAND)],
        [(turn, Act.TURN_BACK), (turn + 30, Act.WAIT), (turn + 220, Act.BY_HAND)],
    )
    flights = Flights(scene.sheet, scene.mishap, scene.normals, ways)
    while not flights.over and not (flights.state.end == End.HOME).any():
        flights.step()
    return bool((flights.state.end == End.HOME).any())
