"""What a new session starts from when there is nothing to copy."""

from __future__ import annotations

from datetime import datetime

from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import Surroundings
from zealous_lark.demo.aircraft import DUNLIN
from zealous_lark.plan.document import (
    FlightPart,
    PackPart,
    PlanDocument,
    SettingsPart,
    SitePart,
    WeatherPart,
    WindPart,
)


def open_field_plan(takeoff_at: datetime, name: str, latitude: float, longitude: float) -> PlanDocument:
    """A short flight with the light aircraft over an open field, for the pilot to change."""
    return PlanDocument(
        format="zealous-lark.plan",
        version=1,
        title="New session",
        takeoff_at=takeoff_at,
        aircraft=DUNLIN,
        pack=PackPart(charge_pct=100),
        site=SitePart(name=name, latitude=latitude, longitude=longitude, elevation_m=0, surroundings=Surroundings.OPEN),
        weather=WeatherPart(
            winds=[WindPart(height_m=10, speed_ms=3, direction_deg=270, source=WindSource.FORECAST)],
            temperature_c=15,
            dew_point_c=8,
        ),
        flight=FlightPart(bearing_deg=270, distance_m=100, height_m=30, station_min=5),
        settings=SettingsPart(rth_altitude_m=40),
    )
