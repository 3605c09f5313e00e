"""What a new session starts from when there is nothing to copy."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum

from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import LandformKind, LostLink, PlatformKind, RadioNoise, Surroundings
from zealous_lark.plan.document import (
    FlightPart,
    LandformPart,
    PackPart,
    PlanDocument,
    PlatformPart,
    SettingsPart,
    SitePart,
    WeatherPart,
    WindPart,
)
from zealous_lark.plan.typical import DUNLIN


class Surrounding(StrEnum):
    """What kind of place a session begins at."""

    LAND = "land"
    WATER = "water"
    BOAT = "boat"
    CAR = "car"
    CLIFF = "cliff"
    TOWN = "town"
    INDOORS = "indoors"


def in_setting(plan: PlanDocument, setting: Surrounding) -> PlanDocument:
    """A plan as it begins at a kind of place: what the place itself sets, for the pilot to change."""
    site: dict[str, object] = {}
    settings: dict[str, object] = {}
    flight: dict[str, object] = {}
    match setting:
        case Surrounding.WATER:
            site = {"over_water": True, "surroundings": Surroundings.WATER}
        case Surrounding.BOAT:
            site = {
                "over_water": True,
                "surroundings": Surroundings.WATER,
                "platform": PlatformPart(kind=PlatformKind.BOAT),
            }
            settings, flight = {"lost_link": LostLink.HOVER}, {"return_mode": "normal"}
        case Surrounding.CAR:
            site = {"platform": PlatformPart(kind=PlatformKind.CAR)}
            settings, flight = {"lost_link": LostLink.HOVER}, {"return_mode": "normal"}
        case Surrounding.CLIFF:
            site = {"landform": LandformPart(kind=LandformKind.ESCARPMENT, height_m=30, half_length_m=60)}
        case Surrounding.TOWN:
            site = {"surroundings": Surroundings.CHAOTIC, "radio_noise": RadioNoise.URBAN}
        case Surrounding.INDOORS:
            site = {"indoors": True, "surroundings": Surroundings.CLOSED}
            settings = {"lost_link": LostLink.HOVER}
            flight = {"distance_m": 15.0, "height_m": 2.0, "outbound_mode": "slow", "return_mode": "slow"}
        case Surrounding.LAND:
            site = {"indoors": False, "over_water": False, "platform": PlatformPart(kind=PlatformKind.GROUND)}
    return plan.model_copy(
        update={
            "site": plan.site.model_copy(update=site),
            "settings": plan.settings.model_copy(update=settings),
            "flight": plan.flight.model_copy(update=flight),
        }
    )


def nobodys_weather() -> WeatherPart:
    """Something to look at until somebody says what the weather is: without evidence nothing passes by it."""
    return WeatherPart(
        winds=[WindPart(height_m=10, speed_ms=3, direction_deg=270, source=WindSource.FORECAST)], temperature_c=15
    )


def open_field_plan(takeoff_at: datetime, name: str, latitude: float, longitude: float) -> PlanDocument:
    """A short flight with the light aircraft over an open field, for the pilot to change."""
    return PlanDocument(
        format="zealous-lark.plan",
        version=2,
        title="New session",
        takeoff_at=takeoff_at,
        aircraft=DUNLIN,
        pack=PackPart(charge_pct=100),
        site=SitePart(name=name, latitude=latitude, longitude=longitude, elevation_m=0, surroundings=Surroundings.OPEN),
        weather=nobodys_weather(),
        flight=FlightPart(bearing_deg=270, distance_m=100, height_m=30, station_min=5),
        settings=SettingsPart(rth_altitude_m=40),
    )
