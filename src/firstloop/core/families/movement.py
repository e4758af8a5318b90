"""The scheme "By movement": families by what the pen does, as rules over moves."""

from __future__ import annotations

from firstloop.core.families.scheme import Family, Scheme
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import MoveKind
from firstloop.core.patter import height_words

K = MoveKind
_SLOPES = {K.SLOPE_LEFT, K.SLOPE_RIGHT, K.SLOPE_UP}
_ENDINGS = {K.HOOK_LEFT, K.HOOK_RIGHT, K.EXIT_BASE}


def _all_kinds(letter: Letter) -> set[MoveKind]:
    return {kind for stroke in letter.kinds for kind in stroke}


def _heights(letter: Letter) -> str:
    moves = letter.strokes[0].moves
    drop = moves[:1] if len(moves) > 1 and moves[1].kind is K.RETRACE else moves
    low = min(float(move.path.points(0.02)[:, 1].min()) for move in drop)
    return f"from {height_words(float(moves[0].path.start[1]))} to {height_words(low)}"


def _slopes(letter: Letter) -> str | None:
    slopes = sum(kind in _SLOPES for stroke in letter.kinds for kind in stroke)
    if not slopes:
        return None
    return f"{letter.char} has {slopes} straight slope{'s' if slopes > 1 else ''}."


def _over(letter: Letter) -> str | None:
    first = letter.kinds[0]
    if first[:3] != (K.DOWN, K.RETRACE, K.ARCH):
        return None
    if K.ROUND_RIGHT in first:
        then = "over into a round"
    elif first[-1] is K.ARCH:
        then = "over, stopping in the air"
    else:
        then = f"over {'two arches' if first.count(K.ARCH) > 1 else 'an arch'}"
    return f"{letter.char} goes straight down {_heights(letter)}, back up the same line and {then}."


def _round(letter: Letter) -> str | None:
    stroke = letter.strokes[0]
    first = stroke.moves[0]
    if first.kind is not K.ROUND_LEFT or float(first.path.start[1]) > 1 or K.ROUND_RIGHT in stroke.kinds:
        return None
    closing = "closes where it began" if first.closes else "stays open on the right"
    return f"{letter.char} begins counterclockwise, just under the mid line, and {closing}."


def _scoop(letter: Letter) -> str | None:
    if letter.kinds[0][0] is not K.CUP:
        return None
    return f"{letter.char} begins with a cup: down, round and up."


def _drop(letter: Letter) -> str | None:
    first = letter.strokes[0].moves
    rest = letter.kinds[1:]
    plain_rest = all(kind in {K.DOT, K.BAR} for stroke in rest for kind in stroke)
    ends = all(m.kind in _ENDINGS or (m.kind is K.CUP and float(m.path.start[1]) < 0.5) for m in first[1:])
    if first[0].kind is not K.DOWN or not ends or not plain_rest:
        return None
    extra = " and ends in a small curve" if len(first) > 1 else ""
    also = {K.DOT: ", then a dot", K.BAR: ", then a bar"}.get(rest[0][0], "") if rest else ""
    return f"{letter.char} is one straight drop {_heights(letter)}{extra}{also}."


def _one_off(letter: Letter) -> str:
    kinds = _all_kinds(letter)
    first = letter.strokes[0].moves[0]
    if {K.ROUND_LEFT, K.ROUND_RIGHT} <= kinds:
        return f"{letter.char} turns both ways: first counterclockwise, then clockwise."
    if first.kind is K.BAR:
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
            "one straight downstroke, with at most a curved end, a dot or a bar",
            _drop,
        ),
        Family("up-and-overs", "Up-and-overs", "down, back up the same line, over to the right", _over),
        Family("scoops", "Scoops", "begin with a cup: down, round to the right and up", _scoop),
        Family("rounds", "Rounds", "begin counterclockwise just under the mid line", _round),
        Family("slopes", "Slopes", "have straight slopes", _slopes),
        Family("one-offs", "One-offs", "each made in a way of its own", _one_off),
    ),
)
