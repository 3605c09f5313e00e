"""Cloud over the site.

References
----------
.. [1] Espy's rule: cloud base 125 m per degree of temperature less dew point.
"""

from __future__ import annotations


def cloud_base_m(temperature_c: float, dew_point_c: float) -> float:
    """Cloud base over the site [m] from air temperature and dew point [°C] [1]_; 0 in saturated air.

    >>> cloud_base_m(6, 4)
    250.0
    """
    return 125.0 * max(temperature_c - dew_point_c, 0.0)
