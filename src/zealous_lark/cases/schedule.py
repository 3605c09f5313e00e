"""When a family is due again, by the package of the open spaced repetition scheduler (FSRS-6) with its own defaults.

A family's state is not kept: it is what its answers, one after another, come to.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from fsrs import Card, Rating, Scheduler, State

from zealous_lark.cases.marking import Grade

_RATINGS = {Grade.AGAIN: Rating.Again, Grade.HARD: Rating.Hard, Grade.GOOD: Rating.Good, Grade.EASY: Rating.Easy}
_SCHEDULER = Scheduler(enable_fuzzing=False)
"""Without its random spread, so that the same answers are due on the same day on every device."""


@dataclass(frozen=True, slots=True)
class Standing:
    """How a family stands: when it is due (aware), and the chance that it is remembered now, 0 to 1."""

    due: datetime
    remembered: float
    stability_days: float
    learning: bool


def standing(answers: Sequence[tuple[datetime, Grade]], now: datetime) -> Standing | None:
    """How a family stands after its answers, the first first, each with its time (aware); None before the first."""
    if not answers:
        return None
    card = Card(card_id=1, due=answers[0][0])
    for at, grade in answers:
        # A device whose clock was set back must not lead the scheduler to a time before the last answer.
        at = at if card.last_review is None else max(at, card.last_review)
        card, _ = _SCHEDULER.review_card(card, _RATINGS[grade], review_datetime=at)
    return Standing(
        card.due,
        _SCHEDULER.get_card_retrievability(card, current_datetime=max(now, card.last_review or now)),
        card.stability or 0.0,
        card.state is not State.Review,
    )
