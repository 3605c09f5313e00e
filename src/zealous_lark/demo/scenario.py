"""A pilot who films a raised bog, a lake and an old mill: sessions that come out differently.

Dates hang on a given day, so that the first session is always tomorrow at dawn; the
hours come from the sun over the place.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from zealous_lark.core.geodesy import destination
from zealous_lark.core.light import light
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.prepare.subjects import WantedLight
from zealous_lark.core.readings import WindSource
from zealous_lark.core.situation import LandformKind, LostLink, PlatformKind, RadioNoise, Surroundings
from zealous_lark.plan.document import (
    AircraftPart,
    EvidencePart,
    FlightPart,
    How,
    LandformPart,
    ObstaclePart,
    PackPart,
    PlanDocument,
    PlatformPart,
    SettingsPart,
    SitePart,
    WeatherPart,
    WindPart,
)
from zealous_lark.plan.outing import OutingPart, ShotPart
from zealous_lark.plan.typical import DUNLIN, PLOVER

ZONE = ZoneInfo("Europe/Tallinn")


def _obstacle(kind: str, height: float, distance: float, bearing: float, depth: float = 0) -> ObstaclePart:
    return ObstaclePart(
        kind=ObstacleKind(kind), height_m=height, distance_m=distance, bearing_deg=bearing, depth_m=depth
    )


BOG = SitePart(
    name="Sarvik bog",
    latitude=58.62,
    longitude=25.08,
    elevation_m=42,
    surroundings=Surroundings.ROUGHLY_OPEN,
)
"""Raised bog with a boardwalk; what stands there is drawn in its place."""

JETTY = SitePart(
    name="Lake jetty",
    latitude=58.585,
    longitude=25.17,
    elevation_m=38,
    surroundings=Surroundings.WATER,
    over_water=True,
    sheltered=True,
    obstacles=[_obstacle("building", 6, 15, 90), _obstacle("trees", 16, 30, 110, 60)],
)
"""A jetty in the lee of a boathouse."""

BOAT = SitePart(
    name="Lake, from the boat",
    latitude=58.5838,
    longitude=25.1655,
    elevation_m=38,
    surroundings=Surroundings.WATER,
    over_water=True,
    platform=PlatformPart(kind=PlatformKind.BOAT, course_deg=70, speed_ms=0.1),
    wave_height_m=0.2,
)
"""Off the jetty: the home point stays behind while the boat drifts."""

QUARRY = SitePart(
    name="Quarry edge",
    latitude=58.634,
    longitude=25.104,
    elevation_m=61,
    surroundings=Surroundings.ROUGHLY_OPEN,
    landform=LandformPart(kind=LandformKind.ESCARPMENT, height_m=35, half_length_m=80),
    obstacles=[_obstacle("wires", 11, 45, 250), _obstacle("trees", 14, 70, 20, 30)],
)
"""Above an old quarry: the wind is faster over the edge, and a line crosses the way."""

MILL = SitePart(
    name="Derelict mill",
    latitude=58.601,
    longitude=25.121,
    elevation_m=45,
    surroundings=Surroundings.CLOSED,
    indoors=True,
    radio_noise=RadioNoise.SUBURBAN,
)
"""A ruin with its roof on."""


@dataclass(frozen=True, slots=True)
class DemoSession:
    """A plan and, for a session that is over, the pilot's word and note on it."""

    plan: PlanDocument
    word: str | None = None
    note: str = ""


def _at(day: date, hour: int, minute: int = 0) -> datetime:
    return datetime.combine(day, time(hour, minute), tzinfo=ZONE)


