"""What the pilot saw on site."""

from __future__ import annotations

from zealous_lark.core.assessment import Assessment
from zealous_lark.core.checks.base import SEVERITY, Finding, Status, check, lower_first
from zealous_lark.core.preflight.arrival import looks
from zealous_lark.core.situation import Seen, Situation

KEEPS_DOWN = frozenset({Seen.PEOPLE, Seen.BOATS, Seen.OVERHEAD, Seen.EMERGENCY, Seen.QUIET})
"""What nobody launches beside; all else is care. Common practice."""


def _something(situation: Situation) -> bool:
    """Confined to where something was seen."""
    return bool(situation.site.seen)


def counts_as(seen: Seen) -> Status:
    """What something that was seen does to the verdict."""
    return Status.FAIL if seen in KEEPS_DOWN else Status.CARE


@check("site.seen", "What you saw there", "", "The site survey: common practice.", only=_something)
def seen(a: Assessment) -> Finding:
    """What the pilot saw on site, the gravest first, with what to do about it."""
    if not a.situation.site.seen:
        return Finding(Status.PASS, None, None, 0.0, "Nothing was seen there.",
                       ("The site survey found nothing that counts.",), shown="nothing")  # fmt: skip
    found = [(counts_as(Seen(x.key)), x) for x in looks() if x.key in a.situation.site.seen]
    found.sort(key=lambda row: -SEVERITY[row[0]])
    status, first = found[0]
    words = [f"{x.question.rstrip('?')}: {lower_first(x.then)}" for _, x in found]
    used = 1.5 if status is Status.FAIL else 0.9
    shown = first.question.rstrip("?") if len(found) == 1 else f"{len(found)} things"
    return Finding(status, None, None, used, words[0], tuple(words), shown=shown)
