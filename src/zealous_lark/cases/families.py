"""Families of cases: each a cause that grows from nothing to too much, and the checks that it is about.

A cause is a function from an easy day and a strength, 0 to 1, to the plan with it; at 0 nothing is near a limit, and
nearly everything that a family says of itself lies between.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from zealous_lark.cases.dice import Dice
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import LostLink, PlatformKind, Surroundings
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.document import ObstaclePart, PlatformPart, WindPart

Cause = Callable[[float], PlanDocument]


@dataclass(frozen=True, slots=True)
class Family:
    """A family: its key and name; what it teaches, in a line; the checks that it is about.

    cause: begins a case on an easy day. waits: whether the cause may pass with time, or be asked about.
    settles: whether the return height is set as recommended; else it is the cause, or part of it.
    """

    key: str
    name: str
    teaches: str
    checks: frozenset[str]
    cause: Callable[[PlanDocument, Dice], Cause]
    waits: bool = False
    indoors: bool = False
    settles: bool = True

    def begin(self, plan: PlanDocument, dice: Dice) -> Cause:
        """A case's cause, with what else a careful pilot would have set."""
        cause = self.cause(plan, dice)
        return (lambda share: _settled(cause(share))) if self.settles else cause


def _with(plan: PlanDocument, **parts: dict[str, Any]) -> PlanDocument:
    """A plan with fields of its parts replaced."""
    changed = {name: getattr(plan, name).model_copy(update=values) for name, values in parts.items()}
    return plan.model_copy(update=changed)


def _forecast(height: float, speed: float, direction: float, gusts: float) -> WindPart:
    speed = round(speed, 1)
    return WindPart(
        height_m=height, speed_ms=speed, direction_deg=direction % 360, gust_ms=round(speed * gusts, 1),
        source=WindSource.FORECAST,
    )  # fmt: skip


def _settled(plan: PlanDocument) -> PlanDocument:
    """A plan with the return height that is recommended for it, so that nothing else is asked about that."""
    height = Assessment(situation_of(plan)).return_height.recommended_m
    return plan if height is None else _with(plan, settings={"rth_altitude_m": max(height, plan.flight.height_m)})


def _out(plan: PlanDocument, wanted_m: float) -> float:
    """A distance [m], no further than it is well seen there."""
    seen = Assessment(situation_of(plan)).sight.limit_m * WELL_SEEN
    return min(wanted_m, 10.0 * int(seen / 10))


def _wind_home(plan: PlanDocument, dice: Dice) -> Cause:
    """It blows outwards: easy out, against the flight on the way home."""
    towards, off = plan.flight.bearing_deg, dice.one((-20, 0, 20))
    gusts = dice.between(1.15, 1.3)
    far = _with(plan, flight={"distance_m": _out(plan, dice.stepped(120, 180, 10))})

    def at(share: float) -> PlanDocument:
        wind = _forecast(10, 2 + share * 12, towards + 180 + off, gusts)
        return _with(far, weather={"winds": [wind]})

    return at


def _wind_aloft(plan: PlanDocument, dice: Dice) -> Cause:
    """Calm below, another wind up where it flies."""
    direction = plan.weather.winds[0].direction_deg
    turn, gusts = dice.one((10, 20, 40)), dice.between(1.2, 1.45)
    high = _with(plan, flight={"height_m": dice.stepped(40, 50, 5), "distance_m": 60.0})

    def at(share: float) -> PlanDocument:
        low = _forecast(10, 2 + share, direction, 1.4)
        return _with(high, weather={"winds": [low, _forecast(60, 3 + share * 14, direction + turn, gusts)]})

    return at


def _shelter(plan: PlanDocument, dice: Dice) -> Cause:
    """A hand reading in the lee of trees; with a forecast it may stand beside, without one it says nothing good."""
    direction, read = plan.weather.winds[0].direction_deg, dice.stepped(0.5, 2, 0.5)
    trees = ObstaclePart(
        kind=ObstacleKind.TREES, height_m=dice.stepped(12, 18, 1), distance_m=dice.stepped(45, 70, 5),
        bearing_deg=direction,
    )  # fmt: skip
    meter = WindPart(
        height_m=2, speed_ms=read, direction_deg=direction, gust_ms=read + 1, source=WindSource.MEASURED, method="meter"
    )
    known = plan.weather.winds
    # It flies across the wind, past the trees.
    away = _with(
        plan,
        site={"sheltered": True, "obstacles": [trees]},
        flight={"bearing_deg": (direction + dice.one((80, 100, 260, 280))) % 360},
    )

    def at(share: float) -> PlanDocument:
        return _with(away, weather={"winds": [*([] if share >= 0.5 else known), meter]})

    return at


