"""SVG out: a letter or word on its lines with stroke numbers, rings and chevrons, still or writing itself."""

from __future__ import annotations

from collections.abc import Sequence
from xml.sax.saxutils import escape

import numpy as np

from firstloop.core.curves import FloatArray, along
from firstloop.core.guides import Chevron, StrokeGuide, guides
from firstloop.core.letterforms.model import Letter, SvgPen
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.motion import MODEL_TEMPO, Tempo, TimedStroke, timed
from firstloop.core.ruling import USUAL_RULING, Box, RulingKind, ruling_kind

UNITS = 100.0  # SVG units in one xh
_INK, _LINE, _PALE, _BAND, _PAPER = "#1b2a44", "#5b78a6", "#9fb0cb", "#f5eee0", "#fcf9f2"


def path_through(points: FloatArray, scale: float = UNITS) -> str:
    """Path data of a run of points; letter space in, SVG (y downwards) out."""
    return "M " + " L ".join(
        f"{round(x * scale, 2) + 0.0:g} {round(-y * scale, 2) + 0.0:g}" for x, y in points
    )


def _ruled(kind: RulingKind, left: float, width: float, words: Sequence[Sequence[Box]]) -> str:
    """Everything a ruling draws from `left` on, `width` wide, SVG units; `words` stand on it, xh."""
    parts = []
    if kind.washed:
        parts.append(
            f'<rect x="{left:g}" y="{-UNITS:g}" width="{width:g}" height="{UNITS:g}" fill="{_BAND}"/>'
        )
    for x0, low, x1, high in kind.drawn_boxes(words):
        parts.append(
            f'<rect x="{x0 * UNITS:g}" y="{-high * UNITS:g}" width="{(x1 - x0) * UNITS:g}" '
            f'height="{(high - low) * UNITS:g}" fill="none" stroke="{_PALE}" stroke-width="1.6"/>'
        )
    for line in kind.lines:  # over the boxes, whose edges would make the base line pale
        y = -line.height_xh * UNITS
        dash = ' stroke-dasharray="9 7"' if line.dashed else ""
        colour, weight = (_LINE, 2.4) if line.strong else (_PALE, 1.6)
        parts.append(
            f'<line x1="{left:g}" x2="{left + width:g}" y1="{y:g}" y2="{y:g}" stroke="{colour}" '
            f'stroke-width="{weight}"{dash}/>'
        )
    return "".join(parts)


def _chevron(c: Chevron) -> str:
    colour = _LINE if c.beside else _PAPER
    return (
        f'<path d="M -3 -4.5 L 2 0 L -3 4.5" fill="none" stroke="{colour}" stroke-width="2" '
        f'transform="translate({c.x * UNITS:.1f} {-c.y * UNITS:.1f}) rotate({-c.heading_deg:.1f})"/>'
    )


def _marks(guide: StrokeGuide, number: int) -> str:
    x, y = guide.ring[0] * UNITS, -guide.ring[1] * UNITS
    lx, ly = guide.label[0] * UNITS, -guide.label[1] * UNITS
    return (
        f'<line x1="{x:.1f}" y1="{y:.1f}" x2="{lx:.1f}" y2="{ly:.1f}" stroke="{_INK}" stroke-width="1.2"/>'
        f'<g transform="translate({lx:.1f} {ly:.1f})">'
        f'<circle r="11" fill="{_PAPER}" stroke="{_INK}" stroke-width="1.6"/>'
        f'<text y="5" font-size="15" text-anchor="middle" fill="{_INK}">{number}</text></g>'
    )


_MARGIN = 60.0
_FRAMES = 40  # samples of the pen's place in each stroke of an animation
_STILL_MS = 1200.0


def _page(letter: Letter, ruling: str, body: str, extra: str = "") -> str:
    """A letter or word on its lines, as one SVG document."""
    left, bottom, right, top = (v * UNITS for v in letter.bounds)
    x, width = left - _MARGIN, right - left + 2 * _MARGIN
    high, low = max(top, 2 * UNITS) + 40, min(bottom, -UNITS) - 40
    lines = _ruled(ruling_kind(ruling), x, width, letter_boxes(letter))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{x:g} {-high:g} {width:g} {high - low:g}" '
        f'font-family="sans-serif" stroke-linecap="round" stroke-linejoin="round">'
        f"<title>{escape(letter.char)}</title>{extra}"
        f'<rect x="{x:g}" y="{-high:g}" width="{width:g}" height="{high - low:g}" fill="{_PAPER}"/>'
        f"{lines}{body}</svg>\n"
    )


def model_svg(letter: Letter, ruling: str = USUAL_RULING) -> str:
    """A letter or word with its strokes numbered and arrows along them."""
    pen = SvgPen(UNITS)
    letter.draw(pen)
    marks = guides(letter)
    body = [f'<path d="{d}" fill="none" stroke="{_INK}" stroke-width="11"/>' for d in pen.strokes]
    for guide in marks:
        body += [_chevron(c) for c in guide.chevrons]
    body += [_marks(guide, i + 1) for i, guide in enumerate(marks)]
    return _page(letter, ruling, "".join(body))


def animated_svg(letter: Letter, ruling: str = USUAL_RULING, tempo: Tempo = MODEL_TEMPO) -> str:
    """A letter or word that writes itself, again and again, in any browser and without a script.

    Every stroke is uncovered at the pen's own speed: slow at corners and ends.
    """
    moving = timed(letter, tempo)
    total = float(moving[-1].t_ms[-1]) + _STILL_MS if moving else _STILL_MS
    pen = SvgPen(UNITS)
    letter.draw(pen)
    body = []
    for d, stroke in zip(pen.strokes, moving, strict=True):
        body.append(f'<path d="{d}" fill="none" stroke="{_PALE}" stroke-width="11"/>')
        body.append(_written(d, stroke, total))
    return _page(letter, ruling, "".join(body))


def _written(d: str, stroke: TimedStroke, total_ms: float) -> str:
    """One stroke that is uncovered as the pen goes along it."""
    where = along(stroke.points)
    some = np.unique(np.linspace(0, len(where) - 1, _FRAMES).round().astype(int))
    left = 1 - where[some] / max(float(where[-1]), 1e-9)
    times = stroke.t_ms[some] / total_ms
    values = ";".join(f"{v:.3f}" for v in (1.0, *left, 0.0))
    keys = ";".join(f"{t:.4f}" for t in (0.0, *times, 1.0))
    begins = float(times[0])
    seen = ("0;1", f"0;{begins:.4f}") if begins > 0 else ("1", "0")
    return (
        f'<path d="{d}" fill="none" stroke="{_INK}" stroke-width="11" pathLength="1" '
        f'stroke-dasharray="1 1" stroke-dashoffset="0">'
        f'<animate attributeName="stroke-dashoffset" dur="{total_ms / 1000:.3f}s" '
        f'repeatCount="indefinite" values="{values}" keyTimes="{keys}"/>'
        f'<animate attributeName="stroke-opacity" dur="{total_ms / 1000:.3f}s" repeatCount="indefinite" '
        f'calcMode="discrete" values="{seen[0]}" keyTimes="{seen[1]}"/></path>'
    )
