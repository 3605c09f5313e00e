"""A cut through the place along a bearing: does it clear, and does the radio?"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.air import Wind
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.geodesy import xy
from zealous_lark.core.land import LATERAL_M
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.radio import HAND_HEIGHT_M, fresnel_radius_m

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Standing:
    """Something that stands in the corridor: from, to [m along the bearing], foot and top above the take-off [m].

    loosely: beside the way, and in it only if it stands elsewhere than it is said to.
    """

    kind: ObstacleKind
    name: str
    from_m: float
    to_m: float
    foot_m: float
    top_m: float
    loosely: bool = False


@dataclass(frozen=True, slots=True)
class Section:
    """All heights above the take-off point [m]; arrays have one entry for each distance [m].

    ground_m: NaN where unknown. legal_m: the legal height, which follows the
    ground. surface_m: tops after the surface model, NaN where it shows nothing.
    line_m, fresnel_m: the line from hand to aircraft and the first Fresnel zone's radius on it, as far
    as the aircraft.
    """

    bearing_deg: float
    distance_m: Floats
    ground_m: Floats
    surface_m: Floats
    legal_m: Floats
    line_m: Floats
    fresnel_m: Floats
    standing: tuple[Standing, ...]
    winds: tuple[Wind, ...]


WIND_HEIGHTS_M = (10.0, 30.0, 60.0, 90.0, 120.0)


def section(a: Assessment, bearing_deg: float, upto_m: float) -> Section:
    """The section along a bearing [°] up to a distance [m], for the situation's flight distance and heights."""
    s = a.situation
    standing: list[Standing] = []
    if s.land is None:
        distance = np.arange(0.0, upto_m + 2.5, 5.0)
        ground = np.zeros(distance.shape)
        surface = np.full(distance.shape, np.nan)
    else:
        ray = s.land.ray(bearing_deg, upto_m)
        distance, ground, surface = ray.distance_m, ray.ground_m, ray.surface_m
        for drawn, inside in s.land.crossings(ray):
            for first, last in _runs(inside):
                foot = ground[first : last + 1]
                foot = np.where(np.isnan(foot), 0.0, foot)
                standing.append(
                    Standing(
                        drawn.feature.kind or ObstacleKind.BUILDING,
                        drawn.feature.name,
                        float(distance[first]),
                        float(distance[last]),
                        float(foot.min()),
                        float(foot.max()) + drawn.feature.height_m,
                    )
                )
    end = tuple(float(v) for v in xy(bearing_deg, upto_m))
    for near in a.world.typed_beside((0.0, 0.0), (end[0], end[1]), LATERAL_M):
        named = near.solid.obstacle
        assert named is not None
        depth = 0.0 if named.kind is ObstacleKind.WIRES else named.depth_m
        standing.append(
            Standing(named.kind, named.called, near.along_m, near.along_m + depth, 0.0, named.height_m, near.loosely)
        )
    far = max(s.flight.distance_m, 1.0)
    share = distance / far
    line = np.where(share <= 1, HAND_HEIGHT_M + (s.flight.height_m - HAND_HEIGHT_M) * share, np.nan)
    band = s.aircraft.link.band_ghz
    fresnel = np.array(
        [fresnel_radius_m(float(d), far - float(d), band) if 0 < d < far else 0.0 if d <= far else np.nan
         for d in distance]
    )  # fmt: skip
    winds = () if a.wind is None else tuple(a.wind.at(h) for h in WIND_HEIGHTS_M)
    legal = s.minimums.legal_height_m + np.where(np.isnan(ground), np.nan, ground)
    return Section(bearing_deg, distance, ground, surface, legal, line, fresnel, tuple(standing), winds)


def _runs(inside: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """First and last index of each stretch of true entries."""
    edges = np.diff(np.concatenate([[0], inside.astype(np.int8), [0]]))
    return list(zip(np.flatnonzero(edges == 1).tolist(), (np.flatnonzero(edges == -1) - 1).tolist(), strict=True))
