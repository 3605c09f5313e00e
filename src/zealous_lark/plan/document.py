"""The plan document, version 2, as pydantic models: keys end in their unit, unknown keys are refused.

Version 1 is read everywhere and brought to version 2 (`plan.versions`).

The ranges are sane, not lawful: they keep out slips of the finger and impossible
physics, and the checks judge the rest.
"""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import ConfigDict, Field, field_validator, model_validator
from pydantic_core import PydanticCustomError

from zealous_lark.core.minimums import (
    CompassRule,
    HoverRule,
    LandingRule,
    LostLinkRule,
    Minimums,
    SightRule,
    StrongWindRule,
    WindAloft,
)
from zealous_lark.core.obstacles import Known, ObstacleKind
from zealous_lark.core.readings import Figure, Precipitation, WindSource
from zealous_lark.core.situation import (
    AttachmentKind,
    LandformKind,
    LostLink,
    MoveKind,
    PlatformKind,
    RadioNoise,
    Seen,
    Surroundings,
)
from zealous_lark.plan.base import (
    Airspeed,
    Bearing,
    Day,
    DistanceM,
    HeightM,
    Latitude,
    Longitude,
    Moment,
    Name,
    Number,
    Part,
    Percent,
    SpreadPct,
    Temperature,
    WindSpeed,
)
from zealous_lark.plan.forecast import ForecastPart
from zealous_lark.plan.outing import OutingPart
from zealous_lark.plan.place import PlacePart

_DEFAULTS = Minimums()

OutboundMode = Literal["slow", "normal", "fast"]
ReturnMode = Literal["rth", "slow", "normal", "fast"]


KitNumber = Annotated[Number, Field(ge=1, description="Its number in this Lark's own kit; null: it is not of the kit.")]


class SpeedsPart(Part):
    """Airspeed of each flight mode."""

    slow: Airspeed
    normal: Airspeed
    fast: Airspeed


class AttachmentPart(Part):
    """Something added to the aircraft. Guards and floats also cost rated wind, fast mode and power."""

    kind: AttachmentKind
    mass_g: Annotated[float, Field(ge=0, le=5_000)] = 0


class LinkPart(Part):
    band_ghz: Annotated[float, Field(ge=0.1, le=10)]
    range_m: Annotated[float, Field(ge=10, le=100_000)]


class AircraftPart(Part):
    name: Name
    kit: KitNumber | None = None
    mass_g: Annotated[float, Field(ge=10, le=25_000)]
    payload_g: Annotated[float, Field(ge=0, le=10_000)] = 0
    size_m: Annotated[float, Field(ge=0.03, le=5)]
    rotor_count: Annotated[int, Field(ge=1, le=16)]
    rotor_diameter_m: Annotated[float, Field(ge=0.01, le=2)]
    max_tilt_deg: Annotated[float, Field(ge=5, le=80)] = 35
    battery_wh: Annotated[float, Field(ge=0.5, le=3_000)]
    hover_time_min: Annotated[float, Field(ge=1, le=240)]
    speeds_ms: SpeedsPart
    rth_speed_ms: Airspeed
    ascent_ms: Annotated[float, Field(ge=0.2, le=30)]
    descent_ms: Annotated[float, Field(ge=0.2, le=30)]
    max_wind_ms: Annotated[float, Field(gt=0, le=40)]
    temperature_c: Annotated[list[Temperature], Field(min_length=2, max_length=2)] = Field(
        default=[-10.0, 40.0], description="Rated air temperature, least and greatest."
    )
    link: LinkPart
    consumption_factor: Annotated[float, Field(ge=0.5, le=2)] = Field(
        default=1, description="What it draws over what the spec sheet says, as flights have shown."
    )
    max_takeoff_g: Annotated[float, Field(ge=10, le=50_000)] | None = Field(
        None, description="Greatest mass to fly with; null: the sheet gives none."
    )
    ceiling_m: Annotated[float, Field(ge=100, le=12_000)] | None = Field(
        None, description="Greatest height above sea level; null: the sheet gives none."
    )
    charge_power_w: Annotated[float, Field(ge=1, le=3_000)] | None = Field(
        None, description="Greatest charging power of its battery; null: the battery's energy in an hour."
    )
    region_power_db: Annotated[float, Field(ge=-20, le=10)] = Field(
        0, description="Power that the place's rules allow against the region of the sheet's range."
    )
    attachments: Annotated[list[AttachmentPart], Field(max_length=10)] = Field(default=[])

    @property
    def takeoff_mass_g(self) -> float:
        """Mass with payload and what is attached [g]."""
        return self.mass_g + self.payload_g + sum(x.mass_g for x in self.attachments)

    @field_validator("temperature_c")
    @classmethod
    def _least_first(cls, value: list[float]) -> list[float]:
        if value[0] >= value[1]:
            raise PydanticCustomError("order", "the least rated temperature first, then the greatest")
        return value


