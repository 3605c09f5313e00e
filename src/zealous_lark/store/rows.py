"""Every row of every table, read as the kinds of value that its columns have."""

from __future__ import annotations

from sqlalchemy import Float, Integer, String, select
from sqlalchemy.orm import Session as OrmSession

from zealous_lark.store.models import Base


def read_all(s: OrmSession) -> None:
    """Read every row once. Raises ValueError, or what a value raises that is not of its column's kind."""
    for mapper in Base.registry.mappers:
        for row in s.scalars(select(mapper.class_).execution_options(yield_per=100)):
            for column in mapper.columns:
                value, kinds = getattr(row, column.key), _kinds(column.type)
                # SQLite keeps a text where a number is meant, and gives it back as one.
                if value is not None and kinds and not isinstance(value, kinds):
                    raise ValueError(f"{column.table.name}.{column.name}: {str(value)[:80]!r}")
            s.expunge(row)


def _kinds(of: object) -> tuple[type, ...]:
    if isinstance(of, Integer):
        return (int,)
    if isinstance(of, Float):
        return (int, float)
    return (str,) if isinstance(of, String) else ()
