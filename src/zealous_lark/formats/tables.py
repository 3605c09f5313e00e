"""Tables as text: rows of cells apart by commas, semicolons or tabs."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

from zealous_lark.formats.errors import BadFileError


class Table(Iterator[list[str]]):
    """The rows of a table in UTF-8, one after another. Raises BadFileError for bytes and rows that are none.

    mark: what parts the cells, told by the first row; line_num: the line of the file that was read last.
    """

    def __init__(self, data: bytes) -> None:
        first = data.split(b"\n", 1)[0]
        self.mark = max(",;\t", key=lambda mark: first.count(mark.encode()))
        self.lines = max(data.count(b"\n"), 1)
        # Decoded as it is read: as one text it would take four times the file.
        text = io.TextIOWrapper(io.BytesIO(data), encoding="utf-8-sig", newline="")
        self._rows = csv.reader(text, delimiter=self.mark)

    @property
    def line_num(self) -> int:
        return self._rows.line_num

    def __next__(self) -> list[str]:
        try:
            return next(self._rows)
        except UnicodeDecodeError:
            raise BadFileError(f"bytes after row {self.line_num} that are not UTF-8", "a table in UTF-8") from None
        except csv.Error as error:
            raise BadFileError(f"row {self.line_num} that cannot be read ({error})", "cells of plain text") from None
