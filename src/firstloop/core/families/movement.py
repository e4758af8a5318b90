"""The scheme "By movement": families by what the pen does, as rules over moves."""

from __future__ import annotations

from firstloop.core.families.rules import ANY_OTHER
from firstloop.core.families.scheme import Family, Scheme
from firstloop.core.heights import height_name
from firstloop.core.letterforms.model import Letter
from firstloop.core.message import Message, message
from firstloop.core.moves import Move, MoveKind

K = MoveKind
_SLOPES = {K.SLOPE_LEFT, K.SLOPE_RIGHT, K.SLOPE_UP}


def _at(move: Move) -> str:
    return height_name(float(move.path.start[1]))


def _heights(letter: Letter) -> dict[str, Message]:
    """Where the first downstroke begins and ends."""
    moves = letter.strokes[0].moves
    drop = moves[:1] if len(moves) > 1 and moves[1].kind is K.RETRACE else moves
    low = min(float(move.path.points(0.02)[:, 1].min()) for move in drop)
    return {"begin": message(f"height.{_at(moves[0])}"), "end": message(f"height.{height_name(low)}")}


def _slopes(letter: Letter) -> Message:
    slopes = sum(kind in _SLOPES for stroke in letter.kinds for kind in stroke)
    return message("reason.slopes", char=letter.char, count=slopes)


def _over(letter: Letter) -> Message:
    first = letter.kinds[0]
    if K.ROUND_RIGHT in first:
        return message("reason.over-round", char=letter.char, **_heights(letter))
    if first[-1] is K.ARCH:
        return message("reason.over-air", char=letter.char, **_heights(letter))
    return message("reason.over", char=letter.char, count=first.count(K.ARCH), **_heights(letter))


def _round(letter: Letter) -> Message:
    first = letter.strokes[0].moves[0]
    closes = any(move.closes for move in letter.strokes[0].moves)
    how = "closes-where-begun" if first.closes else "closes" if closes else "stays-open"
    return message(f"reason.round-{how}", char=letter.char, at=message(f"at.{_at(first)}"))


def _scoop(letter: Letter) -> Message:
    return message("reason.scoop", char=letter.char)


def _bowl(letter: Letter) -> Message:
    count = sum(kind is K.ROUND_RIGHT for stroke in letter.kinds for kind in stroke)
    return message("reason.bowl", char=letter.char, count=count, **_heights(letter))


def _drop(letter: Letter) -> Message:
    first = letter.strokes[0].moves
    rest = letter.kinds[1:]
    curved = len(first) > 1 and first[1].kind is not K.BAR
    ending = "curve" if curved else "bar" if len(first) > 1 else ""
    bars = sum(kinds == (K.BAR,) for kinds in rest)
    return message(
        "reason.drop",
        char=letter.char,
        **_heights(letter),
        ending=message(f"drop.ends-in-{ending}") if ending else "",
        stems=message("drop.another") if (K.DOWN,) in rest else "",
        dot=message("drop.dot") if (K.DOT,) in rest else "",
        bars=message("drop.bars", count=bars) if bars else "",
    )


def _one_off(letter: Letter) -> Message:
    kinds = {kind for stroke in letter.kinds for kind in stroke}
    first = letter.strokes[0].moves[0]
    char, high = letter.char, float(first.path.start[1])
    if {K.ROUND_LEFT, K.ROUND_RIGHT} <= kinds:
        return message("reason.both-ways", char=char)
    if first.kind is K.ROUND_RIGHT:
        return message("reason.clockwise", char=char)
    if first.kind is K.BAR and high < 1:
        return message("reason.from-the-middle", char=char, height=message(f"height.{_at(first)}"))
    if high > 1.5:
        return message("reason.curve-at-the-top", char=char)
    return message("reason.like-no-other", char=char)


BY_MOVEMENT = Scheme(
    "by-movement",
    (
        Family(
            "straight-drops",
            "begins with: down; has only: down, curl, curl to the right, small curve, dot, bar",
            _drop,
        ),
        Family("up-and-overs", "begins with: down, back, over", _over),
        Family("scoops", "begins with: cup or down, cup; has no: slope", _scoop),
        Family("rounds", "begins with: round to the left; has no: round to the right", _round),
        Family("stems-with-rounds", "begins with: down; has: round to the right", _bowl),
        Family("slopes", "has: slope; has no: round to the right", _slopes),
        Family("one-offs", ANY_OTHER, _one_off),
    ),
)
