"""A4 pages of letters and words: ruled lines, written ink and text at true size, as PDF."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from io import BytesIO

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfgen.canvas import Canvas

from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.model import Letter
from firstloop.core.ruling import USUAL_RULING, Box, Ruling, ruling_kind
from firstloop.core.sheets.draw import boxed, ruled, written
from firstloop.core.sheets.scene import Tone, Way
from firstloop.formats import scripts
from firstloop.formats.scene_pdf import BOLD, PLAIN, SceneDrawing, say

WIDTH_MM, HEIGHT_MM = A4[0] / mm, A4[1] / mm
MARGIN_MM = 18.0
_INK, _FAINT, _GRAPHITE = "#1b2a44", "#b9c6da", "#565f6e"
_INK_MM = 0.5
_BRICK = "#a63a24"


class Pages:
    """Draws from the top of a page downwards, in millimetres; ``y_mm`` is where the next thing goes."""

    def __init__(self, title: str) -> None:
        self._out = BytesIO()
        self._canvas = Canvas(self._out, pagesize=A4, invariant=True)
        self._canvas.setTitle(title)
        self._canvas.setCreator("First Loop")
        self._scene = SceneDrawing(self._canvas, HEIGHT_MM)
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
        """Write words at a place, points; what no typeface has is said later on."""
        self._lacking.update(dict.fromkeys(say(self._canvas, words, x, y, font, size)))

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
        kind = ruling_kind(ruling)
        lines = Ruling(base_mm - xh_mm, base_mm)
        self._scene.items(ruled(kind, lines, x_mm, x_mm + width_mm))
        self._scene.items(boxed(kind, words, lines, x_mm))

    def ink(
        self,
        strokes: Iterable[FloatArray],
        x_mm: float,
        base_mm: float,
        xh_mm: float,
        *,
        pale: bool = False,
        weight_mm: float = _INK_MM,
    ) -> None:
        """Strokes in letter space, each shape (n, 2), with their origin at `x_mm` on the base line."""
        tone = Tone.PALE if pale else Tone.INK
        places = ((x_mm, base_mm) + points * (xh_mm, -xh_mm) for points in strokes)
        self._scene.items(Way(tuple(map(tuple, one.tolist())), weight_mm, tone) for one in places)

    def model(self, letter: Letter, x_mm: float, base_mm: float, xh_mm: float, *, pale: bool = False) -> None:
        """A model letter with its origin at `x_mm`, by its own curves."""
        lines = Ruling(base_mm - xh_mm, base_mm)
        self._scene.items([written(letter, lines, x_mm, Tone.PALE if pale else Tone.INK)])

    def cross(self, x_mm: float, top_mm: float, width_mm: float, height_mm: float) -> None:
        """Two lines through what is not to be written so."""
        c = self._canvas
        c.setStrokeColor(_BRICK)
        c.setLineWidth(1.2)
        left, right = x_mm * mm, (x_mm + width_mm) * mm
        c.line(left, self._y(top_mm), right, self._y(top_mm + height_mm))
        c.line(left, self._y(top_mm + height_mm), right, self._y(top_mm))

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
