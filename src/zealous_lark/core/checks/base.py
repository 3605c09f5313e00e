"""What a check is: data about itself, and one function from an assessment to a finding.

A check has three steps. It takes what it compares from the assessment (computed), sets it against its limit
(judged), and leaves words that are only put together when somebody reads them (said): a fix tries hundreds of
plans, and nobody reads those.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from enum import StrEnum

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.situation import Situation
from zealous_lark.core.units import Units

MOST_USED = 9.99
"""Shares of a limit are not told apart beyond this; some have no upper end."""

OWN_MINIMUM = "Your personal minimum; the default is common practice."


class Status(StrEnum):
    """Worst last."""

    PASS = "pass"
    CARE = "care"
    UNKNOWN = "unknown"
    FAIL = "fail"


SEVERITY = {Status.PASS: 0, Status.CARE: 1, Status.UNKNOWN: 2, Status.FAIL: 3}
"""What outranks what in a verdict."""


Words = str | Callable[[Units], str]
"""What is said: where numbers are in it, only once the pilot's units are known."""
Lines = tuple[str, ...] | Callable[[Units], tuple[str, ...]]


def said(words: Words, units: Units) -> str:
    """Words in a pilot's units."""
    return words if isinstance(words, str) else words(units)


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check found; two are equal where they measure and judge alike, whatever they say.

    value, limit: in the check's unit, None when not known.
    used: share of the limit that is used, 1.0 at the limit, 0 to `MOST_USED`; None when not known.
    say: what a pilot would say. work: the real numbers, one step a line.
    follows: the check whose fault this one only repeats, which is then named first.
    shown: words for the board where value and limit are no numbers with a unit.
    question: what to ask the pilot while it is not known. asks: the plan document's key of the value that is asked
    for, where one touch can confirm it.
    standing: true of every flight with this aircraft, so it is not what to watch first.
    matters: whether an unknown counts already; what only the powered aircraft can tell
    is asked, but does not count while the plan is made at home.
    """

    status: Status
    value: float | None
    limit: float | None
    used: float | None
    say: Words = field(compare=False)
    work: Lines = field(default=(), compare=False)
    follows: str | None = None
    shown: Words | None = field(default=None, compare=False)
    question: Words | None = field(default=None, compare=False)
    asks: str | None = None
    standing: bool = False
    matters: bool = True

    def sentence(self, units: Units) -> str:
        """The finding in one sentence."""
        return said(self.say, units)

    def working(self, units: Units) -> tuple[str, ...]:
        """The real numbers behind it, one step a line."""
        return self.work if isinstance(self.work, tuple) else self.work(units)


class Bound(StrEnum):
    """Which side of its limit a value has to stay on."""

    AT_MOST = "at_most"
    AT_LEAST = "at_least"


Judge = Callable[[Assessment], Finding]
Where = Callable[[Situation], bool]


def everywhere(_situation: Situation) -> bool:
    """Confined to nothing."""
    return True


def over_water(situation: Situation) -> bool:
    """Confined to flights over water."""
    return situation.over_water


@dataclass(frozen=True, slots=True)
class Check:
    """A check: its name in results, its label on the board, the unit of its values, its source.

    indoors: whether it applies where there is a roof. only: where else it is confined to.
    above: whether it rests on the wind up there, of which a reading in shelter says nothing good.
    """

    id: str
    label: str
    unit: str
    source: str
    judge: Judge
    bound: Bound = Bound.AT_MOST
    indoors: bool = True
    only: Where = everywhere
    above: bool = False

    def applies(self, assessment: Assessment) -> bool:
        """Whether the check belongs to the situation at all."""
        situation = assessment.situation
        return (self.indoors or not situation.site.indoors) and self.only(situation)

    def find(self, assessment: Assessment) -> Finding:
        """What the check finds; where only sheltered readings tell of the wind, nothing good."""
        found = self.judge(assessment)
        if not self.above or found.status not in (Status.PASS, Status.CARE):
            return found
        wind = assessment.wind
        if wind is None or not wind.sheltered:
            return found
        asks = self.id == "wind.steady"
        return replace(
            found,
            status=Status.UNKNOWN,
            used=None,
            say=lambda u: (
                "Read in shelter, which says nothing good about the wind above. By it: "
                + lower_first(found.sentence(u))
            ),
            follows=None if asks else "wind.steady",
            question=SHELTER_QUESTION if asks else None,
        )


_REGISTER: list[Check] = []


def registered() -> tuple[Check, ...]:
    """The checks whose modules have been imported."""
    return tuple(_REGISTER)


def check(
    id: str,
    label: str,
    unit: str,
    source: str,
    *,
    bound: Bound = Bound.AT_MOST,
    indoors: bool = True,
    only: Where = everywhere,
    above: bool = False,
) -> Callable[[Judge], Judge]:
    """Mark a function as the check `id`. Raises ValueError when the name is taken."""

    def register(judge: Judge) -> Judge:
        if any(known.id == id for known in _REGISTER):
            raise ValueError(f"there already is a check {id}")
        _REGISTER.append(Check(id, label, unit, source, judge, bound, indoors, only, above))
        return judge

    return register


SHELTER_QUESTION = "What is the wind clear of the shelter, by forecast or in a hover?"


def lower_first(sentence: str) -> str:
    """A sentence as part of another one."""
    return sentence[:1].lower() + sentence[1:]


def wind_not_known(limit: float | None, follows: str | None = "wind.steady") -> Finding:
    """The finding of a check that needs the wind above, while there is no reading at all."""
    sentence = "The wind is not known. Add a forecast, or a reading."
    question = "What is the wind, by forecast or by a reading?" if follows is None else None
    return Finding(Status.UNKNOWN, None, limit, None, sentence, (), follows, question=question)


def share_of_ceiling(value: float, limit: float) -> float:
    """Share used of a limit that a value must stay under."""
    if value <= 0:
        return 0.0
    return min(value / limit, MOST_USED) if limit > 0 else MOST_USED


def share_of_floor(value: float, limit: float) -> float:
    """Share used of a limit that a value must stay above: the limit over the value."""
    if limit <= 0:
        return 0.0
    return min(limit / value, MOST_USED) if value > 0 else MOST_USED


def share_of_budget(start: float, left: float, reserve: float) -> float:
    """Share used of what may be used up between a start and a reserve."""
    return share_of_ceiling(start - left, start - reserve)