def _after_sunrise(day: date, site: SitePart, minutes: int) -> datetime:
    noon = _at(day, 12)
    rise = light(site.latitude, site.longitude, noon).sunrise or noon
    whole = rise.replace(minute=rise.minute // 5 * 5, second=0, microsecond=0)
    return whole + timedelta(minutes=minutes)


def _forecast(speed: float, direction: float, gust: float) -> WindPart:
    return WindPart(height_m=10, speed_ms=speed, direction_deg=direction, gust_ms=gust, source=WindSource.FORECAST)


def _plan(
    title: str,
    takeoff_at: datetime,
    site: SitePart,
    pack: PackPart,
    weather: WeatherPart,
    flight: FlightPart,
    settings: SettingsPart,
    aircraft: AircraftPart = DUNLIN,
    outing: OutingPart | None = None,
) -> PlanDocument:
    # A fixed offset is what the document can say, and what it reads back.
    return PlanDocument(
        format="zealous-lark.plan",
        version=2,
        title=title,
        takeoff_at=datetime.fromisoformat(takeoff_at.isoformat()),
        aircraft=aircraft,
        pack=pack,
        site=site,
        weather=weather,
        flight=flight,
        settings=settings,
        outing=outing,
        evidence=_evidence(weather),
    )


def _evidence(weather: WeatherPart) -> dict[str, EvidencePart]:
    """The demo's pilot has looked: typed in from a forecast, measured on site, read off the battery."""
    winds = {
        f"weather.winds.{n}": How.TYPED if wind.source is WindSource.FORECAST else How.MEASURED
        for n, wind in enumerate(weather.winds)
    }
    figures = ("temperature_c", "dew_point_c", "visibility_m", "precipitation", "kp")
    known = {**winds, **{f"weather.{figure}": How.TYPED for figure in figures}}
    known |= {"pack.charge_pct": How.READ, "pack.temperature_c": How.READ}
    return {key: EvidencePart(how=how) for key, how in known.items()}


def _shot(name: str, bearing: float, distance: float, height: float, minutes: float, light: str = "any") -> ShotPart:
    latitude, longitude = destination(BOG.latitude, BOG.longitude, bearing, distance)
    return ShotPart(
        name=name, latitude=round(latitude, 6), longitude=round(longitude, 6), height_m=height, minutes=minutes,
        light=WantedLight(light),
    )  # fmt: skip


_AUTUMN_OUTING = OutingPart(
    travel_min=45,
    on_site_min=120,
    shots=[
        _shot("Lookout tower", 240, 240, 40, 6, "side"),
        _shot("Mist over the Black pool", 178, 190, 30, 5, "golden"),
        _shot("Crane meadow, from afar", 60, 160, 50, 4),
        _shot("Boardwalk from above", 225, 60, 45, 5),
    ],
)
_WINTER_OUTING = OutingPart(
    travel_min=75,
    on_site_min=90,
    risky=True,
    shots=[
        _shot("Frozen Black pool", 178, 190, 25, 5, "golden"),
        _shot("Tower in rime", 240, 200, 35, 6, "side"),
        _shot("Tracks along the boardwalk", 225, 60, 40, 4),
        _shot("Esker in low sun", 40, 150, 45, 4, "side"),
    ],
)


def _next_january(today: date) -> date:
    return date(today.year + 1, 1, 17)


def sessions(today: date, issued: datetime) -> list[DemoSession]:
    """The demo sessions as they stand on a day, with forecasts issued at a time."""
    tomorrow, last_sunday = today + timedelta(days=1), today - timedelta(days=today.weekday() + 1)
    pack_c = PackPart(label="C", charge_pct=100, health_pct=95, temperature_c=18)

    def autumn(wind: WindPart) -> WeatherPart:
        return WeatherPart(winds=[wind], temperature_c=6, dew_point_c=4, visibility_m=8000, as_of=issued)

    return [
        DemoSession(
            _plan(
                "Bog at first light",
                _after_sunrise(tomorrow, BOG, 25),
                BOG,
                PackPart(label="1", charge_pct=100, health_pct=99, temperature_c=18),
                autumn(_forecast(2.8, 240, 4.8)),
                FlightPart(bearing_deg=240, distance_m=180, height_m=40, station_min=6),
                SettingsPart(rth_altitude_m=40),
                PLOVER,
                _AUTUMN_OUTING,
            )
        ),
        DemoSession(
            _plan(
                "Cranes, wind behind on the flight out",
                _after_sunrise(tomorrow, BOG, 70),
                BOG,
                PackPart(label="A", charge_pct=100, health_pct=92, temperature_c=18),
                autumn(_forecast(3.6, 240, 6.2)),
                FlightPart(bearing_deg=60, distance_m=220, height_m=40, station_min=7, return_mode="slow"),
                SettingsPart(rth_altitude_m=50),
            )
        ),
        DemoSession(
            _plan(
                "Low along the pines",
                _after_sunrise(tomorrow, BOG, 120),
                BOG,
                PackPart(label="B", charge_pct=98, health_pct=90, temperature_c=16),
                autumn(_forecast(2.4, 250, 4.0)),
                FlightPart(bearing_deg=265, distance_m=100, height_m=12, station_min=8, outbound_mode="slow"),
                SettingsPart(rth_altitude_m=15),
            )
        ),
        DemoSession(
            _plan(
                "Tower in a gusty west wind",
                _at(tomorrow, 14, 30),
                BOG,
                pack_c,
                WeatherPart(winds=[_forecast(3.2, 265, 8.6)], temperature_c=9, dew_point_c=3, as_of=issued),
                FlightPart(bearing_deg=310, distance_m=120, height_m=30, station_min=5),
                SettingsPart(rth_altitude_m=35),
            )
        ),
        DemoSession(
            _plan(
                "Jetty before the front",
                _at(tomorrow + timedelta(days=1), 15),
                JETTY,
                PackPart(label="2", charge_pct=100, health_pct=97, temperature_c=14),
                WeatherPart(
                    winds=[WindPart(height_m=2, speed_ms=0.6, direction_deg=200, source=WindSource.MEASURED)],
                    temperature_c=9,
                    dew_point_c=6,
                    as_of=issued,
                ),
                FlightPart(bearing_deg=230, distance_m=110, height_m=25, station_min=6),
                SettingsPart(rth_altitude_m=30),
                PLOVER,
            )
        ),
        DemoSession(
            _plan(
                "Mill, ground floor",
                _at(tomorrow + timedelta(days=2), 11),
                MILL,
                PackPart(label="B", charge_pct=82, health_pct=90, temperature_c=15),
                WeatherPart(
                    winds=[_forecast(4, 220, 7)],
                    temperature_c=8,
                    dew_point_c=5,
                    visibility_m=10_000,
                    as_of=issued,
                ),
                FlightPart(
                    bearing_deg=10,
                    distance_m=20,
                    height_m=3,
                    station_min=6,
                    outbound_mode="slow",
                    return_mode="slow",
                ),
                SettingsPart(rth_altitude_m=20, lost_link=LostLink.HOVER),
            )
        ),
        DemoSession(
            _plan(
                "Frozen bog in January",
                _after_sunrise(_next_january(today), BOG, 20),
                BOG,
                PackPart(label="C", charge_pct=100, health_pct=92, temperature_c=3),
                WeatherPart(winds=[_forecast(2.6, 20, 4.4)], temperature_c=-9, dew_point_c=-13, visibility_m=9000),
                FlightPart(bearing_deg=20, distance_m=120, height_m=40, station_min=14),
                SettingsPart(rth_altitude_m=50),
                outing=_WINTER_OUTING,
            )
        ),
        DemoSession(
            _plan(
                "Tower from the boardwalk",
                _after_sunrise(last_sunday, BOG, 40),
                BOG,
                PackPart(label="1", charge_pct=100, health_pct=99, temperature_c=17),
                WeatherPart(
                    winds=[_forecast(4.4, 225, 7.4)],
                    temperature_c=8,
                    dew_point_c=3,
                    as_of=datetime.fromisoformat(_at(last_sunday, 6).isoformat()),
                ),
                FlightPart(bearing_deg=240, distance_m=190, height_m=45, station_min=9),
                SettingsPart(rth_altitude_m=45, satellites=16, home_point_set=True),
                PLOVER,
            ),
            word="launch",
            note="Steady over the tower, leaned a lot up there. Landed with 64%.",
        ),
        DemoSession(
            _plan(
                "Reeds from the rowing boat",
                _at(tomorrow + timedelta(days=3), 10),
                BOAT,
                PackPart(label="1", charge_pct=100, health_pct=99, temperature_c=17),
                WeatherPart(winds=[_forecast(1.8, 210, 3.0)], temperature_c=11, dew_point_c=6, as_of=issued),
                FlightPart(
                    bearing_deg=210,
                    distance_m=90,
                    height_m=20,
                    station_min=5,
                    outbound_mode="slow",
                    return_mode="normal",
                ),
                SettingsPart(rth_altitude_m=20, lost_link=LostLink.HOVER),
                PLOVER,
            )
        ),
        DemoSession(
            _plan(
                "Along the quarry edge",
                _at(tomorrow + timedelta(days=4), 13),
                QUARRY,
                PackPart(label="3", charge_pct=100, health_pct=97, temperature_c=17),
                WeatherPart(winds=[_forecast(3.4, 250, 5.4)], temperature_c=12, dew_point_c=5, as_of=issued),
                FlightPart(bearing_deg=250, distance_m=110, height_m=19, station_min=6, outbound_mode="slow"),
                SettingsPart(rth_altitude_m=30),
                PLOVER,
            )
        ),
    ]
