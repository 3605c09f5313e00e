"""What goes over the wire of places, sections and surveys."""

from __future__ import annotations

from typing import Annotated

from pydantic import AwareDatetime, BaseModel, Field

from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Role
from zealous_lark.core.survey import LightSide
from zealous_lark.core.verdict import Verdict
from zealous_lark.formats.map_meaning import MapGroup
from zealous_lark.plan.base import Latitude, Longitude, Moment, Number
from zealous_lark.plan.place import FeaturePart, PlacePart
from zealous_lark.plan.result import WindFoundPart
from zealous_lark.services.map_data import MapState
from zealous_lark.web.schemas.common import In, Out


class SketchedOut(Out):
    """One thing in the small drawing of a place: corners east and north of its middle [m]."""

    role: Role
    shape: str
    points: list[list[float]]


class PlaceSummary(Out):
    id: int
    name: str
    changed_at: AwareDatetime
    drawn: int = Field(description="How many things are drawn.")
    zones: int
    terrain: bool
    latitude: float | None
    longitude: float | None
    sketch: list[SketchedOut]


class PlaceList(Out):
    places: list[PlaceSummary]


class TerrainOut(Out):
    """Where the terrain's shade lies, and how much of it is not known."""

    sha256: str
    south: float
    west: float
    north: float
    east: float
    void_share: float
    lowest_m: float | None
    highest_m: float | None


class PlaceOut(Out):
    id: int
    revision: int
    created_at: AwareDatetime
    changed_at: AwareDatetime
    place: PlacePart
    terrain: TerrainOut | None


class PlaceQuery(BaseModel):
    """A deleted place is opened only for the sessions that were planned there."""

    also_deleted: bool = False


class SavePlace(In):
    """A changed place, with the revision that it was made from."""

    revision: Number
    place: PlacePart


class ImportQuery(BaseModel):
    """A file to bring in: its name, the place's revision it is meant for, and the projection where it does not say."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    revision: Number
    crs: Annotated[str, Field(max_length=60)] | None = None


Pixels = Annotated[float, Field(ge=0, le=60_000)]


class ScanQuery(BaseModel):
    """A scan to lay under a place: its file's name, the revision, and two of its points with their positions."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    revision: Number
    first_column: Pixels
    first_row: Pixels
    first_latitude: Latitude
    first_longitude: Longitude
    second_column: Pixels
    second_row: Pixels
    second_latitude: Latitude
    second_longitude: Longitude

    def pin(self, which: str) -> tuple[float, float, float, float]:
        """Column, row, latitude and longitude of the first or the second point."""
        column, row, latitude, longitude = (
            getattr(self, f"{which}_{part}") for part in ("column", "row", "latitude", "longitude")
        )
        return column, row, latitude, longitude


class MapDataQuery(BaseModel):
    """How far around the place the map is looked at [m]."""

    radius_m: Annotated[float, Field(ge=100, le=5_000)] = 2_000


class MapThingOut(Out):
    """One thing of the map as it would be drawn, and how far from the place it comes [m]."""

    feature: FeaturePart
    group: MapGroup
    state: MapState
    distance_m: float


class MapDataOut(Out):
    """What an extract has around a place, the nearest first. Nothing of it is kept."""

    attribution: str
    things: list[MapThingOut]
    too_many: int = Field(description="How many of the farthest there is no room for in a place.")
    left_out_first: list[MapGroup] = Field(description="Groups that are only taken where the pilot says so.")


class SectionQuery(BaseModel):
    """The bearing of a section, and how far it goes."""

    bearing_deg: Annotated[float, Field(ge=0, le=360)]
    upto_m: Annotated[float, Field(gt=0, le=5_000)]


class StandingOut(Out):
    kind: ObstacleKind
    name: str
    from_m: float
    to_m: float
    foot_m: float
    top_m: float
    loosely: bool = Field(description="Beside the way, and in it only if it stands elsewhere than it is said to.")


class MeasuredHeight(Out):
    """A drawn thing by its id: its height as drawn, and as the surface model has it over the ground."""

    id: str
    name: str
    kind: ObstacleKind
    drawn_m: float
    measured_m: float
    known: float = Field(description="Share of it that the surface model knows, 0 to 1.")


class MeasuredHeights(Out):
    measured: list[MeasuredHeight]


class SectionOut(Out):
    """Heights above the take-off point. Null where the ground is not known, or beyond the aircraft."""

    bearing_deg: float
    distance_m: list[float]
    ground_m: list[float | None]
    surface_m: list[float | None] = Field(description="Tops after the surface model; null where it shows nothing.")
    legal_m: list[float | None]
    line_m: list[float | None]
    fresnel_m: list[float | None]
    standing: list[StandingOut]
    winds: list[WindFoundPart]


class SubjectOut(Out):
    id: str
    name: str
    bearing_deg: float
    distance_m: float
    light: LightSide
    ground_m: float | None


class WayDownOut(Out):
    id: str
    name: str
    distance_m: float
    charge_pct: float | None


class SweptOut(Out):
    """A planned move as it would be swept: its outline on the ground, longitude and latitude."""

    name: str
    outline: list[list[float]]
    seconds: float
    wh: float
    share_pct: float = Field(description="Charge it takes.")
    gap_m: float | None
    meets: str
    from_m: float
    to_m: float
    lowest_m: float
    highest_m: float


class SurveyOut(Out):
    """What the plan view shows beside the verdict."""

    bearing_deg: list[float]
    signal_m: list[float]
    subjects: list[SubjectOut]
    ways_down: list[WayDownOut]
    moves: list[SweptOut]
    over_water: bool
    takeoff_elevation_m: float | None
    lowest_ground_m: float


class SuggestionOut(Out):
    latitude: float
    longitude: float
    elevation_m: float
    bearing_deg: float
    distance_m: float
    verdict: Verdict
    reasons: list[str]


class SuggestionList(Out):
    suggestions: list[SuggestionOut]


class AngleQuery(BaseModel):
    """How far away it stands and how high its top is above the horizon."""

    distance_m: Annotated[float, Field(gt=0, le=2_000)]
    angle_deg: Annotated[float, Field(ge=0, le=89)]


class ShadowQuery(BaseModel):
    """The length of a shadow on level ground, where and when."""

    shadow_m: Annotated[float, Field(gt=0, le=1_000)]
    latitude: Latitude
    longitude: Longitude
    at: Moment


class HeightOut(Out):
    height_m: float
    sun_elevation_deg: float | None


Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class Tiles(In):
    """What lies under the drawings: an archive that is kept here, or the address of tiles with {z}, {x} and {y}."""

    archive: Digest | None = None
    address: Annotated[str, Field(pattern=r"^https://[^\s\"';,]+$", max_length=300)] | None = None


class MapQuery(BaseModel):
    """The name of a map archive's file."""

    name: Annotated[str, Field(min_length=1, max_length=200)]


class MapArchiveOut(Out):
    """A map archive; the box in degrees that its finest zoom covers."""

    digest: Digest
    name: str
    attribution: str
    min_zoom: int
    max_zoom: int
    tiles: int
    megabytes: float
    south: float
    west: float
    north: float
    east: float


class MapArchives(Out):
    maps: list[MapArchiveOut]
