"""Names in other scripts than the page's own typeface has: shaped and drawn as outlines.

Fonts of the Noto project lie in ``fonts`` (SIL Open Font License, see ``fonts/OFL.txt``). HarfBuzz joins and
places the letters as their script wants them, right to left where it runs so.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from itertools import groupby
from pathlib import Path

import uharfbuzz as hb
from fontTools.pens.basePen import BasePen

FOLDER = Path(__file__).parent / "fonts"
PLAIN, BOLD = "atkinson-hyperlegible-next-regular", "atkinson-hyperlegible-next-bold"  # as on the screens


@dataclass(frozen=True)
class Run:
    """Characters of one font; without one nothing here can draw them."""

    text: str
    font: Path | None


@cache
def _covered() -> dict[Path, frozenset[int]]:
    """The characters of every font."""
    return {path: _characters(path) for path in sorted(FOLDER.glob("noto-*.ttf"))}


def font_for(char: str) -> Path | None:
    """The font that has a character."""
    return next((path for path, chars in _covered().items() if ord(char) in chars), None)


def has(font: Path) -> Callable[[str], bool]:
    """Tell whether a font has a character."""
    return lambda char: ord(char) in _characters(font)


@cache
def _characters(path: Path) -> frozenset[int]:
    return frozenset(_face(path).unicodes)


@cache
def _face(path: Path) -> hb.Face:
    return hb.Face(hb.Blob.from_file_path(path))


def runs(text: str, has: Callable[[str], bool]) -> list[tuple[bool, Run]]:
    """Cut a text into what the page's typeface has (True) and what another font, or none, has.

    A mark or a space goes with what it follows, so that letters that are joined stay together.
    """
    fonts: list[tuple[bool, Path | None]] = []
    for char in text:
        follows = fonts and (unicodedata.combining(char) or char in " \u200d\ufe0f")
        if follows and not fonts[-1][0]:
            fonts.append(fonts[-1])
        else:
            fonts.append((True, None) if has(char) else (False, font_for(char)))
    out = []
    for (plain, font), some in groupby(zip(text, fonts, strict=True), key=lambda one: one[1]):
        found = "".join(char for char, _ in some)
        out.append((plain, Run(found if plain else found.rstrip(" "), font)))
        if not plain and found.endswith(" "):
            out.append((True, Run(" ", None)))  # after it, whichever way it runs
    return out


def width(run: Run, size: float) -> float:
    """How wide a run is, points."""
    if run.font is None:
        return 0.0
    font, placed = _placed(run)
    units = sum(position.x_advance for _, position in placed)
    return float(units * size / font.face.upem)


def _placed(run: Run) -> tuple[hb.Font, list[tuple[hb.GlyphInfo, hb.GlyphPosition]]]:
    assert run.font is not None
    font = hb.Font(_face(run.font))
    buffer = hb.Buffer()
    buffer.add_str(run.text)
    buffer.guess_segment_properties()
    hb.shape(font, buffer)
    return font, list(zip(buffer.glyph_infos, buffer.glyph_positions, strict=True))


def draw(run: Run, pen_at: Callable[[float, float, float], BasePen], size: float) -> None:
    """Draw a run.

    Parameters
    ----------
    pen_at : callable
        Gives a pen whose origin is so far to the right and up (points), with the scale of font units.
    """
    if run.font is None:
        return
    font, placed = _placed(run)
    scale, x = size / font.face.upem, 0.0
    for glyph, position in placed:
        pen = pen_at((x + position.x_offset) * scale, position.y_offset * scale, scale)
        font.draw_glyph_with_pen(glyph.codepoint, pen)
        x += position.x_advance


def said(char: str) -> str:
    """A character that cannot be drawn, in words."""
    return unicodedata.name(char, f"the character {ord(char):X}").lower()
