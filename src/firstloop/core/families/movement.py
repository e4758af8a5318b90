"""The scheme "By movement": families by what the pen does, as rules over moves."""

from __future__ import annotations

from firstloop.core.families.rules import ANY_OTHER
from firstloop.core.families.scheme import Family, Scheme
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import MoveKind
from firstloop.core.patter import height_words

K = MoveKind
_SLOPES = {K.SLOPE_LEFT, K.SLOPE_RIGHT, K.SLOPE_UP}


def _all_kinds(letter: Letter) -> set[MoveKind]:
    return {kind for stroke in letter.kinds for kind in stroke}


def _heights(letter: Letter) -> str:
    moves = letter.strokes[0].moves
    drop = moves[:1] if len(moves) > 1 and moves[1].kind is K.RETRACE else moves
    low = min(float(move.path.points(0.02)[:, 1].min()) for move in drop)
    return f"from {height_words(float(moves[0].path.start[1]))} to {height_words(low)}"


def _slopes(letter: Letter) -> str:
    slopes = sum(kind in _SLOPES for stroke in letter.kinds for kind in stroke)
    return f"{letter.char} has {slopes} straight slope{'s' if slopes > 1 else ''}."


def _over(letter: Letter) -> str:
    first = letter.kinds[0]
    if K.ROUND_RIGHT in first:
        then = "over into a round"
    elif first[-1] is K.ARCH:
        then = "over, stopping in the air"
    else:
        then = f"over {'two arches' if first.count(K.ARCH) > 1 else 'an arch'}"
    return f"{letter.char} goes straight down {_heights(letter)}, back up the same line and {then}."


def _round(letter: Letter) -> str:
    first = letter.strokes[0].moves[0]
    closes = any(move.closes for move in letter.strokes[0].moves)
    closing = "closes where it began" if first.closes else "closes" if closes else "stays open on the right"
    where = height_words(float(first.path.start[1]))
    at = where if where.startswith(("just", "halfway")) else f"at {where}"
    return f"{letter.char} begins counterclockwise, {at}, and {closing}."


def _scoop(letter: Letter) -> str:
    return f"{letter.char} begins with a cup: down, round and up."


def _bowl(letter: Letter) -> str:
    count = sum(kind is K.ROUND_RIGHT for stroke in letter.kinds for kind in stroke)
    rounds = "two rounds" if count > 1 else "a round"
    return f"{letter.char} goes straight down {_heights(letter)}, then has {rounds} to the right."


def _drop(letter: Letter) -> str:
    first = letter.strokes[0].moves
    rest = letter.kinds[1:]
    curved = len(first) > 1 and first[1].kind is not K.BAR
    extra = " and ends in a small curve" if curved else " and ends in a bar" if len(first) > 1 else ""
    bars = sum(kinds == (K.BAR,) for kinds in rest)
    stems = sum(kinds == (K.DOWN,) for kinds in rest)
    also = ", then another" if stems else ""
    also += ", then a dot" if (K.DOT,) in rest else ""
    also += f", then {'a bar' if bars == 1 else f'{bars} bars'}" if bars else ""
    return f"{letter.char} is one straight drop {_heights(letter)}{extra}{also}."


def _one_off(letter: Letter) -> str:
    kinds = _all_kinds(letter)
    first = letter.strokes[0].moves[0]
    if {K.ROUND_LEFT, K.ROUND_RIGHT} <= kinds:
        return f"{letter.char} turns both ways: first counterclockwise, then clockwise."
    if first.kind is K.ROUND_RIGHT:
        return f"{letter.char} begins clockwise."
    if first.kind is K.BAR and float(first.path.start[1]) < 1:
        return f"{letter.char} starts in the middle, {height_words(float(first.path.start[1]))}, with a bar."
    if float(first.path.start[1]) > 1.5:
        return f"{letter.char} starts with a curve at the top, under the rise line, before its drop and bar."
    return f"{letter.char} is made like no other letter of the class."


BY_MOVEMENT = Scheme(
    "by-movement",
    "By movement",
    (
        Family(
            "straight-drops",
            "Straight drops",
            "straight downstrokes, with at most a curved end, a dot or bars",
            "begins with: down; has only: down, curl, curl to the right, small curve, dot, bar",
            _drop,
        ),
        Family(
            "up-and-overs",
            "Up-and-overs",
            "down, back up the same line, over to the right",
            "begins with: down, back, over",
            _over,
        ),
        Family(
            "scoops",
            "Scoops",
            "begin with a cup: down, round to the right and up",
            "begins with: cup or down, cup; has no: slope",
            _scoop,
        ),
        Family(
            "rounds",
            "Rounds",
            "begin counterclockwise just under the line they start from",
            "begins with: round to the left; has no: round to the right",
            _round,
        ),
        Family(
            "stems-with-rounds",
            "Stems with rounds",
            "a straight downstroke, then round to the right",
            "begins with: down; has: round to the right",
            _bowl,
        ),
        Family(
            "slopes",
            "Slopes",
            "have straight slopes",
            "has: slope; has no: round to the right",
            _slopes,
        ),
        Family("one-offs", "One-offs", "each made in a way of its own", ANY_OTHER, _one_off),
    ),
)
