"""What a place teaches of the radio, and the weighted median it is told by."""

from __future__ import annotations

from datetime import timedelta

import numpy as np
import pytest

from zealous_lark.core.postflight.radio_loss import BrokeUp, Loss, radio_loss, weighted_median

DAY = timedelta(days=1)


def learned(found: Loss | None) -> Loss:
    assert found is not None
    return found


def test_the_loss_of_a_place_from_where_pictures_broke_up() -> None:
    marks = [BrokeUp(f"f{i}", 240, m, DAY) for i, m in enumerate((18.0, 19.0, 20.0))]
    found = learned(radio_loss(marks, 10.0, 0.0))
    assert found.value == pytest.approx(9.0)
    assert learned(radio_loss(marks, 10.0, 4.0)).value == pytest.approx(13.0)
    assert learned(radio_loss(marks[:1], 10.0, 0.0)).pm == 6.0
    assert radio_loss([BrokeUp("f", 600, 7.0, DAY)], 10.0, 0.0) is None  # the model knew


def test_the_weighted_median_against_repeated_values() -> None:
    rng = np.random.default_rng(1)
    values, times = rng.normal(0, 1, 41), rng.integers(1, 5, 41)
    assert weighted_median(values, times.astype(float)) == pytest.approx(
        float(np.median(np.repeat(values, times))), abs=0.08
    )
