"""What was said to the items of a session's lists: the kit list, the walkround."""

from __future__ import annotations

from zealous_lark.desk.errors import NotHereError
from zealous_lark.store import Database, sessions
from zealous_lark.store import answers as stored
from zealous_lark.store.answers import Answer

WALKROUND, LOOK_ROUND, AFTER = "walkround", "look_round", "after"
"""Lists of the site and of what comes after; the kit list is the Pack stage's own."""


def _must_be_here(db: Database, session_id: int) -> None:
    with db.transaction() as s:
        if sessions.find(s, session_id) is None:
            raise NotHereError(f"there is no session {session_id}; it may have been deleted")


def said(db: Database, session_id: int, name: str) -> dict[str, Answer]:
    """Answers to a session's list, by item. Raises NotHereError."""
    _must_be_here(db, session_id)
    with db.transaction() as s:
        return stored.every(s, session_id, name)


def say(db: Database, session_id: int, name: str, item: str, answer: Answer) -> None:
    """Answer an item, in place of what was said before. Raises NotHereError."""
    _must_be_here(db, session_id)
    with db.transaction() as s:
        stored.put(s, session_id, name, item, answer)


def take_back(db: Database, session_id: int, name: str, item: str) -> None:
    """Take an answer back, where there is one. Raises NotHereError."""
    _must_be_here(db, session_id)
    with db.transaction() as s:
        stored.take_back(s, session_id, name, item)


def clear(db: Database, session_id: int, name: str) -> None:
    """Take all answers to a list back. Raises NotHereError."""
    for item in said(db, session_id, name):
        take_back(db, session_id, name, item)
