"""How long cold gear stays in its bag."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest

from zealous_lark.core.postflight.indoors_again import warm_up


def test_the_bag_stays_shut_until_the_dew_point() -> None:
    """τ·ln((Troom − Tgear)/(Troom − Tdew)) with 40 minutes: common practice. Dew point of 21 °C and 45 %: 8.6 °C."""
    found = warm_up(21, 45, -8)
    assert found.dew_point_c == pytest.approx(8.6, abs=0.1)
    assert found.wait / timedelta(minutes=1) == pytest.approx(40 * np.log(29 / 12.4), abs=0.3)
    assert warm_up(21, 45, 12).wait == timedelta(0)
    assert warm_up(21, 45, -20).wait > found.wait
    assert warm_up(21, 70, -8).wait > found.wait