def _half_a_battery(plan: PlanDocument, dice: Dice) -> Cause:
    """The second flight on what the first one left."""
    longer = _with(
        plan, flight={"station_min": dice.stepped(5, 9, 1), "distance_m": _out(plan, dice.stepped(120, 180, 10))}
    )

    def at(share: float) -> PlanDocument:
        return _with(longer, pack={"charge_pct": round(100 - 70 * share)})

    return at


def _cold(plan: PlanDocument, dice: Dice) -> Cause:
    """A cold morning, and a battery from the rucksack or from an inner pocket."""
    warm, spread, pocket = plan.weather.temperature_c, dice.stepped(6, 9, 1), dice.one((0.0, 0.0, 6.0))

    def at(share: float) -> PlanDocument:
        air = round(warm - share * (warm + 12))
        pack = max(20 - share * 26 + pocket, -12.0) if share > 0 else 22.0
        return _with(
            plan, weather={"temperature_c": air, "dew_point_c": air - spread}, pack={"temperature_c": round(pack)}
        )

    return at


def _on_the_way(plan: PlanDocument, dice: Dice, height: float, share: float) -> ObstaclePart:
    kind = dice.one((ObstacleKind.TREES, ObstacleKind.MAST, ObstacleKind.BUILDING))
    return ObstaclePart(
        kind=kind, height_m=height, distance_m=round(plan.flight.distance_m * share),
        bearing_deg=plan.flight.bearing_deg, depth_m=0 if kind is ObstacleKind.MAST else 10,
    )  # fmt: skip


def _return_height(plan: PlanDocument, dice: Dice) -> Cause:
    """The controller still has the height of the last place in it, and something tall stands beside the way."""
    tall = dice.stepped(18, 28, 1)
    beside = ObstaclePart(
        kind=dice.one((ObstacleKind.TREES, ObstacleKind.MAST, ObstacleKind.BUILDING)), height_m=tall,
        distance_m=round(plan.flight.distance_m * dice.between(0.5, 0.8)),
        bearing_deg=(plan.flight.bearing_deg + dice.one((-70, 70))) % 360,
    )  # fmt: skip
    low = _with(plan, site={"obstacles": [beside]}, flight={"height_m": dice.stepped(12, 16, 1)})

    def at(share: float) -> PlanDocument:
        return _with(low, settings={"rth_altitude_m": float(round(tall + 14 - share * (tall + 2)))})

    return at


def _in_the_way(plan: PlanDocument, dice: Dice) -> Cause:
    """Something grows into the way out."""
    share_out = dice.between(0.35, 0.95)
    kind = _on_the_way(plan, dice, 1, share_out)

    def at(share: float) -> PlanDocument:
        tall = kind.model_copy(update={"height_m": round(2 + share * (plan.flight.height_m + 8))})
        return _with(plan, site={"obstacles": [*plan.site.obstacles, tall]})

    return at


def _radio(plan: PlanDocument, dice: Dice) -> Cause:
    """Where the picture broke up before, or a power that the rules of the place allow less of."""
    weak = dice.one((-10.0, -6.0, 0.0))

    def at(share: float) -> PlanDocument:
        return _with(plan, site={"radio_loss_db": round(share * 55)}, aircraft={"region_power_db": weak * share})

    return at


def _light(plan: PlanDocument, _dice: Dice) -> Cause:
    """An evening that gets late."""
    begin = plan.takeoff_at.replace(hour=18, minute=0)

    def at(share: float) -> PlanDocument:
        moved = begin + timedelta(minutes=5 * round(share * 84))
        later = plan.model_copy(update={"takeoff_at": moved})
        return _with(later, weather={"as_of": moved - timedelta(hours=1)})

    return at


