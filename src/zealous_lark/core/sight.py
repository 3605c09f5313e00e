"""How far the aircraft can be seen, and its attitude read.

References
----------
.. [1] European guidance on line-of-sight distances for multirotors. Quoted from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from zealous_lark.core.minimums import SightRule


class SightLimit(StrEnum):
    ATTITUDE = "attitude"
    OWN = "own"
    VISIBILITY = "visibility"


@dataclass(frozen=True, slots=True)
class Sight:
    """Line of sight [m]: the lesser of what the pilot goes by and the detection distance, and which one it is."""

    limit_m: float
    limited_by: SightLimit
    attitude_m: float
    detection_m: float


def attitude_distance_m(size_m: float) -> float:
    """Distance up to which a multirotor's attitude can be read [m], from its size [m] [1]_.

    >>> round(attitude_distance_m(0.36))
    138
    """
    return 327 * size_m + 20


def detection_distance_m(visibility_m: float) -> float:
    """Distance up to which an aircraft can be detected [m]: 0.3 of the ground visibility, at most 5 km of it.

    The cap is on the visibility that counts [1]_.
    """
    return 0.3 * min(visibility_m, 5000.0)


def sight(size_m: float, visibility_m: float, rule: SightRule = SightRule.ATTITUDE, own_m: float = 0.0) -> Sight:
    """Line of sight of an aircraft of a size [m] in a visibility [m].

    By the rule: attitude read by the pilot, the pilot's own tested distance [m], or an
    observer who only has to make the aircraft out. Visibility limits all of them.
    """
    attitude, detection = attitude_distance_m(size_m), detection_distance_m(visibility_m)
    wanted, limit = {
        SightRule.ATTITUDE: (attitude, SightLimit.ATTITUDE),
        SightRule.OWN: (own_m, SightLimit.OWN),
        SightRule.OBSERVER: (detection, SightLimit.VISIBILITY),
    }[rule]
    if wanted > detection:
        wanted, limit = detection, SightLimit.VISIBILITY
    return Sight(wanted, limit, attitude, detection)
