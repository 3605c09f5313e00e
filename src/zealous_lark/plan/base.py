"""What the documents' parts share: settings, and ranges that keep out slips of the finger."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Name = Annotated[str, Field(min_length=1, max_length=120)]
Percent = Annotated[float, Field(ge=0, le=100)]
Bearing = Annotated[float, Field(ge=0, le=360)]
Temperature = Annotated[float, Field(ge=-60, le=60)]
Airspeed = Annotated[float, Field(ge=1, le=60)]
WindSpeed = Annotated[float, Field(ge=0, le=75)]
DistanceM = Annotated[float, Field(ge=0, le=20_000)]
HeightM = Annotated[float, Field(ge=0, le=1_000)]
SpreadPct = Annotated[float, Field(ge=0, le=50)]
Latitude = Annotated[float, Field(ge=-90, le=90)]
Longitude = Annotated[float, Field(ge=-180, le=180)]


class Part(BaseModel):
    """Settings that all parts of the documents share."""

    model_config = ConfigDict(
        extra="forbid",
        strict=True,
        allow_inf_nan=False,
    )
