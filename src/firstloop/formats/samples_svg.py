"""A sheet of ink that the checker got wrong, each with what was made and what was said."""

from __future__ import annotations

from collections.abc import Sequence
from xml.sax.saxutils import escape

import numpy as np

from firstloop.core.simulate.evaluate import Sample
from firstloop.formats.svg import path_through

_COLUMNS = 10
_WIDE, _TALL = 300, 430
_BASE = 260
_XH = 80.0


def sample_sheet(samples: Sequence[Sample]) -> str:
    """Draw samples in rows of ten on their lines; words are drawn smaller to fit."""
    rows = -(-len(samples) // _COLUMNS)
    cells = []
    for i, sample in enumerate(samples):
        x, y = (i % _COLUMNS) * _WIDE, (i // _COLUMNS) * _TALL
        cells.append(f'<g transform="translate({x} {y})">{_cell(sample)}</g>')
    size = f"0 0 {_COLUMNS * _WIDE} {max(rows, 1) * _TALL}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{size}" font-family="sans-serif">'
        f'<rect width="100%" height="100%" fill="#fcf9f2"/>{"".join(cells)}</svg>'
    )


def _cell(sample: Sample) -> str:
    every = np.concatenate(sample.strokes)
    left, right = float(every[:, 0].min()), float(every[:, 0].max())
    scale = min(_XH, (_WIDE - 40) / max(right - left, 1e-3))
    shift = _WIDE / 2 - scale * (left + right) / 2
    lines = "".join(
        f'<line x1="10" x2="{_WIDE - 10}" y1="{_BASE - h * scale:g}" y2="{_BASE - h * scale:g}" '
        f'stroke="#9fb0cb" stroke-width="{2 if h == 0 else 1}"/>'
        for h in (2, 1, 0, -1)
    )
    strokes = "".join(
        f'<path d="{path_through(s, scale)}" fill="none" stroke="#1b2a44" stroke-width="4"/>'
        f'<circle cx="{s[0, 0] * scale:.1f}" cy="{-s[0, 1] * scale:.1f}" r="5" fill="#a33"/>'
        for s in sample.strokes
    )
    words = (f"{sample.text} · {sample.part}", sample.made, sample.said)
    text = "".join(
        f'<text x="10" y="{_TALL - 52 + 18 * k}" font-size="14">{escape(line[:42])}</text>'
        for k, line in enumerate(words)
    )
    return f'{lines}<g transform="translate({shift:.1f} {_BASE})">{strokes}</g>{text}'
