"""Showing how one letter was judged: which ink is which move, and the model on the child's own letter."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from firstloop.core.check.match.case import Case
from firstloop.core.curves import FloatArray, resample
from firstloop.core.guides import Chevron, chevrons_along
from firstloop.core.patter import Phrase, patter

_EVERY_XH = 0.06


@dataclass(frozen=True, eq=False)
class MoveInk:
    """A phrase of the model and the ink that answers to it, letter space; no runs where there is none."""

    phrase: Phrase
    runs: tuple[FloatArray, ...]


@dataclass(frozen=True, eq=False)
class Explained:
    """How a letter was judged.

    Parameters
    ----------
    moves : tuple of MoveInk
        The correspondence, phrase by phrase.
    model : tuple of arrays, each (n, 2)
        The model's strokes laid on the child's own size and place, letter space.
    starts : tuple of arrays, each (2,)
        Where the pen went down, in the order written.
    chevrons : tuple of tuples
        Which way each stroke of the ink was written.
    """

    moves: tuple[MoveInk, ...]
    model: tuple[FloatArray, ...]
    starts: tuple[FloatArray, ...]
    chevrons: tuple[tuple[Chevron, ...], ...]


def explain(case: Case) -> Explained:
    """Explain one letter."""
    letter = case.template.letter
    strokes = tuple(
        case.frame.undo(resample(s.points, max(2, int(len(s.points) * 0.01 / _EVERY_XH))))
        for s in letter.sampled
    )
    return Explained(
        moves=tuple(MoveInk(p, _runs(case, p)) for p in patter(letter) if not p.is_start),
        model=strokes,
        starts=tuple(stroke[0] for stroke in case.ink),
        chevrons=tuple(tuple(chevrons_along(stroke)) for stroke in case.ink),
    )


def _runs(case: Case, phrase: Phrase) -> tuple[FloatArray, ...]:
    """The ink of some moves, one run for each stroke of the pen that takes part."""
    template, match = case.template, case.match
    if phrase.stroke == template.dot_stroke:
        return () if match.dot is None else (case.ink[match.dot],)
    moves = template.stroke == phrase.stroke
    moves &= (template.move >= phrase.first_move) & (template.move <= phrase.last_move)
    where = match.matched(np.flatnonzero(moves))
    out = []
    for number in dict.fromkeys(match.ink_stroke[where].tolist()):
        mine = where[match.ink_stroke[where] == number]
        if len(mine) > 1:
            out.append(match.ink[mine[:: max(1, len(mine) // 40)]])
    return tuple(out)
