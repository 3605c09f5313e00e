"""When drills are due, and how far the course for first flights has come."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from zealous_lark.core.practice.course import COURSE, Done, course, standings, wanted
from zealous_lark.core.practice.drills import BY_KEY, DRILLS

NOW = datetime(2026, 9, 27, 12, tzinfo=UTC)
DAY = timedelta(days=1)


def done(drill: str, session: int | None = 1, days_ago: float = 1, *, well: bool = True) -> Done:
    return Done(drill, session, NOW - days_ago * DAY, well)


def standing(key: str, *what: Done):  # type: ignore[no-untyped-def]
    return next(s for s in standings(what) if s.drill.key == key)


def test_a_drill_is_due_again_after_its_days_and_a_try_that_failed_does_not_count() -> None:
    every = BY_KEY["nose_in"].every_days
    fresh, old = done("nose_in", days_ago=every - 0.5), done("nose_in", days_ago=every + 0.5)
    assert not standing("nose_in", fresh).due(NOW)
    assert standing("nose_in", old).due(NOW)
    failed = standing("nose_in", old, done("nose_in", days_ago=1, well=False))
    assert (failed.due(NOW), failed.tries, failed.last) == (True, 2, old.at)


def test_from_the_beginning_only_the_two_returns_are_due() -> None:
    due = {s.drill.key for s in standings(()) if s.due(NOW)}
    assert due == {"automatic_return", "manual_return"}


def test_the_course_orders_drills_over_five_sessions() -> None:
    assert len(COURSE) == 5
    assert (course(()).step, [d.key for d in course(()).left]) == (1, list(COURSE[0]))
    half = course([done(COURSE[0][0])])
    assert (half.step, [d.key for d in half.left]) == (1, list(COURSE[0][1:]))
    every = [done(key, n, 30 - n) for n, step in enumerate(COURSE) for key in step]
    assert course(every).done
    assert course(every[:-1]).step == 5


def test_two_sessions_of_the_course_are_never_done_in_one() -> None:
    in_one = [done(key, 7, 9 - i) for i, key in enumerate(k for step in COURSE for k in step)]
    assert course(in_one).step == 2
    # Nor by what the logbook alone knows, which names no session.
    assert course([done(key, None) for step in COURSE for key in step]).step == 1


@given(
    st.lists(
        st.builds(
            done,
            st.sampled_from([d.key for d in DRILLS]),
            st.integers(1, 6),
            st.floats(0, 100),
            well=st.booleans(),
        ),
        max_size=30,
    )
)
def test_more_done_never_takes_the_course_back(what: list[Done]) -> None:
    ordered = sorted(what, key=lambda d: d.at)
    reached = [course(ordered[:n]) for n in range(len(ordered) + 1)]
    steps = [c.step or len(COURSE) + 1 for c in reached]
    assert steps == sorted(steps)
    assert steps[-1] - 1 <= len({d.session for d in what if d.well})
    for c in reached:
        assert c.done == (c.left == ())
        if c.step is not None:
            assert {d.key for d in c.left} <= set(COURSE[c.step - 1])


def test_on_first_flights_the_course_comes_first_and_what_it_comes_to_later_waits() -> None:
    def names(*what: Done, first: bool) -> list[str]:
        return [d.key for d in wanted(standings(what), course(what), NOW, first_flights=first)]

    assert names(first=False) == ["automatic_return", "manual_return"]
    assert names(first=True) == list(COURSE[0])
    lapsed = done("hand_landing", days_ago=400)
    assert names(lapsed, first=True) == [*COURSE[0], "hand_landing"]
    every = [done(key, n, 300 - n) for n, step in enumerate(COURSE) for key in step]
    assert set(names(*every, first=True)) == {key for step in COURSE for key in step}
