"""Wind triangle, power and pack against published values and common practice."""

import math

import numpy as np
import pytest

from tests.make import changed
from zealous_lark.core.air import density_kgm3
from zealous_lark.core.battery import cold_factor, usable_wh
from zealous_lark.core.motion import angle_between_deg, ground_speed_ms, safe_return_time, wind_components_ms
from zealous_lark.core.power import PowerModel, power_model
from zealous_lark.core.situation import Attachment, AttachmentKind, Pack, Situation, SpeedMode


def test_thirty_into_twenty_leaves_ten() -> None:
    """Common practice, in any unit."""
    assert ground_speed_ms(30, 20, 90, 90) == pytest.approx(10)
    assert ground_speed_ms(30, 20, 270, 90) == pytest.approx(50)


def test_crosswind_costs_ground_speed_by_pythagoras() -> None:
    assert ground_speed_ms(5, 3, 0, 90) == pytest.approx(4)
    head, cross = wind_components_ms(10, 30, 0)
    assert (head, cross) == (pytest.approx(10 * math.cos(math.pi / 6)), pytest.approx(5))


def test_no_heading_holds_the_course_in_too_much_crosswind() -> None:
    assert np.isnan(ground_speed_ms(5, 5, 0, 90))
    assert ground_speed_ms(5, 8, 90, 90) == pytest.approx(-3)


def test_angles_go_round_the_circle() -> None:
    assert angle_between_deg(350, 20) == 30
    assert [angle_between_deg(*both) for both in ((0, 360), (180, 0), (90, 100), (-10, 710))] == [0, 180, 10, 0]


def test_point_of_safe_return() -> None:
    """Classic air navigation: 4.0 h less reserve, 150 out, 200 home, 2 h 17 min."""
    assert safe_return_time(4.0, 150, 200) * 60 == pytest.approx(137, abs=0.5)
    assert safe_return_time(4.0, 0.5, 0.5) == 2
    with pytest.raises(ValueError, match="positive"):
        safe_return_time(4, 150, 0)
    with pytest.raises(ValueError, match="positive"):
        safe_return_time(4, 0, 150)


@pytest.fixture
def paper() -> PowerModel:
    """The aircraft of Zeng, Xu and Zhang 2019, table I: parasite drag ½·d0·ρ·s·A."""
    return PowerModel(
        blade_w=79.86,
        induced_w=88.63,
        tip_speed_ms=120,
        induced_speed_ms=4.03,
        drag_ns2_m2=0.5 * 0.6 * 1.225 * 0.05 * 0.503,
        efficiency=1,
        weight_n=20,
    )


def test_power_of_the_paper(paper: PowerModel) -> None:
    """Zeng, Xu and Zhang 2019: hover 168.5 W, least power 126.0 W at 10.2 m/s, best range at 18.3 m/s."""
    v = np.arange(0.1, 30, 0.01)
    power = paper.cruise_w(v)
    assert paper.hover_w == pytest.approx(168.5, abs=0.05)
    assert paper.cruise_w(0) == pytest.approx(paper.hover_w)
    assert power.min() == pytest.approx(126.0, abs=0.1)
    assert v[power.argmin()] == pytest.approx(10.2, abs=0.05)
    assert v[(power / v).argmin()] == pytest.approx(18.3, abs=0.05)


def test_induced_power_keeps_its_digits_at_high_speed() -> None:
    """The textbook root loses all digits there; the limit is v0/V of the hover value."""
    v = 1e5
    rest = PowerModel(0, 88.63, 120, 4.03, 0, 1, 20)
    assert rest.cruise_w(v) == pytest.approx(88.63 * 4.03 / v, rel=1e-6)


def test_hover_power_from_the_spec_sheet_at_sea_level(situation: Situation) -> None:
    """18.1 Wh over 30 minutes is 36.2 W."""
    assert power_model(situation.aircraft, 1.225).hover_w == pytest.approx(36.2)


def test_thin_air_and_payload_cost_power(situation: Situation) -> None:
    base = power_model(situation.aircraft, 1.225)
    high = power_model(situation.aircraft, density_kgm3(3000))
    loaded = power_model(changed(situation, aircraft__payload_g=50).aircraft, 1.225)
    assert high.hover_w / base.hover_w == pytest.approx((1.225 / density_kgm3(3000)) ** 0.5)
    assert high.blade_w > base.blade_w
    assert loaded.hover_w / base.hover_w == pytest.approx((299 / 249) ** 1.5)


@pytest.mark.parametrize(
    ("elevation", "celsius", "payload", "ratio"),
    [(2500, 5, 0, 1.144), (4500, 0, 0, 1.290), (0, 15, 40, 1.250)],
)
def test_hover_power_goes_with_loading_and_density(
    situation: Situation, elevation: float, celsius: float, payload: float, ratio: float
) -> None:
    """k^1.5·σ^−0.5 by hand: blade element and momentum theory (Leishman, from memory)."""
    aircraft = changed(situation, aircraft__payload_g=float(payload)).aircraft
    there = power_model(aircraft, density_kgm3(elevation, celsius))
    sea = power_model(situation.aircraft, 1.225)
    assert there.hover_w / sea.hover_w == pytest.approx(ratio, abs=0.0006)


def test_guards_cost_wind_speed_and_power(situation: Situation) -> None:
    """Assumed: rated wind and fast mode × 0.8, power × 1.15, and their mass; no published number."""
    guards = Attachment(AttachmentKind.GUARDS, 40)
    bare, worn = situation.aircraft, changed(situation, aircraft__attachments=(guards,)).aircraft
    assert worn.rated_wind_ms == pytest.approx(0.8 * bare.rated_wind_ms)
    assert worn.airspeed_ms(SpeedMode.FAST) == pytest.approx(0.8 * bare.fast_ms)
    assert worn.airspeed_ms(SpeedMode.SLOW) == bare.slow_ms
    ratio = power_model(worn, 1.225).hover_w / power_model(bare, 1.225).hover_w
    assert ratio == pytest.approx(1.15 * (289 / 249) ** 1.5)


def test_climbing_lifts_the_weight_at_the_rotors_own_efficiency(paper: PowerModel) -> None:
    assert paper.climb_w(4.03) == pytest.approx(paper.hover_w + paper.induced_w)
    assert paper.climb_w(0) == pytest.approx(paper.hover_w)


@pytest.mark.parametrize(
    ("celsius", "factor"), [(-30, 0.5), (-20, 0.5), (-10, 0.65), (0, 0.78), (10, 0.9), (15, 0.94), (25, 1), (40, 1)]
)
def test_cold_factor(celsius: float, factor: float) -> None:
    """Common practice, linear between the points."""
    assert cold_factor(celsius) == pytest.approx(factor)


def test_a_25_minute_pack_gives_15_to_19_at_freezing() -> None:
    """Common practice: 20 to 25 minutes become 15."""
    assert 15 <= 25 * cold_factor(0) <= 19.6


def test_pack_in_the_pocket_counts_half(situation: Situation) -> None:
    warm = usable_wh(situation.aircraft, Pack(100, 100, 20), 0)
    unknown = usable_wh(situation.aircraft, Pack(100, 100, None), 0)
    assert warm == pytest.approx(18.1 * 0.90)
    assert unknown == pytest.approx(18.1 * 0.78)
