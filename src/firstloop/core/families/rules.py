"""Rules in plain words: what a letter must be like to belong to a family.

A rule is one line of clauses, which must all hold::

    begins with: down, back, over
    begins with: cup or down, cup; has no: slope
    has: round to the right; starts at: the rise line
    reaches: drop line

The words for moves are those of :data:`WORDS`; "or" stands between ways that will do. They are the
keywords of a small language: a teacher types them and boards keep them. A rule reads its own letters
and gives the reason why one belongs, as a message.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache, reduce

from firstloop.core.heights import height_name
from firstloop.core.letterforms.joined import Leave, joined
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.message import Message, message
from firstloop.core.moves import Move, MoveKind

K = MoveKind
ANY_OTHER = "any other"
_REACH_XH = 0.1
_WAYS = " or "


class RuleError(ValueError):
    """A rule that cannot be read; the message says which word, and which words there are."""


def rule_word(move: Move) -> str:
    """The plain word of a move; the same kind can be two words (a tall hook, a small foot)."""
    if move.kind is K.ROUND_LEFT and float(move.path.points(0.05)[:, 1].min()) > 1.2:
        return "top curve"
    if move.kind is K.CUP and float(move.path.end[1]) < 0.5:
        return "small curve"
    return _KIND_WORDS[move.kind]


_KIND_WORDS: dict[MoveKind, str] = {
    K.DOWN: "down",
    K.RETRACE: "back",
    K.ARCH: "over",
    K.CUP: "cup",
    K.ROUND_LEFT: "round to the left",
    K.ROUND_RIGHT: "round to the right",
    K.SLOPE_LEFT: "slope to the left",
    K.SLOPE_RIGHT: "slope to the right",
    K.SLOPE_UP: "slope up",
    K.UP: "up",
    K.BAR: "bar",
    K.HOOK_LEFT: "curl",
    K.HOOK_RIGHT: "curl to the right",
    K.ENTRY: "lead in",
    K.EXIT_BASE: "flick",
    K.EXIT_MID: "level flick",
    K.LOOP: "loop",
    K.DOT: "dot",
}
_SLOPES = ("slope to the left", "slope to the right", "slope up")
WORDS: tuple[str, ...] = (*dict.fromkeys(_KIND_WORDS.values()), "top curve", "small curve", "slope")
"""Words for moves that a rule may use; "slope" stands for any straight slope."""


def _fits(word: str, wanted: str) -> bool:
    return word == wanted or (wanted == "slope" and word in _SLOPES)


def _runs(letter: Letter) -> list[list[str]]:
    return [[rule_word(move) for move in stroke.moves] for stroke in letter.strokes]


def _at(run: list[str], wanted: list[str], index: int) -> bool:
    piece = run[index : index + len(wanted)]
    return len(piece) == len(wanted) and all(_fits(a, b) for a, b in zip(piece, wanted, strict=True))


def _anywhere(letter: Letter, wanted: list[str]) -> bool:
    return any(_at(run, wanted, i) for run in _runs(letter) for i in range(len(run)))


def _moves(text: str) -> list[str]:
    words = [word.strip() for word in text.split(",")]
    for word in words:
        if word not in WORDS:
            raise RuleError(f"“{word}” is not a move; there are {', '.join(WORDS)}")
    return words


Test = Callable[[Letter, HouseStyle], bool]


def _begins(text: str) -> Test:
    wanted = _moves(text)
    return lambda letter, _: _at(_runs(letter)[0], wanted, 0)


def _ends(text: str) -> Test:
    wanted = _moves(text)
    return lambda letter, _: _at(_runs(letter)[-1][-len(wanted) :], wanted, 0)


def _has(text: str) -> Test:
    wanted = _moves(text)
    return lambda letter, _: _anywhere(letter, wanted)


def _has_no(text: str) -> Test:
    wanted = _moves(text)
    return lambda letter, _: not any(_anywhere(letter, [word]) for word in wanted)


def _only(text: str) -> Test:
    wanted = _moves(text)
    return lambda letter, _: all(any(_fits(word, w) for w in wanted) for run in _runs(letter) for word in run)


_LINES: dict[str, Test] = {
    "the rise line": lambda letter, _: letter.body_bounds[3] > 1 + _REACH_XH,
    "the drop line": lambda letter, _: letter.body_bounds[1] < -_REACH_XH,
    "the middle band only": lambda letter, _: (
        letter.body_bounds[3] <= 1 + _REACH_XH and letter.body_bounds[1] >= -_REACH_XH
    ),
}


def _reaches(text: str) -> Test:
    line = text if text.startswith("the ") else f"the {text}"
    if line not in _LINES:
        raise RuleError(f"“{text}” is not a place to reach; there are {', '.join(_LINES)}")
    return _LINES[line]


_STARTS = {
    "rise line": "rise",
    "mid line": "mid",
    "base line": "base",
    "just under the rise line": "under-rise",
    "just under the mid line": "under-mid",
}


def _starts(text: str) -> Test:
    place = text.removeprefix("the ")
    if place == "middle":
        return lambda letter, _: 0.2 < letter.strokes[0].start[1] < 0.8
    if place not in _STARTS:
        raise RuleError(f"“{text}” is not a place to start; there are {', '.join(_STARTS)}, the middle")
    return lambda letter, _: height_name(letter.strokes[0].start[1]) == _STARTS[place]


def _leaves(letter: Letter, style: HouseStyle) -> Leave | None:
    body = joined(letter.char, style)
    return None if body is None else body.leave


_LEAVES: dict[str, Test] = {
    "the base line": lambda letter, style: _leaves(letter, style) is Leave.BASE,
    "the mid line": lambda letter, style: _leaves(letter, style) is Leave.MID,
    "a loop": lambda letter, style: (
        _leaves(letter, style) is Leave.BASE and K.LOOP in {move.kind for move in _body(letter, style)[-1:]}
    ),
    "nowhere": lambda letter, style: _leaves(letter, style) in (None, Leave.LIFT),
}


def _body(letter: Letter, style: HouseStyle) -> tuple[Move, ...]:
    body = joined(letter.char, style)
    return () if body is None else body.moves


def _leaving(text: str) -> Test:
    if text not in _LEAVES:
        raise RuleError(f"“{text}” is not a place to leave from; there are {', '.join(_LEAVES)}")
    return _LEAVES[text]


_CLAUSES: dict[str, Callable[[str], Test]] = {
    "begins with": _begins,
    "ends with": _ends,
    "has": _has,
    "has no": _has_no,
    "has only": _only,
    "starts at": _starts,
    "reaches": _reaches,
    "leaves from": _leaving,
}
CLAUSES: tuple[str, ...] = tuple(_CLAUSES)


@dataclass(frozen=True)
class Clause:
    """One part of a rule: its head, and the ways that will do."""

    head: str
    ways: tuple[str, ...]

    def way(self, letter: Letter, style: HouseStyle) -> str | None:
        """The first way in which the letter fulfils it, or None."""
        return next((way for way in self.ways if _CLAUSES[self.head](way)(letter, style)), None)


@dataclass(frozen=True)
class RuleText:
    """A rule that has been read."""

    text: str
    clauses: tuple[Clause, ...]

    def why(self, letter: Letter, style: HouseStyle = DEFAULT_STYLE) -> Message | None:
        """Why `letter` belongs; None when it does not."""
        ways = [clause.way(letter, style) for clause in self.clauses]
        if any(way is None for way in ways):
            return None
        if not ways:
            return message("reason.like-no-other", char=letter.char)
        clauses = [
            message(f"clause.{_key(c.head)}", way=_said(way or ""))
            for c, way in zip(self.clauses, ways, strict=True)
        ]
        return message("reason.rule", char=letter.char, clauses=_chain("list.and-also", clauses))


def _key(words: str) -> str:
    return words.strip().replace(" ", "-")


def _said(way: str) -> Message:
    return _chain("list.comma", [message(f"rule-word.{_key(word)}") for word in way.split(",")])


def _chain(how: str, parts: list[Message]) -> Message:
    """Several messages as one."""
    return reduce(lambda first, rest: message(how, first=first, rest=rest), parts)


@lru_cache(maxsize=256)
def read_rule(text: str) -> RuleText:
    """Read a rule.

    Raises
    ------
    RuleError
        Naming the word that is not known.
    """
    plain = " ".join(text.split())
    if not plain:
        raise RuleError("a rule says what a letter must be like; this one says nothing")
    if plain.lower() == ANY_OTHER:
        return RuleText(ANY_OTHER, ())
    clauses = []
    for part in plain.split(";"):
        head, colon, rest = part.partition(":")
        head, rest = head.strip().lower(), rest.strip().lower()
        if not colon or head not in _CLAUSES:
            raise RuleError(f"“{head}” does not begin a rule; there are {', '.join(CLAUSES)}")
        ways = tuple(way.strip() for way in rest.split(_WAYS))
        for way in ways:
            _CLAUSES[head](way)
        clauses.append(Clause(head, ways))
    return RuleText("; ".join(f"{c.head}: {_WAYS.join(c.ways)}" for c in clauses), tuple(clauses))