class PackPart(Part):
    label: Annotated[str, Field(max_length=60)] | None = Field(None, description="What is written on the battery.")
    kit: KitNumber | None = None
    charge_pct: Percent
    health_pct: Annotated[float, Field(ge=1, le=110)] = 100
    temperature_c: Temperature | None = None


class LandformPart(Part):
    kind: LandformKind
    height_m: HeightM = 0
    half_length_m: Annotated[float, Field(ge=0, le=20_000)] = 0


class ObstaclePart(Part):
    kind: ObstacleKind
    height_m: HeightM
    distance_m: DistanceM
    bearing_deg: Bearing
    depth_m: Annotated[float, Field(ge=0, le=20_000)] = 0
    known: Known = Known.TYPED


class PlatformPart(Part):
    """What the pilot starts from; a boat or car with its course and speed."""

    kind: PlatformKind
    course_deg: Bearing = 0
    speed_ms: Annotated[float, Field(ge=0, le=40)] = 0


class SitePart(Part):
    name: Annotated[str, Field(max_length=120)] | None = None
    place: Number | None = Field(
        None, description="The place in this Lark's own store; a document that travels carries it in `place` instead."
    )
    latitude: Latitude
    longitude: Longitude
    elevation_m: Annotated[float, Field(ge=-500, le=9_000)]
    surroundings: Surroundings
    landform: LandformPart | None = None
    over_water: bool = False
    indoors: bool = False
    platform: PlatformPart = PlatformPart(kind=PlatformKind.GROUND)
    wave_height_m: Annotated[float, Field(ge=0, le=20)] | None = Field(None, description="From trough to crest.")
    trees_bare: bool = False
    zones_looked_at: Day | None = Field(None, description="The day on which the pilot looked for zones: none.")
    people_looked_at: Day | None = Field(None, description="The day on which the pilot looked for people: none.")
    seen: Annotated[list[Seen], Field(max_length=len(Seen))] = Field(
        default=[], description="What the pilot saw on site; each counts until it is taken back."
    )
    sheltered: bool = False
    radio_noise: RadioNoise = RadioNoise.QUIET
    obstacles: Annotated[list[ObstaclePart], Field(max_length=500)] = Field(default=[])
    radio_loss_db: Annotated[float, Field(ge=0, le=60)] = Field(
        default=0, description="Loss that the radio met here beyond what the model says."
    )

    @property
    def from_boat(self) -> bool:
        return self.platform.kind is PlatformKind.BOAT


class WindPart(Part):
    height_m: Annotated[float, Field(ge=0.5, le=1_000)]
    speed_ms: WindSpeed
    direction_deg: Bearing
    gust_ms: WindSpeed | None = None
    source: WindSource
    method: Literal["meter", "beaufort", "hover"] | None = Field(None, description="How it was measured.")
    at: Moment | None = Field(None, description="When it was read.")

    @model_validator(mode="after")
    def _gust_over_mean(self) -> WindPart:
        if self.gust_ms is not None and self.gust_ms < self.speed_ms:
            raise PydanticCustomError(
                "gust", "a gust_ms of {gust} under the speed_ms of {speed}: a gust is the mean speed or more",
                {"gust": self.gust_ms, "speed": self.speed_ms},
            )  # fmt: skip
        return self


