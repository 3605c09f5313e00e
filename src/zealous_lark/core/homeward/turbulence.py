"""Gusts along a flight near the ground, with the Dryden spectrum; exactly discretised, whatever the step.

The spectra of the wind along and across, with L the scale length and Ω the wave number along the way:
Φu = σ²·2L/π / (1 + (LΩ)²), and Φv = σ²·L/π · (1 + 3(LΩ)²) / (1 + (LΩ)²)². Flown through at an airspeed V
they are a first and a second order process of the time constant L/V.

References
----------
.. [1] MIL-F-8785C (1980), Flying qualities of piloted airplanes, 3.7: Dryden form, and its scale lengths at
   low altitude. Quoted from memory.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

GUST_SIGMAS = 3.0
"""So many standard deviations the gust of an hour exceeds the mean wind: what `air` takes it for too."""
_FOOT_M = 0.3048
_LOWEST_FT, _HIGHEST_FT = 10.0, 1000.0
_LEAST_AIRSPEED_MS = 0.5
"""Slower than this the turbulence itself changes before it is flown through."""
_ROOT3 = math.sqrt(3)


def scale_length_m(height_m: ArrayLike) -> Floats:
    """Scale length [m] of horizontal gusts at heights above the ground [m], for 10 to 1,000 ft [1]_; held beyond.

    >>> round(float(scale_length_m(30.48)), 1)
    154.0
    """
    feet = np.clip(np.asarray(height_m, dtype=float) / _FOOT_M, _LOWEST_FT, _HIGHEST_FT)
    return np.asarray(_FOOT_M * feet / (0.177 + 0.000823 * feet) ** 1.2)


@dataclass(slots=True)
class Gusts:
    """Gusts of one standard deviation at each of several aircraft, all in the same air. Arrays of one shape.

    along: along the mean wind. _first, _second: what the wind across is made of.
    """

    along: Floats
    _first: Floats
    _second: Floats

    @classmethod
    def begun(cls, normals: tuple[float, float, float], count: int) -> Gusts:
        """So as they may be at any moment, from three standard normal numbers."""
        a, b, c = normals
        # Covariance of the two: ½, ¼, ¼.
        first, second = math.sqrt(0.5) * b, math.sqrt(0.125) * (b + c)
        return cls(np.full(count, a), np.full(count, first), np.full(count, second))

    @property
    def across(self) -> Floats:
        """Across the mean wind, towards its left."""
        return _ROOT3 * self._first + (1 - _ROOT3) * self._second

    def go_on(self, normals: tuple[float, float, float], airspeed_ms: Floats, height_m: Floats, step_s: float) -> None:
        """A step [s] later, flown at airspeeds [m/s] and heights [m], by three standard normal numbers."""
        r = step_s * np.maximum(airspeed_ms, _LEAST_AIRSPEED_MS) / scale_length_m(height_m)
        fade = np.exp(-r)
        gone = 1 - fade**2
        a, b, c = normals
        self.along = fade * self.along + np.sqrt(gone) * a
        first_var = gone / 2
        both = (1 - fade**2 * (1 + 2 * r)) / 4
        second_var = (1 - fade**2 * (1 + 2 * r * (1 + r))) / 4
        root = np.sqrt(first_var)
        shared = both / root
        rest = np.sqrt(np.maximum(second_var - shared**2, 0.0))
        self._second = fade * (self._second + r * self._first) + shared * b + rest * c
        self._first = fade * self._first + root * b
