"""The radio link: free-space range, what stands in the way, and the noise around.

References
----------
.. [1] Recommendation ITU-R P.526, Propagation by diffraction: single knife edge.
.. [2] Weissberger, M. A. (1982). An initial critical summary of models for
   predicting the attenuation of radio waves by foliage. Quoted from memory.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from zealous_lark.core.motion import angle_between_deg
from zealous_lark.core.situation import Obstacle, ObstacleKind, RadioNoise, Situation

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
    obstruction_db, noise_db: losses [dB]; obstacle: what causes the obstruction, or None.
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


def obstruction_db(obstacle: Obstacle, distance_m: float, aircraft_height_m: float, frequency_ghz: float) -> float:
    """Loss that one obstacle on the path causes [dB]; 0 when it does not stand between the ends.

    Trees cost the lesser of going over them and going through them.
    """
    d1 = obstacle.distance_m
    d2 = distance_m - d1
    if d1 <= 0 or d2 <= 0:
        return 0.0
    line = HAND_HEIGHT_M + (aircraft_height_m - HAND_HEIGHT_M) * d1 / distance_m
    v = diffraction_parameter(obstacle.height_m - line, d1, d2, frequency_ghz)
    over = knife_edge_db(v)
    if obstacle.kind is ObstacleKind.TREES and obstacle.depth_m > 0:
        return min(over, foliage_db(obstacle.depth_m, frequency_ghz))
    return over


def signal(situation: Situation) -> Signal:
    """Margin at the flight's farthest point, behind the worst obstacle within 10° of the bearing."""
    flight, link = situation.flight, situation.aircraft.link
    # Closer than a metre the formula has no meaning; the margin is then simply large.
    slant = max(math.hypot(flight.distance_m, flight.height_m - HAND_HEIGHT_M), 1.0)
    worst, culprit = 0.0, None
    for obstacle in situation.site.obstacles:
        if angle_between_deg(obstacle.bearing_deg, flight.bearing_deg) > CORRIDOR_DEG:
            continue
        loss = obstruction_db(obstacle, flight.distance_m, flight.height_m, link.band_ghz)
        if loss > worst:
            worst, culprit = loss, obstacle
    noise = NOISE_DB[situation.site.radio_noise]
    return Signal(
        margin_db=20 * math.log10(link.range_m / slant) - worst - noise,
        range_m=link.range_m / range_factor(situation.minimums.link_margin_db + worst + noise),
        slant_m=slant,
        obstruction_db=worst,
        noise_db=noise,
        obstacle=culprit,
    )
