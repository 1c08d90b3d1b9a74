"""Tables as text: CSV with commas, semicolons or tabs in, CSV with commas out."""

import csv
import io
import re
from collections.abc import Iterable

from isotact.core.model.problems import Problem, RefusedError

# More lines than a kit may hold pieces of: what is longer is a price list.
MAX_ROWS = 2_000


def read_table(text: str, file: str = "") -> tuple[list[str], list[tuple[int, list[str]]]]:
    """The headings and the rows with their line numbers. Raises RefusedError when this is no table."""
    body = text.lstrip("\ufeff")
    if not body.strip():
        raise RefusedError([Problem(code="empty", path="", message="found nothing; expected a table.", file=file)])
    first = body.lstrip().partition("\n")[0]
    mark = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(body), delimiter=mark, strict=True)
    rows: list[tuple[int, list[str]]] = []
    try:
        for row in reader:
            if any(cell.strip() for cell in row):
                rows.append((reader.line_num, [_bare(cell) for cell in row]))
            if len(rows) > MAX_ROWS:
                words = f"found more than {MAX_ROWS:,} rows; split the list."
                raise RefusedError([Problem(code="too-large", path="", message=words, file=file)])
    except csv.Error as error:
        words = f"this is no table: {error}."
        raise RefusedError(
            [Problem(code="not-csv", path="", message=words, hint="Save it as CSV.", file=file, line=reader.line_num)]
        ) from error
    if not rows:
        message = "found only empty cells; expected headings and lines below them."
        raise RefusedError([Problem(code="empty", path="", message=message, file=file)])
    headings, *others = rows
    return [cell.strip() for cell in headings[1]], others


_SUM = re.compile("'*[=+\\-@\t\r＝＋－＠]")
"""A cell that starts so is a sum to a spreadsheet, full-width marks too, unless an apostrophe stands before it."""


def _bare(cell: str) -> str:
    return cell[1:] if cell[:1] == "'" and _SUM.match(cell) else cell


def write_table(rows: Iterable[tuple[str, ...]]) -> str:
    """Rows as CSV. A cell that a spreadsheet would take for a sum is written as text."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    for row in rows:
        writer.writerow([f"'{cell}" if _SUM.match(cell) else cell for cell in row])
    return out.getvalue()