def _water(plan: PlanDocument, dice: Dice) -> Cause:
    """Out over a lake, or from a boat that does not stay where it was."""
    if dice.share() < 0.5:
        course = (plan.flight.bearing_deg + dice.one((90, 180, 270))) % 360
        afloat = _with(
            plan,
            site={"over_water": True, "wave_height_m": 0.1, "obstacles": [], "surroundings": Surroundings.WATER},
            settings={"lost_link": LostLink.HOVER},
            flight={"return_mode": "normal"},
        )

        def boat(share: float) -> PlanDocument:
            if share < ON_THE_JETTY:
                return _with(plan, site={"obstacles": []})
            platform = PlatformPart(kind=PlatformKind.BOAT, course_deg=course, speed_ms=round(share * 3, 1))
            back = "normal" if share < 0.4 else "rth"
            return _with(afloat, site={"platform": platform}, flight={"return_mode": back})

        return boat
    shore = _with(plan, site={"over_water": True, "wave_height_m": 0.2})

    def lake(share: float) -> PlanDocument:
        return _with(shore, flight={"distance_m": 80.0 + 10 * round(share * 26)})

    return lake


def _indoors(plan: PlanDocument, dice: Dice) -> Cause:
    """Under a roof, with the controller as it was set outdoors; or as it should be."""
    wrong = dice.one((LostLink.RETURN, LostLink.LAND))

    def at(share: float) -> PlanDocument:
        return _with(plan, settings={"lost_link": wrong if share >= 0.5 else LostLink.HOVER})

    return at


def _rules(plan: PlanDocument, _dice: Dice) -> Cause:
    """Higher than the rules let it."""
    wide = _with(plan, settings={"max_altitude_m": 200.0}, flight={"distance_m": 40.0})

    def at(share: float) -> PlanDocument:
        height = round(50 + share * 110)
        return _with(wide, flight={"height_m": float(height)})

    return at


WELL_SEEN = 0.7
"""Of the distance at which it can still be told which way it points."""
ON_THE_JETTY = 0.15
"""Up to so much of the cause nobody has stepped into the boat."""
_BATTERY = frozenset({"battery.charge", "battery.budget", "battery.reach", "battery.turn_back"})
FAMILIES = (
    Family("wind-home", "Wind out, and home against it", "The way home decides, not the way out.",
           frozenset({"wind.return", "wind.outbound", "wind.first_leg", "wind.steady", "wind.gust"}) | _BATTERY,
           _wind_home, waits=True),
    Family("wind-aloft", "Wind aloft", "The wind up there is another one than in your face.",
           frozenset({"wind.steady", "wind.gust", "wind.shear", "wind.return", "wind.first_leg"}) | _BATTERY,
           _wind_aloft, waits=True),
    Family("shelter", "In the lee", "A reading in shelter says nothing good about the wind above.",
           frozenset({"wind.steady"}), _shelter, waits=True),
    Family("battery", "Half a battery", "Count from what it has, not from what it had.",
           _BATTERY | {"return.ceiling", "return.lost_link"}, _half_a_battery),
    Family("cold", "Cold", "A cold battery gives less and sags.",
           frozenset({"battery.temperature", "weather.icing"}) | _BATTERY, _cold, waits=True),
    Family("return-height", "Return height", "The height left from last time was for another place.",
           frozenset({"return.clearance", "return.ceiling"}), _return_height, settles=False),
    Family("in-the-way", "In the way", "What stands on the line out is met at the height you fly.",
           frozenset({"clear.outbound", "clear.station", "clear.takeoff", "clear.descent", "return.clearance"}),
           _in_the_way),
    Family("radio", "Radio", "The picture goes before the link does, and both before you expect it.",
           frozenset({"signal.margin"}), _radio),
    Family("light", "Light", "An hour later is another flight.", frozenset({"sight.daylight", "sight.glare"}),
           _light),
    Family("water", "Over water, from a boat", "A landing on water is a loss; a boat is no home point.",
           frozenset({"water.distance", "water.sensors", "return.home_drift", "return.lost_link", "wind.offshore",
                      "sight.distance"}), _water),
    Family("indoors", "Indoors", "Under a roof a return is a crash.", frozenset({"return.lost_link"}), _indoors,
           indoors=True, settles=False),
    Family("rules", "The height that is allowed", "Height above the ground below it, with the room that it takes.",
           frozenset({"rules.height", "return.ceiling", "settings.limits"}), _rules),
)  # fmt: skip
BY_KEY = {family.key: family for family in FAMILIES}
