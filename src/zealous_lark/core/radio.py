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
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from zealous_lark.core.land import STEP_M, Land, Ray
from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.obstacles import RADIO_CLEAR, Obstacle, ObstacleKind
from zealous_lark.core.situation import Flight, RadioNoise, Site, Situation

Floats = NDArray[np.float64]

HAND_HEIGHT_M = 1.5
"""Height at which the pilot holds the controller [m]."""
FULL_DEG, GONE_DEG = 5.0, 15.0
"""A typed obstacle shades in full this far off the bearing, then less, and not at all from the second [°]."""
ROW_OF_TREES_M = 5.0
"""Trees of which no depth is given are a row: a few metres [m]; common practice."""
BARE_SHARE = 0.5
"""What bare trees leave of the foliage loss in dB; common practice."""
NOISE_DB: dict[RadioNoise, tuple[float, float]] = {
    RadioNoise.QUIET: (0.0, 3.0),
    RadioNoise.SUBURBAN: (6.0, 4.0),
    RadioNoise.URBAN: (12.0, 6.0),
}
"""Margin lost to other transmitters at 2.4 and at 5.8 GHz [dB]; common practice, no source."""
BANDS_GHZ = (2.4, 5.8)
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


def _over_one(edge: Edges, distance_m: float, aircraft_height_m: float, frequency_ghz: float, leaves: float) -> float:
    """`path_loss_db` for the one edge that most flights have: the same formulas without arrays, ten times quicker."""
    d1, solid, tree, depth = (float(x[0]) for x in (edge.distance_m, edge.solid_m, edge.tree_m, edge.depth_m))
    line = HAND_HEIGHT_M + (aircraft_height_m - HAND_HEIGHT_M) * d1 / distance_m
    v = diffraction_parameter(max(solid, tree) - line, d1, distance_m - d1, frequency_ghz)
    over = knife_edge_db(v)
    if tree > solid and depth > 0 and math.isinf(solid):
        return min(over, leaves * foliage_db(depth, frequency_ghz))
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


def path_loss_db(
    edges: Edges, far_m: Floats, far_height_m: Floats, frequency_ghz: float, leaves: float = 1.0
) -> Floats:
    """Loss [dB] behind everything on the way, shape as far_m: over it all, or through the trees and over the rest.

    The lesser counts. Depths in trees add up, as [2]_ is for one depth. leaves: share of the foliage loss
    in dB that the trees' leaves leave, 1 in summer.
    """
    over, _ = deygout_db(edges.distance_m, np.maximum(edges.solid_m, edges.tree_m), far_m, far_height_m, frequency_ghz)
    if not np.isfinite(edges.tree_m).any():
        return over
    rest, _ = deygout_db(edges.distance_m, edges.solid_m, far_m, far_height_m, frequency_ghz)
    d, end = edges.distance_m[None, :], far_m[:, None]
    line = HAND_HEIGHT_M + (far_height_m[:, None] - HAND_HEIGHT_M) * d / np.maximum(end, 1e-9)
    in_the_way = _nu(edges.tree_m[None, :] - line, d, end - d, frequency_ghz) > -0.78
    depth = np.where(in_the_way, edges.depth_m[None, :], 0.0).sum(axis=1)
    through = leaves * np.array([foliage_db(float(x), frequency_ghz) for x in depth])
    return np.minimum(over, rest + through)


def _edges(named: Sequence[Obstacle], ray: Ray | None) -> Edges:
    tree = np.array([o.kind is ObstacleKind.TREES for o in named], dtype=bool)
    tops = np.array([o.height_m for o in named], dtype=float)
    distance = np.array([o.distance_m for o in named], dtype=float)
    depth = np.array([max(o.depth_m, ROW_OF_TREES_M) for o in named], dtype=float)
    none = np.full(tops.shape, -np.inf)
    solid, trees = np.where(tree, none, tops), np.where(tree, tops, none)
    if ray is not None:
        distance = np.concatenate([distance, ray.distance_m])
        solid, trees = np.concatenate([solid, ray.solid_m]), np.concatenate([trees, ray.tree_top_m])
        depth = np.concatenate([depth, np.where(np.isfinite(ray.tree_top_m), STEP_M, 0.0)])
    return Edges(distance, solid, trees, depth)


