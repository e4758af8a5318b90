"""Slips: the common ways in which a letter goes wrong, written by the simulated writer to be shown.

Each is made from a named fault and kept only if the checker, looking at it, finds that fault: a
slip that a teacher shows is one that the marks on a child's row would tell.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from firstloop.core.check.letter import check_letter
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
_WORDS = {
    "start.bottom": "Begun at the bottom",
    "direction.turn": "Turned the wrong way",
    "retrace.gap": "Not back along the same line",
    "shape.mirrored": "Turned to face the other way",
    "shape.open": "Left open",
    "shape.part-missing": "Stopped too soon",
    "shape.part-extra": "A curl too many",
    "position.tail-on-line": "Standing on the base line",
    "order.swapped": "Strokes in another order",
    "size.tall": "Too tall",
    "position.floating": "Off the base line",
}

# what turns a letter into the one it is likeliest to be read as
_MADE_LIKE = {
    "a": "Stem too tall",
    "b": "Left open at the base line",
    "c": "Begun with a bar",
    "d": "Stem too short",
    "e": "Begun too high",
    "g": "Left open at the top",
    "h": "Stem too short",
    "m": "One arch only",
    "n": "Stem too tall",
    "o": "A stem too many",
    "p": "Stem goes up instead of down",
    "q": "A curl too many",
    "r": "Arch too long",
    "u": "Closed at the top",
    "v": "Made twice",
    "y": "Closed at the top",
}


@dataclass(frozen=True, eq=False)
class Slip:
    """One way to go wrong.

    Parameters
    ----------
    name : str
        Plain words for the board.
    strokes : tuple of arrays, shape (n, 2)
        As written, letter space of the model.
    t_ms : tuple of arrays, shape (n,)
    reads_as : str
        What a reader would take it for; the letter itself where that is still plain.
    teacher : str
        What the checker says of it.
    """

    code: str
    name: str
    strokes: tuple[FloatArray, ...]
    t_ms: tuple[FloatArray, ...]
    reads_as: str
    teacher: str


def slips(char: str, style: HouseStyle = DEFAULT_STYLE) -> tuple[Slip, ...]:
    """The slips of one letter, commonest first, at most six.

    Raises
    ------
    UnknownLetterError
    """
    found: list[Slip] = []
    for code, size in _SHOWN:
        if char in FAULTS[code].letters or code in _ANY_LETTER:
            slip = _slip(char, code, size, style)
            if slip is not None:
                found.append(slip)
        if len(found) == MOST:
            break
    return tuple(found)


def _slip(char: str, code: str, size: float, style: HouseStyle) -> Slip | None:
    rng = np.random.default_rng(_SEED)
    strokes, times = in_time(vary(_drawn(char, code, size, style, rng), _STEADY, rng), _STEADY, rng)
    ink = [InkStroke(TEN_MM.to_page(p, 0.0), t) for p, t in zip(strokes, times, strict=True)]
    result = check_letter(InkGroup(tuple(ink), TEN_MM, char), char, style)
    said = next((f.teacher for f in result.findings if f.code == code), None)
    if said is None:
        return None
    name = _WORDS.get(code) or _MADE_LIKE[char]
    return Slip(code, name, tuple(strokes), tuple(times), result.reads_as or char, said)


def _drawn(
    char: str, code: str, size: float, style: HouseStyle, rng: np.random.Generator
) -> list[FloatArray]:
    if code == "shape.reads-as":  # the likeliest other letter, not any
        return plain(letter(LOOK_ALIKES[char][0], style))
    return sketch(char, rng, code, size, style)
