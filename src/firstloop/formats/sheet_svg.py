"""A page of a sheet as SVG in millimetres; its words are outlines, so that it looks the same everywhere."""

from __future__ import annotations

from functools import lru_cache, partial
from xml.sax.saxutils import quoteattr

from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen

from firstloop.core.letterforms.model import Letter, SvgPen
from firstloop.core.sheets.scene import Box, Item, Page, Ring, Rule, Way, Words, Written
from firstloop.core.sheets.wish import Printing
from firstloop.formats import scripts
from firstloop.formats.look import Look, black_areas, look, washes_first

_MM_IN_PT = 25.4 / 72
_UNITS = 100.0  # SVG units in one xh, inside a letter


def page_svg(page: Page, label: str, printing: Printing = Printing.COLOUR) -> str:
    """One page.

    Parameters
    ----------
    label : str
        What it is, for those who do not see it.
    """
    wide, tall = page.size_mm
    squares = "".join(f"M{a:.3f} {b:.3f}H{c:.3f}V{d:.3f}H{a:.3f}Z" for a, b, c, d in black_areas(page))
    parts = [_item(item, look(item, printing)) for item in washes_first(page.items)]
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{tall:g}mm" '
        f'viewBox="0 0 {wide:g} {tall:g}" role="img" aria-label={quoteattr(label)} fill="none">'
        f'<rect width="100%" height="100%" fill="#fff"/>{"".join(parts)}'
        f'<path d="{squares}" fill="#000"/></svg>\n'
    )


def _item(item: Item, how: Look) -> str:
    match item:
        case Words():
            return _words(item, how)
        case Rule():
            (x1, y1), (x2, y2) = item.start, item.end
            return f'<path d="M{x1:.3f} {y1:.3f}L{x2:.3f} {y2:.3f}"{_stroke(how)}/>'
        case Box():
            left, top, right, bottom = item.area
            paint = f' fill="{how.colour}"' if item.filled else _stroke(how)
            place = f'x="{left:.3f}" y="{top:.3f}"'
            return f'<rect {place} width="{right - left:.3f}" height="{bottom - top:.3f}"{paint}/>'
        case Ring():
            x, y = item.centre
            inside = ' fill="#fff"' if item.on_paper else ""
            return f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{item.radius_mm:g}"{inside}{_stroke(how)}/>'
        case Way():
            return f'<path d="M{" ".join(f"{x:.3f} {y:.3f}" for x, y in item.points)}"{_stroke(how)}/>'
        case Written():
            (x, y), scale = item.origin, item.xh_mm / _UNITS
            place = f'transform="translate({x:.3f} {y:.3f}) scale({scale:g})"'
            named = f"data-letter={quoteattr(item.letter.char)}"
            return f'<path {named} {place} d="{_drawn(item.letter)}"{_stroke(how, scale)}/>'


def _stroke(how: Look, scale: float = 1.0) -> str:
    ends = ' stroke-linecap="round" stroke-linejoin="round"' if how.round_ends else ""
    dash = ""
    if how.dash_mm:
        on, off = (one / scale for one in how.dash_mm)
        dash = f' stroke-dasharray="{on:g} {off:g}"'
    return f' stroke="{how.colour}" stroke-width="{how.width_mm / scale:g}"{ends}{dash}'


@lru_cache(maxsize=512)
def _drawn(letter: Letter) -> str:
    pen = SvgPen(_UNITS)
    letter.draw(pen)
    return " ".join(pen.strokes)


def _words(words: Words, how: Look) -> str:
    outline, width = _outline(words.text, words.bold)
    size = words.size_pt * _MM_IN_PT
    x, y = words.at
    left = x - width * size / 2 if words.centred else x
    place = f'transform="translate({left:.3f} {y:.3f}) scale({size:g})"'
    return f'<path {place} d="{outline}" fill="{how.colour}"/>'


@lru_cache(maxsize=512)
def _outline(text: str, bold: bool) -> tuple[str, float]:
    """The outline of words at a size of 1, y downwards, and their width."""
    font = scripts.FOLDER / f"{scripts.BOLD if bold else scripts.PLAIN}.ttf"
    pen = SVGPathPen(None, lambda number: f"{number:.4f}")
    x = 0.0
    for plain, run in scripts.runs(text, scripts.has(font)):
        drawn = scripts.Run(run.text, font) if plain else run
        scripts.draw(drawn, partial(_glyph_pen, pen, x), 1.0)
        x += scripts.width(drawn, 1.0)
    return pen.getCommands(), x


def _glyph_pen(pen: SVGPathPen, x: float, right: float, up: float, scale: float) -> TransformPen:
    return TransformPen(pen, (scale, 0, 0, -scale, x + right, -up))
