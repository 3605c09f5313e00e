"""Where and when a case happens: places as templates, an easy day, the pilot's own aircraft, battery and minimums."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta, timezone

from zealous_lark.cases.dice import Dice
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.readings import Precipitation, WindSource
from zealous_lark.core.situation import LandformKind, LostLink, RadioNoise, Surroundings
from zealous_lark.plan import PlanDocument, situation_of
from zealous_lark.plan.document import (
    AircraftPart,
    EvidencePart,
    FlightPart,
    How,
    LandformPart,
    MinimumsPart,
    ObstaclePart,
    PackPart,
    SettingsPart,
    SitePart,
    WeatherPart,
    WindPart,
)

LATITUDE, LONGITUDE = 58.6, 25.1
_DAYS = 120
_FIRST = datetime(2026, 5, 5, 9, 0, tzinfo=timezone(timedelta(hours=3)))
"""By the clock there, in summer, when days are long: from nine on an easy day has no question about the light."""
SAID = (
    "weather.winds", "weather.temperature_c", "weather.dew_point_c", "weather.visibility_m", "weather.precipitation",
    "weather.kp", "pack.charge_pct", "pack.temperature_c",
)  # fmt: skip
"""What a case says in so many words, so that nothing of it is only assumed."""


@dataclass(frozen=True, slots=True)
class Template:
    """A kind of place, in words, with what stands around it but not in the way.

    relief_m, half_m: height of the landform under the take-off point, and its half-length.
    """

    name: str
    words: str
    surroundings: Surroundings
    beside: ObstacleKind
    height_m: float
    noise: RadioNoise = RadioNoise.QUIET
    landform: LandformKind = LandformKind.FLAT
    relief_m: float = 0.0
    half_m: float = 0.0
    elevation_m: float = 60.0


PLACES = (
    Template("Hay meadow", "A mown meadow, a row of trees off to the side.", Surroundings.OPEN, ObstacleKind.TREES, 12),
    Template("Raised bog", "A bog with low pines, wide and wet.", Surroundings.ROUGHLY_OPEN, ObstacleKind.TREES, 8),
    Template("Gravel shore", "Gravel behind alders; you fly inland.", Surroundings.OPEN, ObstacleKind.TREES, 14),
    Template("Old orchard", "Farm buildings and fruit trees.", Surroundings.ROUGH, ObstacleKind.BUILDING, 9),
    Template("Village green", "Houses on one side, fields on the other.", Surroundings.ROUGH, ObstacleKind.BUILDING, 11,
             RadioNoise.SUBURBAN),
    Template("Drumlin top", "The round top of a grassy hill, trees off to the side.", Surroundings.OPEN,
             ObstacleKind.TREES, 10, landform=LandformKind.HILL, relief_m=18, half_m=140),
    Template("Esker", "A bare gravel ridge, with fields below.", Surroundings.ROUGHLY_OPEN, ObstacleKind.TREES, 9,
             landform=LandformKind.RIDGE, relief_m=15, half_m=160),
    Template("Foot of a hill", "A field below a hillside.", Surroundings.OPEN, ObstacleKind.TERRAIN, 28),
    Template("Heath", "Open heath with a lone mast off to the side.", Surroundings.OPEN, ObstacleKind.MAST, 30),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Own:
    """What of a case is the pilot's own."""

    aircraft: AircraftPart
    pack: PackPart
    minimums: MinimumsPart


def easy_day(dice: Dice, own: Own, *, indoors: bool = False) -> tuple[PlanDocument, str]:
    """A flight on which nothing is near its limit, mostly; and the place in words."""
    place = dice.one(PLACES)
    bearing = dice.stepped(0, 350, 10)
    day = _FIRST + timedelta(days=int(dice.stepped(0, _DAYS, 1)), hours=dice.stepped(0, 8, 0.5))
    distance, height = dice.stepped(80, 140, 10), dice.stepped(30, 55, 5)
    temperature = dice.stepped(12, 22, 1)
    wind = dice.stepped(1.5, 2.5, 0.5)
    site = SitePart(
        name=place.name,
        latitude=LATITUDE,
        longitude=LONGITUDE,
        elevation_m=place.elevation_m,
        surroundings=place.surroundings,
        radio_noise=place.noise,
        landform=LandformPart(kind=place.landform, height_m=place.relief_m, half_length_m=place.half_m),
        zones_looked_at=day.date(),
        people_looked_at=day.date(),
        obstacles=[
            ObstaclePart(
                kind=place.beside,
                height_m=place.height_m,
                distance_m=dice.stepped(40, 90, 10),
                bearing_deg=(bearing + dice.one((110, 180, 250))) % 360,
            )
        ],
    )
    if indoors:
        site = site.model_copy(
            update={"name": "Riding hall", "indoors": True, "obstacles": [], "surroundings": Surroundings.CLOSED}
        )
        distance, height = 15.0, 4.0
    plan = PlanDocument(
        format="zealous-lark.plan",
        version=2,
        title=f"Practice: {site.name}",
        takeoff_at=day,
        aircraft=own.aircraft.model_copy(update={"kit": None}),
        pack=own.pack.model_copy(update={"kit": None, "charge_pct": 100.0, "temperature_c": max(temperature, 20.0)}),
        site=site,
        weather=WeatherPart(
            winds=[
                WindPart(
                    height_m=10,
                    speed_ms=wind,
                    direction_deg=(bearing + dice.one((40, 90, 270, 320))) % 360,
                    gust_ms=wind + dice.stepped(1, 2, 0.5),
                    source=WindSource.FORECAST,
                )
            ],
            as_of=day - timedelta(hours=1),
            temperature_c=temperature,
            dew_point_c=temperature - dice.stepped(7, 10, 1),
            visibility_m=10_000,
            precipitation=Precipitation.NONE,
            kp=dice.one((1.0, 2.0, 3.0)),
        ),
        flight=FlightPart(bearing_deg=bearing, distance_m=distance, height_m=height, station_min=dice.stepped(2, 4, 1)),
        settings=SettingsPart(
            rth_altitude_m=height if indoors else max(height, dice.stepped(40, 55, 5)),
            max_altitude_m=120,
            lost_link=LostLink.HOVER if indoors else LostLink.RETURN,
            satellites=None if indoors else int(dice.stepped(14, 20, 1)),
            home_point_set=None if indoors else True,
            compass_checked=None if indoors else True,
        ),
        minimums=own.minimums,
        evidence={key: EvidencePart(how=How.TYPED) for key in SAID},
    )
    if not indoors:
        seen = Assessment(situation_of(plan)).sight.limit_m
        flight = plan.flight.model_copy(update={"distance_m": min(distance, 10.0 * int(seen * 0.07))})
        plan = plan.model_copy(update={"flight": flight})
    return plan, "A large hall with a roof on beams." if indoors else place.words
