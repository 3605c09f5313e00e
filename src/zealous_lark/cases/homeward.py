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
from zealous_lark.core.situation import LandformKind, LostLink, PlatformKind, SpeedMode, Surroundings
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.document import LandformPart, ObstaclePart, PlatformPart

TRIES = 12
_NEAR_M, _FAR_M, _LEAST_M, _OVER_WATER_M = 350.0, 800.0, 150.0, 190.0
_MOST_STATION_MIN = 20.0
_STRETCH_M = 25.0
_SHORE_M, _NEARER_M = 15.0, 50.0
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
        if kind is Kind.BOAT:
            place = "You stand in it, on a lake, without an anchor."
        scene = Scene(seed, place, plan, mishap, bands, round(begins), round(turn))
        if _can_be_brought_home(scene):
            return scene
    raise NoCaseError("homeward")


@dataclass(frozen=True, slots=True)
class _Under:
    """What a flight goes over: a belt of trees at a share of its way, and what is beyond it."""

    ground: Ground
    belt_share: float
    depth_m: float
    top_m: float
    boat: bool

    def laid(self, plan: PlanDocument, far_m: float) -> tuple[PlanDocument, tuple[Band, ...]]:
        """A plan flown so far over it, and the bands of ground there."""
        water = self.ground is Ground.WATER
        bare = self.boat or far_m < _LEAST_M  # so near to the pilot there is no room for trees on the way
        belt, beyond = self.belt_share * far_m, self.belt_share * far_m + self.depth_m + _STRETCH_M / 2
        trees = ObstaclePart(
            kind=ObstacleKind.TREES, height_m=self.top_m, distance_m=belt, depth_m=self.depth_m,
            bearing_deg=plan.flight.bearing_deg,
        )  # fmt: skip
        bands = [Band(belt - _STRETCH_M / 2, beyond, Ground.TREES)]
        if bare:
            bands = [Band(0.0 if self.boat else _SHORE_M, math.inf, Ground.WATER)]
        elif self.ground is not Ground.OPEN:
            bands.append(Band(beyond, math.inf, self.ground))
        site = {
            "obstacles": [] if bare else [trees],
            "over_water": water,
            "wave_height_m": 0.1 if water else None,
        }
        if self.boat:
            site |= {
                "platform": PlatformPart(kind=PlatformKind.BOAT),
                "name": "Rowing boat",
                "surroundings": Surroundings.WATER,
                "landform": LandformPart(kind=LandformKind.FLAT),
            }
        parts = {
            "site": plan.site.model_copy(update=site),
            "flight": plan.flight.model_copy(update={"distance_m": far_m}),
        }
        return plan.model_copy(update=parts), tuple(bands)


def _laid_out(plan: PlanDocument, kind: Kind, dice: Dice) -> tuple[PlanDocument, tuple[Band, ...]] | None:
    """A longer flight over what may be in its way, with some charge to spare; None where there is no such flight."""
    boat = kind is Kind.BOAT
    ground = Ground.WATER if boat else dice.one((Ground.OPEN, Ground.OPEN, Ground.TREES, Ground.WATER))
    under = _Under(ground, dice.stepped(0.3, 0.6, 0.05), dice.stepped(20, 60, 10), dice.stepped(12, 20, 1), boat)
    over_water = min(_OVER_WATER_M, 0.95 * plan.minimums.water_distance_m)
    far = over_water if ground is Ground.WATER else dice.stepped(_NEAR_M, _FAR_M, 50)
    settings = plan.settings.model_copy(update={"lost_link": LostLink.HOVER if boat else dice.one(_LOST_LINK)})
    by_hand = boat or dice.share() < 0.5
    flight = plan.flight.model_copy(
        update={"height_m": dice.stepped(40, 60, 5), "station_min": 1.0,
                "return_mode": SpeedMode.NORMAL if by_hand else SpeedMode.RTH}
    )  # fmt: skip
    weather = plan.weather
    if kind is Kind.FOG:
        cold = dice.stepped(1, 4, 1)
        weather = weather.model_copy(update={"temperature_c": cold, "dew_point_c": cold - dice.stepped(6, 8, 1)})
    minimums = plan.minimums.model_copy(update={"sight_rule": SightRule.OBSERVER})
    parts = {"settings": settings, "flight": flight, "weather": weather, "minimums": minimums}
    plan, spare = plan.model_copy(update=parts), dice.between(5.0, 12.0)
    for nearer in range(int(max(far - _LEAST_M, 0) // _NEARER_M) + 1):
        laid, bands = under.laid(plan, far - _NEARER_M * nearer)
        filming = _filming(laid, spare)
        if filming is not None:
            return filming, bands
    return None


def _filming(plan: PlanDocument, spare: float) -> PlanDocument | None:
    """Filming so long that it lands with so many points [%] over the reserve; None where there is no time to film.

    The return height is set as recommended.
    """
    height = Assessment(situation_of(plan)).return_height.recommended_m
    if height is None:
        return None
    rth = max(height, plan.flight.height_m)
    plan = plan.model_copy(update={"settings": plan.settings.model_copy(update={"rth_altitude_m": rth})})
    a = Assessment(situation_of(plan))
    if a.trip is None or a.trip.landing_pct is None:
        return None
    over = a.trip.landing_pct - a.situation.reserve_pct - spare
    minutes = 1.0 + over * a.trip.usable_wh / (100 * a.trip.legs[3].wh)
    if minutes < 1.0 or a.signal.margin_db < 2 * a.situation.minimums.link_margin_db:
        return None
    station = round(min(minutes, _MOST_STATION_MIN), 1)
    return plan.model_copy(update={"flight": plan.flight.model_copy(update={"station_min": station})})


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
