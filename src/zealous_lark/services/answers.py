"""What was said to the items of a session's lists: the kit list, the look-round, the walkround, drills, afterwards."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from zealous_lark.core.practice.drills import BY_KEY
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.store import Database, sessions
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


def said(db: Database, session_id: int, name: str) -> dict[str, Answer]:
    """Answers to a session's list, by item. Raises NotHereError, NotAllowedError (no such list)."""
    if name not in LISTS:
        raise NotAllowedError("list", name, ", ".join(LISTS))
    with db.transaction() as s:
        if sessions.find(s, session_id) is None:
            raise NotHereError(f"session {session_id} doesn't exist; it may have been deleted")
        return stored.every(s, session_id, name)


def answer(db: Database, session_id: int, name: str, word: Said, now: datetime) -> dict[str, Answer]:
    """Answer an item in place of what was said before, unless that was said later; all answers to the list.

    What was taken back counts as said too. Nobody answers between the look at what was said and the answer.
    Raises NotHereError, NotAllowedError (no such list; no such drill; a skip without a reason).
    """
    if name == DRILL_LIST and word.item not in BY_KEY:
        raise NotAllowedError("item", word.item, ", ".join(BY_KEY))
    if word.word is Word.SKIP and not word.note.strip():
        raise NotAllowedError("note", "nothing", "a reason, because the item is skipped")
    at = now - timedelta(seconds=word.ago_s)
    with db.writing() as s:
        said(db, session_id, name)  # that there is such a session and list
        before = stored.last_said_at(s, session_id, name, word.item)
        if before is None or before <= at:
            if word.word is None:
                stored.take_back(s, session_id, name, word.item, at)
            else:
                stored.put(s, session_id, name, word.item, Answer(word.word, word.value, word.note.strip(), at))
        return stored.every(s, session_id, name)
