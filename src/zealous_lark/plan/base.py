"""What the documents' parts share: settings, and ranges that keep out slips of the finger."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field
from pydantic_core import PydanticCustomError

Name = Annotated[str, Field(min_length=1, max_length=120)]
Percent = Annotated[float, Field(ge=0, le=100)]
Bearing = Annotated[float, Field(ge=0, le=360)]
Temperature = Annotated[float, Field(ge=-60, le=60)]
Airspeed = Annotated[float, Field(ge=1, le=60)]
WindSpeed = Annotated[float, Field(ge=0, le=75)]
DistanceM = Annotated[float, Field(ge=0, le=20_000)]
HeightM = Annotated[float, Field(ge=0, le=1_000)]
SpreadPct = Annotated[float, Field(ge=0, le=50)]
Number = Annotated[int, Field(ge=0, le=2**53 - 1)]
"""The number of something that is kept: what a browser can count to, and a database hold."""


def _in_our_time(value: Any) -> Any:
    if not 1990 <= value.year <= 2100:
        raise PydanticCustomError("year", "a year from 1990 to 2100")
    return value


Moment = Annotated[AwareDatetime, AfterValidator(_in_our_time)]
"""A time with its offset, in years that clocks and almanacs can stand."""
Day = Annotated[date, AfterValidator(_in_our_time)]
Latitude = Annotated[float, Field(ge=-90, le=90)]
Longitude = Annotated[float, Field(ge=-180, le=180)]


class Part(BaseModel):
    """Settings that all parts of the documents share."""

    model_config = ConfigDict(
        extra="forbid",
        strict=True,
        allow_inf_nan=False,
    )
