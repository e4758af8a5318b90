"""What a teacher says while the pen moves: phrase by phrase, as keys and heights.

Phrases come from the geometry: heights become names of lines, moves become directions. A phrase is
tied to the moves it belongs to, so a screen can light up words and ink together. The words
themselves stand in the catalogue (``firstloop.text``).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from firstloop.core.heights import height_name
from firstloop.core.letterforms.model import Letter
from firstloop.core.moves import Move, MoveKind, Stroke

K = MoveKind
_TALL_XH = 1.5  # what begins or ends above this is in the rise band
_LOW_XH = 0.3
_SIDE = 0.35  # of the letter's width: what starts further left is on its left


@dataclass(frozen=True)
class Phrase:
    """What is said of a run of moves.

    Parameters
    ----------
    key : str
        Which phrase it is, in the catalogue.
    stroke : int
        Index of the stroke.
    first_move, last_move : int
        The moves it covers, both included; for "Start ..." both are 0 and `is_start` is true.
    height : str
        Name of the height it begins or ends at (see :mod:`~firstloop.core.heights`); empty where the
        phrase names none.
    """

    key: str
    stroke: int
    first_move: int
    last_move: int
    height: str = ""
    is_start: bool = False

    @property
    def said(self) -> tuple[str, str]:
        """What two phrases have in common that sound alike."""
        return self.key, self.height


Said = tuple[str, str]
"""Key of a phrase and the height it names."""


def _end(move: Move) -> str:
    return height_name(float(move.path.end[1]))


def _next(stroke: Stroke, i: int) -> MoveKind | None:
    return stroke.moves[i + 1].kind if i + 1 < len(stroke.moves) else None


def _is_sideways(move: Move) -> bool:
    across, up = np.abs(move.path.end - move.path.start)
    return bool(across > up)


def _down(move: Move, _: Stroke, i: int) -> Said:
    return "down" if i else "straight-down", _end(move)


def _round(move: Move, stroke: Stroke, i: int) -> Said:
    then = _next(stroke, i)
    if move.closes:
        return "round-all-the-way", ""
    if then is K.DOWN and float(move.path.start[1]) > _TALL_XH:
        return "over-into-the-stem", ""
    if then is K.ROUND_RIGHT:
        return "round-and-in", ""
    if then is K.ROUND_LEFT:
        return "curve-down", ""
    if i and stroke.moves[i - 1].kind is K.ROUND_RIGHT:
        return "and-back", _end(move)
    return "round-and-stop", _end(move)


def _bowl(move: Move, stroke: Stroke, i: int) -> Said:
    if move.closes:
        return "bowl-to-the-stem", ""
    if _next(stroke, i) is None:
        return "bowl-and-stop", _end(move)
    return "bowl-and-in", ""


def _cup(move: Move, _: Stroke, i: int) -> Said:
    if float(move.path.end[1]) < 0.5:
        return "little-curve", ""
    return "cup", _end(move)


def _retrace(move: Move, stroke: Stroke, i: int) -> Said:
    way = "up" if float(move.path.end[1]) > float(move.path.start[1]) else "down"
    if _is_sideways(move):
        return "back-along", ""
    return (f"back-{way}-to", _end(move)) if i + 1 == len(stroke.moves) else (f"back-{way}", "")


def _bar(move: Move, _: Stroke, i: int) -> Said:
    return "back-across" if float(move.path.end[0]) < float(move.path.start[0]) else "across", ""


def _dot(move: Move, _: Stroke, i: int) -> Said:
    return "dot-on-the-base" if float(move.path.start[1]) < _LOW_XH else "dot-above", ""


def _hook(move: Move, _: Stroke, i: int) -> Said:
    return "curl-on-the-drop" if float(move.path.end[1]) < -0.5 else "curl-below-the-base", ""


def _curl_right(move: Move, _: Stroke, i: int) -> Said:
    return "over-to-the-right" if float(move.path.end[1]) > _TALL_XH else "curl-right", ""


def _loop(move: Move, stroke: Stroke, i: int) -> Said:
    if float(move.path.points(0.05)[:, 1].min()) < -0.5:
        return "loop-back-up", ""
    return "loop-over" if float(move.path.end[1]) > 1.2 else "across-and-up", ""


def _onward(move: Move, stroke: Stroke, i: int) -> Said:
    level = "-level" if move.kind is K.EXIT_MID else ""
    if i + 1 == len(stroke.moves):
        return f"flick-out{level}", ""
    return f"on{level}", _end(move)


def _to_its_end(key: str) -> Callable[[Move, Stroke, int], Said]:
    return lambda move, stroke, i: (key, _end(move))


def _plain(key: str) -> Callable[[Move, Stroke, int], Said]:
    return lambda move, stroke, i: (key, "")


_SAID: dict[MoveKind, Callable[[Move, Stroke, int], Said]] = {
    K.DOWN: _down,
    K.UP: _to_its_end("up"),
    K.ARCH: _plain("over-and-stop"),
    K.RETRACE: _retrace,
    K.CUP: _cup,
    K.ROUND_LEFT: _round,
    K.ROUND_RIGHT: _bowl,
    K.SLOPE_RIGHT: _to_its_end("slope-right"),
    K.SLOPE_LEFT: _to_its_end("slope-left"),
    K.SLOPE_UP: _to_its_end("slope-up"),
    K.BAR: _bar,
    K.HOOK_LEFT: _hook,
    K.HOOK_RIGHT: _curl_right,
    K.DOT: _dot,
    K.LOOP: _loop,
    K.ENTRY: _to_its_end("lead-in"),
    K.EXIT_BASE: _onward,
    K.EXIT_MID: _onward,
}


# two moves said in one breath, by how the second ends; and moves that are said otherwise before another
_TOGETHER: dict[tuple[MoveKind, MoveKind], tuple[str, bool]] = {  # key, and whether it names the end
    (K.ARCH, K.DOWN): ("over-and-down", True),
    (K.ARCH, K.ROUND_RIGHT): ("over-and-round", False),
    (K.DOWN, K.HOOK_LEFT): ("down-and-curl", False),
    (K.DOWN, K.LOOP): ("down-and-loop", False),
    (K.DOWN, K.CUP): ("down-and-curve", False),
}
_TOGETHER_HIGH: dict[tuple[MoveKind, MoveKind], tuple[str, bool]] = {
    (K.DOWN, K.HOOK_LEFT): ("down-and-curl-high", False),
    (K.DOWN, K.CUP): ("down-round-and-up", True),
}
_HIGH_END_XH = {(K.DOWN, K.HOOK_LEFT): -0.2, (K.DOWN, K.CUP): 0.9}  # ends above this are the other kind
_TURNS_OUT = {  # a move whose foot turns into the exit is said as if it stood on the base line
    K.DOWN: "down-and-out",
    K.RETRACE: "back-down-and-out",
    K.SLOPE_RIGHT: "slope-and-out",
}
_BEFORE: dict[tuple[MoveKind, MoveKind], str] = {(K.SLOPE_LEFT, K.SLOPE_RIGHT): "slope-in"}


def _phrase(stroke: Stroke, i: int) -> tuple[int, Said]:
    """What is said from move `i` on: the last move it covers, and the phrase."""
    move = stroke.moves[i]
    if i + 1 == len(stroke.moves):
        return i, _SAID[move.kind](move, stroke, i)
    following = stroke.moves[i + 1]
    pair = (move.kind, following.kind)
    if following.kind is K.EXIT_BASE and move.kind in _TURNS_OUT and not _is_sideways(move):
        return i, (_TURNS_OUT[move.kind], "")
    if pair in _BEFORE:
        return i, (_BEFORE[pair], "")
    together = _TOGETHER_HIGH if float(following.path.end[1]) > _HIGH_END_XH.get(pair, np.inf) else _TOGETHER
    if pair not in together:
        return i, _SAID[move.kind](move, stroke, i)
    key, names_end = together[pair]
    if following.kind is K.DOWN and _next(stroke, i + 1) is K.EXIT_BASE:
        return i + 1, (f"{key}-and-out", "")
    return i + 1, (key, _end(following) if names_end else "")


def _start(stroke: Stroke, index: int, letter: Letter) -> Said:
    x, y = stroke.start
    if stroke.moves[0].kind is K.DOT and index:
        return "lift-above-the-stem" if y > 1 else "lift-to-the-base", ""
    left, _, right, _ = letter.bounds
    if not index:
        return "start", height_name(y)
    if right - left <= 0.3:
        return "lift", height_name(y)
    return "lift-left" if x < left + _SIDE * (right - left) else "lift-right", height_name(y)


def patter(letter: Letter) -> tuple[Phrase, ...]:
    """What is said of a letter, phrase by phrase, in order."""
    phrases: list[Phrase] = []
    for s, stroke in enumerate(letter.strokes):
        key, height = _start(stroke, s, letter)
        phrases.append(Phrase(key, s, 0, 0, height, is_start=True))
        i = 0
        while i < len(stroke.moves):
            last, (key, height) = _phrase(stroke, i)
            phrases.append(Phrase(key, s, i, last, height))
            i = last + 1
    return tuple(phrases)


def parting(one: Letter, other: Letter) -> tuple[Phrase | None, Phrase | None]:
    """Where two letters part company: the first phrase of each that the other does not share.

    None where one says nothing that the other does not.

    Examples
    --------
    a goes down where o stops; b starts where d does not.
    """
    first, second = patter(one), patter(other)
    for index in range(max(len(first), len(second))):
        a, b = (phrases[index] if index < len(phrases) else None for phrases in (first, second))
        if a is None or b is None or a.said != b.said:
            return a, b
    return None, None


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
