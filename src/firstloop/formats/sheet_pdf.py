"""A sheet as PDF: its scene to the millimetre, in colour, grey, or for a copier that knows black only."""

from __future__ import annotations

from enum import StrEnum
from io import BytesIO

import segno
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from firstloop.core.sheets.marks import black_modules
from firstloop.core.sheets.scene import Box, Code, Item, Mark, Page, Ring, Rule, Sheet, Tone, Way, Words
from firstloop.formats import scripts
from firstloop.formats.page_pdf import BOLD, PLAIN


class Printing(StrEnum):
    """For which printer or copier a sheet is made."""

    COLOUR = "colour"
    GREY = "grey"
    BLACK = "black"


_TONES: dict[Printing, dict[Tone, str]] = {
    Printing.COLOUR: {
        Tone.INK: "#1b2a44",
        Tone.GREY: "#565f6e",
        Tone.PALE: "#c8d1e0",
        Tone.STRONG: "#5b78a6",
        Tone.FAINT: "#b9c6da",
        Tone.BAND: "#f5eee0",
    },
    Printing.GREY: {
        Tone.INK: "#000000",
        Tone.GREY: "#555555",
        Tone.PALE: "#c4c4c4",
        Tone.STRONG: "#777777",
        Tone.FAINT: "#b0b0b0",
        Tone.BAND: "#f4f4f4",
    },
    Printing.BLACK: {
        Tone.INK: "#000000",
        Tone.GREY: "#000000",
        Tone.PALE: "#999999",
        Tone.STRONG: "#000000",
        Tone.FAINT: "#999999",
        Tone.BAND: "#ffffff",
    },
}
_BLACK_DASH_MM = (0.9, 1.1)  # a copier that knows black only keeps dashes where it loses a pale line
_BLACK_LINE_MM = 0.2


def sheet_pdf(sheet: Sheet, title: str, printing: Printing = Printing.COLOUR) -> bytes:
    """Every page of a sheet.

    Parameters
    ----------
    title : str
        Of the document; no name of a child.
    """
    out = BytesIO()
    canvas = Canvas(out, invariant=True, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("First Loop")
    for name in (PLAIN, BOLD):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, scripts.FOLDER / f"{name}.ttf"))
    for page in sheet.pages:
        wide, tall = page.size_mm
        canvas.setPageSize((wide * mm, tall * mm))
        canvas.translate(0, tall * mm)
        canvas.scale(mm, -mm)  # millimetres, y downwards, as in the scene
        _Drawing(canvas, printing).page(page)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


class _Drawing:
    """Draws a scene on a canvas whose unit is the millimetre, y downwards."""

    def __init__(self, canvas: Canvas, printing: Printing) -> None:
        self._canvas, self._printing = canvas, printing
        self._tones = _TONES[printing]

    def page(self, page: Page) -> None:
        """Everything on a page: washes first, so that nothing is hidden."""
        washes = [one for one in page.items if isinstance(one, Box) and one.filled]
        for item in (*washes, *(one for one in page.items if one not in washes)):
            self._item(item)
        for mark in page.marks:
            self._mark(mark)
        for code in page.codes:
            self._code(code)

    def _item(self, item: Item) -> None:
        match item:
            case Rule():
                self._rule(item)
            case Box():
                self._box(item)
            case Way():
                self._way(item)
            case Ring():
                self._stroke(item.tone, item.width_mm)
                self._canvas.circle(*item.centre, item.radius_mm, stroke=1, fill=0)
            case Words():
                self._words(item)

    def _stroke(self, tone: Tone, width_mm: float, dash: tuple[float, float] | None = None) -> None:
        c = self._canvas
        c.setStrokeColor(self._tones[tone])
        c.setLineWidth(width_mm)
        c.setLineCap(0 if dash else 1)
        c.setLineJoin(1)
        c.setDash(list(dash) if dash else [])

    def _rule(self, rule: Rule) -> None:
        dash, width = rule.dash_mm, rule.width_mm
        if self._printing is Printing.BLACK and rule.tone is Tone.FAINT:
            dash, width = _BLACK_DASH_MM, min(width, _BLACK_LINE_MM)
        self._stroke(rule.tone, width, dash)
        self._canvas.line(*rule.start, *rule.end)

    def _box(self, box: Box) -> None:
        left, top, right, bottom = box.area
        if box.filled:
            self._canvas.setFillColor(self._tones[box.tone])
        else:
            self._stroke(box.tone, box.width_mm)
        self._canvas.rect(
            left, top, right - left, bottom - top, stroke=0 if box.filled else 1, fill=1 if box.filled else 0
        )

    def _way(self, way: Way) -> None:
        self._stroke(way.tone, way.width_mm)
        path = self._canvas.beginPath()
        path.moveTo(*way.points[0])
        for point in way.points[1:] or way.points[:1]:  # a dot goes nowhere
            path.lineTo(*point)
        self._canvas.drawPath(path)

    def _words(self, words: Words) -> None:
        c, font, size = self._canvas, BOLD if words.bold else PLAIN, words.size_pt / mm
        width = pdfmetrics.stringWidth(words.text, font, size)
        x, y = words.at
        c.saveState()
        c.translate(x - width / 2 if words.centred else x, y)
        c.scale(1, -1)
        c.setFillColor(self._tones[words.tone])
        c.setFont(font, size)
        c.drawString(0, 0, words.text)
        c.restoreState()

    def _mark(self, mark: Mark) -> None:
        self._canvas.setFillColor("#000000")
        for left, top, right, bottom in black_modules(mark):
            self._canvas.rect(left, top, right - left, bottom - top, stroke=0, fill=1)

    def _code(self, code: Code) -> None:
        (left, top), (right, _), *_ = code.corners
        matrix = segno.make(code.text, error="q", micro=False, boost_error=False).matrix
        step = (right - left) / len(matrix)
        self._canvas.setFillColor("#000000")
        for y, row in enumerate(matrix):
            for x, dark in enumerate(row):
                if dark:
                    self._canvas.rect(left + x * step, top + y * step, step, step, stroke=0, fill=1)
