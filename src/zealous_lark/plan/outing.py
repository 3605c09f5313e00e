"""The part of a plan that stands around the flight: getting there, what is filmed, with which packs."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from zealous_lark.core.geodesy import bearing_and_distance
from zealous_lark.core.prepare.assignment import MOST_SUBJECTS
from zealous_lark.core.prepare.countdown import Outline
from zealous_lark.core.prepare.subjects import Shot, WantedLight
from zealous_lark.plan.base import HeightM, Latitude, Longitude, Name, Number, Part

Minutes = Annotated[float, Field(ge=0, le=1_440)]


class ShotPart(Part):
    """A subject to film: height above the take-off point, time there, the light it wants."""

    name: Name
    latitude: Latitude
    longitude: Longitude
    height_m: HeightM
    minutes: Annotated[float, Field(ge=0.5, le=60)]
    light: WantedLight = WantedLight.ANY


class HandFlightPart(Part):
    """A flight as set by hand: the pack by its number in the kit, subjects by their place in `shots`."""

    pack: Number
    shots: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=1, max_length=MOST_SUBJECTS)]


class OutingPart(Part):
    """packs: numbers in this Lark's own kit; null: all that fit and may be flown.

    charge_min: time there is for charging, when it is less than charging takes. flights: as set by hand;
    null: the best way that is found.
    """

    travel_min: Minutes = 30
    setup_min: Minutes = 20
    bag_min: Minutes = 20
    on_site_min: Annotated[float, Field(ge=5, le=720)] = 90
    changeover_min: Annotated[float, Field(ge=0, le=120)] = 4
    charge_min: Minutes | None = None
    packs: Annotated[list[int], Field(max_length=40)] | None = None
    shots: Annotated[list[ShotPart], Field(max_length=MOST_SUBJECTS)] = Field(default=[])
    flights: Annotated[list[HandFlightPart], Field(max_length=20)] | None = None
    risky: bool = Field(False, description="A risky shot: the memory card is swapped before it.")
    first_flights: bool = False

    @model_validator(mode="after")
    def _subjects_known(self) -> OutingPart:
        numbers = [i for flight in self.flights or [] for i in flight.shots]
        if any(i >= len(self.shots) for i in numbers) or len(set(numbers)) < len(numbers):
            raise PydanticCustomError(
                "subjects", "flights that name each of the {count} subjects at most once, counted from 0",
                {"count": len(self.shots)},
            )  # fmt: skip
        return self


def outline_of(part: OutingPart) -> Outline:
    """The core's outline of a day."""
    return Outline(part.travel_min, part.setup_min, part.bag_min, part.on_site_min)


def shots_of(part: OutingPart, latitude: float, longitude: float) -> tuple[Shot, ...]:
    """The core's subjects as seen from a take-off point [°]."""
    found = []
    for s in part.shots:
        bearing, distance = bearing_and_distance(latitude, longitude, s.latitude, s.longitude)
        found.append(Shot(s.name, bearing, distance, s.height_m, s.minutes, s.light))
    return tuple(found)
