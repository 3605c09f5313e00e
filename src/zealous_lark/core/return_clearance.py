"""How far above a top the way home has to be."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray


def clearance_m(top_m: ArrayLike, margin_m: float) -> NDArray[np.float64]:
    """Clearance wanted above tops [m]: the margin or a tenth of the height, whichever is more; common practice.

    >>> float(clearance_m(100, 10)), float(clearance_m(24, 10))
    (10.0, 10.0)
    """
    return np.maximum(margin_m, 0.1 * np.asarray(top_m, dtype=float))
