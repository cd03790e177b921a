"""Cells of a CSV table that a spreadsheet neither runs nor mangles."""

from collections.abc import Iterable, Sequence
from csv import writer
from io import StringIO

# What a spreadsheet takes for the start of a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def written(rows: Iterable[Sequence[object]]) -> str:
    """Rows as CSV text (RFC 4180); text that looks like a formula is led by an apostrophe."""
    text = StringIO()
    table = writer(text)
    for row in rows:
        table.writerow([_cell(value) for value in row])
    return text.getvalue()


def _cell(value: object) -> object:
    if value is None:
        return ""
    if isinstance(value, str) and value.startswith((*_FORMULA, "'")):
        return f"'{value}"
    return f"{value:.10g}" if isinstance(value, float) else value


def plain(cell: str) -> str:
    """A cell as it was before it was written."""
    text = cell.strip()
    return text[1:] if text.startswith("'") else text
