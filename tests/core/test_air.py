"""Density and wind against published values and a reference library."""

import math

import numpy as np
import pytest
from windpowerlib.wind_speed import logarithmic_profile

from tests.make import changed, find, forecast, measured, wind
from zealous_lark.core.air import (
    ROUGHNESS_M,
    WindProfile,
    density_kgm3,
    exposure,
    hover_wind_ms,
    isa_pressure_pa,
    speed_up,
)
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.obstacles import Obstacle, ObstacleKind
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.site_wind import site_wind
from zealous_lark.core.situation import Landform, LandformKind, Situation, Surroundings


@pytest.mark.parametrize(("elevation", "density"), [(0, 1.2250), (1000, 1.1117), (2000, 1.0066), (3000, 0.9093)])
def test_density_of_the_standard_atmosphere(elevation: float, density: float) -> None:
    """ISO 2533, table of the standard atmosphere."""
    assert density_kgm3(elevation) == pytest.approx(density, abs=5e-5)


def test_density_follows_the_actual_temperature() -> None:
    """Ideal gas: the same pressure, colder air, denser by the ratio of absolute temperatures."""
    cold, warm = density_kgm3(500, -10), density_kgm3(500, 30)
    assert cold / warm == pytest.approx(303.15 / 263.15)
    assert isa_pressure_pa(0) == pytest.approx(101_325)


@pytest.mark.parametrize("surroundings", list(Surroundings))
@pytest.mark.parametrize("height", [12.0, 30.0, 59.0, 110.0])
def test_measured_wind_is_the_log_law(surroundings: Surroundings, height: float) -> None:
    """Against windpowerlib's logarithmic profile, from a reading at 10 m."""
    z0 = ROUGHNESS_M[surroundings]
    ours = WindProfile((measured(5, height=10),), z0).speed_ms(height)
    theirs = logarithmic_profile(5.0, 10.0, height, z0, obstacle_height=0.0)
    assert ours == pytest.approx(theirs, rel=1e-9)


def test_doubling_from_the_hand_to_30_m() -> None:
    """Common practice: the wind at 100 ft is double that of a hand meter; the log law with z0 0.131 m."""
    assert WindProfile((measured(5, height=2),), 0.131).speed_ms(30.48) == pytest.approx(10.0, abs=0.01)


def test_gust_factor_without_a_reported_gust() -> None:
    """Durst 1960 as in ASCE 7 (from memory): 1.52 over open ground at 10 m."""
    profile = WindProfile((forecast(10),), 0.03)
    assert profile.gust_ms(10) / profile.speed_ms(10) == pytest.approx(1.52, abs=0.005)


def test_reported_gust_keeps_its_excess_with_height() -> None:
    profile = WindProfile((forecast(4, gust=7),), 0.1)
    assert profile.gust_ms([10, 40, 100]) - profile.speed_ms([10, 40, 100]) == pytest.approx([3, 3, 3])


def test_gust_is_estimated_with_roughness_capped_at_one_metre() -> None:
    """The estimate has no meaning over a city's 2 m; the cap is domain practice."""
    profile = WindProfile((measured(4, height=10),), 2.0)
    assert profile.gust_excess_ms(30) == pytest.approx(3 * 4 / math.log(10))


def test_forecast_meets_the_open_profile_at_the_blending_height() -> None:
    """Wieringa 1986 (from memory): 60 m, open ground above, the site's own roughness below."""
    profile = WindProfile((forecast(4),), 1.0)
    open_ground = WindProfile((forecast(4),), 0.03)
    assert profile.speed_ms([60, 80, 120]) == pytest.approx(open_ground.speed_ms([60, 80, 120]))
    at_60 = float(open_ground.speed_ms(60))
    assert profile.speed_ms(20) == pytest.approx(at_60 * math.log(20) / math.log(60))
    assert exposure(59.999, 1.0) == pytest.approx(1.0, abs=1e-4)


def test_levels_on_the_open_profile_change_nothing() -> None:
    """A further forecast level that the first one already implies must not move the wind, whatever the site."""
    one = WindProfile((forecast(4, gust=6),), 0.5)
    implied = float(WindProfile((forecast(4),), 0.03).speed_ms(80))
    two = WindProfile((forecast(4, gust=6), forecast(implied, gust=implied + 2, height=80)), 0.5)
    heights = np.array([1.0, 5, 10, 25, 59, 60, 70, 80, 120])
    assert two.speed_ms(heights) == pytest.approx(one.speed_ms(heights))
    assert two.gust_ms(heights) == pytest.approx(one.gust_ms(heights))


def test_speed_between_levels_is_linear_in_the_log_of_height() -> None:
    profile = WindProfile((forecast(4), forecast(9, height=100)), 0.03)
    middle = math.sqrt(10 * 100)
    assert profile.speed_ms(middle) == pytest.approx(6.5)


def test_direction_between_levels_is_the_vector_mean() -> None:
    profile = WindProfile((forecast(5, 350), forecast(5, 30, height=100)), 0.03)
    assert profile.direction_deg(math.sqrt(1000)) == pytest.approx(10)
    assert profile.direction_deg([10, 100]) == pytest.approx([350, 30])