class ProvenancePart(Part):
    """Where a figure of the weather comes from, and when it was issued or read."""

    figure: Figure
    source: Name
    as_of: Moment | None = None


class WeatherPart(Part):
    winds: Annotated[list[WindPart], Field(min_length=1, max_length=50)]
    as_of: Moment | None = Field(None, description="When the weather was read or issued.")
    temperature_c: Temperature
    dew_point_c: Temperature | None = None
    visibility_m: Annotated[float, Field(ge=0, le=200_000)] = 10_000
    precipitation: Precipitation = Precipitation.NONE
    kp: Annotated[float, Field(ge=0, le=9)] = 2
    cloud_base_m: Annotated[float, Field(ge=0, le=20_000)] | None = Field(None, description="As reported.")
    provenance: Annotated[list[ProvenancePart], Field(max_length=20)] = Field(
        default=[], description="Of figures that were not typed in; `as_of` tells the age of the others."
    )
    report: Number | None = Field(
        None, description="The forecast in this Lark's own store; a document that travels carries it in `forecast`."
    )


class MovePart(Part):
    """A planned move around a subject; heights above the take-off point.

    size_m: radius of an orbit; distance from the subject at which a pull-away begins or a rise
    stands. length_m: of a pull-away or a straight run. climb_m: how much it rises.
    """

    kind: MoveKind
    name: Annotated[str, Field(max_length=60)] = ""
    latitude: Latitude
    longitude: Longitude
    height_m: HeightM
    size_m: Annotated[float, Field(ge=0, le=1_000)] = 20
    climb_m: Annotated[float, Field(ge=0, le=500)] = 0
    length_m: Annotated[float, Field(ge=0, le=2_000)] = 0
    bearing_deg: Bearing = 0
    turns: Annotated[float, Field(gt=0, le=10)] = 1
    speed_ms: Annotated[float, Field(ge=0.5, le=20)] = 4


class FlightPart(Part):
    bearing_deg: Bearing
    distance_m: DistanceM
    height_m: HeightM
    station_min: Annotated[float, Field(ge=0, le=240)]
    outbound_mode: OutboundMode = "normal"
    return_mode: ReturnMode = "rth"
    moves: Annotated[list[MovePart], Field(max_length=12)] = Field(default=[])
    station_radius_m: Annotated[float, Field(ge=0, le=1_000)] = 15
    night_permitted: bool = False


class SettingsPart(Part):
    rth_altitude_m: HeightM
    max_altitude_m: HeightM = 120
    max_distance_m: DistanceM | None = None
    lost_link: LostLink = LostLink.RETURN
    satellites: Annotated[int, Field(ge=0, le=60)] | None = None
    home_point_set: bool | None = None
    compass_checked: bool | None = Field(None, description="Whether the compass is in order here.")


