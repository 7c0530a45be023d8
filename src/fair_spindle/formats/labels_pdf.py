"""Labels for bags of bolts: what is in the bag, and a code that opens the map where it belongs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.formats.pdf_pages import pages, words

ACROSS = 2
WIDE, HIGH, CODE = 89.0, 38.0, 27.0  # mm


@value_object
class Label:
    """One bag: the job, what its fasteners hold, what they are, and the address of their map."""

    job: str
    title: str
    lines: tuple[str, ...]
    address: str


def write_labels(car: str, labels: Sequence[Label]) -> bytes:
    """Lay labels out on A4, two abreast, to be cut along their lines."""
    from reportlab.lib import colors
    from reportlab.lib.units import mm
    from reportlab.platypus import Table

    cells = [_cell(one) for one in labels]
    rows = [cells[at : at + ACROSS] for at in range(0, len(cells), ACROSS)]
    rows[-1] += [""] * (ACROSS - len(rows[-1]))
    grid = Table(
        rows,
        colWidths=[WIDE * mm] * ACROSS,
        rowHeights=[HIGH * mm] * len(rows),
        style=[("GRID", (0, 0), (-1, -1), 0.3, colors.black), ("VALIGN", (0, 0), (-1, -1), "MIDDLE")],
    )
    return pages(f"{car}: labels", [grid])


def _cell(label: Label) -> Any:
    from reportlab.lib.units import mm
    from reportlab.platypus import KeepInFrame, Table

    said = [words(label.job, "body"), words(label.title, "step"), *(words(line, "body") for line in label.lines)]
    fitted = KeepInFrame((WIDE - CODE - 8) * mm, (HIGH - 4) * mm, said)
    return Table(
        [[_code(label.address, CODE * mm), fitted]],
        colWidths=[(CODE + 2) * mm, (WIDE - CODE - 6) * mm],
        style=[("VALIGN", (0, 0), (-1, -1), "MIDDLE"), ("LEFTPADDING", (0, 0), (-1, -1), 0)],
    )


def _code(text: str, size: float) -> Any:
    from reportlab.graphics.barcode.qr import QrCodeWidget
    from reportlab.graphics.shapes import Drawing

    return Drawing(size, size, QrCodeWidget(text, barWidth=size, barHeight=size, barLevel="M", barBorder=2))
