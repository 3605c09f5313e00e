"""The place document: what is drawn and imported for a place, with its terrain."""

from __future__ import annotations

import base64
import binascii
import hashlib
import zlib
from typing import Annotated, Literal

import numpy as np
import shapely
from pydantic import Field, field_validator, model_validator
from pydantic_core import PydanticCustomError
from shapely.geometry import LineString, MultiPolygon, Point, Polygon
from shapely.geometry.base import BaseGeometry

from zealous_lark.core.geodesy import Frame
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Feature, HeightReference, Place, Restriction, Role, Zone
from zealous_lark.core.terrain import Terrain
from zealous_lark.plan.base import Day, HeightM, Latitude, Longitude, Moment, Name, Part

MAX_CELLS = 1_000_000
MAX_FEATURES = 1_000
"""What one place may hold."""
"""A terrain is cut or coarsened to this many cells."""
_VOID = -32768

Position = Annotated[list[float], Field(min_length=2, max_length=2)]
Ring = Annotated[list[Position], Field(min_length=3, max_length=20_000)]
Altitude = Annotated[float, Field(ge=-500, le=60_000)]
Shape = Literal["point", "line", "area"]

_SHAPES: dict[Role, tuple[str, ...]] = {
    Role.TAKEOFF: ("point",),
    Role.SUBJECT: ("point",),
    Role.OBSTACLE: ("point", "line", "area"),
    Role.WATER: ("area",),
    Role.PEOPLE: ("point", "line", "area"),
    Role.LANDING: ("point",),
    Role.AIRFIELD: ("point",),
    Role.NOTE: ("point",),
}


def _checked(positions: list[list[float]]) -> list[list[float]]:
    for i, (lon, lat) in enumerate(positions):
        if not (-180 <= lon <= 180 and -90 <= lat <= 90):
            swapped = " (they look swapped)" if -90 <= lon <= 90 and -180 <= lat <= 180 else ""
            raise PydanticCustomError(
                "position",
                "longitude from -180 to 180, then latitude from -90 to 90; position {index} is {lon}, {lat}{swapped}",
                {"index": i, "lon": lon, "lat": lat, "swapped": swapped},
            )
    return positions


def _valid(area: BaseGeometry) -> None:
    # Across the antimeridian a shape is only whole once its longitudes are unwrapped.
    flat = shapely.transform(area, lambda p: np.column_stack([np.where(p[:, 0] < 0, p[:, 0] + 360, p[:, 0]), p[:, 1]]))
    if not area.is_valid and not flat.is_valid:
        reason = shapely.is_valid_reason(area)
        raise PydanticCustomError("crossing", "an area whose outline does not cross itself ({reason})",
                                  {"reason": reason})  # fmt: skip


class OriginPart(Part):
    """Where a feature was read from, so that reading again changes nothing that the pilot changed.

    digest: of the feature as it was read. assumed_height_m: the height that was taken as usual for its kind, until
    somebody confirms it; null where the source gives one, or once it is confirmed.
    """

    source: Annotated[str, Field(min_length=1, max_length=60)]
    digest: Annotated[str, Field(pattern="^[0-9a-f]{16}$")]
    assumed_height_m: HeightM | None = None


class FeaturePart(Part):
    """One drawn thing. Positions are longitude, latitude; an area's outline is not closed."""

    id: Annotated[str, Field(min_length=1, max_length=40)]
    role: Role
    name: Annotated[str, Field(max_length=120)] = ""
    shape: Shape
    coordinates: Annotated[list[Position], Field(min_length=1, max_length=5_000)]
    kind: ObstacleKind | None = None
    height_m: HeightM = 0
    radius_m: Annotated[float, Field(gt=0, le=50_000)] | None = None
    note: Annotated[str, Field(max_length=2_000)] = ""
    origin: OriginPart | None = None

    @field_validator("coordinates")
    @classmethod
    def _on_earth(cls, value: list[list[float]]) -> list[list[float]]:
        return _checked(value)

    @model_validator(mode="after")
    def _fits(self) -> FeaturePart:
        if self.shape not in _SHAPES[self.role]:
            raise PydanticCustomError(
                "shape", "a {role} drawn as {shapes}, not as {given}",
                {"role": self.role.value, "shapes": " or ".join(_SHAPES[self.role]), "given": self.shape},
            )  # fmt: skip
        least = {"point": 1, "line": 2, "area": 3}[self.shape]
        if len(self.coordinates) < least or (self.shape == "point" and len(self.coordinates) > 1):
            raise PydanticCustomError(
                "count", "{least} position{s} for a {shape}; given {given}",
                {"least": f"{least} or more" if self.shape != "point" else "one",
                 "s": "s" if self.shape != "point" else "", "shape": self.shape, "given": len(self.coordinates)},
            )  # fmt: skip
        if self.role is Role.OBSTACLE and (self.kind is None or self.height_m <= 0):
            raise PydanticCustomError("obstacle", "a kind and a height_m of more than 0 for an obstacle", {})
        if self.shape == "area":
            _valid(self.geometry())
        return self

    def geometry(self) -> BaseGeometry:
        """The shape in longitude and latitude."""
        if self.shape == "point":
            return Point(self.coordinates[0])
        if self.shape == "line":
            return LineString(self.coordinates)
        return Polygon(self.coordinates)


