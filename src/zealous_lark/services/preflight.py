"""On site: the look-round, the walkround with its answers, the settings card, the pocket card."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.battery import LEAST_TAKEOFF_PCT
from zealous_lark.core.checks.going_home import WASTEFUL_M
from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.preflight.arrival import Difference, Look, differences, feels, look_round
from zealous_lark.core.preflight.gates import Gate, GateItem, Round, Value, gates
from zealous_lark.core.preflight.settings_card import Dial, settings_card
from zealous_lark.core.prepare.lists import COLD_C
from zealous_lark.core.prepare.upkeep import Work
from zealous_lark.core.situation import RadioNoise, Situation, Surroundings
from zealous_lark.core.units import METRIC, Units, percent
from zealous_lark.plan import PlanDocument, read_plan, situation_of
from zealous_lark.plan.kit import AircraftItem
from zealous_lark.services import answers, kit, weather
from zealous_lark.services.answers import LOOK_ROUND, WALKROUND
from zealous_lark.services.local_time import local
from zealous_lark.services.outing import BRIGHT_DEG
from zealous_lark.store import Database, decisions, launches
from zealous_lark.store.answers import Answer, Word
from zealous_lark.store.launches import Launch

NEW_PLACE_M = 300.0
"""A place is known where there was a launch within this distance [m]."""
WARM_PACK_C = 15.0
LATELY = timedelta(days=30)
METRES_PER_DEGREE = 110_000.0
"""Of latitude, rather too little, so that nothing within the distance is left out."""


@dataclass(frozen=True, slots=True)
class ValueState:
    """A value that an item takes: what it is now (None: not entered), what is wanted, in words, and how it stands."""

    now: float | bool | None
    wanted: str
    status: str
    sentence: str


@dataclass(frozen=True, slots=True)
class Asked:
    """An item with its value and what was said to it."""

    item: GateItem
    value: ValueState | None
    answer: Answer | None


@dataclass(frozen=True, slots=True)
class AskedGate:
    gate: Gate
    items: tuple[Asked, ...]

    @property
    def stopped(self) -> bool:
        """Whether a fault stops it."""
        return any(i.answer is not None and i.answer.word is Word.FAULT for i in self.items)

    @property
    def open(self) -> int:
        return sum(i.answer is None for i in self.items)


@dataclass(frozen=True, slots=True)
class OnSite:
    """Everything that the Site and Walkround stages show."""

    context: Round
    looks: tuple[Look, ...]
    looked: dict[str, Answer]
    differences: tuple[Difference, ...]
    gates: tuple[AskedGate, ...]
    card: tuple[Dial, ...]
    feels: str | None


def on_site(db: Database, session_id: int, plan: PlanDocument, now: datetime, units: Units = METRIC) -> OnSite:
    """A session on site, with a plan as it stands. Raises NotHereError, NotAllowedError."""
    situation = situation_of(plan, weather.known(db, plan, now))
    with db.transaction() as s:
        flown = launches.with_aircraft(s, plan.aircraft.kit, plan.aircraft.name, session_id)
    context = _round(db, session_id, plan, situation, flown, now)
    said = answers.said(db, session_id, WALKROUND)
    assessed = Assessment(situation)
    first_flights = plan.outing is not None and plan.outing.first_flights
    last = None
    if flown:
        with db.transaction() as s:
            decided = decisions.find(s, flown[0].decision_id)
        assert decided is not None
        last = read_plan(decided.plan)
    card = settings_card(
        assessed, first_flights=first_flights, last=None if last is None else situation_of(last), units=units
    )
    return OnSite(
        context=context,
        looks=look_round(situation),
        looked=answers.said(db, session_id, LOOK_ROUND),
        differences=differences(situation, units),
        gates=tuple(
            AskedGate(gate, tuple(_asked(i, plan, assessed, said.get(i.key), units) for i in gate.items))
            for gate in gates(context)
        ),
        card=card,
        feels=feels(assessed, units),
    )


@dataclass(frozen=True, slots=True)
class Open:
    """What of a stage nobody has answered: the questions in words."""

    stage: str
    name: str
    questions: tuple[str, ...]


def still_open(db: Database, session_id: int, plan: PlanDocument, now: datetime) -> tuple[Open, ...]:
    """What is still open of a session, by stage. Raises NotHereError, NotAllowedError."""
    found = on_site(db, session_id, plan, now)
    looks = tuple(x.question for x in found.looks if x.key not in found.looked)
    items = tuple(x.item.text for gate in found.gates for x in gate.items if x.answer is None)
    every = (Open("site", "site survey", looks), Open("preflight", "preflight", items))
    return tuple(x for x in every if x.questions)


def _round(
    db: Database, session_id: int, plan: PlanDocument, situation: Situation, flown: Sequence[Launch], now: datetime
) -> Round:
    """flown: launches with this aircraft in other sessions, the latest first."""
    site, outing = situation.site, plan.outing
    day = local(plan.takeoff_at, site.latitude, site.longitude).date().isoformat()
    room = NEW_PLACE_M / METRES_PER_DEGREE
    with db.transaction() as s:
        today = launches.on_day(s, day, session_id)
        around = launches.around(s, site.latitude - room, site.latitude + room, session_id)
    aircraft = next((k for k in kit.items(db) if isinstance(k.item, AircraftItem) and k.id == plan.aircraft.kit), None)
    works: list[Work] = []
    due: set[Work] = set()
    if aircraft is not None:
        record = kit.record(db, aircraft.id, now)
        # What was done since it last flew, or lately where no flight of it is known here.
        lately = now.date() - LATELY
        since = max((date.fromisoformat(x.day) for x in flown), default=lately)
        works = [e.entry.work for e in record.entries if e.entry.day >= since]
        due = {d.work for d in record.due}
    near = any(
        bearing_and_distance(site.latitude, site.longitude, x.latitude, x.longitude)[1] < NEW_PLACE_M for x in around
    )
    height = Assessment(situation).sun_at(plan.takeoff_at).elevation_deg
    return Round(
        winter=not site.indoors and situation.weather.temperature_c < COLD_C,
        water=situation.over_water,
        boat=site.from_boat,
        indoors=site.indoors,
        built_up=site.radio_noise is RadioNoise.URBAN or site.surroundings is Surroundings.CHAOTIC,
        first_of_day=not today,
        first_of_pack=all((x.pack_kit, x.pack) != (plan.pack.kit, plan.pack.label or "") for x in today),
        after_firmware=Work.FIRMWARE in works,
        new_place=not near,
        after_knock=Work.KNOCK in works and bool(due & {Work.SENSORS, Work.PROPELLERS}),
        first_flights=outing is not None and outing.first_flights,
        bright=not site.indoors and height > BRIGHT_DEG,
        risky=outing is not None and outing.risky,
        payload=situation.aircraft.added_g > 0,
    )


def _asked(item: GateItem, plan: PlanDocument, a: Assessment, answer: Answer | None, u: Units) -> Asked:
    value = None if item.value is None else _value(item.value, plan, a, answer, u)
    return Asked(item, value, answer)


def _value(kind: Value, plan: PlanDocument, a: Assessment, answer: Answer | None, u: Units) -> ValueState:
    """How a value stands. What the plan has counts; free minutes on the card are the answer's own."""
    m, settings = plan.minimums, plan.settings
    match kind:
        case Value.CHARGE:
            now, least = plan.pack.charge_pct, m.min_takeoff_pct
            wanted = f"{percent(least)} or more"
            if now < LEAST_TAKEOFF_PCT:
                return ValueState(now, wanted, "fail", "Don't take off on a part-used battery: change it.")
            low = "Less than you want to take off with."
            return ValueState(now, wanted, "pass" if now >= least else "care", "Enough." if now >= least else low)
        case Value.PACK_TEMPERATURE:
            warm = plan.pack.temperature_c
            wanted = f"{u.temperature(WARM_PACK_C)} or more"
            if warm is None:
                return ValueState(None, wanted, "unknown", "Not entered yet.")
            ok = warm >= WARM_PACK_C
            return ValueState(warm, wanted, "pass" if ok else "care", "Warm enough." if ok else "Warm it first.")
        case Value.CARD:
            need = plan.flight.station_min + 5
            minutes = None if answer is None else answer.value
            wanted = f"{need:.0f} min or more"
            if minutes is None:
                return ValueState(None, wanted, "unknown", "Not entered yet.")
            ok = minutes >= need
            return ValueState(
                minutes, wanted, "pass" if ok else "care", "Room enough." if ok else "It fills up in flight."
            )
        case Value.RETURN_HEIGHT:
            want = a.return_height.recommended_m
            if want is None:
                return ValueState(settings.rth_altitude_m, "no height works", "fail", "No return height works here.")
            off = settings.rth_altitude_m - want
            if -0.5 < off <= WASTEFUL_M:
                words = (
                    "Matches what this place needs."
                    if off < 0.5
                    else f"{u.length(off)} over what this place wants: it clears."
                )
                return ValueState(settings.rth_altitude_m, u.length(want), "pass", words)
            says = f"Set to {u.length(settings.rth_altitude_m)}, this place wants {u.length(want)}."
            return ValueState(settings.rth_altitude_m, u.length(want), "fail" if off < 0 else "care", says)
        case Value.SATELLITES:
            return _satellites(settings.satellites, m.satellites)
        case Value.HOME_POINT:
            return _yes_or_no(settings.home_point_set, "The aircraft would return to the wrong place.")
        case Value.COMPASS:
            return _yes_or_no(settings.compass_checked, "Calibrate it away from metal.")


def _satellites(seen: int | None, least: int) -> ValueState:
    wanted = f"{least} or more"
    if seen is None:
        return ValueState(None, wanted, "unknown", "Not entered yet.")
    if seen <= 6:
        return ValueState(seen, wanted, "fail", "It does not hold its position with so few.")
    ok = seen >= least
    return ValueState(seen, wanted, "pass" if ok else "care", "Enough." if ok else "Wait for more.")


def _yes_or_no(said: bool | None, no: str) -> ValueState:
    if said is None:
        return ValueState(None, "yes", "unknown", "Not confirmed yet.")
    return ValueState(said, "yes", "pass" if said else "fail", "Confirmed." if said else no)
