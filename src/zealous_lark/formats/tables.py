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
        try:
            text = data.decode("utf-8-sig")
        except UnicodeDecodeError as error:
            raise BadFileError(f"a byte at {error.start} that is not UTF-8", "a table in UTF-8") from None
        self.mark = max(",;\t", key=text.split("\n", 1)[0].count)
        self.lines = max(text.count("\n"), 1)
        self._rows = csv.reader(io.StringIO(text, newline=""), delimiter=self.mark)

    @property
    def line_num(self) -> int:
        return self._rows.line_num

    def __next__(self) -> list[str]:
        try:
            return next(self._rows)
        except csv.Error as error:
            raise BadFileError(f"row {self.line_num} that cannot be read ({error})", "cells of plain text") from None
