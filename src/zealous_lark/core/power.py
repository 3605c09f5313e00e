"""Power that a multirotor draws, from its spec sheet.

References
----------
.. [1] Zeng, Y., Xu, J. and Zhang, R. (2019). Energy minimization for wireless
   communication with rotary-wing UAV. IEEE Trans. Wireless Commun. 18(4).
.. [2] Leishman, J. G. Principles of Helicopter Aerodynamics: blade element and
   momentum theory. Quoted from memory.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from zealous_lark.core.air import GRAVITY, SEA_LEVEL_DENSITY
from zealous_lark.core.situation import Aircraft

Floats = NDArray[np.float64]

TIP_SPEED_MS = 80.0
"""Rotor tip speed taken when a spec sheet does not say [m/s]."""
PROPULSIVE_EFFICIENCY = 0.6
"""Share of the electrical power that becomes thrust power against drag."""
BLADE_SHARE = 0.4
"""Share of the hover power that turns the blades; the rest makes the downwash."""


@dataclass(frozen=True, slots=True)
class PowerModel:
    """P(V) of one aircraft in one air [1]_.

    blade_w: blade profile power in the hover [W].
    induced_w: induced power in the hover [W].
    tip_speed_ms: rotor tip speed [m/s].
    induced_speed_ms: mean induced velocity in the hover [m/s].
    drag_ns2_m2: parasite drag over the square of the airspeed [N/(m/s)²].
    efficiency: propulsive efficiency, 0 to 1.
    weight_n: weight [N].
    """

    blade_w: float
    induced_w: float
    tip_speed_ms: float
    induced_speed_ms: float
    drag_ns2_m2: float
    efficiency: float
    weight_n: float

    def cruise_w(self, airspeed_ms: ArrayLike) -> Floats:
        """Power in level flight [W] at airspeeds [m/s], same shape.

        Holding still in a wind is flying at that airspeed.
        """
        v = np.asarray(airspeed_ms, dtype=float)
        blade = self.blade_w * (1 + 3 * v**2 / self.tip_speed_ms**2)
        ratio = v**2 / (2 * self.induced_speed_ms**2)
        # √(√(1+x²) − x) loses its digits at high speed; this form of the same root does not.
        induced = self.induced_w / np.sqrt(np.sqrt(1 + ratio**2) + ratio)
        parasite = self.drag_ns2_m2 * v**3 / self.efficiency
        return np.asarray(blade + induced + parasite)

    @property
    def hover_w(self) -> float:
        """Power in still-air hover [W]; descent and landing cost the same."""
        return self.blade_w + self.induced_w

    def climb_w(self, rate_ms: float) -> float:
        """Power while climbing [W] at a rate [m/s]."""
        return self.hover_w + self._lift_n * rate_ms

    def path_w(self, airspeed_ms: ArrayLike, climb_ms: ArrayLike) -> Floats:
        """Power along a path [W] at airspeeds and rates of climb (none below 0) [m/s], broadcast."""
        return self.cruise_w(airspeed_ms) + self._lift_n * np.asarray(climb_ms, dtype=float)

    @property
    def _lift_n(self) -> float:
        """Power of a rate of climb [W per m/s]: the weight, at the rotor's own efficiency."""
        return self.induced_w / self.induced_speed_ms


def power_model(aircraft: Aircraft, density_kgm3: float) -> PowerModel:
    """The power model of an aircraft from its spec sheet, in air of a density [kg/m³].

    Hover power at sea level is the pack's energy over the hover time. With k the loading and σ the relative
    density, the rotors of fixed pitch turn faster by √(k/σ), so that profile power (ρΩ³) and induced power
    (W^1.5/√(2ρA)) both go with k^1.5·σ^−0.5 [2]_. The split into blade and induced power, the tip speed and
    the efficiency are common practice. What the logbook taught, and what is attached, scales all of it.
    """
    extra = aircraft.consumption_factor * aircraft.bulky_power**aircraft.bulky_count
    relative = density_kgm3 / SEA_LEVEL_DENSITY
    own_weight = aircraft.mass_g / 1000 * GRAVITY
    weight = aircraft.flying_mass_kg * GRAVITY
    loading = weight / own_weight
    hover_w = extra * aircraft.battery_wh * 60 / aircraft.hover_time_min * loading**1.5 / math.sqrt(relative)
    disc_area = aircraft.rotor_count * math.pi * (aircraft.rotor_diameter_m / 2) ** 2
    tilt = math.tan(math.radians(aircraft.max_tilt_deg))
    return PowerModel(
        blade_w=BLADE_SHARE * hover_w,
        induced_w=(1 - BLADE_SHARE) * hover_w,
        tip_speed_ms=TIP_SPEED_MS * math.sqrt(loading / relative),
        induced_speed_ms=math.sqrt(weight / (2 * density_kgm3 * disc_area)),
        drag_ns2_m2=own_weight * tilt / aircraft.sheet_fastest_ms**2 * relative,
        efficiency=PROPULSIVE_EFFICIENCY / extra,
        weight_n=weight,
    )
