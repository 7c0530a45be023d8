"""CSV as workshops write it: comma or semicolon, with or without a byte-order mark."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping, Sequence

from fair_spindle.core.basics.errors import InputError

MOST_ROWS = 5000
_FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n")


def read_rows(content: bytes, needed: Sequence[str], known: Sequence[str]) -> list[tuple[int, dict[str, str]]]:
    """Read the rows of a table with a header, each with its line in the file.

    InputError names the line and the column that cannot be taken.
    """
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError("This is no text file in UTF-8. Save the table as CSV (UTF-8).", field="file") from None
    first = text.partition("\n")[0]
    delimiter = ";" if first.count(";") > first.count(",") else ","
    try:
        table = [row for row in csv.reader(io.StringIO(text), delimiter=delimiter, strict=True)]
    except csv.Error as error:
        raise InputError(f"This is no whole CSV table: {error}.", field="file") from None
    if not table:
        raise InputError("The file is empty.", field="file")
    header = [name.strip().lower() for name in table[0]]
    _check_header(header, needed, known)
    rows = []
    for line, row in enumerate(table[1:], start=2):
        if not any(cell.strip() for cell in row):
            continue
        if len(row) != len(header):
            raise InputError(
                f"Line {line} has {len(row)} cells, the header {len(header)}. "
                f"Numbers with a decimal comma need “;” between cells, or quotes.",
                field=f"line {line}",
            )
        rows.append((line, {name: _plain(cell.strip()) for name, cell in zip(header, row, strict=True)}))
    if len(rows) > MOST_ROWS:
        raise InputError(f"At most {MOST_ROWS} rows are read at once; got {len(rows)}.", field="file")
    return rows


def write_rows(columns: Sequence[str], rows: Iterable[Mapping[str, object]]) -> bytes:
    """Write a table with a header, UTF-8 with comma; no cell can be taken for a formula."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_harmless(row.get(name, "")) for name in columns])
    return out.getvalue().encode()


def _check_header(header: Sequence[str], needed: Sequence[str], known: Sequence[str]) -> None:
    missing = [name for name in needed if name not in header]
    if missing:
        raise InputError(f"The header lacks {', '.join(missing)}. It must name {', '.join(needed)}.", field="line 1")
    strange = [name for name in header if name not in known]
    if strange:
        raise InputError(f"Unknown column {strange[0]!r}. Columns are {', '.join(known)}.", field="line 1")
    if len(set(header)) != len(header):
        raise InputError("A column stands twice in the header.", field="line 1")


def _harmless(value: object) -> str:
    text = "" if value is None else str(value).replace("\r\n", "\n").replace("\r", "\n")
    quoted = text.startswith("'") or (text.startswith(_FORMULA) and not _is_number(text))
    return f"'{text}" if quoted else text


def _plain(cell: str) -> str:
    return cell[1:] if cell.startswith("'") else cell


def _is_number(text: str) -> bool:
    return text.replace(",", ".").lstrip("+-").replace(".", "", 1).isdigit()
