"""The words a teacher says while the pen moves.

Words come from the geometry: heights become names of lines, moves become directions. A phrase is
tied to the moves it belongs to, so a screen can light up words and ink together.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import Move, MoveKind, Stroke

K = MoveKind

_LINES = ((2.0, "the rise line"), (1.0, "the mid line"), (0.0, "the base line"), (-1.0, "the drop line"))
_ON_LINE_XH = 0.035
_JUST_XH = 0.22


@dataclass(frozen=True)
class Phrase:
    """Words for a run of moves.

    Parameters
    ----------
    text : str
        A full sentence.
    short : str
        Two to four words, for a child's screen.
    stroke : int
        Index of the stroke.
    first_move, last_move : int
        The moves it covers, both included; for "Start ..." both are 0 and `is_start` is true.
    """

    text: str
    short: str
    stroke: int
    first_move: int
    last_move: int
    is_start: bool = False


def height_words(y: float) -> str:
    """Say a height in the words of the lines: "the mid line", "just under the rise line".

    Examples
    --------
    >>> height_words(1.0), height_words(0.86), height_words(0.5)
    ('the mid line', 'just under the mid line', 'halfway up the middle band')
    """
    for line, name in _LINES:
        if abs(y - line) <= _ON_LINE_XH:
            return name
        if line - _JUST_XH <= y < line:
            return f"just under {name}"
    for line, name in _LINES:
        if line < y <= line + _JUST_XH:
            return f"just above {name}"
    if y > 1:
        return "halfway up the rise band"
    return "halfway up the middle band" if y > 0 else "halfway down the drop band"


def _end(move: Move) -> str:
    return height_words(float(move.path.end[1]))


def _pair(first: str, rest: str) -> tuple[str, str]:
    return f"{first} {rest}", first


def _next(stroke: Stroke, i: int) -> MoveKind | None:
    return stroke.moves[i + 1].kind if i + 1 < len(stroke.moves) else None


def _is_sideways(move: Move) -> bool:
    across, up = np.abs(move.path.end - move.path.start)
    return bool(across > up)


def _down(move: Move, _: Stroke, i: int) -> tuple[str, str]:
    return _pair("Straight down" if i == 0 else "Down", f"to {_end(move)}")


def _round(move: Move, stroke: Stroke, i: int) -> tuple[str, str]:
    then = _next(stroke, i)
    if move.closes:
        return "Round to the left, all the way to where you began", "All the way round"
    if then is K.DOWN and float(move.path.start[1]) > 1.5:
        return "Over to the left and into the stem", "Over to the left"
    if then is K.ROUND_RIGHT:
        return "Round to the left and in", "Round and in"
    if then is K.ROUND_LEFT:
        return "Curve down to the left", "Curve down"
    if i and stroke.moves[i - 1].kind is K.ROUND_RIGHT:
        return f"Back to the left and on to {_end(move)}", "And back"
    return f"Round to the left and on, and stop {_end(move)}", "Round to the left"


def _bowl(move: Move, stroke: Stroke, i: int) -> tuple[str, str]:
    if move.closes:
        return "Round to the right and in to the stem", "Round and in"
    if _next(stroke, i) is None:
        return f"Round to the right and stop {_end(move)}", "Round to the right"
    return "Round to the right and in", "Round to the right"


def _cup(move: Move, _: Stroke, i: int) -> tuple[str, str]:
    if float(move.path.end[1]) < 0.5:
        return "Curve a little to the right", "Little curve"
    return f"Down, round to the right and up to {_end(move)}", "Down, round and up"


def _retrace(move: Move, stroke: Stroke, i: int) -> tuple[str, str]:
    way = "up" if float(move.path.end[1]) > float(move.path.start[1]) else "down"
    if _is_sideways(move):
        return "Back along the foot", "Back along"
    last = f" to {_end(move)}" if i + 1 == len(stroke.moves) else ""
    return f"Back {way} the same line{last}", f"Back {way}"


def _bar(move: Move, _: Stroke, i: int) -> tuple[str, str]:
    if float(move.path.end[0]) < float(move.path.start[0]):
        return "Straight back to the left", "Back across"
    return "Straight across", "Across"


def _dot(move: Move, _: Stroke, i: int) -> tuple[str, str]:
    return ("Dot on the base line" if float(move.path.start[1]) < 0.3 else "Dot above"), "Dot"


def _hook(move: Move, _: Stroke, i: int) -> tuple[str, str]:
    where = "on the drop line" if float(move.path.end[1]) < -0.5 else "below the base line"
    return f"Curl to the left {where}", "Curl left"


def _loop(move: Move, stroke: Stroke, i: int) -> tuple[str, str]:
    low = float(move.path.points(0.05)[:, 1].min())
    if low < -0.5:
        return "Loop to the left and back up across the base line", "Loop back up"
    if float(move.path.end[1]) > 1.2:
        return "Up to the rise line and loop over to the left", "Loop over"
    return "Across to the right and turn up", "Across and up"


def _onward(move: Move, stroke: Stroke, i: int) -> tuple[str, str]:
    if i + 1 == len(stroke.moves):
        level = " at the mid line" if move.kind is K.EXIT_MID else ""
        return f"Flick out{level}", "Flick out"
    level = "Level on" if move.kind is K.EXIT_MID else "On up"
    return f"{level} to the next letter, to {_end(move)}", "On to the next"


def _said(text: str, short: str) -> Callable[[Move, Stroke, int], tuple[str, str]]:
    return lambda move, stroke, i: (text.format(end=_end(move)), short)


_WORDS: dict[MoveKind, Callable[[Move, Stroke, int], tuple[str, str]]] = {
    K.DOWN: _down,
    K.UP: _said("Straight on up to {end}", "Up"),
    K.ARCH: _said("Over, and stop in the air", "Over and stop"),
    K.RETRACE: _retrace,
    K.CUP: _cup,
    K.ROUND_LEFT: _round,
    K.ROUND_RIGHT: _bowl,
    K.SLOPE_RIGHT: _said("Slope down to the right to {end}", "Slope down"),
    K.SLOPE_LEFT: _said("Slope down to the left to {end}", "Slope back"),
    K.SLOPE_UP: _said("Slope up to {end}", "Slope up"),
    K.BAR: _bar,
    K.HOOK_LEFT: _hook,
    K.HOOK_RIGHT: _said("Curl to the right", "Curl right"),
    K.DOT: _dot,
    K.LOOP: _loop,
    K.ENTRY: _said("Lead in up to {end}", "Lead in"),
    K.EXIT_BASE: _onward,
    K.EXIT_MID: _onward,
}


# two moves said in one breath, by how the second ends; and moves that are said otherwise before another
_TOGETHER: dict[tuple[MoveKind, MoveKind], tuple[str, str]] = {
    (K.ARCH, K.DOWN): ("Over and down to {end}", "Over and down"),
    (K.ARCH, K.ROUND_RIGHT): ("Over, round to the right and in to the stem", "Over and round"),
    (K.DOWN, K.HOOK_LEFT): ("Down past the base line and curl to the left on the drop line", "Down and curl"),
    (K.DOWN, K.LOOP): ("Down past the base line, loop to the left and back up across it", "Down and loop"),
    (K.DOWN, K.CUP): ("Straight down and curve to the right on the base line", "Down and curve"),
}
_TOGETHER_HIGH: dict[tuple[MoveKind, MoveKind], tuple[str, str]] = {
    (K.DOWN, K.HOOK_LEFT): ("Down and curl to the left on the base line", "Down and curl"),
    (K.DOWN, K.CUP): ("Straight down, round to the right and up to {end}", "Down, round and up"),
}
_HIGH_END_XH = {(K.DOWN, K.HOOK_LEFT): -0.2, (K.DOWN, K.CUP): 0.9}  # ends above this are the other kind
_TURNS_OUT = {  # a move whose foot turns into the exit is said as if it stood on the base line
    K.DOWN: ("Down to the base line and round", "Down and round"),
    K.RETRACE: ("Back down to the base line and round", "Back down and round"),
    K.SLOPE_RIGHT: ("Slope down to the right to the base line and round", "Slope down"),
}
_BEFORE: dict[tuple[MoveKind, MoveKind], tuple[str, str]] = {
    (K.SLOPE_LEFT, K.SLOPE_RIGHT): ("Slope in to the stem", "Slope in"),
}


def _phrase(stroke: Stroke, i: int) -> tuple[int, str, str]:
    """Words from move `i` on: the last move they cover, the sentence, the short form."""
    move = stroke.moves[i]
    if i + 1 == len(stroke.moves):
        return i, *_WORDS[move.kind](move, stroke, i)
    following = stroke.moves[i + 1]
    pair = (move.kind, following.kind)
    if following.kind is K.EXIT_BASE and move.kind in _TURNS_OUT and not _is_sideways(move):
        return i, *_TURNS_OUT[move.kind]
    if pair in _BEFORE:
        return i, *_BEFORE[pair]
    together = _TOGETHER_HIGH if float(following.path.end[1]) > _HIGH_END_XH.get(pair, np.inf) else _TOGETHER
    if pair not in together:
        return i, *_WORDS[move.kind](move, stroke, i)
    text, short = together[pair]
    end = _end(following)
    if following.kind is K.DOWN and _next(stroke, i + 1) is K.EXIT_BASE:
        end = "the base line and round"
    return i + 1, text.format(end=end), short


def _start_words(stroke: Stroke, index: int, letter: Letter) -> str:
    x, y = stroke.start
    if stroke.moves[0].kind is K.DOT and index:
        return "Lift, and go above the stem" if y > 1 else "Lift, and go down to the base line"
    left, _, right, _ = letter.bounds
    side = ""
    if index and right - left > 0.3:
        side = ", on the left" if x < left + 0.35 * (right - left) else ", on the right"
    return f"{'Lift. Start' if index else 'Start'} at {height_words(y)}{side}".replace(
        "at just", "just"
    ).replace("at halfway", "halfway")


def patter(letter: Letter) -> tuple[Phrase, ...]:
    """Words for a letter, phrase by phrase, in the order they are said."""
    phrases: list[Phrase] = []
    for s, stroke in enumerate(letter.strokes):
        phrases.append(
            Phrase(f"{_start_words(stroke, s, letter)}.", "Start here" if s == 0 else "Lift", s, 0, 0, True)
        )
        i = 0
        while i < len(stroke.moves):
            last, text, short = _phrase(stroke, i)
            phrases.append(Phrase(f"{text}.", short, s, i, last))
            i = last + 1
    return tuple(phrases)


def spoken(letter: Letter) -> str:
    """All the words of a letter as one text."""
    return " ".join(phrase.text for phrase in patter(letter))


def parting(one: Letter, other: Letter) -> tuple[str, str]:
    """The words at which two letters part company: the first phrase of each that the other does not share.

    Empty where one says nothing that the other does not.

    Examples
    --------
    a goes down where o stops; b starts where d does not.
    """
    first, second = ([phrase.text for phrase in patter(letter)] for letter in (one, other))
    for index in range(max(len(first), len(second))):
        a, b = (words[index] if index < len(words) else "" for words in (first, second))
        if a != b:
            return a, b
    return "", ""


class WordsError(ValueError):
    """Words of one's own that do not fit the moves of the letter."""


def checked_words(letter: Letter, phrases: list[str]) -> list[str]:
    """A class's own phrases, tidied, if there is one for each generated phrase.

    Raises
    ------
    WordsError
        Too many, too few, or an empty one.
    """
    wanted, tidy = len(patter(letter)), [" ".join(phrase.split()) for phrase in phrases]
    if len(tidy) != wanted:
        raise WordsError(
            f"{letter.char} needs {wanted} phrases, one for each part of it; these are {len(tidy)}"
        )
    if not all(tidy):
        raise WordsError(f"phrase {tidy.index('') + 1} is empty")
    return tidy
