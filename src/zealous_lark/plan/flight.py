"""The documents of a flight: what happens in it, and its entry in the logbook."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field, TypeAdapter, model_validator
from pydantic_core import PydanticCustomError

from zealous_lark.core.flight.card import FlightCard
from zealous_lark.plan.base import (
    Bearing,
    DistanceM,
    HeightM,
    Latitude,
    Longitude,
    Moment,
    Number,
    Part,
    Percent,
    WindSpeed,
)

Uid = Annotated[str, Field(min_length=8, max_length=40, pattern=r"^[0-9a-zA-Z-]+$")]
Text = Annotated[str, Field(max_length=2_000)]
Seconds = Annotated[float, Field(ge=0, le=86_400)]


class EventKind(StrEnum):
    """reading, takeoff, landed: value is the charge [%]. distance, signal: value is the distance [m].

    call: the clock called, its text says what. turned: on the way home. signal: the picture broke up there.
    near_miss, note: in words. withdrawn: its text is the number of an event that was a slip. wind: value is the
    headwind on the way home [m/s] that was met.
    """

    TAKEOFF = "takeoff"
    READING = "reading"
    DISTANCE = "distance"
    CALL = "call"
    TURNED = "turned"
    SIGNAL = "signal"
    NEAR_MISS = "near_miss"
    NOTE = "note"
    WITHDRAWN = "withdrawn"
    LANDED = "landed"
    WIND = "wind"


_CHARGES = (EventKind.TAKEOFF, EventKind.READING, EventKind.LANDED)
_DISTANCES = (EventKind.DISTANCE, EventKind.SIGNAL)


class EventPart(Part):
    """Something that happened; at_s: since take-off, by the flight's own clock."""

    uid: Uid
    kind: EventKind
    at_s: Seconds
    at: Moment
    value: Annotated[float, Field(ge=0, le=20_000)] | None = None
    bearing_deg: Bearing | None = None
    text: Text = ""

    @model_validator(mode="after")
    def _has_what_it_needs(self) -> EventPart:
        if self.kind in (*_CHARGES, *_DISTANCES, EventKind.WIND) and self.value is None:
            raise PydanticCustomError("value", "a value for {kind}", {"kind": self.kind.value})
        if self.kind in _CHARGES and self.value is not None and self.value > 100:
            raise PydanticCustomError("charge", "a charge from 0 to 100")
        return self


class MarkPart(Part):
    """A place or moment worth keeping: where the picture broke up, a near miss, a note."""

    kind: Annotated[str, Field(pattern="^(signal|near_miss|note)$")]
    at_s: Seconds | None = None
    distance_m: DistanceM | None = None
    bearing_deg: Bearing | None = None
    text: Text = ""


class FlightEntry(Part):
    """A flight as the logbook has it, and as the pilot may correct it. null: not known."""

    started_at: Moment
    place: Annotated[str, Field(max_length=120)] = ""
    aircraft: Annotated[str, Field(min_length=1, max_length=120)]
    pack: Annotated[str, Field(max_length=60)] = ""
    aircraft_kit: Number | None = Field(None, description="Number of the aircraft in the kit; else by its name.")
    pack_kit: Number | None = Field(None, description="Number of the battery in the kit; else by its label.")
    latitude: Latitude | None = None
    longitude: Longitude | None = None
    seconds: Seconds | None = None
    charge_from_pct: Percent | None = None
    charge_to_pct: Percent | None = None
    predicted_to_pct: Percent | None = None
    wind_predicted_ms: WindSpeed | None = None
    wind_met_ms: WindSpeed | None = None
    distance_m: DistanceM | None = None
    height_m: HeightM | None = None
    verdict: Annotated[str, Field(max_length=20)] = ""
    word: Annotated[str, Field(max_length=20)] = ""
    marks: Annotated[list[MarkPart], Field(max_length=200)] = Field(default=[])
    manual_return: bool = Field(False, description="It came home by hand: practice of a manual return.")
    wet: bool = False
    note: Text = ""

    @model_validator(mode="after")
    def _charge_falls(self) -> FlightEntry:
        if (
            self.charge_from_pct is not None
            and self.charge_to_pct is not None
            and self.charge_to_pct > self.charge_from_pct
        ):
            raise PydanticCustomError("charge", "a charge_to_pct of no more than charge_from_pct")
        if (self.latitude is None) != (self.longitude is None):
            raise PydanticCustomError("position", "latitude and longitude, or neither")
        return self


_CARD: TypeAdapter[FlightCard] = TypeAdapter(FlightCard)


def card_text(card: FlightCard) -> str:
    """A flight card, to be kept."""
    return _CARD.dump_json(card).decode()


def read_card(text: str) -> FlightCard:
    """A flight card that was kept."""
    return _CARD.validate_json(text)
