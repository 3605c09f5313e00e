"""What was said to the items of a session's lists: the kit list, the look-round, the walkround, drills, afterwards."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.practice.drills import BY_KEY
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.store import Database, order, sessions
from zealous_lark.store import answers as stored
from zealous_lark.store.answers import Answer, Word

KIT_LIST, LOOK_ROUND, WALKROUND, DRILL_LIST, AFTER = "kit", "look_round", "walkround", "drills", "after"
LISTS = (KIT_LIST, LOOK_ROUND, WALKROUND, DRILL_LIST, AFTER)


@dataclass(frozen=True, slots=True)
class Said:
    """What the pilot says to an item; word None takes it back.

    ago_s: how long ago it was said [s], where the server was out of reach and the device kept it meanwhile.
    """

    item: str
    word: Word | None
    value: float | None = None
    note: str = ""
    ago_s: float = 0.0


class NewerWordError(Exception):
    """A word that waited is older than what was said to the item since, and is not kept."""


def said(db: Database, session_id: int, name: str) -> dict[str, Answer]:
    """Answers to a session's list, by item. Raises NotHereError, NotAllowedError (no such list)."""
    if name not in LISTS:
        raise NotAllowedError("list", name, ", ".join(LISTS))
    with db.transaction() as s:
        if sessions.find(s, session_id) is None:
            raise NotHereError(f"session {session_id} doesn't exist; it may have been deleted")
        return stored.every(s, session_id, name)


def answer(db: Database, session_id: int, name: str, word: Said, now: datetime) -> dict[str, Answer]:
    """Answer an item in place of what was said before; all answers to the list.

    A word said now is the last to be said, whatever the clock shows. One that waited counts by its age, and what was
    taken back counts as said too.
    Raises NotHereError, NotAllowedError (no such list; no such drill; a skip without a reason), NewerWordError.
    """
    if name == DRILL_LIST and word.item not in BY_KEY:
        raise NotAllowedError("item", word.item, ", ".join(BY_KEY))
    if word.word is Word.SKIP and not word.note.strip():
        raise NotAllowedError("note", "nothing", "a reason, because the item is skipped")
    at = now - timedelta(seconds=word.ago_s)
    with db.writing() as s:
        said(db, session_id, name)  # that there is such a session and list
        said_now = None if word.word is None else Answer(word.word, word.value, word.note.strip(), at)
        place = order.tick(s) - int(word.ago_s * order.SECOND)
        before = stored.last(s, session_id, name, word.item)
        if before is not None and before.order > place:
            if not _is_same(before.answer, said_now):
                raise NewerWordError
        elif said_now is None:
            stored.take_back(s, session_id, name, word.item, at, place)
        else:
            stored.put(s, session_id, name, word.item, said_now, place)
        return stored.every(s, session_id, name)


def _is_same(one: Answer | None, other: Answer | None) -> bool:
    """Whether two words say the same: one that was sent again, because its answer was lost, is taken already."""
    if one is None or other is None:
        return one is other
    return (one.word, one.value, one.note) == (other.word, other.value, other.note)
