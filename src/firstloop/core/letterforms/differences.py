"""Where schools differ: the same letters or words drawn the two ways that practitioners disagree on.

The first side is what First Loop takes when nobody chooses. What speaks for each stands in the catalogue.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from firstloop.core.letterforms.alphabets import plain
from firstloop.core.letterforms.model import Letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, Dots, HouseStyle, Script
from firstloop.core.letterforms.words import word
from firstloop.core.moves import MoveKind, Stroke, bar, stroke

_JOINED = HouseStyle(script=Script.CURSIVE)


@dataclass(frozen=True, eq=False)
class Side:
    """One way to do it.

    Parameters
    ----------
    key : str
        Its name in the catalogue.
    model : Letter
        What is drawn.
    numbered : bool
        Whether strokes carry their numbers: the order is what differs.
    crossed : int
        So many strokes, from the first, stand crossed out.
    ruled : bool
        Whether it stands on lines.
    """

    key: str
    model: Letter
    numbered: bool = False
    crossed: int = 0
    ruled: bool = True


@dataclass(frozen=True, eq=False)
class Difference:
    """A question that schools answer in two ways.

    Parameters
    ----------
    in_style : bool
        Whether the house style has it as a choice.
    chosen : callable
        Which side a house style takes, 0 or 1.
    """

    key: str
    sides: tuple[Side, Side]
    in_style: bool = False
    chosen: Callable[[HouseStyle], int] = lambda _: 0


def _d_from_the_stem() -> Letter:
    d = plain("d")
    first, _, last = d.strokes[0].moves
    stem = Stroke((replace(last, kind=MoveKind.DOWN),))
    return Letter("d", (stem, Stroke((first,))))


def _e_like_c() -> Letter:
    c = plain("c")
    return Letter("e", (c.strokes[0], stroke((0.0, 0.5), bar(0.82))))


def _by_style(key: str, text: str, one: HouseStyle, two: HouseStyle, *, numbered: bool = False) -> Difference:
    sides = (Side("one", word(text, one), numbered), Side("two", word(text, two), numbered))
    return Difference(key, sides, in_style=True)


def _choice(key: str, text: str, choice: str, other: str) -> Difference:
    made = _by_style(f"choice-{key}", text, DEFAULT_STYLE, DEFAULT_STYLE.choosing(choice, other))
    return replace(made, chosen=lambda style: int(style.pick(choice) == other))


def differences() -> tuple[Difference, ...]:
    """Every question, with both ways drawn."""
    cross, row = word("nn"), word("n")
    straight, entry = _JOINED, replace(_JOINED, entry=False)
    breaks = replace(_JOINED, breaks="os")
    late = replace(DEFAULT_STYLE, dots=Dots.AFTER_WORD)
    ways = (
        Difference(
            "first-move-d",
            (Side("one", plain("d"), numbered=True), Side("two", _d_from_the_stem(), numbered=True)),
        ),
        Difference(
            "first-move-e",
            (Side("one", plain("e"), numbered=True), Side("two", _e_like_c(), numbered=True)),
        ),
        _choice("E", "E", "E", "short"),
        _choice("I", "I", "I", "plain"),
        _choice("k", "k", "k", "one"),
        _choice("stems", "B", "stems", "retrace"),
        Difference("correction", (Side("one", cross, crossed=1), Side("two", row))),
        replace(
            _by_style("dots", "in", DEFAULT_STYLE, late, numbered=True),
            chosen=lambda style: int(style.dots is Dots.AFTER_WORD),
        ),
        replace(_by_style("entry", "an", straight, entry), chosen=lambda style: int(not style.entry)),
        replace(
            _by_style("breaks", "so on", straight, breaks),
            chosen=lambda style: int(bool({"o", "s"} & set(style.breaks))),
        ),
        Difference("families", (Side("one", word("n m h b")), Side("two", word("n l t u")))),
        Difference("capitals", (Side("one", word("a A")), Side("two", word("A a")))),
        Difference("lines", (Side("one", word("gull")), Side("two", word("gull"), ruled=False))),
    )
    return tuple(ways)