def read_digest(feature: FeaturePart) -> str:
    """Digest of what a feature is, where it came from aside."""
    text = feature.model_dump_json(exclude={"id", "origin"})
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def height_assumed(feature: FeaturePart) -> bool:
    """Whether its height is one that nobody has seen or said."""
    origin = feature.origin
    return origin is not None and origin.assumed_height_m == feature.height_m and feature.height_m > 0


class ZonePart(Part):
    """A zone: areas as rings, the outline first, then its holes. A null upper_m is not known."""

    name: Name
    areas: Annotated[list[Annotated[list[Ring], Field(min_length=1, max_length=200)]], Field(min_length=1)]
    restriction: Restriction
    lower_m: Altitude = 0
    lower_from: HeightReference = HeightReference.GROUND
    upper_m: Altitude | None = None
    upper_from: HeightReference = HeightReference.GROUND
    begins: Moment | None = None
    ends: Moment | None = None
    authority: Annotated[str, Field(max_length=200)] = ""
    message: Annotated[str, Field(max_length=1_000)] = ""
    source: Annotated[str, Field(max_length=200)] = ""

    @model_validator(mode="after")
    def _whole(self) -> ZonePart:
        for rings in self.areas:
            for ring in rings:
                _checked(ring)
            _valid(Polygon(rings[0], rings[1:]))
        if self.upper_m is not None and self.upper_from is self.lower_from and self.upper_m < self.lower_m:
            raise PydanticCustomError("limits", "an upper_m over the lower_m", {})
        return self

    def geometry(self) -> BaseGeometry:
        """The shape in longitude and latitude."""
        return MultiPolygon([Polygon(rings[0], rings[1:]) for rings in self.areas])


class TerrainPart(Part):
    """Heights on a square grid in an azimuthal equidistant frame around a point.

    heights: base64 of the deflated rows, northernmost first, as little-endian 16-bit decimetres
    over base_m; -32768 is a void. Null where the heights are kept under `sha256` in the store.
    """

    name: Annotated[str, Field(max_length=200)]
    latitude: Annotated[float, Field(ge=-90, le=90)]
    longitude: Annotated[float, Field(ge=-180, le=180)]
    cell_m: Annotated[float, Field(gt=0, le=1_000)]
    west_m: Annotated[float, Field(ge=-50_000, le=50_000)]
    north_m: Annotated[float, Field(ge=-50_000, le=50_000)]
    columns: Annotated[int, Field(ge=2, le=5_000)]
    rows: Annotated[int, Field(ge=2, le=5_000)]
    base_m: Annotated[float, Field(ge=-12_000, le=9_000)]
    sha256: Annotated[str, Field(pattern="^[0-9a-f]{64}$")] | None = None
    heights: Annotated[str, Field(max_length=3_500_000)] | None = None

    @model_validator(mode="after")
    def _not_huge(self) -> TerrainPart:
        if self.columns * self.rows > MAX_CELLS:
            raise PydanticCustomError("cells", "{most} cells at most; given {given}",
                                      {"most": f"{MAX_CELLS:,}", "given": f"{self.columns * self.rows:,}"})  # fmt: skip
        if self.heights is not None:
            self.unpacked()
        return self

    def unpacked(self) -> bytes:
        """The grid's bytes out of `heights`. Raises PydanticCustomError when they are not what they should be."""
        size = self.columns * self.rows * 2
        try:
            plain = zlib.decompressobj()
            raw = plain.decompress(base64.b64decode(self.heights or "", validate=True), size + 1)
        except (binascii.Error, zlib.error) as error:
            raise PydanticCustomError("heights", "deflated heights in base64 ({why})", {"why": str(error)}) from None
        if len(raw) != size:
            raise PydanticCustomError("heights", "{want} bytes of heights for {columns} × {rows} cells",
                                      {"want": size, "columns": self.columns, "rows": self.rows})  # fmt: skip
        return raw


