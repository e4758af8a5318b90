"""How different two letters are to make: an edit distance between their moves."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache

from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import Move, MoveKind

K = MoveKind

_LIKE: dict[frozenset[MoveKind], float] = {
    frozenset({K.DOWN, K.UP}): 0.6,
    frozenset({K.UP, K.RETRACE}): 0.5,
    frozenset({K.DOWN, K.RETRACE}): 0.5,
    frozenset({K.ARCH, K.ROUND_RIGHT}): 0.5,
    frozenset({K.DOWN, K.ROUND_RIGHT}): 0.8,
    frozenset({K.SLOPE_LEFT, K.SLOPE_RIGHT}): 0.5,
    frozenset({K.SLOPE_UP, K.SLOPE_RIGHT}): 0.6,
    frozenset({K.HOOK_LEFT, K.HOOK_RIGHT}): 0.5,
    frozenset({K.ROUND_LEFT, K.ROUND_RIGHT}): 0.8,
}
_ADD: dict[MoveKind, float] = {K.DOT: 0.4, K.BAR: 0.6, K.RETRACE: 0.5}
_REACH_WEIGHT = 0.35  # cost of each xh by which the same move ends higher or lower
_LIFT = 0.5


def _add(move: Move | None) -> float:
    return _LIFT if move is None else _ADD.get(move.kind, 1.0)


def _swap(a: Move | None, b: Move | None) -> float:
    if a is None or b is None:
        return 0.0 if a is b else _add(a) + _add(b)
    kind = 0.0 if a.kind is b.kind else _LIKE.get(frozenset({a.kind, b.kind}), 1.2)
    reach = abs(float(a.path.end[1] - b.path.end[1])) + abs(float(a.path.start[1] - b.path.start[1]))
    return kind + _REACH_WEIGHT * reach / 2


def _tokens(letter: Letter) -> list[Move | None]:
    """Moves of all strokes, with None for a pen lift."""
    out: list[Move | None] = []
    for stroke in letter.strokes:
        out.extend([*([None] if out else []), *stroke.moves])
    return out


@lru_cache(maxsize=8192)
def edit_distance(a: Letter, b: Letter) -> float:
    """Least total cost of turning the moves of `a` into those of `b`.

    Adding, dropping or changing a move costs about 1; a change between like moves, or of the same
    move's height, costs less. Symmetric, and 0 only for letters made alike. (Wagner and Fischer, 1974.)
    """
    one, two = _tokens(a), _tokens(b)
    row = [0.0]
    for move in two:
        row.append(row[-1] + _add(move))
    for move in one:
        new = [row[0] + _add(move)]
        for j, other in enumerate(two):
            new.append(min(row[j] + _swap(move, other), row[j + 1] + _add(move), new[j] + _add(other)))
        row = new
    return row[-1]


def stepping_stone(new: Letter, known: Iterable[Letter]) -> Letter | None:
    """The known letter whose making is nearest to `new`; None when nothing is known."""
    others = [letter for letter in known if letter.char != new.char]
    return min(others, key=lambda one: (edit_distance(new, one), one.char), default=None)