@dataclass(frozen=True, slots=True)
class Shade:
    """What stands between the hand and an aircraft on a bearing: in full, and typed things beside it in part.

    partial: what each further typed thing adds, the most in the way first: its weight from 1 to 0, and all
    edges with it.
    """

    full: Edges
    partial: tuple[tuple[float, Edges], ...]

    @property
    def edges(self) -> Edges:
        """Everything, whatever its weight."""
        return self.partial[-1][1] if self.partial else self.full

    def loss_db(self, far_m: Floats, height_m: Floats, frequency_ghz: float, leaves: float) -> Floats:
        """Loss [dB] to aircraft at distances and heights [m], same shapes."""

        def through(edges: Edges) -> Floats:
            if far_m.size == 1:
                edges = edges.between(float(far_m[0]))
                if edges.distance_m.size == 0:
                    return np.zeros(1)
                if edges.distance_m.size == 1:
                    return np.array([_over_one(edges, float(far_m[0]), float(height_m[0]), frequency_ghz, leaves)])
            return path_loss_db(edges, far_m, height_m, frequency_ghz, leaves)

        loss = before = through(self.full)
        for weight, edges in self.partial:
            further = np.maximum(through(edges), before)
            loss, before = loss + weight * (further - before), further
        return loss


def shade_on(site: Site, land: Land | None, bearing_deg: float, upto_m: float) -> Shade:
    """What the plan names near a bearing, and what is drawn and lies along it; wires and masts shade nothing."""
    ray = None if land is None else land.ray(bearing_deg, upto_m)
    full: list[Obstacle] = []
    beside: list[tuple[float, Obstacle]] = []
    for o in site.obstacles:
        off = angle_between_deg(o.bearing_deg, bearing_deg)
        if o.kind in RADIO_CLEAR or o.distance_m <= 0 or off >= GONE_DEG:
            continue
        if off <= FULL_DEG:
            full.append(o)
        else:
            beside.append(((GONE_DEG - off) / (GONE_DEG - FULL_DEG), o))
    partial, standing = [], list(full)
    for weight, o in sorted(beside, key=lambda x: -x[0]):
        standing.append(o)
        partial.append((weight, _edges(standing, ray)))
    return Shade(_edges(full, ray), tuple(partial))


def leaves_share(site: Site) -> float:
    """Share of the foliage loss in dB that the trees of a site have, 1 in leaf."""
    return BARE_SHARE if site.trees_bare else 1.0


@lru_cache(maxsize=512)
def _behind(
    site: Site, land: Land | None, bearing_deg: float, distance_m: float, height_m: float, band_ghz: float
) -> tuple[float, Obstacle | None]:
    """Loss [dB] to a far end behind all that stands on the way, and what is most in it; alike in every weather."""
    far, height = np.array([distance_m]), np.array([height_m])
    shade = shade_on(site, land, bearing_deg, distance_m)
    loss = float(shade.loss_db(far, height, band_ghz, leaves_share(site))[0])
    edges = shade.edges
    if loss <= 0:
        return loss, None
    tops = np.maximum(edges.solid_m, edges.tree_m)
    # Most flights have one thing on the way: no need to ask which it is.
    main = 0 if tops.size == 1 else int(deygout_db(edges.distance_m, tops, far, height, band_ghz)[1][0])
    at, top = float(edges.distance_m[main]), float(tops[main])
    for named in site.obstacles:
        if (named.distance_m, named.height_m) == (at, top):
            return loss, named
    drawn = None if land is None else land.standing_at(bearing_deg, at)
    kind, name = (ObstacleKind.TERRAIN, "ground") if drawn is None else (drawn.kind, drawn.name)
    return loss, Obstacle(kind or ObstacleKind.TERRAIN, top, at, bearing_deg, name=name)


