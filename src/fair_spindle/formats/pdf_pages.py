"""A4 pages, black on white: words, lists, tables, as every sheet of ours prints them."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from html import escape
from io import BytesIO
from pathlib import Path
from typing import Any

Row = Sequence[str]
# Signs that the letters lack, as the dingbats every reader of PDF has.
DINGBATS = {
    "☐": "❏",
    "☒": "✔",
    "✓": "✓",
    "✕": "✘",
    "✎": "✎",
    "▲": "▲",
    "●": "●",
    "○": "❍",
    "◔": "❍",
    "◑": "❍",
    "◐": "❍",
    "◕": "●",
    "◷": "❍",
    "→": "➔",
}
# What no letters have, in plain words.
PLAIN = {"‑": "-", "↶": "back", "⇄": "<>"}


def pages(title: str, story: list[Any]) -> bytes:
    """Lay a story out on A4; the same story gives the same bytes."""
    from reportlab.lib.pagesizes import A4
    from reportlab.lib.units import mm
    from reportlab.platypus import SimpleDocTemplate

    out = BytesIO()
    document = SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=16 * mm,
        rightMargin=16 * mm,
        topMargin=15 * mm,
        bottomMargin=15 * mm,
        title=title,
        author="Fair Spindle",
        invariant=1,
    )
    document.build(story, canvasmaker=_numbered(title))
    return out.getvalue()


def _numbered(title: str) -> Any:
    """Pages that say at their foot what they belong to, which they are, and of how many."""
    from reportlab.lib.units import mm
    from reportlab.pdfgen.canvas import Canvas

    class Numbered(Canvas):  # type: ignore[misc]
        def __init__(self, *args: Any, **more: Any) -> None:
            super().__init__(*args, **more)
            self._left: list[dict[str, Any]] = []

        def showPage(self) -> None:  # noqa: N802  the name reportlab calls
            self._left.append(dict(self.__dict__))
            self._startPage()

        def save(self) -> None:
            for number, page in enumerate(self._left, start=1):
                self.__dict__.update(page)
                _styles()
                self.setFont("Sheet", 8)
                self.drawString(16 * mm, 8 * mm, _in_letters(title)[:110])
                self.drawRightString(194 * mm, 8 * mm, f"page {number} of {len(self._left)}")
                super().showPage()
            super().save()

    return Numbered


def _in_letters(text: str) -> str:
    """Text with what the letters lack left out or in plain words: for where no other font can be mixed in."""
    return "".join(PLAIN.get(sign, "" if sign in DINGBATS else sign) for sign in text)


def signs(text: str) -> str:
    """Escaped text with every sign set in the font that has it."""
    found = []
    for sign in escape(text):
        if sign in DINGBATS:
            found.append(f'<font name="ZapfDingbats">{DINGBATS[sign]}</font>')
        elif sign in PLAIN or _has("Sheet", sign) or not _has("Vera", sign):
            found.append(PLAIN.get(sign, sign))
        else:
            found.append(f'<font name="Vera">{sign}</font>')
    return "".join(found)


def lines(title: str, lines: Sequence[str]) -> list[Any]:
    """A titled list; nothing where it is empty."""
    return [words(title, "part"), *(words(f"• {line}") for line in lines)] if lines else []


def words(text: str, style: str = "body") -> Any:
    """A paragraph in the product's letters, with the signs they lack from those that have them."""
    from reportlab.platypus import Paragraph

    return Paragraph(signs(text).replace("\n", "<br/>"), _styles()[style])


def table(head: Row, rows: Sequence[Row]) -> Any:
    """A table whose head is repeated on each page."""
    from reportlab.lib import colors
    from reportlab.platypus import Table

    cells = [[words(cell, "bold") for cell in head], *([words(cell) for cell in row] for row in rows)]
    return Table(
        cells,
        repeatRows=1,
        hAlign="LEFT",
        style=[
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.black),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("RIGHTPADDING", (0, 0), (-1, -1), 4),
            ("TOPPADDING", (0, 0), (-1, -1), 2),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
        ],
    )


def rows_of(steps: Sequence[Row]) -> Any:
    """Steps with their box and number: title large, then what is done, with what, and what can hurt."""
    from reportlab.lib import colors
    from reportlab.lib.units import mm
    from reportlab.platypus import Table

    cells = [
        [words(box, "step"), [words(title, "step"), *(words(one) for one in (detail, tools, warned) if one)]]
        for box, title, detail, tools, warned in steps
    ]
    return Table(
        cells,
        hAlign="LEFT",
        colWidths=[16 * mm, 160 * mm],
        style=[
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.black),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
        ],
    )


@cache
def _has(font: str, sign: str) -> bool:
    from reportlab.pdfbase import pdfmetrics

    _styles()
    return ord(sign) in pdfmetrics.getFont(font).face.charToGlyph


@cache
def _styles() -> dict[str, Any]:
    import reportlab
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    own = Path(__file__).parent / "letters"
    pdfmetrics.registerFont(TTFont("Sheet", own / "barlow-regular.ttf"))
    pdfmetrics.registerFont(TTFont("SheetBold", own / "barlow-semibold.ttf"))
    pdfmetrics.registerFont(TTFont("Vera", Path(reportlab.__file__).parent / "fonts" / "Vera.ttf"))
    body = ParagraphStyle("body", fontName="Sheet", fontSize=9, leading=11.5)
    bold = ParagraphStyle("bold", body, fontName="SheetBold")
    return {
        "body": body,
        "bold": bold,
        "part": ParagraphStyle("part", bold, fontSize=11, leading=14, spaceBefore=9, spaceAfter=3),
        "floor": ParagraphStyle("floor", body, fontSize=13, leading=17),
        "step": ParagraphStyle("step", bold, fontSize=11, leading=13),
        "large": ParagraphStyle("large", bold, fontSize=34, leading=42, spaceAfter=6),
        "head": ParagraphStyle("head", bold, fontSize=16, leading=20),
    }
