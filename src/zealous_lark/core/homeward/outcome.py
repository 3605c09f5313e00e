"""What a flight's end is worth, what else could have been done, and until when.

The order is Lark's own: somebody hurt is worst, then a lost aircraft; down whole elsewhere is worth more than either;
home counts for most, and there each point under the reserve counts; more than the reserve is not better.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from zealous_lark.core.homeward.acts import Act, End
from zealous_lark.core.homeward.flying import Acts, Flights, Normals
from zealous_lark.core.homeward.mishap import Mishap
from zealous_lark.core.homeward.sheet import Sheet
from zealous_lark.core.homeward.state import Ended

_HURT, _LOST, _AWAY, _HOME = -100.0, 0.0, 50.0, 100.0
_A_METRE = 0.01
"""What a metre of walking to it takes off."""

THEN_S = 6.0
"""So long after a choice the next is made, in what is tried [s]."""
MOST_MOMENTS = 14
"""At so many moments the other choices are looked at, and no closer together than `LEAST_APART_S`."""
LEAST_APART_S = 6.0

_LATER_S = 90.0
FOLLOW_UPS: tuple[tuple[tuple[float, Act], ...], ...] = (
    (),
    ((0, Act.TURN_BACK),),
    ((0, Act.BY_HAND),),
    ((0, Act.FAST), (0, Act.BY_HAND)),
    ((0, Act.FAST), (0, Act.BY_HAND), (0, Act.LOWER)),
    ((0, Act.RETURN_HOME),),
    ((0, Act.LAND),),
    ((0, Act.WAIT), (_LATER_S, Act.BY_HAND)),
    ((0, Act.WAIT), (2 * _LATER_S, Act.BY_HAND)),
)
"""What may follow a choice, and how long after it [s]: the ways home that there are, and waiting first."""


def worth(ended: Ended, reserve_pct: float) -> float:
    """What an end is worth; the more, the better."""
    if ended.end is End.HURT:
        return _HURT
    spare = ended.charge_pct - reserve_pct
    if ended.end is End.HOME:
        return _HOME + min(spare, 0.0)
    if ended.end is End.AWAY:
        return _AWAY - min(_A_METRE * ended.from_home_m, _AWAY / 2)
    return _LOST


@dataclass(frozen=True, slots=True)
class Choice:
    """One choice at one moment [s]: what it leads to by itself, what could best follow it, and what that comes to."""

    at_s: float
    act: Act
    alone: Ended
    then: Acts
    ended: Ended
    worth: float


@dataclass(frozen=True, slots=True)
class Review:
    """A flight seen from its end. own: what it came to, and its worth.

    choices: of each moment and act the best that could have followed. best: the best of all, None where nothing
    would have been better than what was done. last_home_s: the last moment that was looked at from which a choice
    brings it home; last_reserve_s: home with the reserve. None: there was none.
    """

    own: Ended
    own_worth: float
    moments: tuple[int, ...]
    choices: tuple[Choice, ...]
    best: Choice | None
    last_home_s: float | None
    last_reserve_s: float | None


def moments(begins_s: float, ends_s: float) -> tuple[int, ...]:
    """Moments [s] at which other choices are looked at."""
    count = min(MOST_MOMENTS, max(int((ends_s - begins_s) / LEAST_APART_S), 1))
    apart = (ends_s - begins_s) / count
    return tuple(int(begins_s + n * apart + 0.5) for n in range(count))


def review(
    sheet: Sheet, mishap: Mishap, normals: Sequence[Normals], acts: Acts, begins_s: float, ends_s: float
) -> Review:
    """All other choices of a flight that its pilot had from `begins_s` on, and that ended at `ends_s` [s]."""
    whens = moments(begins_s, ends_s)
    tried = [(at, act, then) for at in whens for act in Act for then in FOLLOW_UPS]
    schedules = [list(acts), *([*_before(acts, at), (at, act), *_after(at, then)] for at, act, then in tried)]
    own, *ended = Flights(sheet, mishap, normals, schedules).to_the_end()
    reserve = sheet.situation.reserve_pct
    found: dict[tuple[float, Act], Choice] = {}
    for (at, act, then), end in zip(tried, ended, strict=True):
        before = found.get((at, act))  # the first of them is the choice alone
        alone = end if before is None else before.alone
        choice = Choice(at, act, alone, tuple(_after(at, then)), end, worth(end, reserve))
        if before is None or choice.worth > before.worth:
            found[at, act] = choice
    choices = tuple(found.values())
    own_worth = worth(own, reserve)
    best = max(choices, key=lambda c: c.worth, default=None)
    home = [c for c in choices if c.ended.end is End.HOME]
    return Review(
        own,
        own_worth,
        whens,
        choices,
        best if best is not None and best.worth > own_worth else None,
        max((c.at_s for c in home), default=None),
        max((c.at_s for c in home if c.ended.charge_pct >= reserve), default=None),
    )


def _before(acts: Acts, at_s: float) -> Acts:
    return [(when, act) for when, act in acts if when < at_s]


def _after(at_s: float, then: Acts) -> Acts:
    return [(at_s + THEN_S + later, act) for later, act in then]
