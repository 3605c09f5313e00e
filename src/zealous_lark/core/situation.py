"""What a pilot plans, as the core sees it: the input of every judgement.

All values in SI units with the exceptions that the field uses everywhere:
charge and health in percent of 100, temperatures in degrees Celsius, angles in
degrees, station time in minutes.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import datetime
from enum import StrEnum

from zealous_lark.core.forecast import Forecast
from zealous_lark.core.land import Land
from zealous_lark.core.minimums import Minimums
from zealous_lark.core.obstacles import Obstacle
from zealous_lark.core.readings import Weather


class Surroundings(StrEnum):
    """Ground cover upwind of the take-off point, smoothest first."""

    WATER = "water"
    SMOOTH = "smooth"
    OPEN = "open"
    ROUGHLY_OPEN = "roughly_open"
    ROUGH = "rough"
    VERY_ROUGH = "very_rough"
    CLOSED = "closed"
    CHAOTIC = "chaotic"


class LandformKind(StrEnum):
    FLAT = "flat"
    RIDGE = "ridge"
    ESCARPMENT = "escarpment"
    HILL = "hill"


class RadioNoise(StrEnum):
    QUIET = "quiet"
    SUBURBAN = "suburban"
    URBAN = "urban"


class SpeedMode(StrEnum):
    """Flight modes with an airspeed of their own; RTH is the automatic return."""

    CINE = "cine"
    NORMAL = "normal"
    SPORT = "sport"
    RTH = "rth"


class LostLink(StrEnum):
    RETURN = "return"
    HOVER = "hover"
    LAND = "land"


@dataclass(frozen=True, slots=True)
class Link:
    """Radio link: carrier [GHz] and advertised range over open ground [m]."""

    band_ghz: float
    range_m: float


@dataclass(frozen=True, slots=True)
class Aircraft:
    """A multirotor as its spec sheet describes it.

    consumption_factor: what it draws over what the spec sheet says, as the logbook taught it.
    """

    name: str
    mass_g: float
    size_m: float
    rotor_count: int
    rotor_diameter_m: float
    battery_wh: float
    hover_time_min: float
    cine_ms: float
    normal_ms: float
    sport_ms: float
    rth_speed_ms: float
    ascent_ms: float
    descent_ms: float
    max_wind_ms: float
    link: Link
    payload_g: float = 0.0
    max_tilt_deg: float = 35.0
    temperature_c: tuple[float, float] = (-10.0, 40.0)
    consumption_factor: float = 1.0

    @property
    def flying_mass_kg(self) -> float:
        """Mass with payload [kg]."""
        return (self.mass_g + self.payload_g) / 1000

    @property
    def fastest_ms(self) -> float:
        """Airspeed of the fastest mode [m/s]."""
        return max(self.cine_ms, self.normal_ms, self.sport_ms)

    def airspeed_ms(self, mode: SpeedMode) -> float:
        """Airspeed of a mode [m/s]."""
        return {
            SpeedMode.CINE: self.cine_ms,
            SpeedMode.NORMAL: self.normal_ms,
            SpeedMode.SPORT: self.sport_ms,
            SpeedMode.RTH: self.rth_speed_ms,
        }[mode]


@dataclass(frozen=True, slots=True)
class Pack:
    """A flight pack: charge and health [% of 100], temperature [°C] or None if unknown."""

    charge_pct: float
    health_pct: float = 100.0
    temperature_c: float | None = None


@dataclass(frozen=True, slots=True)
class Landform:
    """Relief under the take-off point: height and half-length [m]."""

    kind: LandformKind = LandformKind.FLAT
    height_m: float = 0.0
    half_length_m: float = 0.0


@dataclass(frozen=True, slots=True)
class Site:
    """radio_loss_db: loss that the radio met here beyond what the model says [dB]."""

    latitude: float
    longitude: float
    elevation_m: float
    surroundings: Surroundings
    landform: Landform = Landform()
    over_water: bool = False
    indoors: bool = False
    from_boat: bool = False
    sheltered: bool = False
    radio_noise: RadioNoise = RadioNoise.QUIET
    obstacles: tuple[Obstacle, ...] = ()
    radio_loss_db: float = 0.0


class MoveKind(StrEnum):
    """orbit: round the subject, looking at it. pull_away: backwards and up, from it along a bearing.
    rise: straight up beside it. straight: past it along a bearing. top_down: up over it, looking down.
    """

    ORBIT = "orbit"
    PULL_AWAY = "pull_away"
    RISE = "rise"
    STRAIGHT = "straight"
    TOP_DOWN = "top_down"


@dataclass(frozen=True, slots=True)
class Move:
    """A move around a subject [°]; heights above the take-off point [m].

    height_m: where it begins. size_m: radius of an orbit; distance from the subject at which a
    pull-away begins or a rise stands; length of a straight run. climb_m: how much it rises.
    bearing_deg: towards where a pull-away or straight run goes, or on which side a rise stands.
    turns: of an orbit.
    """

    kind: MoveKind
    latitude: float
    longitude: float
    height_m: float
    size_m: float
    climb_m: float = 0.0
    length_m: float = 0.0
    bearing_deg: float = 0.0
    turns: float = 1.0
    speed_ms: float = 4.0
    name: str = ""


@dataclass(frozen=True, slots=True)
class Flight:
    """Straight out to a point, time on station there, straight back."""

    bearing_deg: float
    distance_m: float
    height_m: float
    station_min: float
    outbound_mode: SpeedMode = SpeedMode.NORMAL
    return_mode: SpeedMode = SpeedMode.RTH
    moves: tuple[Move, ...] = ()


@dataclass(frozen=True, slots=True)
class ControllerSettings:
    """What is dialled in on the controller; None is not known yet."""

    rth_altitude_m: float
    max_altitude_m: float = 120.0
    max_distance_m: float | None = None
    lost_link: LostLink = LostLink.RETURN
    satellites: int | None = None
    home_point_set: bool | None = None
    compass_checked: bool | None = None


@dataclass(frozen=True, slots=True)
class Situation:
    """Everything one launch decision rests on.

    land: the place around the take-off point, where one is drawn.
    forecast: what the weather at other times than the take-off comes from, where there is one.
    judged_at: when it is judged (aware), for the age of the weather; None: its age does not count.
    """

    takeoff_at: datetime
    aircraft: Aircraft
    pack: Pack
    site: Site
    weather: Weather
    flight: Flight
    settings: ControllerSettings
    minimums: Minimums = field(default_factory=Minimums)
    land: Land | None = None
    forecast: Forecast | None = None
    judged_at: datetime | None = None

    def moved_to(self, takeoff_at: datetime) -> Situation:
        """The same flight at another time (aware), in the weather that the forecast gives for it.

        Where it says nothing, and without a forecast, in the weather as planned.
        """
        weather = None if self.forecast is None else self.forecast.weather_at(takeoff_at, self.weather)
        return replace(self, takeoff_at=takeoff_at, weather=weather or self.weather)

    @property
    def over_water(self) -> bool:
        """Whether the flight is over water: as said, or because the way out crosses some."""
        if self.site.over_water or self.land is None:
            return self.site.over_water
        return self.land.water_m(self.flight.bearing_deg, self.flight.distance_m) > 0

    @property
    def return_height_m(self) -> float:
        """Height of the way home [m]: the aircraft climbs to the set height, and never descends to it."""
        return max(self.flight.height_m, self.settings.rth_altitude_m)

    @property
    def reserve_pct(self) -> float:
        """Charge to be on the ground with [%]: over water always 10 points more."""
        return self.minimums.reserve_pct + (10.0 if self.over_water else 0.0)