class MinimumsPart(Part):
    """Personal minimums; what is left out has its default."""

    wind_fraction: Annotated[float, Field(gt=0, le=1)] = _DEFAULTS.wind_fraction
    reserve_pct: Annotated[float, Field(ge=0, le=90)] = _DEFAULTS.reserve_pct
    rth_margin_m: Annotated[float, Field(ge=0, le=200)] = _DEFAULTS.rth_margin_m
    rth_floor_m: Annotated[float, Field(ge=0, le=200)] = _DEFAULTS.rth_floor_m
    legal_height_m: Annotated[float, Field(gt=0, le=1_000)] = _DEFAULTS.legal_height_m
    return_speed_ms: Annotated[float, Field(gt=0, le=30)] = _DEFAULTS.return_speed_ms
    link_margin_db: Annotated[float, Field(ge=3, le=60)] = _DEFAULTS.link_margin_db
    satellites: Annotated[int, Field(ge=0, le=60)] = _DEFAULTS.satellites
    min_takeoff_pct: Annotated[float, Field(ge=60, le=100)] = _DEFAULTS.min_takeoff_pct
    kp: Annotated[float, Field(ge=0, le=9)] = _DEFAULTS.kp
    water_distance_m: DistanceM = _DEFAULTS.water_distance_m
    accept_light_rain: bool = _DEFAULTS.accept_light_rain
    mass_steps_g: Annotated[list[Annotated[float, Field(gt=0, le=150_000)]], Field(max_length=12)] = Field(
        default=list(_DEFAULTS.mass_steps_g), description="Masses from which other rules apply."
    )
    wind_spread_pct: SpreadPct = _DEFAULTS.wind_spread_pct
    measured_spread_pct: SpreadPct = _DEFAULTS.measured_spread_pct
    consumption_spread_pct: SpreadPct = _DEFAULTS.consumption_spread_pct
    charge_spread_points: SpreadPct = _DEFAULTS.charge_spread_points
    turn_back_pct: Annotated[float, Field(ge=20, le=90)] | None = Field(
        _DEFAULTS.turn_back_pct, description="A fixed charge to turn back at; null: computed from wind and distance."
    )
    wind_aloft: WindAloft = _DEFAULTS.wind_aloft
    rth_fixed_m: Annotated[float, Field(ge=5, le=200)] | None = Field(
        _DEFAULTS.rth_fixed_m, description="A return height that is always used; null: the lowest that clears."
    )
    compass: CompassRule = _DEFAULTS.compass
    lost_link: LostLinkRule = _DEFAULTS.lost_link
    strong_wind: StrongWindRule = _DEFAULTS.strong_wind
    sight_rule: SightRule = _DEFAULTS.sight_rule
    sight_own_m: Annotated[float, Field(ge=10, le=2_000)] = _DEFAULTS.sight_own_m
    trust_water_sensors: bool = _DEFAULTS.trust_water_sensors
    landing: LandingRule = _DEFAULTS.landing
    people_m: Annotated[float, Field(ge=0, le=5_000)] | None = _DEFAULTS.people_m
    airfield_m: Annotated[float, Field(ge=0, le=30_000)] | None = _DEFAULTS.airfield_m
    weather_age_h: Annotated[float, Field(ge=0.5, le=72)] = _DEFAULTS.weather_age_h
    hover_rule: HoverRule = _DEFAULTS.hover_rule
    bulky_speed: Annotated[float, Field(ge=0.3, le=1)] = Field(
        _DEFAULTS.bulky_speed, description="What guards or floats leave of rated wind and fast mode; assumed."
    )
    bulky_power: Annotated[float, Field(ge=1, le=2)] = Field(
        _DEFAULTS.bulky_power, description="What guards or floats multiply the power by; assumed."
    )


class How(StrEnum):
    """How a value of the plan came to be."""

    DEFAULT = "default"
    TYPED = "typed"
    FORECAST = "forecast"
    MEASURED = "measured"
    READ = "read"
    COPIED = "copied"


class EvidencePart(Part):
    how: How
    source: Annotated[str, Field(max_length=120)] | None = None
    at: Moment | None = None


class PlanDocument(Part):
    """One planned flight: everything that a launch decision rests on."""

    model_config = ConfigDict(title="Zealous Lark plan")

    format: Literal["zealous-lark.plan"]
    version: Literal[2]
    title: Name
    takeoff_at: Moment
    aircraft: AircraftPart
    pack: PackPart
    site: SitePart
    weather: WeatherPart
    flight: FlightPart
    settings: SettingsPart
    minimums: MinimumsPart = MinimumsPart()
    place: PlacePart | None = Field(None, description="What is drawn and known of the place, to travel with the plan.")
    forecast: ForecastPart | None = Field(None, description="The forecast, to travel with the plan.")
    outing: OutingPart | None = Field(None, description="Getting there, subjects and batteries; null: not planned yet.")
    evidence: Annotated[dict[str, EvidencePart], Field(max_length=400)] = Field(
        default={}, description="For key paths of this plan, how their value came to be."
    )

    @field_validator("title")
    @classmethod
    def _not_blank(cls, value: str) -> str:
        if not value.strip():
            raise PydanticCustomError("blank", "a title with at least one letter")
        return value