def test_profile_has_no_step_at_a_level() -> None:
    profile = WindProfile((measured(2, height=2), measured(6, height=30), measured(8, height=100)), 0.25)
    for level in (2, 30, 100):
        below, above = profile.speed_ms([level - 1e-6, level + 1e-6])
        assert below == pytest.approx(above, abs=1e-4)


def test_low_heights_are_taken_as_one_metre_and_two_roughness_lengths() -> None:
    profile = WindProfile((measured(3, height=10),), 0.5)
    assert profile.speed_ms(0.2) == profile.speed_ms(2.0)


@pytest.mark.parametrize(
    ("kind", "b", "a"),
    [(LandformKind.RIDGE, 2.0, 3.0), (LandformKind.ESCARPMENT, 0.8, 2.5), (LandformKind.HILL, 1.6, 4.0)],
)
def test_speed_up_over_landforms(kind: LandformKind, b: float, a: float) -> None:
    """Taylor and Lee 1984 (from memory), at the top and at a height."""
    landform = Landform(kind, 40, 200)
    assert speed_up(landform, 0) == pytest.approx(1 + b * 0.2)
    assert speed_up(landform, 50) == pytest.approx(1 + b * 0.2 * math.exp(-a * 0.25))
    steep = Landform(kind, 40, 10)
    assert speed_up(steep, 0) == pytest.approx(1 + b / 2)
    assert speed_up(Landform(), 10) == 1


def test_a_reading_on_the_ridge_already_holds_its_speed_up() -> None:
    ridge = Landform(LandformKind.RIDGE, 30, 100)
    assert WindProfile((measured(6),), 0.03, ridge).speed_ms(2) == pytest.approx(6)
    assert WindProfile((measured(6),), 0.03, ridge).speed_ms(60) < WindProfile((measured(6),), 0.03).speed_ms(60)


def test_sheltered_readings_say_nothing_about_the_air_above(situation: Situation) -> None:
    site = changed(situation, site__sheltered=True).site
    low = site_wind(site, (measured(1),))
    assert low is not None
    assert low.sheltered
    clear = site_wind(site, (measured(1), measured(6, height=30)))
    assert clear is not None
    assert not clear.sheltered
    assert float(clear.speed_ms(30)) == pytest.approx(6)


def test_a_reading_below_the_trees_stays_sheltered(situation: Situation) -> None:
    trees = (Obstacle(ObstacleKind.TREES, 25, 30, 0),)
    site = changed(situation, site__sheltered=True, site__obstacles=trees).site
    below, above = site_wind(site, (measured(3, height=20),)), site_wind(site, (measured(3, height=26),))
    assert below is not None
    assert above is not None
    assert (below.sheltered, above.sheltered) == (True, False)


def test_where_sources_disagree_the_stronger_counts(situation: Situation) -> None:
    weaker = site_wind(situation.site, (forecast(5, 240), measured(3, 200, height=10)))
    assert weaker is not None
    assert weaker.deciding(40).source == "forecast"
    assert weaker.at(40).direction_deg == 240
    stronger = site_wind(situation.site, (forecast(5, 240), measured(7, 200, height=10)))
    assert stronger is not None
    assert stronger.at(40).direction_deg == 200
    alone = site_wind(situation.site, (measured(7, 200, height=10),))
    assert alone is not None
    assert stronger.at(40).speed_ms == alone.at(40).speed_ms


def test_the_gust_of_either_source_counts(situation: Situation) -> None:
    both = site_wind(situation.site, (forecast(5, gust=6), measured(4, gust=12, height=10)))
    assert both is not None
    assert both.deciding(10).source == "forecast"
    assert both.at(10).gust_ms == pytest.approx(12)


def test_both_sources_are_shown_with_the_one_that_decided(situation: Situation) -> None:
    working = find(wind(situation, forecast(4), measured(1.5)), "wind.steady").working
    assert working[0].startswith("Forecast for open ground: 4.0 m/s")
    assert working[1].startswith("Measured here: 1.5 m/s")
    assert "the stronger counts, here the forecast one" in working[2]


def test_the_lean_in_a_hover_tells_the_wind() -> None:
    """The drag law of the power model: at the greatest tilt it flies its fastest."""
    assert hover_wind_ms(35, 16, 35) == pytest.approx(16)
    assert hover_wind_ms(0, 16, 35) == 0
    weight = 2.44
    drag = weight * math.tan(math.radians(35)) / 16**2
    assert drag * hover_wind_ms(12, 16, 35) ** 2 == pytest.approx(weight * math.tan(math.radians(12)))
    for tilt in (-1, 36):
        with pytest.raises(ValueError, match="tilt"):
            hover_wind_ms(tilt, 16, 35)
    with pytest.raises(ValueError, match="tilt"):
        hover_wind_ms(5, 16, 90)


def test_a_gust_in_the_hover_is_not_laid_over_a_reading_of_its_own(situation: Situation) -> None:
    """The lean's excess of 5 m/s goes to the forecast that it corrects, not to the meter's stronger wind."""
    at = situation.takeoff_at
    leant = WindLevel(30, 2, 240, WindSource.HOVER, 7, at=at)
    meter = measured(5, gust=6)
    both = Assessment(wind(situation, forecast(3), leant, meter)).wind
    alone = Assessment(wind(situation, meter)).wind
    assert both is not None
    assert alone is not None
    assert both.gust_ms(40) == pytest.approx(max(float(alone.gust_ms(40)), float(both.speed_ms(40))), abs=1e-9)