class PicturePart(Part):
    """A picture from above under the drawing: its digest here, the box that it fills, metres a pixel on the ground."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    sha256: Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
    south: Latitude
    west: Longitude
    north: Latitude
    east: Longitude
    pixel_m: Annotated[float, Field(gt=0, le=1_000)]


class PlacePart(Part):
    """A place, self-contained but for a terrain and a surface model that are kept in the store."""

    name: Name
    features: Annotated[list[FeaturePart], Field(max_length=MAX_FEATURES)] = Field(default=[])
    zones: Annotated[list[ZonePart], Field(max_length=500)] = Field(default=[])
    zones_looked_at: Day | None = Field(None, description="The day on which the pilot looked the zones up.")
    terrain: TerrainPart | None = None
    surface: TerrainPart | None = Field(None, description="With tree tops and roofs; counts where terrain is known.")
    picture: PicturePart | None = Field(None, description="Stays where it was brought in; it does not travel.")


GRIDS = ("terrain", "surface")
"""Keys of a place whose heights are kept apart from it."""


def pack_terrain(terrain: Terrain) -> tuple[TerrainPart, bytes]:
    """A terrain's header, without heights, and its grid's bytes. Heights are kept to the decimetre."""
    heights = terrain.heights
    known = heights[~np.isnan(heights)]
    base = float(np.round(known.min())) if known.size else 0.0
    steps = np.round((heights.astype(float) - base) * 10)
    grid = np.where(np.isnan(heights), _VOID, np.clip(steps, _VOID + 1, 32767)).astype("<i2")
    rows, columns = heights.shape
    header = TerrainPart(
        name=terrain.name[:200],
        latitude=terrain.frame.latitude,
        longitude=terrain.frame.longitude,
        cell_m=terrain.cell_m,
        west_m=terrain.west_m,
        north_m=terrain.north_m,
        columns=columns,
        rows=rows,
        base_m=base,
    )
    return header, grid.tobytes()


def unpack_terrain(header: TerrainPart, grid: bytes) -> Terrain:
    """The inverse of `pack_terrain`."""
    steps = np.frombuffer(grid, dtype="<i2").reshape(header.rows, header.columns)
    heights = np.where(steps == _VOID, np.nan, header.base_m + steps / 10).astype(np.float32)
    frame = Frame(header.latitude, header.longitude)
    return Terrain(header.name, frame, header.cell_m, header.west_m, header.north_m, heights)


def unknown_terrain(header: TerrainPart) -> Terrain:
    """The terrain of a header whose heights are lost: every one of them is unknown."""
    grid = np.full((header.rows, header.columns), np.nan, dtype=np.float32)
    frame = Frame(header.latitude, header.longitude)
    return Terrain(header.name, frame, header.cell_m, header.west_m, header.north_m, grid)


def with_heights(header: TerrainPart, grid: bytes) -> TerrainPart:
    """A header with its heights in it, to travel in one document."""
    packed = base64.b64encode(zlib.compress(grid, 9)).decode()
    return header.model_copy(update={"heights": packed})


def place_of(part: PlacePart, terrain: Terrain | None = None, surface: Terrain | None = None) -> Place:
    """The core's place of a document. terrain, surface: those under its `sha256`, where it carries no heights."""
    if part.terrain is not None and part.terrain.heights is not None:
        terrain = unpack_terrain(part.terrain, part.terrain.unpacked())
    if part.surface is not None and part.surface.heights is not None:
        surface = unpack_terrain(part.surface, part.surface.unpacked())
    return Place(
        name=part.name,
        features=tuple(
            Feature(f.id, f.role, f.name, f.geometry(), f.kind, f.height_m, f.radius_m, f.note, height_assumed(f))
            for f in part.features
        ),
        zones=tuple(
            Zone(
                name=z.name,
                geometry=z.geometry(),
                restriction=z.restriction,
                lower_m=z.lower_m,
                lower_from=z.lower_from,
                upper_m=z.upper_m,
                upper_from=z.upper_from,
                begins=z.begins,
                ends=z.ends,
                authority=z.authority,
                message=z.message,
            )
            for z in part.zones
        ),
        zones_looked_at=part.zones_looked_at,
        terrain=terrain,
        surface=surface,
    )
