"""Fresh places asked by many threads at once: `python -m tests.soak.shape_race SECONDS`.

A process of its own, since what it looks for ends one: a shape whose index two threads build together.
"""

from __future__ import annotations

import sys
import threading
import time

import numpy as np
from shapely.geometry import Point, Polygon

from zealous_lark.core.land import Land
from zealous_lark.core.obstacles import ObstacleKind
from zealous_lark.core.place import Feature, Place, Role

LATITUDE, LONGITUDE = 58.62, 25.08
CORNERS = 400
THREADS = 4
WOODS = 6
_M_PER_DEG = 111_000.0


def woods(random: np.random.Generator) -> Place:
    """Woods with many corners all round the take-off point."""

    def wood(n: int) -> Feature:
        angle = np.linspace(0, 2 * np.pi, CORNERS, endpoint=False)
        radius = random.uniform(60, 140, CORNERS)
        away = 2 * np.pi * n / WOODS
        east = 200 * np.sin(away) + radius * np.sin(angle)
        north = 200 * np.cos(away) + radius * np.cos(angle)
        lon = LONGITUDE + east / (_M_PER_DEG * np.cos(np.radians(LATITUDE)))
        corners = Polygon(np.column_stack([lon, LATITUDE + north / _M_PER_DEG]))
        return Feature(f"w{n}", Role.OBSTACLE, f"Wood {n}", corners, ObstacleKind.TREES, 18.0)

    features = tuple(wood(n) for n in range(WOODS))
    pad = Feature("pad", Role.TAKEOFF, "Pad", Point(LONGITUDE, LATITUDE))
    return Place("Woods", (*features, pad))


def run(seconds: float) -> int:
    """Ask fresh places from several threads at once for a time [s]; how many places were asked."""
    random, until, rounds = np.random.default_rng(1), time.monotonic() + seconds, 0
    while time.monotonic() < until:
        land = Land(woods(random), LATITUDE, LONGITUDE, 42.0)
        _ = land.obstacles  # flattened once, as by the first question; what is raced for is the shapes themselves
        together = threading.Barrier(THREADS)

        def ask(n: int, land: Land = land, together: threading.Barrier = together) -> None:
            together.wait()
            land.rays([float(b + n) for b in range(0, 360, 5)], 1500.0)

        threads = [threading.Thread(target=ask, args=(n,)) for n in range(THREADS)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        rounds += 1
    return rounds


if __name__ == "__main__":
    print(run(float(sys.argv[1])))  # noqa: T201  what was asked is its answer
