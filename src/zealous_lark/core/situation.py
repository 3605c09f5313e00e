"""What a pilot plans, as the core sees it: the input of every judgement.

All values in SI units with the exceptions that the field uses everywhere:
charge and health in percent of 100, temperatures in degrees Celsius, angles in
degrees, station time in minutes.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date, datetime
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

    SLOW = "slow"
    NORMAL = "normal"
    FAST = "fast"
    RTH = "rth"


class AttachmentKind(StrEnum):
    GUARDS = "guards"
    FLOATS = "floats"
    LIGHT = "light"
    FILTER = "filter"
    OTHER = "other"


BULKY = frozenset({AttachmentKind.GUARDS, AttachmentKind.FLOATS})
"""What stands in the wind so much that it costs speed and power."""


class PlatformKind(StrEnum):
    """What the pilot starts from."""

    GROUND = "ground"
    BOAT = "boat"
    CAR = "car"


class Seen(StrEnum):
    """What the pilot has seen on site and cannot be drawn: it counts until it is taken back."""

    PEOPLE = "people"
    BOATS = "boats"
    BIRDS = "birds"
    OVERHEAD = "overhead"
    GROUND = "ground"
    WAY_THROUGH = "way_through"
    FLOOR = "floor"
    WAVES = "waves"
    SHORE_SHORT = "shore_short"
    RIGGING = "rigging"
    SWELL = "swell"
    EMERGENCY = "emergency"
    QUIET = "quiet"


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
class Attachment:
    """Something added to the aircraft, and its mass [g]."""

    kind: AttachmentKind
    mass_g: float = 0.0


@dataclass(frozen=True, slots=True)
class Aircraft:
    """A multirotor as its spec sheet describes it.

    consumption_factor: what it draws over what the spec sheet says, as the logbook taught it.
    max_takeoff_g, ceiling_m: greatest mass to fly with [g] and ceiling above sea level [m], None where the
    sheet gives none. charge_power_w: greatest charging power of its pack [W], None: not known.
    region_power_db: power that the place's rules allow, against the region of the sheet's range [dB].
    bulky_speed, bulky_power: what each set of guards or floats leaves of the rated wind and of the fastest
    mode, and what it multiplies the power by; assumed, no published number.
    """

    name: str
    mass_g: float
    size_m: float
    rotor_count: int
    rotor_diameter_m: float
    battery_wh: float
    hover_time_min: float
    slow_ms: float
    normal_ms: float
    fast_ms: float
    rth_speed_ms: float
    ascent_ms: float
    descent_ms: float
    max_wind_ms: float
    link: Link
    payload_g: float = 0.0
    max_tilt_deg: float = 35.0
    temperature_c: tuple[float, float] = (-10.0, 40.0)
    consumption_factor: float = 1.0
    max_takeoff_g: float | None = None
    ceiling_m: float | None = None
    charge_power_w: float | None = None
    region_power_db: float = 0.0
    attachments: tuple[Attachment, ...] = ()
    bulky_speed: float = 0.8
    bulky_power: float = 1.15

    @property
    def added_g(self) -> float:
        """What it carries beyond its own mass [g]."""
        return self.payload_g + sum(x.mass_g for x in self.attachments)

    @property
    def flying_mass_kg(self) -> float:
        """Mass with payload and attachments [kg]."""
        return (self.mass_g + self.added_g) / 1000

    @property
    def bulky_count(self) -> int:
        """How many sets of guards or floats it wears."""
        return sum(x.kind in BULKY for x in self.attachments) if self.attachments else 0

    @property
    def has_light(self) -> bool:
        """Whether a light is attached."""
        return any(x.kind is AttachmentKind.LIGHT for x in self.attachments)

    @property
    def rated_wind_ms(self) -> float:
        """Rated wind with what is attached [m/s]."""
        return self.max_wind_ms * self.bulky_speed**self.bulky_count

    @property
    def sheet_fastest_ms(self) -> float:
        """Airspeed of the fastest mode by the spec sheet, with nothing attached [m/s]."""
        return max(self.slow_ms, self.normal_ms, self.fast_ms)

    @property
    def fastest_ms(self) -> float:
        """Airspeed of the fastest mode [m/s], with what is attached."""
        return self.sheet_fastest_ms * self.bulky_speed**self.bulky_count

    def airspeed_ms(self, mode: SpeedMode) -> float:
        """Airspeed of a mode [m/s]; no mode is faster than what is attached leaves of the fastest."""
        match mode:
            case SpeedMode.SLOW:
                own = self.slow_ms
            case SpeedMode.NORMAL:
                own = self.normal_ms
            case SpeedMode.FAST:
                own = self.fast_ms
            case SpeedMode.RTH:
                own = self.rth_speed_ms
        return min(own, self.fastest_ms) if self.bulky_count else own


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
class Platform:
    """What the pilot starts from, with its course [°] and speed [m/s]."""

    kind: PlatformKind = PlatformKind.GROUND
    course_deg: float = 0.0
    speed_ms: float = 0.0


@dataclass(frozen=True, slots=True)
class Site:
    """radio_loss_db: loss that the radio met here beyond what the model says [dB].

    wave_height_m: from trough to crest [m], None: not known. trees_bare: without leaves.
    zones_looked_at, people_looked_at: the day on which the pilot looked for zones and for people and found
    none, None: not looked. seen: what the pilot saw there.
    """

    latitude: float
    longitude: float
    elevation_m: float
    surroundings: Surroundings
    landform: Landform = Landform()
    over_water: bool = False
    indoors: bool = False
    platform: Platform = Platform()
    sheltered: bool = False
    radio_noise: RadioNoise = RadioNoise.QUIET
    obstacles: tuple[Obstacle, ...] = ()
    radio_loss_db: float = 0.0
    wave_height_m: float | None = None
    trees_bare: bool = False
    zones_looked_at: date | None = None
    people_looked_at: date | None = None
    seen: frozenset[Seen] = frozenset()

    @property
    def from_boat(self) -> bool:
        return self.platform.kind is PlatformKind.BOAT

    @property
    def from_deck(self) -> bool:
        """Whether the home point can be left behind by what the pilot stands on."""
        return self.platform.kind is not PlatformKind.GROUND


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
    """Straight out to a point, time on station there, straight back.

    station_radius_m: what is flown over around that point [m]. night_permitted: whether the pilot has the
    permission that flying at night takes.
    """

    bearing_deg: float
    distance_m: float
    height_m: float
    station_min: float
    outbound_mode: SpeedMode = SpeedMode.NORMAL
    return_mode: SpeedMode = SpeedMode.RTH
    moves: tuple[Move, ...] = ()
    station_radius_m: float = 15.0
    night_permitted: bool = False


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
    forecast_spread: one standard deviation of several forecasts of the wind as a share of it; None: only one is known.
    judged_at: when it is judged (aware), for the age of the weather; None: its age does not count.
    aimed: whether the far end is there for a subject, so that another bearing has nothing to film.
    assumed: keys of the plan document whose values nobody has said, see `core.assumed`.
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
    forecast_spread: float | None = None
    judged_at: datetime | None = None
    aimed: bool = False
    assumed: frozenset[str] = frozenset()

    def moved_to(self, takeoff_at: datetime) -> Situation:
        """The same flight at another time (aware), in the weather that the forecast gives for it.

        Where it says nothing, and without a forecast, in the weather as planned.
        """
        moved = replace(self, takeoff_at=takeoff_at)
        return moved if self.forecast is None else moved.in_forecast(self.forecast) or moved

    def in_forecast(self, forecast: Forecast) -> Situation | None:
        """The same flight in the weather that a forecast has for it; None where that says nothing about its time."""
        weather = forecast.weather_at(self.takeoff_at, self.weather)
        if weather is None:
            return None
        said = {f"weather.{p.figure}" for p in weather.provenance}
        return replace(self, weather=weather, forecast=forecast, assumed=self.assumed - said)

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
