"""The radio link: free-space range, what stands in the way, and the noise around.

References
----------
.. [1] Recommendation ITU-R P.526, Propagation by diffraction: single knife edge.
.. [2] Weissberger, M. A. (1982). An initial critical summary of models for
   predicting the attenuation of radio waves by foliage. Quoted from memory.
.. [3] Deygout, J. (1966). Multiple knife-edge diffraction of microwaves. IEEE Trans.
   Antennas Propag. 14(4), 480-489. Quoted from memory.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.land import STEP_M
from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.situation import Flight, RadioNoise, Site, Situation

Floats = NDArray[np.float64]

HAND_HEIGHT_M = 1.5
"""Height at which the pilot holds the controller [m]."""
CORRIDOR_DEG = 10.0
"""Obstacles this far off the bearing count as in the way [°]."""
NOISE_DB: dict[RadioNoise, float] = {
    RadioNoise.QUIET: 0.0,
    RadioNoise.SUBURBAN: 6.0,
    RadioNoise.URBAN: 12.0,
}
"""Margin lost to other transmitters [dB]; common practice, no source."""
_LIGHT_MS = 299_792_458.0


@dataclass(frozen=True, slots=True)
class Signal:
    """Margin of the link at the farthest point.

    margin_db: what is left over the least the link works with [dB].
    range_m: slant distance at which the wanted margin is just left, behind the same obstruction [m].
    slant_m: hand to aircraft [m].
    obstruction_db, noise_db: losses [dB]; obstacle: what stands most in the way, None for nothing.
    """

    margin_db: float
    range_m: float
    slant_m: float
    obstruction_db: float
    noise_db: float
    obstacle: Obstacle | None


def knife_edge_db(v: float) -> float:
    """Loss over a single knife edge [dB] for the diffraction parameter ν [1]_; 0 for ν ≤ −0.78."""
    if v <= -0.78:
        return 0.0
    return 6.9 + 20 * math.log10(math.hypot(v - 0.1, 1) + v - 0.1)


def diffraction_parameter(height_m: float, d1_m: float, d2_m: float, frequency_ghz: float) -> float:
    """ν of an edge that stands `height_m` over the line of sight, d1 and d2 [m] from its ends [1]_."""
    wavelength = _LIGHT_MS / (frequency_ghz * 1e9)
    return height_m * math.sqrt(2 / wavelength * (1 / d1_m + 1 / d2_m))


def foliage_db(depth_m: float, frequency_ghz: float) -> float:
    """Loss through trees in leaf [dB] along a depth [m] [2]_; published for up to 400 m, held beyond."""
    depth = min(max(depth_m, 0.0), 400.0)
    f = math.pow(frequency_ghz, 0.284)
    return 0.45 * f * depth if depth <= 14 else 1.33 * f * math.pow(depth, 0.588)


def fresnel_radius_m(d1_m: float, d2_m: float, frequency_ghz: float) -> float:
    """Radius of the first Fresnel zone [m] at d1 and d2 [m] from the ends."""
    d1, d2 = d1_m / 1000, d2_m / 1000
    return 17.32 * math.sqrt(d1 * d2 / (frequency_ghz * (d1 + d2)))


def range_factor(power_db: float) -> float:
    """Factor on the open range that a change of power [dB] makes."""
    return float(10 ** (power_db / 20))


@dataclass(frozen=True, slots=True)
class Edges:
    """What may stand between the hand and the aircraft along one bearing; one entry each.

    distance_m: from the hand. solid_m: tops that no wave goes through; tree_m: tops of trees, −inf for none.
    depth_m: how much of the way through trees an entry stands for.
    """

    distance_m: Floats
    solid_m: Floats
    tree_m: Floats
    depth_m: Floats

    def between(self, distance_m: float) -> Edges:
        """Those that stand between the hand and an aircraft at a distance [m]."""
        inside = (self.distance_m > 0) & (self.distance_m < distance_m)
        if inside.all():
            return self
        return Edges(self.distance_m[inside], self.solid_m[inside], self.tree_m[inside], self.depth_m[inside])


def _over_one(edge: Edges, distance_m: float, aircraft_height_m: float, frequency_ghz: float) -> float:
    """`path_loss_db` for the one edge that most flights have: the same formulas without arrays, ten times quicker."""
    d1, solid, tree, depth = (float(x[0]) for x in (edge.distance_m, edge.solid_m, edge.tree_m, edge.depth_m))
    line = HAND_HEIGHT_M + (aircraft_height_m - HAND_HEIGHT_M) * d1 / distance_m
    v = diffraction_parameter(max(solid, tree) - line, d1, distance_m - d1, frequency_ghz)
    over = knife_edge_db(v)
    if tree > solid and depth > 0 and math.isinf(solid):
        return min(over, foliage_db(depth, frequency_ghz))
    return over


def _losses(v: Floats) -> Floats:
    """Knife-edge losses [dB] for many ν [1]_."""
    lifted = np.maximum(v, -0.78)
    return np.where(v > -0.78, 6.9 + 20 * np.log10(np.hypot(lifted - 0.1, 1) + lifted - 0.1), 0.0)


def _nu(height: Floats, d1: Floats, d2: Floats, frequency_ghz: float) -> Floats:
    """ν of edges `height` over the line; −inf where an edge does not stand between the ends."""
    between = (d1 > 0) & (d2 > 0)
    wavelength = _LIGHT_MS / (frequency_ghz * 1e9)
    with np.errstate(divide="ignore", invalid="ignore"):
        v = height * np.sqrt(2 / wavelength * (1 / d1 + 1 / d2))
    return np.where(between & np.isfinite(height), v, -np.inf)


NEAR_EDGE_M = 10.0
"""Edges nearer than this to the main one are taken as the same hill or roof [m]."""


def deygout_db(
    distance_m: Floats, tops_m: Floats, far_m: Floats, far_height_m: Floats, frequency_ghz: float
) -> tuple[Floats, NDArray[np.intp]]:
    """Loss [dB] over up to three edges, by Deygout's construction [3]_; and the main edge, −1 for none.

    distance_m, tops_m: shape (edges,). far_m, far_height_m: shape (ways,), the aircraft's distance and height.
    The edge with the greatest ν over the whole way is the main one; on either side the greatest ν between
    it and that end counts once more, where it stands above that line. It errs towards more loss.
    """
    if distance_m.size == 0:
        return np.zeros(far_m.shape), np.full(far_m.shape, -1, dtype=np.intp)
    d, top = distance_m[None, :], tops_m[None, :]
    end, end_top = far_m[:, None], far_height_m[:, None]
    line = HAND_HEIGHT_M + (end_top - HAND_HEIGHT_M) * d / np.maximum(end, 1e-9)
    v = _nu(top - line, d, end - d, frequency_ghz)
    main = np.argmax(v, axis=1)
    rows = np.arange(far_m.size)
    v_main = v[rows, main]
    at, height = distance_m[main][:, None], tops_m[main][:, None]
    with np.errstate(invalid="ignore", divide="ignore"):
        before = top - (HAND_HEIGHT_M + (height - HAND_HEIGHT_M) * d / at)
        beyond = top - (height + (end_top - height) * (d - at) / (end - at))
    left = np.where(before > 0, _nu(before, d, at - d, frequency_ghz), -np.inf)
    right = np.where(beyond > 0, _nu(beyond, d - at, end - d, frequency_ghz), -np.inf)
    near = np.abs(d - at) < NEAR_EDGE_M
    sides = [np.max(np.where(near, -np.inf, side), axis=1) for side in (left, right)]
    loss = _losses(v_main)
    for side in sides:
        loss = loss + np.where(v_main > -0.78, _losses(side), 0.0)
    return loss, np.where(v_main > -0.78, main, -1)


def path_loss_db(edges: Edges, far_m: Floats, far_height_m: Floats, frequency_ghz: float) -> Floats:
    """Loss [dB] behind everything on the way, shape as far_m: over it all, or through the trees and over the rest.

    The lesser counts. Depths in trees add up, as [2]_ is for one depth.
    """
    over, _ = deygout_db(edges.distance_m, np.maximum(edges.solid_m, edges.tree_m), far_m, far_height_m, frequency_ghz)
    if not np.isfinite(edges.tree_m).any():
        return over
    rest, _ = deygout_db(edges.distance_m, edges.solid_m, far_m, far_height_m, frequency_ghz)
    d, end = edges.distance_m[None, :], far_m[:, None]
    line = HAND_HEIGHT_M + (far_height_m[:, None] - HAND_HEIGHT_M) * d / np.maximum(end, 1e-9)
    in_the_way = _nu(edges.tree_m[None, :] - line, d, end - d, frequency_ghz) > -0.78
    depth = np.where(in_the_way, edges.depth_m[None, :], 0.0).sum(axis=1)
    # Trees of which no depth is known cannot be gone through.
    unknown = (in_the_way & (edges.depth_m[None, :] <= 0)).any(axis=1)
    through = np.array([foliage_db(float(x), frequency_ghz) for x in depth])
    return np.where(unknown, over, np.minimum(over, rest + through))


def edges_on(situation: Situation, bearing_deg: float, upto_m: float) -> Edges:
    """What the plan names within 10° of a bearing, and what is drawn and lies along it."""
    named = [
        o
        for o in situation.site.obstacles
        if angle_between_deg(o.bearing_deg, bearing_deg) <= CORRIDOR_DEG and o.distance_m > 0
    ]
    tree = np.array([o.kind is ObstacleKind.TREES for o in named], dtype=bool)
    tops = np.array([o.height_m for o in named], dtype=float)
    distance = np.array([o.distance_m for o in named], dtype=float)
    depth = np.array([o.depth_m for o in named], dtype=float)
    none = np.full(tops.shape, -np.inf)
    solid, trees = np.where(tree, none, tops), np.where(tree, tops, none)
    if situation.land is not None:
        ray = situation.land.ray(bearing_deg, upto_m)
        distance = np.concatenate([distance, ray.distance_m])
        solid, trees = np.concatenate([solid, ray.solid_m]), np.concatenate([trees, ray.tree_top_m])
        depth = np.concatenate([depth, np.where(np.isfinite(ray.tree_top_m), STEP_M, 0.0)])
    return Edges(distance, solid, trees, depth)


def signal(situation: Situation) -> Signal:
    """Margin at the flight's farthest point, behind all that stands on the way."""
    flight, link = situation.flight, situation.aircraft.link
    slant = slant_m(flight)
    far, height = np.array([flight.distance_m]), np.array([flight.height_m])
    edges = edges_on(situation, flight.bearing_deg, flight.distance_m)
    between = edges.between(flight.distance_m)
    if between.distance_m.size == 1:
        loss = _over_one(between, flight.distance_m, flight.height_m, link.band_ghz)
    else:
        loss = float(path_loss_db(between, far, height, link.band_ghz)[0]) if between.distance_m.size else 0.0
    noise = noise_db(situation.site)
    return Signal(
        margin_db=20 * math.log10(link.range_m / slant) - loss - noise,
        range_m=link.range_m / range_factor(situation.minimums.link_margin_db + loss + noise),
        slant_m=slant,
        obstruction_db=loss,
        noise_db=noise,
        obstacle=_culprit(situation, edges) if loss > 0 else None,
    )


