"""The demo's places: an invented bog with an esker, and a lake jetty. The terrain is synthetic."""

from __future__ import annotations

import math
from datetime import date

import numpy as np

from zealous_lark.core.geodesy import Frame, destination
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import HeightReference, Restriction, Role
from zealous_lark.core.terrain import Terrain
from zealous_lark.plan.place import FeaturePart, PlacePart, ZonePart, pack_terrain, with_heights

BOG_AT = (58.62, 25.08)
JETTY_AT = (58.585, 25.17)

ESKER_HEIGHT_M = 35.0
ESKER_BEARING_DEG = 50.0
ESKER_DISTANCE_M = 420.0
_ESKER_WIDTH_M = 55.0


class _Pen:
    """Draws by bearing and distance, as a pilot paces it out."""

    def __init__(self, latitude: float, longitude: float) -> None:
        self.at = latitude, longitude
        self.count = 0

    def spot(self, bearing: float, distance: float) -> list[float]:
        lat, lon = destination(*self.at, bearing, distance)
        return [round(lon, 7), round(lat, 7)]

    def draw(self, role: Role, name: str, shape: str, *spots: tuple[float, float], **more: object) -> FeaturePart:
        self.count += 1
        return FeaturePart.model_validate(
            {
                "id": f"f{self.count}",
                "role": role,
                "name": name,
                "shape": shape,
                "coordinates": [self.spot(*s) for s in spots],
                **more,
            }
        )


def bog_terrain() -> Terrain:
    """Nearly level bog at 42 m with a winding esker to the north-east and low ground to the south-west."""
    cell, half = 10.0, 1_500.0
    n = int(2 * half / cell)
    axis = -half + (np.arange(n) + 0.5) * cell
    x, y = np.meshgrid(axis, axis[::-1])
    towards = math.radians(ESKER_BEARING_DEG)
    along = x * math.cos(towards) - y * math.sin(towards)  # along the crest
    out = x * math.sin(towards) + y * math.cos(towards)  # from the take-off point towards it
    crest = ESKER_DISTANCE_M + 25 * np.sin(along / 210)
    height = ESKER_HEIGHT_M * (1 - 0.12 * (1 - np.cos(along / 320)))
    esker = height * np.exp(-(((out - crest) / _ESKER_WIDTH_M) ** 2) / 2)
    hummocks = 0.35 * np.sin(x / 47) * np.sin(y / 61)
    fall = 6.0 / (1 + np.exp((out + 900) / 120))
    heights = 42 + esker + hummocks - fall
    return Terrain("Sarvik bog, synthetic", Frame(*BOG_AT), cell, -half, half, heights.astype(np.float32))


def zones() -> list[ZonePart]:
    """Invented zones around the bog."""
    pen = _Pen(*BOG_AT)
    return [
        ZonePart(
            name="Sarvik nature reserve",
            areas=[[[pen.spot(b, d) for b, d in ((340, 900), (5, 1000), (12, 1900), (335, 1800))]]],
            restriction=Restriction.CONDITIONAL,
            upper_m=150,
            authority="Invented conservation office",
            message="Cranes gather from September to November.",
            source="demo",
        ),
        ZonePart(
            name="Low-flying corridor",
            areas=[[[pen.spot(b, d) for b, d in ((215, 1300), (255, 1500), (250, 2300), (218, 2200))]]],
            restriction=Restriction.INFORMATION,
            lower_m=90,
            lower_from=HeightReference.GROUND,
            upper_m=600,
            upper_from=HeightReference.SEA_LEVEL,
            authority="Invented air navigation office",
            source="demo",
        ),
    ]


def bog(looked_at: date) -> PlacePart:
    """Pines, tower, wires along the road, pools, people, landing spots and the esker."""
    pen = _Pen(*BOG_AT)
    header, grid = pack_terrain(bog_terrain())
    features = [
        pen.draw(Role.TAKEOFF, "End of the boardwalk", "point", (0, 0)),
        pen.draw(Role.TAKEOFF, "Gravel by the road", "point", (118, 70)),
        pen.draw(Role.SUBJECT, "Lookout tower", "point", (240, 262), height_m=24),
        pen.draw(Role.SUBJECT, "Crane meadow", "point", (60, 222)),
        pen.draw(Role.SUBJECT, "Black pool", "point", (178, 210)),
        pen.draw(Role.OBSTACLE, "pines", "area", (220, 60), (250, 60), (247, 82), (222, 84), kind=ObstacleKind.TREES,
                 height_m=18),
        pen.draw(Role.OBSTACLE, "lookout tower", "point", (240, 262), kind=ObstacleKind.MAST, height_m=24),
        pen.draw(Role.OBSTACLE, "20 kV line", "line", (20, 330), (60, 128), (100, 90), (146, 150), (168, 420),
                 kind=ObstacleKind.WIRES, height_m=11),
        pen.draw(Role.OBSTACLE, "wood on the esker", "area", (18, 470), (50, 372), (82, 480), (76, 560), (50, 468),
                 (24, 560), kind=ObstacleKind.TREES, height_m=16),
        pen.draw(Role.WATER, "Black pool", "area", (168, 150), (186, 148), (194, 215), (186, 265), (172, 255)),
        pen.draw(Role.WATER, "Reed pool", "area", (284, 210), (300, 205), (303, 270), (288, 280)),
        pen.draw(Role.PEOPLE, "Car park", "area", (112, 118), (124, 120), (122, 150), (113, 148)),
        pen.draw(Role.LANDING, "Boardwalk platform", "point", (240, 128)),
        pen.draw(Role.LANDING, "Mown strip", "point", (330, 160)),
        pen.draw(Role.NOTE, "Boards are slippery in frost", "point", (225, 25)),
    ]  # fmt: skip
    return PlacePart(
        name="Sarvik bog",
        features=features,
        zones=zones(),
        zones_looked_at=looked_at,
        terrain=with_heights(header, grid),
    )


def jetty(looked_at: date) -> PlacePart:
    """A jetty in a bay: the lake, the boathouse, trees behind."""
    pen = _Pen(*JETTY_AT)
    shore = [(350, 40), (20, 70), (60, 30), (150, 26), (190, 60), (205, 900), (250, 1100), (300, 1000), (335, 800)]
    return PlacePart(
        name="Lake jetty",
        features=[
            pen.draw(Role.TAKEOFF, "Foot of the jetty", "point", (0, 0)),
            pen.draw(Role.WATER, "Lake", "area", *shore),
            pen.draw(Role.SUBJECT, "Rowing boat", "point", (230, 110)),
            pen.draw(Role.LANDING, "Grass behind the boathouse", "point", (80, 60)),
        ],
        zones_looked_at=looked_at,
    )