def _behind_on(situation: Situation, band_ghz: float) -> tuple[float, Obstacle | None]:
    f = situation.flight
    return _behind(situation.site, situation.land, f.bearing_deg, f.distance_m, f.height_m, band_ghz)


def signal(situation: Situation, farthest_m: float | None = None) -> Signal:
    """Margin at the flight's farthest point, behind all that stands on the way.

    farthest_m: from hand to aircraft where it is farthest [m], None: at the far end as planned.

    The zero margin in the open is taken at 2.4 GHz; what 5.8 GHz loses by itself is in its noise.
    """
    flight, link = situation.flight, situation.aircraft.link
    band = link.band_ghz
    slant = slant_m(flight) if farthest_m is None else farthest_m
    loss, culprit = _behind_on(situation, band)
    noise = noise_db(situation.site, band)
    range_m = open_range_m(situation)
    return Signal(
        margin_db=20 * math.log10(range_m / slant) - loss - noise,
        range_m=range_m / range_factor(situation.minimums.link_margin_db + loss + noise),
        slant_m=slant,
        obstruction_db=loss,
        noise_db=noise,
        obstacle=culprit,
    )


def margin_on_db(situation: Situation, band_ghz: float, farthest_m: float | None = None) -> float:
    """Margin [dB] as `signal` has it, on a band [GHz], and nothing else."""
    flight = situation.flight
    loss, _ = _behind_on(situation, band_ghz)
    open_db = 20 * math.log10(open_range_m(situation) / (slant_m(flight) if farthest_m is None else farthest_m))
    return open_db - loss - noise_db(situation.site, band_ghz)


def open_range_m(situation: Situation) -> float:
    """Range over open ground [m] with the power that the place's rules allow."""
    aircraft = situation.aircraft
    return aircraft.link.range_m * range_factor(aircraft.region_power_db)


def noise_db(site: Site, band_ghz: float) -> float:
    """Loss of a site [dB] by other transmitters on a band [GHz], and by what the marks of earlier flights showed."""
    low, high = NOISE_DB[site.radio_noise]
    return (low if band_ghz < 4 else high) + site.radio_loss_db


def slant_m(flight: Flight, distance_m: float | None = None) -> float:
    """From the hand to the aircraft [m], at the far end or at another distance over the ground [m].

    A metre at least, below which no formula has a meaning.
    """
    over_ground = flight.distance_m if distance_m is None else distance_m
    return max(math.hypot(over_ground, flight.height_m - HAND_HEIGHT_M), 1.0)


CONTOUR_STEPS = 40


def signal_contour_m(situation: Situation, bearings_deg: Floats, farthest_m: float) -> Floats:
    """Distance [m] on each bearing up to which the wanted margin is there without a break, at the planned height.

    Looked at in `CONTOUR_STEPS` steps up to `farthest_m`.
    """
    flight, link = situation.flight, situation.aircraft.link
    far = np.linspace(farthest_m / CONTOUR_STEPS, farthest_m, CONTOUR_STEPS)
    height = np.full(far.shape, flight.height_m)
    slant = np.hypot(far, flight.height_m - HAND_HEIGHT_M)
    spare = 20 * np.log10(open_range_m(situation) / slant) - noise_db(situation.site, link.band_ghz)
    spare -= situation.minimums.link_margin_db
    found = []
    for bearing in bearings_deg:
        shade = shade_on(situation.site, situation.land, float(bearing), farthest_m)
        margin = spare - shade.loss_db(far, height, link.band_ghz, leaves_share(situation.site))
        bad = np.flatnonzero(margin < 0)
        found.append(far[bad[0] - 1] if bad.size and bad[0] else 0.0 if bad.size else far[-1])
    return np.array(found)
