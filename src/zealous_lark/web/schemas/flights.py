"""What the routes of flights, logbook, tracks and learning take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from zealous_lark.core.flight.card import FlightCard
from zealous_lark.core.flight.emergency import EmergencyCard
from zealous_lark.core.flight.lookout import Lookout
from zealous_lark.core.postflight.track import DrawnTrack, TrackFacts
from zealous_lark.formats.track_files import FIELDS
from zealous_lark.plan import PlanDocument
from zealous_lark.plan.base import Moment, Number
from zealous_lark.plan.flight import EventPart, FlightEntry
from zealous_lark.services import flights as service
from zealous_lark.services.learning import Offer
from zealous_lark.store.flights import Filter, Point, Sum
from zealous_lark.store.learned import Learned
from zealous_lark.web.schemas.common import In, Out, RefusalOut


class FlightOut(Out):
    """A flight. planned_pct: points that the plan had for what was flown."""

    uid: str
    session_id: int | None
    decision_id: int | None
    landed: bool
    planned_pct: float | None
    entry: FlightEntry
    card: FlightCard | None
    revision: int
    has_track: bool


def flight_out(flight: service.Flight, has_track: bool = False) -> FlightOut:
    """A flight, without the plan that it was flown by."""
    return FlightOut(
        uid=flight.uid,
        session_id=flight.session_id,
        decision_id=flight.decision_id,
        landed=flight.landed,
        planned_pct=flight.planned_pct,
        entry=flight.entry,
        card=flight.card,
        revision=flight.revision,
        has_track=has_track,
    )


class PastDrain(Out):
    """An earlier flight of the pack: how long, from and to which charge."""

    seconds: float
    from_pct: float
    to_pct: float


class AirborneOut(Out):
    """What the flight clock and the emergency cards need; kept on the device, they need nothing else.

    card: null while the wind is not known. decision_id: the launch that the next flight rests on.
    look_at: what this flight has that makes the charge fall faster.
    """

    session_id: int
    title: str
    aircraft: str
    pack: str
    place: str
    verdict: str
    decision_id: int | None
    charge_pct: float
    bearing_deg: float
    card: FlightCard | None
    emergencies: list[EmergencyCard]
    look_at: list[Annotated[str, Field(pattern="^(cold|windy|fast_mode)$")]]
    flights: list[FlightOut]
    history: list[PastDrain]


class ObservedOut(Out):
    """The flight in the air, as its observer sees it. A flight that has landed is given without what happened in it.

    at_s: since take-off by Lark's clock, null on the ground. distance_m: as far out as the pilot said last.
    lookout: where it should be; on the ground, the far point; null in the air while nothing can be predicted.
    """

    title: str
    place: str
    aircraft: str
    flight: FlightOut | None
    events: list[EventPart]
    at_s: float | None
    distance_m: float
    lookout: Lookout | None


class EventsIn(In):
    """What happened in a flight, also what was sent before. The first batch has the take-off.

    sent_at: now, by the device's own clock, so that no two clocks need to agree.
    """

    session: Number
    decision: Number | None = None
    events: Annotated[list[EventPart], Field(min_length=1, max_length=500)]
    sent_at: Moment | None = None


class EventsOut(Out):
    """new: how many of the events were not there before."""

    flight: FlightOut
    new: int


class ChoreOut(Out):
    key: str
    text: str
    why: str


class PackLeft(Out):
    """A pack after the flight and what to do with it."""

    label: str
    charge_pct: float
    state: str
    advice: str


class AfterOut(Out):
    """After landing: what is left to do, and said of it already. gear_c: how cold the gear came in."""

    flights: list[FlightOut]
    chores: list[ChoreOut]
    said: dict[str, datetime]
    pack: PackLeft | None
    dry_until: datetime | None
    gear_c: float


class WarmUpQuery(BaseModel):
    """A room and the gear that comes into it."""

    model_config = ConfigDict(extra="forbid")

    room_c: Annotated[float, Field(ge=-20, le=45)]
    humidity_pct: Annotated[float, Field(ge=1, le=100)]
    gear_c: Annotated[float, Field(ge=-40, le=45)]


class WarmUpOut(Out):
    dew_point_c: float
    wait_s: float


class FilterQuery(BaseModel):
    """What of the logbook: words in any text, exact names, days from and to (UTC, both counted)."""

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=200)] = ""
    aircraft: Annotated[str, Field(max_length=120)] = ""
    pack: Annotated[str, Field(max_length=60)] = ""
    place: Annotated[str, Field(max_length=120)] = ""
    since: Moment | None = None
    until: Moment | None = None

    def filter(self) -> Filter:
        """The filter that it asks for."""
        return Filter(self.text, self.aircraft, self.pack, self.place, since=self.since, until=self.until)


class PageQuery(FilterQuery):
    page: Annotated[int, Field(ge=1, le=100_000)] = 1


class LogbookOut(Out):
    flights: list[FlightOut]
    page: int
    pages: int
    total: Sum


class SummaryOut(Out):
    """words: what follows from the currency. band: planned, least and most spent of nine flights in ten [points]."""

    months: list[Sum]
    packs: list[Sum]
    points: list[Point]
    names: dict[str, list[str]]
    last_flight: datetime | None
    last_manual_return: datetime | None
    words: list[str]
    band: list[list[float]]


class PastOut(Out):
    edited_at: datetime
    before: FlightEntry


class OpenedFlight(Out):
    """A flight with its events, in order, what its entry said before, and the plan that it was flown by."""

    flight: FlightOut
    plan: PlanDocument | None
    events: list[EventPart]
    history: list[PastOut]


class NewFlight(In):
    entry: FlightEntry


class SaveFlight(In):
    entry: FlightEntry
    revision: Number


class TrackQuery(BaseModel):
    """The file's name; for a table which column is which; progress: answer line by line how far it is."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(max_length=200)] = "track"
    time: str = ""
    latitude: str = ""
    longitude: str = ""
    height: str = ""
    charge: str = ""
    tilt: str = ""
    pitch: str = ""
    roll: str = ""
    progress: bool = False

    def columns(self) -> dict[str, str]:
        """The columns that were chosen."""
        chosen = {k: getattr(self, k) for k in FIELDS}
        return {k: v for k, v in chosen.items() if v}


class TableOut(Out):
    """The columns of a table, its first rows, a guess of which is what; all empty for GPX."""

    columns: list[str]
    rows: list[list[str]]
    guess: dict[str, str]


class TrackOut(Out):
    name: str
    facts: TrackFacts
    drawn: DrawnTrack


class TrackLine(Out):
    """A line of a progress answer: how far it is, and at the end the track or what is wrong."""

    done: float
    track: TrackOut | None = None
    message: str | None = None
    refusals: list[RefusalOut] = Field(default=[])


class OffersOut(Out):
    offers: list[Offer]
    taken: list[Learned]


class TakeIn(In):
    kind: Annotated[str, Field(pattern="^(drain|radio|forecast)$")]
    target: Number
    source: Annotated[str, Field(max_length=120)] = ""


class HeldOut(Out):
    """What a source said so many hours before a flight [m/s]; off_ms: over the wind that was met."""

    key: str
    source: str
    lead_h: int
    issued_at: AwareDatetime
    speed_ms: float
    off_ms: float


class HeldList(Out):
    met_ms: float | None
    held: list[HeldOut]


class HeldOverOut(Out):
    """How far a source is off at a place [m/s]: the mean of said less met, and the mean of how far either way."""

    source: str
    place: str
    lead_h: int
    count: int
    off_ms: float
    size_ms: float


class HeldOverList(Out):
    held: list[HeldOverOut]
