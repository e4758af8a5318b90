"""A4 pages of letters and words: ruled lines, written ink and text at true size, as PDF."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import partial
from io import BytesIO

import numpy as np
from fontTools.pens.reportLabPen import ReportLabPen
from fontTools.pens.transformPen import TransformPen
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from firstloop.core.curves import FloatArray, Point
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import Move
from firstloop.core.ruling import USUAL_RULING, Box, ruling_kind
from firstloop.formats import scripts

WIDTH_MM, HEIGHT_MM = A4[0] / mm, A4[1] / mm
MARGIN_MM = 18.0
PLAIN, BOLD = "atkinson-hyperlegible-next-regular", "atkinson-hyperlegible-next-bold"  # as on the screens
_INK, _LINE, _FAINT, _BAND, _GRAPHITE = "#1b2a44", "#5b78a6", "#b9c6da", "#f5eee0", "#565f6e"
_PALE = "#c8d1e0"
_BRICK = "#a63a24"


def _fonts() -> None:
    for name in (PLAIN, BOLD):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, scripts.FOLDER / f"{name}.ttf"))


def _pen(path: PDFPathObject, x: float, y: float, right: float, up: float, scale: float) -> TransformPen:
    """A pen that draws on a path of the page."""
    return TransformPen(_PathPen(None, path), (scale, 0, 0, scale, x + right, y + up))


class _PathPen(ReportLabPen):  # type: ignore[misc]
    """On the path of a canvas, which has another word for closing."""

    def _closePath(self) -> None:  # noqa: N802
        self.path.close()


class _LetterPen:
    """Draws strokes on a path of the page, in its curves; a pen as letters know it.

    Parameters
    ----------
    x, y : float
        Where the letter's origin stands, points.
    scale : float
        Points in one xh.
    """

    def __init__(self, path: PDFPathObject, x: float, y: float, scale: float) -> None:
        self._path, self._x, self._y, self._scale = path, x, y, scale

    def _at(self, point: FloatArray | Point) -> tuple[float, float]:
        return self._x + float(point[0]) * self._scale, self._y + float(point[1]) * self._scale

    def pen_down(self, start: Point) -> None:
        """Begin a stroke."""
        self._path.moveTo(*self._at(start))

    def make(self, move: Move) -> None:
        """Make one move; a dot, which goes nowhere, is a point."""
        for _, b, c, d in move.path.cubics:
            self._path.curveTo(*self._at(b), *self._at(c), *self._at(d))

    def pen_up(self) -> None:
        """Nothing to close: strokes are open."""


class Pages:
    """Draws from the top of a page downwards, in millimetres; ``y_mm`` is where the next thing goes."""

    def __init__(self, title: str) -> None:
        _fonts()
        self._out = BytesIO()
        self._canvas = Canvas(self._out, pagesize=A4, invariant=True)
        self._canvas.setTitle(title)
        self._canvas.setCreator("First Loop")
        self.y_mm = MARGIN_MM
        self._lacking: dict[str, None] = {}

    def _y(self, y_mm: float) -> float:
        return (HEIGHT_MM - y_mm) * mm

    def text(
        self, words: str, size: float = 10.5, bold: bool = False, grey: bool = False, x_mm: float = MARGIN_MM
    ) -> None:
        """A paragraph over the width that is left, and the room below it."""
        font = BOLD if bold else PLAIN
        self._canvas.setFillColor(_GRAPHITE if grey else _INK)
        for line in simpleSplit(words, font, size, (WIDTH_MM - MARGIN_MM - x_mm) * mm):
            self.y_mm += size * 0.352778 * 1.4
            self._say(line, x_mm * mm, self._y(self.y_mm), font, size)
        self.y_mm += 1.5

    def words_at(self, words: str, x_mm: float, y_mm: float, size: float = 8.5, bold: bool = False) -> None:
        """A few words with their left end and base line at a place."""
        self._canvas.setFillColor(_INK if bold else _GRAPHITE)
        self._say(words, x_mm * mm, self._y(y_mm), BOLD if bold else PLAIN, size)

    def _say(self, words: str, x: float, y: float, font: str, size: float) -> None:
        """Write words at a place, points; what the typeface lacks is drawn in another, or said later on."""
        face = pdfmetrics.getFont(font).face  # type: ignore[attr-defined]
        for plain, run in scripts.runs(words, lambda char: ord(char) in face.charToGlyph):
            if plain:
                self._canvas.setFont(font, size)
                self._canvas.drawString(x, y, run.text)
                x += self._canvas.stringWidth(run.text, font, size)
            elif run.font is None:
                self._lacking.update(dict.fromkeys(char for char in run.text if char.isprintable()))
            else:
                path = self._canvas.beginPath()
                scripts.draw(run, partial(_pen, path, x, y), size)
                self._canvas.drawPath(path, stroke=0, fill=1)
                x += scripts.width(run, size)

    def _lacking_said(self) -> str:
        """What of the page could be drawn in no typeface, in words; nothing where all could."""
        names = ", ".join(map(scripts.said, self._lacking))
        self._lacking.clear()
        return f" Not drawn here, because no typeface at hand has it: {names}." if names else ""

    def rule(self) -> None:
        """A line across the page."""
        self._canvas.setStrokeColor(_INK)
        self._canvas.setLineWidth(0.9)
        self._canvas.setDash()
        y = self._y(self.y_mm)
        self._canvas.line(MARGIN_MM * mm, y, (WIDTH_MM - MARGIN_MM) * mm, y)
        self.y_mm += 2.0

    def lines(
        self,
        x_mm: float,
        base_mm: float,
        width_mm: float,
        xh_mm: float,
        *,
        ruling: str = USUAL_RULING,
        words: Sequence[Sequence[Box]] = (),
    ) -> None:
        """The lines of a ruling, the base line at `base_mm` from the top; `words` are what gets boxes, xh."""
        c, kind = self._canvas, ruling_kind(ruling)
        if kind.washed:
            c.setFillColor(_BAND)
            c.rect(x_mm * mm, self._y(base_mm), width_mm * mm, xh_mm * mm, stroke=0, fill=1)
        for line in kind.lines:
            c.setStrokeColor(_LINE if line.strong else _FAINT)
            c.setLineWidth(0.9 if line.strong else 0.5)
            c.setDash([3, 2] if line.dashed else [])
            y = self._y(base_mm - line.height_xh * xh_mm)
            c.line(x_mm * mm, y, (x_mm + width_mm) * mm, y)
        c.setDash()
        c.setStrokeColor(_FAINT)
        c.setLineWidth(0.5)
        for left, low, right, high in kind.drawn_boxes(words):
            wide, tall = (right - left) * xh_mm, (high - low) * xh_mm
            c.rect((x_mm + left * xh_mm) * mm, self._y(base_mm - low * xh_mm), wide * mm, tall * mm, fill=0)

    def ink(
        self,
        strokes: Iterable[FloatArray],
        x_mm: float,
        base_mm: float,
        xh_mm: float,
        *,
        pale: bool = False,
        weight_mm: float = 0.5,
    ) -> None:
        """Strokes in letter space, each shape (n, 2), with their origin at `x_mm` on the base line."""
        c = self._canvas
        self._thickness(weight_mm, pale)
        for points in strokes:
            path = c.beginPath()
            places = np.column_stack(
                [(x_mm + points[:, 0] * xh_mm) * mm, (HEIGHT_MM - base_mm + points[:, 1] * xh_mm) * mm]
            )
            path.moveTo(*places[0].tolist())
            for x, y in places[1:].tolist() or places[:1].tolist():
                path.lineTo(x, y)
            c.drawPath(path)

    def model(self, letter: Letter, x_mm: float, base_mm: float, xh_mm: float, *, pale: bool = False) -> None:
        """A model letter with its origin at `x_mm`, by its own curves."""
        self._thickness(0.09 * xh_mm, pale)
        path = self._canvas.beginPath()
        letter.draw(_LetterPen(path, x_mm * mm, self._y(base_mm), xh_mm * mm))
        self._canvas.drawPath(path)

    def boxes(self, x_mm: float, top_mm: float, count: int, size_mm: float) -> None:
        """Empty square boxes side by side."""
        c = self._canvas
        c.setStrokeColor(_LINE)
        c.setLineWidth(0.9)
        for place in range(count):
            x = (x_mm + place * size_mm) * mm
            c.rect(x, self._y(top_mm + size_mm), size_mm * mm, size_mm * mm, stroke=1, fill=0)

    def cross(self, x_mm: float, top_mm: float, width_mm: float, height_mm: float) -> None:
        """Two lines through what is not to be written so."""
        c = self._canvas
        c.setStrokeColor(_BRICK)
        c.setLineWidth(1.2)
        left, right = x_mm * mm, (x_mm + width_mm) * mm
        c.line(left, self._y(top_mm), right, self._y(top_mm + height_mm))
        c.line(left, self._y(top_mm + height_mm), right, self._y(top_mm))

    def _thickness(self, weight_mm: float, pale: bool) -> None:
        c = self._canvas
        c.setStrokeColor(_PALE if pale else _INK)
        c.setLineWidth(weight_mm * mm)
        c.setLineCap(1)
        c.setLineJoin(1)

    def letters(self, letters: Iterable[Letter], xh_mm: float) -> None:
        """Letters in a line, drawn from their strokes, on to the next line where they do not fit."""
        x, base = MARGIN_MM, self.y_mm + 2.1 * xh_mm
        for one in letters:
            left, _, right, _ = one.bounds
            if x + (right - left) * xh_mm > WIDTH_MM - MARGIN_MM:
                x, base = MARGIN_MM, base + 3.4 * xh_mm
            self.model(one, x - left * xh_mm, base, xh_mm)
            x += (right - left + 0.9) * xh_mm
        self.y_mm = base + 1.3 * xh_mm

    def table(self, head: Sequence[str], rows: Iterable[Sequence[str]], widths_mm: Sequence[float]) -> None:
        """A table; a new page begins where it does not fit."""
        self._row(head, widths_mm, bold=True)
        for row in rows:
            if self.y_mm > HEIGHT_MM - MARGIN_MM - 12:
                self.next_page()
                self._row(head, widths_mm, bold=True)
            self._row(row, widths_mm)
        self.y_mm += 2.0

    def _row(self, cells: Sequence[str], widths_mm: Sequence[float], bold: bool = False) -> None:
        self.y_mm += 4.6
        x = MARGIN_MM
        for cell, width in zip(cells, widths_mm, strict=True):
            fitting = simpleSplit(cell, PLAIN, 8.5, (width - 2) * mm)[:1]
            self.words_at(fitting[0] if fitting else "", x, self.y_mm, bold=bold)
            x += width
        self._canvas.setStrokeColor(_FAINT)
        self._canvas.setLineWidth(0.3)
        y = self._y(self.y_mm + 1.4)
        self._canvas.line(MARGIN_MM * mm, y, (WIDTH_MM - MARGIN_MM) * mm, y)

    def footer(self, words: str) -> None:
        """Small words at the foot of the page; what could not be drawn on it is said there too."""
        lines = simpleSplit(words + self._lacking_said(), PLAIN, 7.5, (WIDTH_MM - 2 * MARGIN_MM) * mm)
        for i, line in enumerate(lines):
            self.words_at(line, MARGIN_MM, HEIGHT_MM - 12 - 3.6 * (len(lines) - 1 - i), size=7.5)

    def next_page(self) -> None:
        """Go on on a new page."""
        self._canvas.showPage()
        self.y_mm = MARGIN_MM

    def done(self) -> bytes:
        """The document."""
        self._canvas.save()
        return self._out.getvalue()
