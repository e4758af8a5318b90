"""Slips: the common ways in which a letter goes wrong, written by the simulated writer to be shown.

Each is made from a named fault and kept only if the checker, looking at it, finds that fault: a
slip that a teacher shows is one that the marks on a child's row would tell.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from firstloop.core.check.letter import check_letter
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import ORDINARY_HAND, in_time, vary
from firstloop.core.simulate.makers import LOOK_ALIKES, plain
from firstloop.core.simulate.writer import TEN_MM, sketch

MOST = 6
_SEED = 20
_STEADY = replace(ORDINARY_HAND.steadier(0.25), rounding_xh=0.02, pace=0.9)

# commonest first, with a size that shows across a room
_SHOWN: tuple[tuple[str, float], ...] = (
    ("start.bottom", 1.0),
    ("shape.reads-as", 1.0),
    ("shape.mirrored", 1.0),
    ("direction.turn", 1.0),
    ("retrace.gap", 0.4),
    ("shape.open", 0.5),
    ("shape.part-extra", 1.3),
    ("shape.part-missing", 1.0),
    ("position.tail-on-line", 1.0),
    ("order.swapped", 1.0),
    ("size.tall", 60.0),
    ("position.floating", 0.5),
)
_ANY_LETTER = {"start.bottom", "shape.mirrored"}  # may be tried on letters no fault names


@dataclass(frozen=True, eq=False)
class ShownSlip:
    """One way to go wrong.

    Parameters
    ----------
    name : str
        Key of its plain words for the board.
    strokes : tuple of arrays, shape (n, 2)
        As written, letter space of the model.
    t_ms : tuple of arrays, shape (n,)
    reads_as : str
        What a reader would take it for; the letter itself where that is still plain.
    finding : Finding
        What the checker says of it.
    """

    code: str
    name: str
    strokes: tuple[FloatArray, ...]
    t_ms: tuple[FloatArray, ...]
    reads_as: str
    finding: Finding


def slips(char: str, style: HouseStyle = DEFAULT_STYLE) -> tuple[ShownSlip, ...]:
    """The slips of one letter, commonest first, at most six.

    Raises
    ------
    UnknownLetterError
    """
    found: list[ShownSlip] = []
    for code, size in _SHOWN:
        if char in FAULTS[code].letters or code in _ANY_LETTER:
            slip = _slip(char, code, size, style)
            if slip is not None:
                found.append(slip)
        if len(found) == MOST:
            break
    return tuple(found)


def _slip(char: str, code: str, size: float, style: HouseStyle) -> ShownSlip | None:
    rng = np.random.default_rng(_SEED)
    strokes, times = in_time(vary(_drawn(char, code, size, style, rng), _STEADY, rng), _STEADY, rng)
    ink = [InkStroke(TEN_MM.to_page(p, 0.0), t) for p, t in zip(strokes, times, strict=True)]
    result = check_letter(InkGroup(tuple(ink), TEN_MM, char), char, style)
    said = next((f for f in result.findings if f.code == code), None)
    if said is None:
        return None
    name = f"made-like.{char}" if code == "shape.reads-as" else code
    return ShownSlip(code, name, tuple(strokes), tuple(times), result.reads_as or char, said)


def _drawn(
    char: str, code: str, size: float, style: HouseStyle, rng: np.random.Generator
) -> list[FloatArray]:
    if code == "shape.reads-as":  # the likeliest other letter, not any
        return plain(letter(LOOK_ALIKES[char][0], style))
    return sketch(char, rng, code, size, style)