def _culprit(situation: Situation, edges: Edges) -> Obstacle:
    """What stands most in the way."""
    flight = situation.flight
    tops = np.maximum(edges.solid_m, edges.tree_m)
    far, height = np.array([flight.distance_m]), np.array([flight.height_m])
    main = int(deygout_db(edges.distance_m, tops, far, height, situation.aircraft.link.band_ghz)[1][0])
    at, top = float(edges.distance_m[main]), float(tops[main])
    for named in situation.site.obstacles:
        if (named.distance_m, named.height_m) == (at, top):
            return named
    drawn = None if situation.land is None else situation.land.standing_at(flight.bearing_deg, at)
    kind, name = (ObstacleKind.TERRAIN, "ground") if drawn is None else (drawn.kind, drawn.name)
    return Obstacle(kind or ObstacleKind.TERRAIN, top, at, flight.bearing_deg, name=name)


def noise_db(site: Site) -> float:
    """Loss of a site [dB] by other transmitters, and by what the marks of earlier flights showed."""
    return NOISE_DB[site.radio_noise] + site.radio_loss_db


def slant_m(flight: Flight) -> float:
    """From the hand to the aircraft at the far end [m]; a metre at least, below which no formula has a meaning."""
    return max(math.hypot(flight.distance_m, flight.height_m - HAND_HEIGHT_M), 1.0)


CONTOUR_STEPS = 40


def signal_contour_m(situation: Situation, bearings_deg: Floats, farthest_m: float) -> Floats:
    """Distance [m] on each bearing up to which the wanted margin is there without a break, at the planned height.

    Looked at in `CONTOUR_STEPS` steps up to `farthest_m`.
    """
    flight, link = situation.flight, situation.aircraft.link
    far = np.linspace(farthest_m / CONTOUR_STEPS, farthest_m, CONTOUR_STEPS)
    height = np.full(far.shape, flight.height_m)
    slant = np.hypot(far, flight.height_m - HAND_HEIGHT_M)
    spare = 20 * np.log10(link.range_m / slant) - noise_db(situation.site)
    spare -= situation.minimums.link_margin_db
    found = []
    for bearing in bearings_deg:
        margin = spare - path_loss_db(edges_on(situation, float(bearing), farthest_m), far, height, link.band_ghz)
        bad = np.flatnonzero(margin < 0)
        found.append(far[bad[0] - 1] if bad.size and bad[0] else 0.0 if bad.size else far[-1])
    return np.array(found)
