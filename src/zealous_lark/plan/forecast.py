"""The forecast document: hours of one source, with winds at heights. Also what one observation is kept as."""

from __future__ import annotations

from datetime import timedelta
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.readings import Precipitation, WindLevel, WindSource
from zealous_lark.plan.base import Bearing, Latitude, Longitude, Moment, Name, Part, Temperature, WindSpeed

MAX_HOURS = 400


class LevelPart(Part):
    """Wind at a height over open ground, as forecasts and stations give it."""

    height_m: Annotated[float, Field(ge=0.5, le=1_000)]
    speed_ms: WindSpeed
    direction_deg: Bearing
    gust_ms: WindSpeed | None = None

    @model_validator(mode="after")
    def _gust_over_mean(self) -> LevelPart:
        if self.gust_ms is not None and self.gust_ms < self.speed_ms:
            raise PydanticCustomError(
                "gust", "a gust_ms of {gust} under the speed_ms of {speed}: a gust is the mean speed or more",
                {"gust": self.gust_ms, "speed": self.speed_ms},
            )  # fmt: skip
        return self


class HourPart(Part):
    """One moment; what is left out is not said."""

    at: Moment
    winds: Annotated[list[LevelPart], Field(max_length=20)] = Field(default=[])
    temperature_c: Temperature | None = None
    dew_point_c: Temperature | None = None
    cloud_pct: Annotated[float, Field(ge=0, le=100)] | None = None
    rain_mmh: Annotated[float, Field(ge=0, le=500)] | None = None
    visibility_m: Annotated[float, Field(ge=0, le=200_000)] | None = None
    kp: Annotated[float, Field(ge=0, le=9)] | None = None
    precipitation: Precipitation | None = None
    cloud_base_m: Annotated[float, Field(ge=0, le=20_000)] | None = None


class ForecastPart(Part):
    """Hours of one source, earliest first."""

    model_config = ConfigDict(title="Zealous Lark forecast")

    format: Literal["zealous-lark.forecast"]
    version: Literal[1]
    source: Name
    issued_at: Moment
    holds_min: Annotated[float, Field(ge=0, le=360)] = Field(
        0, description="How long the last hour holds; of an observation, how long it is taken to."
    )
    latitude: Latitude | None = Field(None, description="Of the point that it was worked out for.")
    longitude: Longitude | None = None
    hours: Annotated[list[HourPart], Field(min_length=1, max_length=MAX_HOURS)]

    @model_validator(mode="after")
    def _in_order(self) -> ForecastPart:
        for i, (a, b) in enumerate(zip(self.hours, self.hours[1:], strict=False), 1):
            if b.at <= a.at:
                raise PydanticCustomError(
                    "hours", "hours from the earliest to the latest; hour {index} is not after the one before",
                    {"index": i},
                )  # fmt: skip
        return self


def forecast_of(part: ForecastPart) -> Forecast:
    """The core's forecast of a document; levels lowest first, of two at one height the stronger."""
    return Forecast(
        source=part.source,
        issued_at=part.issued_at,
        hours=tuple(_hour(h) for h in part.hours),
        holds=timedelta(minutes=part.holds_min),
    )


def forecast_part(forecast: Forecast) -> ForecastPart:
    """A document of the core's forecast; the inverse of `forecast_of`."""
    return ForecastPart(
        format="zealous-lark.forecast",
        version=1,
        source=forecast.source,
        issued_at=forecast.issued_at,
        holds_min=forecast.holds / timedelta(minutes=1),
        hours=[
            HourPart(
                at=h.at,
                winds=[
                    LevelPart(
                        height_m=w.height_m, speed_ms=w.speed_ms, direction_deg=w.direction_deg, gust_ms=w.gust_ms
                    )
                    for w in h.winds
                ],
                temperature_c=h.temperature_c,
                dew_point_c=h.dew_point_c,
                cloud_pct=h.cloud_pct,
                rain_mmh=h.rain_mmh,
                visibility_m=h.visibility_m,
                kp=h.kp,
                precipitation=h.precipitation,
                cloud_base_m=h.cloud_base_m,
            )
            for h in forecast.hours
        ],
    )


def _hour(h: HourPart) -> Hour:
    levels = sorted(h.winds, key=lambda w: (w.height_m, w.speed_ms))
    strongest = {w.height_m: w for w in levels}
    return Hour(
        at=h.at,
        winds=tuple(
            WindLevel(w.height_m, w.speed_ms, w.direction_deg % 360, WindSource.FORECAST, w.gust_ms)
            for w in strongest.values()
        ),
        temperature_c=h.temperature_c,
        dew_point_c=h.dew_point_c,
        cloud_pct=h.cloud_pct,
        rain_mmh=h.rain_mmh,
        visibility_m=h.visibility_m,
        kp=h.kp,
        precipitation=h.precipitation,
        cloud_base_m=h.cloud_base_m,
    )


@lru_cache(maxsize=32)
def read_forecast_text(text: str) -> Forecast:
    """The core's forecast of a document kept as JSON text that was accepted before."""
    return forecast_of(ForecastPart.model_validate_json(text))
