"""Launch windows out of a forecast."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta, timezone

import pytest

from tests.make import changed
from zealous_lark.core.forecast import Forecast, Hour
from zealous_lark.core.light import Glow
from zealous_lark.core.readings import WindLevel, WindSource
from zealous_lark.core.site_wind import site_wind
from zealous_lark.core.situation import Situation, SpeedMode
from zealous_lark.core.time_height import HEIGHTS_M, curtain
from zealous_lark.core.verdict import Verdict, judge
from zealous_lark.core.windows import MINUTE, Clock, Slot, Subject, Window, half_hours, slots, windows


def calm(begin: datetime, hours: int, wind: float = 2.0, **later: float) -> Forecast:
    """The same air every hour, but for `later`: the wind from an hour on, as from_5=9."""
    changes = {int(k.removeprefix("from_")): v for k, v in later.items()}
    found = []
    for n in range(hours):
        wind = changes.get(n, wind)
        level = WindLevel(10, wind, 240, WindSource.FORECAST, wind * 1.4)
        found.append(Hour(begin + timedelta(hours=n), (level,), 12.0, 2.0, 20.0, 0.0, 20_000.0, 2.0))
    return Forecast("Made", begin, tuple(found))


def looked(s: Situation, times: list[datetime], best: bool = False) -> tuple[tuple[Slot, ...], tuple[Window, ...]]:
    """The half hours and the windows at these times."""
    clock = Clock(s)
    found = slots(s, times, clock=clock)
    return found, windows(found, clock, best=best)


@pytest.fixture
def close_by(situation: Situation) -> Situation:
    """A flight that is within sight, so that wind and light decide."""
    return changed(situation, flight__distance_m=90.0, flight__station_min=3.0)


def test_half_hours_begin_at_a_full_one() -> None:
    found = half_hours(datetime(2026, 9, 27, 6, 44, 12, tzinfo=UTC), 3)
    assert [f"{t:%H:%M:%S}" for t in found] == ["06:30:00", "07:00:00", "07:30:00"]


def test_each_slot_is_the_whole_check_at_that_time(close_by: Situation) -> None:
    begin = datetime(2026, 9, 27, 3, tzinfo=UTC)
    s = changed(close_by, forecast=calm(begin, 14, from_5=4.5, from_9=9.0))
    for slot in slots(s, half_hours(begin, 24)):
        judgement = judge(s.moved_to(slot.at))
        assert slot.planned is not None
        assert (slot.planned.verdict, slot.planned.check) == (judgement.verdict, judgement.tightest.check.id)


def test_a_window_says_what_opens_and_closes_it(close_by: Situation) -> None:
    begin = datetime(2026, 9, 27, 0, tzinfo=UTC)
    s = changed(close_by, forecast=calm(begin, 20, from_11=9.0))
    _, (found,) = looked(s, half_hours(begin, 36))
    # Civil twilight begins at about 3:30 UTC there, and from 10:00 on the wind is on its way from 2 to 9 m/s.
    assert begin + timedelta(hours=3, minutes=20) < found.begin < begin + timedelta(hours=4)
    assert begin + timedelta(hours=10) < found.end < begin + timedelta(hours=10, minutes=30)
    assert found.opens is not None
    assert found.opens.label == "Daylight"
    assert found.closes is not None
    assert found.closes.check.startswith("wind.")
    assert not found.closes.flies
    assert found.clear


@pytest.mark.parametrize("best", [False, True])
@pytest.mark.parametrize("begin_minute", [0, 17])
def test_windows_end_to_the_minute_when_the_whole_check_says_so(
    close_by: Situation, best: bool, begin_minute: int
) -> None:
    """A front with wind and rain at eleven, daylight before: the minute inside flies, the one outside does not."""
    begin = datetime(2026, 9, 27, 0, begin_minute, tzinfo=UTC)
    dry = calm(begin, 20, from_13=7.0)
    wet = tuple(replace(h, rain_mmh=3.0) if 8 <= n <= 9 else h for n, h in enumerate(dry.hours))
    s = changed(close_by, forecast=replace(dry, hours=wet))
    _, found = looked(s, half_hours(begin, 40), best)
    assert [w.closes.check for w in found if w.closes][:1] == ["weather.precipitation"]
    # It may begin to fall right after the hour that is dry, and until right before the next dry one.
    assert found[0].end == begin + timedelta(hours=7) - MINUTE
    assert found[1].begin == begin + timedelta(hours=10) + MINUTE
    clock = Clock(s)
    for window in found:
        for inside, outside, said in (
            (window.begin, window.begin - MINUTE, window.opens), (window.end, window.end + MINUTE, window.closes)
        ):  # fmt: skip
            in_, out = clock(inside), clock(outside)
            assert in_ is not None
            assert (in_.best if best else in_.planned).flies
            if out is not None:
                told = out.best if best else out.planned
                assert not told.flies
                assert said == told


def test_beyond_the_forecast_nothing_is_said(close_by: Situation) -> None:
    begin = datetime(2026, 9, 27, 8, tzinfo=UTC)
    found, (window,) = looked(changed(close_by, forecast=calm(begin, 3)), half_hours(begin, 8))
    assert [slot.planned is not None for slot in found] == [True] * 5 + [False] * 3
    assert window.end == begin + timedelta(hours=2)
    assert window.closes is None


def test_the_best_bearing_is_no_worse_and_is_the_one_it_says(close_by: Situation) -> None:
    begin = datetime(2026, 9, 27, 6, tzinfo=UTC)
    downwind = changed(
        close_by,
        flight__bearing_deg=60.0,
        flight__return_mode=SpeedMode.SLOW,
        forecast=calm(begin, 5, 2.9),
    )
    rank = [Verdict.LAUNCH, Verdict.CARE, Verdict.UNKNOWN, Verdict.STAY]
    for slot in slots(downwind, half_hours(begin, 8)):
        assert slot.planned is not None
        assert slot.best is not None
        assert (slot.planned.clear, slot.best.clear) == (False, True)
        turned = changed(downwind.moved_to(slot.at), flight__bearing_deg=slot.best.bearing_deg)
        assert judge(turned).verdict is slot.best.verdict
        assert rank.index(slot.best.verdict) <= rank.index(slot.planned.verdict)


def daylit(s: Situation, begin: datetime) -> list[float]:
    """Lengths of the windows of two calm days, in hours."""
    _, found = looked(changed(s, forecast=calm(begin, 49)), half_hours(begin))
    return [(w.end - w.begin) / timedelta(hours=1) for w in found]


def test_at_58_degrees_in_june_the_nights_are_short(close_by: Situation) -> None:
    begin = datetime(2026, 6, 20, 12, tzinfo=timezone(timedelta(hours=3)))
    found, (first, second, third) = looked(changed(close_by, forecast=calm(begin, 49)), half_hours(begin))
    # Civil twilight lasts from about 3:00 to 24:00 local summer time; the sun stays under 10° below the horizon.
    assert (second.end - second.begin) > timedelta(hours=19)
    assert first.closes is not None
    assert first.closes.check == second.closes.check == "sight.daylight"  # type: ignore[union-attr]
    assert third.opens is not None
    assert {s.glow for s in found} == {Glow.NIGHT, Glow.TWILIGHT, Glow.GOLDEN, Glow.DAY}


def test_at_68_degrees_in_december_there_is_only_twilight(close_by: Situation) -> None:
    north = changed(close_by, site__latitude=68.0)
    begin = datetime(2026, 12, 20, 12, tzinfo=timezone(timedelta(hours=2)))
    found, cut = looked(changed(north, forecast=calm(begin, 49)), half_hours(begin))
    assert {s.glow for s in found} == {Glow.NIGHT, Glow.TWILIGHT}
    for window in cut:
        assert window.end - window.begin < timedelta(hours=6)
        assert not window.clear  # twilight is care at best
    assert len(cut) == 3


def test_glare_is_towards_the_subjects_in_front_of_a_low_sun(close_by: Situation) -> None:
    begin = datetime(2026, 9, 27, 5, tzinfo=UTC)
    subjects = (Subject("east", 100), Subject("west", 280))
    (slot, *_) = slots(changed(close_by, forecast=calm(begin, 3)), [begin], subjects)
    assert 0 < slot.sun.elevation_deg < 25
    assert slot.glare_towards == ("east",)


def test_the_curtain_is_the_wind_that_the_checks_see(close_by: Situation) -> None:
    begin = datetime(2026, 9, 27, 5, tzinfo=UTC)
    s = changed(close_by, forecast=calm(begin, 3, 4.0))
    (column, outside) = curtain(s, [begin + timedelta(hours=1), begin + timedelta(hours=9)])
    wind = site_wind(s.site, s.moved_to(begin + timedelta(hours=1)).weather.winds)
    assert wind is not None
    i = HEIGHTS_M.index(40)
    assert column.speed_ms[i] == pytest.approx(float(wind.speed_ms(40)))
    steady, gust = float(wind.speed_ms(40)) / (10.7 / 2), float(wind.gust_ms(40)) / 10.7
    assert column.used[i] == pytest.approx(max(steady, gust))
    assert outside.used == (None,) * len(HEIGHTS_M)
    assert outside.hour is None
