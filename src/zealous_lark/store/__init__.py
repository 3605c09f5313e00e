"""Sessions, launch decisions and personal minimums in SQLite."""

from zealous_lark.store.database import Database, data_folder
from zealous_lark.store.decisions import Decision, PilotsWord
from zealous_lark.store.sessions import RevisionConflictError, Session

__all__ = ["Database", "Decision", "PilotsWord", "RevisionConflictError", "Session", "data_folder"]
