"""Several forecasts of one flight: how far they differ, and what their difference does to the chance."""

from __future__ import annotations

import statistics
from dataclasses import replace
from datetime import datetime, timedelta

import pytest

from tests.make import forecast
from zealous_lark.core.air import log_profile
from zealous_lark.core.assessment import Assessment
from zealous_lark.core.chance import wind_spread
from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.forecasts import spread_of, strictness
from zealous_lark.core.situation import Situation
from zealous_lark.core.verdict import judge


def of(at: datetime, speed: float, gust: float | None = None) -> Forecast:
    """A forecast of one wind at 60 m, where the profile over any ground is that of the open."""
    winds = (forecast(speed, gust=gust, height=60),)
    hours = tuple(Hour(at + timedelta(hours=n), winds, temperature_c=10.0) for n in (-1, 0, 1))
    return Forecast(f"{speed}", at, hours)


def test_the_spread_is_that_of_the_wind_home(situation: Situation) -> None:
    at, speeds = situation.takeoff_at, [4.0, 5.0, 7.5]
    found = spread_of(situation, [of(at, s) for s in speeds])
    assert found is not None
    assert found.count == 3
    assert found.share == pytest.approx(statistics.stdev(speeds) / statistics.mean(speeds))
    assert found.most_ms / found.least_ms == pytest.approx(7.5 / 4)
    # In open ground it is the log law, and nothing else.
    open_site = replace(situation.site, surroundings=type(situation.site.surroundings)("open"))
    there = replace(situation, site=open_site)
    mean = spread_of(there, [of(at, 5.0), of(at, 5.0)])
    assert mean is not None
    height = there.return_height_m
    assert mean.mean_ms == pytest.approx(float(log_profile(5.0, 60, height, 0.03)), rel=0.02)
    assert mean.share == 0


def test_one_forecast_or_one_of_another_day_has_no_spread(situation: Situation) -> None:
    at = situation.takeoff_at
    assert spread_of(situation, [of(at, 5.0)]) is None
    assert spread_of(situation, [of(at, 5.0), of(at + timedelta(days=2), 9.0)]) is None


def test_the_chance_rests_on_how_far_forecasts_differ(situation: Situation) -> None:
    there = situation.in_forecast(of(situation.takeoff_at, 5.0))
    assert there is not None

    def spread(share: float | None) -> float:
        flyer = Assessment(replace(there, forecast_spread=share)).flyer
        assert flyer is not None
        return wind_spread(flyer)

    usual = situation.minimums.wind_spread_pct / 100
    assert spread(None) == usual
    assert spread(0.45) == 0.45
    assert spread(0.15) == 0.15
    assert spread(0.0) == usual / 2, "that two agree makes neither certain"
    wide = Assessment(replace(there, forecast_spread=0.6)).chance
    narrow = Assessment(replace(there, forecast_spread=0.0)).chance
    assert wide is not None
    assert narrow is not None
    assert wide.landing_low_pct < narrow.landing_low_pct


def test_the_stricter_of_two_is_the_greater(situation: Situation) -> None:
    at = situation.takeoff_at
    judged = []
    for speed in (3.0, 6.0, 18.0):
        there = situation.in_forecast(of(at, speed, gust=speed * 1.4))
        assert there is not None
        judged.append(judge(there))
    assert sorted(judged, key=strictness) == judged
    assert judged[-1].verdict == "stay"
