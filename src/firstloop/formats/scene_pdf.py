"""A scene drawn on a PDF page, to the millimetre, in colour, grey, or for a copier that knows black only."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from functools import partial

from fontTools.pens.basePen import BasePen
from fontTools.pens.transformPen import TransformPen
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.pdfgen.pathobject import PDFPathObject

from firstloop.core.curves import FloatArray, Point
from firstloop.core.moves import Move
from firstloop.core.sheets.scene import Box, Item, Page, Ring, Rule, Way, Words, Written
from firstloop.core.sheets.wish import Printing
from firstloop.formats import scripts
from firstloop.formats.look import Look, black_areas, look, washes_first

PLAIN, BOLD = scripts.PLAIN, scripts.BOLD


def fonts() -> None:
    """Make the product's own typeface known."""
    for name in (PLAIN, BOLD):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, scripts.FOLDER / f"{name}.ttf"))


def say(canvas: Canvas, words: str, x: float, y: float, font: str, size: float) -> list[str]:
    """Write words at a place, y upwards; what the typeface lacks is drawn in another, or returned."""
    face = pdfmetrics.getFont(font).face  # type: ignore[attr-defined]
    lacking: list[str] = []
    for plain, run in scripts.runs(words, lambda char: ord(char) in face.charToGlyph):
        if plain:
            canvas.setFont(font, size)
            canvas.drawString(x, y, run.text)
            x += canvas.stringWidth(run.text, font, size)
        elif run.font is None:
            lacking += [char for char in run.text if char.isprintable()]
        else:
            path = canvas.beginPath()
            scripts.draw(run, partial(_type_pen, path, x, y), size)
            canvas.drawPath(path, stroke=0, fill=1)
            x += scripts.width(run, size)
    return lacking


def _type_pen(path: PDFPathObject, x: float, y: float, right: float, up: float, scale: float) -> TransformPen:
    """A pen that draws on a path of the page."""
    return TransformPen(_PathPen(path), (scale, 0, 0, scale, x + right, y + up))


class _PathPen(BasePen):  # type: ignore[misc]
    """Outlines of type on the path of a canvas."""

    def __init__(self, path: PDFPathObject) -> None:
        super().__init__(None)
        self._path = path

    def _moveTo(self, pt: tuple[float, float]) -> None:  # noqa: N802
        self._path.moveTo(*pt)

    def _lineTo(self, pt: tuple[float, float]) -> None:  # noqa: N802
        self._path.lineTo(*pt)

    def _curveToOne(  # noqa: N802
        self, pt1: tuple[float, float], pt2: tuple[float, float], pt3: tuple[float, float]
    ) -> None:
        self._path.curveTo(*pt1, *pt2, *pt3)

    def _closePath(self) -> None:  # noqa: N802
        self._path.close()


class _LetterPen:
    """Draws strokes on a path, in its curves, y downwards; a pen as letters know it."""

    def __init__(self, path: PDFPathObject, one: Written) -> None:
        self._path, (self._x, self._y), self._scale = path, one.origin, one.xh_mm

    def _at(self, point: FloatArray | Point) -> tuple[float, float]:
        return self._x + float(point[0]) * self._scale, self._y - float(point[1]) * self._scale

    def pen_down(self, start: Point) -> None:
        """Begin a stroke."""
        self._path.moveTo(*self._at(start))

    def make(self, move: Move) -> None:
        """Make one move; a dot, which goes nowhere, is a point."""
        for _, b, c, d in move.path.cubics:
            self._path.curveTo(*self._at(b), *self._at(c), *self._at(d))

    def pen_up(self) -> None:
        """Nothing to close: strokes are open."""


class SceneDrawing:
    """Draws items on a canvas whose page is so high; ``lacking`` are characters that no typeface has."""

    def __init__(self, canvas: Canvas, tall_mm: float, printing: Printing = Printing.COLOUR) -> None:
        fonts()
        self._canvas, self._tall_mm, self._printing = canvas, tall_mm, printing
        self.lacking: list[str] = []

    def page(self, page: Page) -> None:
        """Everything on a page."""
        self.items(page.items)
        with self._in_millimetres() as c:
            c.setFillColor("#000000")
            for left, top, right, bottom in black_areas(page):
                c.rect(left, top, right - left, bottom - top, stroke=0, fill=1)

    def items(self, items: Iterable[Item]) -> None:
        """Items of a scene."""
        with self._in_millimetres():
            for item in washes_first(items):
                self._item(item)

    @contextmanager
    def _in_millimetres(self) -> Iterator[Canvas]:
        """The canvas as scenes have it: y downwards from the top of the page."""
        self._canvas.saveState()
        self._canvas.translate(0, self._tall_mm * mm)
        self._canvas.scale(mm, -mm)
        yield self._canvas
        self._canvas.restoreState()

    def _item(self, item: Item) -> None:
        c, how = self._canvas, look(item, self._printing)
        if isinstance(item, Words):
            self._words(item, how)
            return
        c.setStrokeColor(how.colour)
        c.setFillColor(how.colour)
        c.setLineWidth(how.width_mm)
        c.setLineCap(int(how.round_ends))
        c.setLineJoin(1)
        c.setDash(list(how.dash_mm) if how.dash_mm else [])
        match item:
            case Rule():
                c.line(*item.start, *item.end)
            case Box():
                left, top, right, bottom = item.area
                filled = int(item.filled)
                c.rect(left, top, right - left, bottom - top, stroke=1 - filled, fill=filled)
            case Ring():
                c.setFillColor("#ffffff")
                c.circle(*item.centre, item.radius_mm, stroke=1, fill=int(item.on_paper))
            case Way():
                path = c.beginPath()
                path.moveTo(*item.points[0])
                for point in item.points[1:] or item.points[:1]:  # a dot goes nowhere
                    path.lineTo(*point)
                c.drawPath(path)
            case Written():
                path = c.beginPath()
                item.letter.draw(_LetterPen(path, item))
                c.drawPath(path)

    def _words(self, words: Words, how: Look) -> None:
        c, font, size = self._canvas, BOLD if words.bold else PLAIN, words.size_pt / mm
        x, y = words.at
        c.saveState()
        c.translate(x - pdfmetrics.stringWidth(words.text, font, size) / 2 if words.centred else x, y)
        c.scale(1, -1)
        c.setFillColor(how.colour)
        self.lacking += say(c, words.text, 0, 0, font, size)
        c.restoreState()
