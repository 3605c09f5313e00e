"""Learning: a known factor is recovered in its interval, one bad flight moves nothing, fresh ones weigh more."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest

from zealous_lark.core.flown.indoors_again import warm_up
from zealous_lark.core.flown.learning import (
    WIND_AGREES_MS,
    BrokeUp,
    Factor,
    Spent,
    consumption,
    differs,
    health,
    radio_loss,
    weighted_median,
)

DAY = timedelta(days=1)


def flights(rng: np.random.Generator, factor: float, n: int = 30, pack: str = "A", every: float = 6) -> list[Spent]:
    """Flights of a known factor, with 6 % from flight to flight, read to the whole point."""
    made = []
    for i in range(n):
        planned = rng.uniform(35, 65)
        actual = round(planned * factor * rng.normal(1, 0.06))
        made.append(Spent(f"{pack}{i}", planned, actual, DAY * (every * i), pack))
    return made


def learned(found: Factor | None) -> Factor:
    assert found is not None
    return found


def test_a_known_factor_is_recovered_within_its_interval() -> None:
    inside = 0
    for seed in range(100):
        found = learned(consumption(flights(np.random.default_rng(seed), 1.15)))
        inside += abs(found.value - 1.15) <= found.pm
        assert found.pm < 0.07
        assert len(found.flights) == 30
    assert inside >= 93


def test_one_bad_flight_does_not_move_it() -> None:
    good = flights(np.random.default_rng(5), 1.15)
    bad = [*good[:-1], Spent("bad", 50, 100, timedelta(0), "A")]
    a, b = learned(consumption(good)), learned(consumption(bad))
    assert abs(a.value - b.value) < 0.02
    # A mean would have moved much further.
    means = [float(np.mean([f.actual_pct / f.planned_pct for f in of])) for of in (good, bad)]
    assert means[1] - means[0] > 0.025


def test_what_the_wind_cost_is_not_learned_as_the_aircrafts() -> None:
    rng = np.random.default_rng(8)
    calm = flights(rng, 1.0, 20)
    # A windy month: 3 to 6 m/s more than planned with, and a third more charge for it.
    windy = [replace(f, flight=f"w{f.flight}", wind_off_ms=float(rng.uniform(3, 6))) for f in flights(rng, 1.35, 30)]
    found = learned(consumption([*calm, *windy]))
    assert abs(found.value - 1.0) <= found.pm
    assert (len(found.flights), found.set_aside) == (20, 30)
    # Not measured, or as planned, they count.
    for off in (None, WIND_AGREES_MS, -WIND_AGREES_MS):
        counted = learned(consumption([*calm, *(replace(f, wind_off_ms=off) for f in windy)]))
        assert counted.set_aside == 0
        assert counted.value > 1.1


def test_a_pack_is_not_called_tired_for_the_wind_it_met() -> None:
    rng = np.random.default_rng(9)
    others = flights(rng, 1.0, 20, "B")
    mine = flights(rng, 1.0, 10, "A")
    windy = [replace(f, wind_off_ms=4.0) for f in flights(rng, 1.4, 12, "A")]
    found = learned(health([*others, *mine, *windy], "A", 95.0))
    assert abs(found.value - 95.0) <= found.pm
    assert found.set_aside == 12
    assert health([*others, *windy], "A", 95.0) is None


def test_fresh_flights_weigh_more() -> None:
    rng = np.random.default_rng(2)
    old = [Spent(f.flight, f.planned_pct, f.actual_pct, f.age + DAY * 400, "A") for f in flights(rng, 1.0, 15, every=1)]
    fresh = flights(rng, 1.25, 10, every=1)
    assert learned(consumption([*old, *fresh])).value > 1.18


def test_too_few_or_too_short_flights_teach_nothing() -> None:
    few = flights(np.random.default_rng(0), 1.2, 4)
    assert consumption(few) is None
    assert consumption([Spent(f.flight, 10, 12, f.age) for f in flights(np.random.default_rng(0), 1.2)]) is None


def test_a_tired_pack_is_told_from_a_thirsty_aircraft() -> None:
    rng = np.random.default_rng(8)
    every = flights(rng, 1.10, 20, "A") + flights(rng, 1.10, 20, "B") + flights(rng, 1.10 / 0.85, 20, "C")
    tired = learned(health(every, "C", 100.0))
    assert tired.value == pytest.approx(85, abs=tired.pm + 1)
    assert differs(tired, 100.0)
    well = learned(health(every, "A", 100.0))
    assert not differs(well, 100.0, worth=0.12)
    assert health(every[:20], "A", 100.0) is None  # nothing to compare with


def test_a_value_that_may_be_chance_is_no_difference() -> None:
    assert not differs(Factor(1.02, 0.01, ()), 1.0)
    assert not differs(Factor(1.08, 0.09, ()), 1.0)
    assert differs(Factor(1.08, 0.03, ()), 1.0)


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


def test_the_bag_stays_shut_until_the_dew_point() -> None:
    """τ·ln((Troom − Tgear)/(Troom − Tdew)) with 40 minutes: common practice. Dew point of 21 °C and 45 %: 8.6 °C."""
    found = warm_up(21, 45, -8)
    assert found.dew_point_c == pytest.approx(8.6, abs=0.1)
    assert found.wait / timedelta(minutes=1) == pytest.approx(40 * np.log(29 / 12.4), abs=0.3)
    assert warm_up(21, 45, 12).wait == timedelta(0)
    assert warm_up(21, 45, -20).wait > found.wait
    assert warm_up(21, 70, -8).wait > found.wait
