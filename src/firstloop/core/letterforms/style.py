"""House style: the named set of choices that every model, sheet and check shares."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields, replace
from enum import StrEnum
from functools import cached_property

import numpy as np

from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.parts import MEASURES, Parts

SLANT_MAX_DEG = 15.0


class Script(StrEnum):
    """How letters stand to each other. What follows from it is asked of its properties, never of its name."""

    PRINT = "print"
    PRINT_EXITS = "print-exits"
    CURSIVE = "cursive"

    @property
    def joins(self) -> bool:
        """Whether the letters of a word are written without lifting."""
        return self is Script.CURSIVE

    @property
    def flicks(self) -> bool:
        """Whether a letter ends in a small way out of its own, which joins nothing."""
        return self is Script.PRINT_EXITS

    @property
    def is_bare(self) -> bool:
        """Whether a letter is itself and nothing more: no way in, no way out."""
        return self is Script.PRINT


class Width(StrEnum):
    """How wide letters are drawn."""

    NARROW = "narrow"
    EVEN = "even"
    WIDE = "wide"

    @property
    def factor(self) -> float:
        """Sideways scale against the even letter."""
        return {"narrow": 0.86, "even": 1.0, "wide": 1.14}[self.value]


class Hand(StrEnum):
    """Hand a child writes with."""

    RIGHT = "right"
    LEFT = "left"


class Ascenders(StrEnum):
    """How a joined stem goes up to the rise line."""

    PLAIN = "plain"
    LOOPED = "looped"


class Tails(StrEnum):
    """How the tails of joined letters end."""

    LOOPED = "looped"
    HOOKED = "hooked"


class Dots(StrEnum):
    """When dots and bars are written."""

    AT_ONCE = "at-once"
    AFTER_WORD = "after-word"


class Correction(StrEnum):
    """What a child does with a letter that went wrong."""

    CROSS_OUT = "cross-out"
    RUB_OUT = "rub-out"


class StyleError(ValueError):
    """A house style was asked for that no letter can follow."""


@dataclass(frozen=True)
class Adjustment:
    """A measure that a teacher has changed on one letter, or on all of them (``letter`` empty).

    Raises
    ------
    StyleError
        If there is no such measure, or the value would break the letter.
    """

    letter: str
    measure: str
    value: float

    def __post_init__(self) -> None:
        known = MEASURES.get(self.measure)
        if known is None:
            raise StyleError(f"there is no measure {self.measure!r}; there are {', '.join(MEASURES)}")
        if not known.low <= self.value <= known.high:
            raise StyleError(f"{known.key} must be {known.low:g} to {known.high:g}, not {self.value:g}")


@dataclass(frozen=True)
class HouseStyle:
    """Choices that a class makes once.

    Parameters
    ----------
    slant_deg : float
        Forward slant, 0 to 15 degrees from the vertical.
    width : Width
        Narrow, even or wide letters.
    entry : bool
        Whether a joined letter is led into from the base line at the start of a word.
    breaks : str
        Letters after which the pen lifts inside a joined word, besides those that cannot join.
    choices : tuple of (key, option)
        Answers to :data:`CHOICES` that differ from the usual one, sorted by key.
    adjustments : tuple of Adjustment
        Changes to single letters; those for all letters come first.

    Raises
    ------
    StyleError
        If the slant is out of range, or a choice is not one the house has.
    """

    name: str = "Print, upright"
    script: Script = Script.PRINT
    slant_deg: float = 0.0
    width: Width = Width.EVEN
    entry: bool = True
    ascenders: Ascenders = Ascenders.PLAIN
    tails: Tails = Tails.LOOPED
    dots: Dots = Dots.AT_ONCE
    correction: Correction = Correction.CROSS_OUT
    breaks: str = ""
    choices: tuple[tuple[str, str], ...] = ()
    adjustments: tuple[Adjustment, ...] = ()

    def __post_init__(self) -> None:
        if not 0.0 <= self.slant_deg <= SLANT_MAX_DEG:
            raise StyleError(f"slant must be 0 to {SLANT_MAX_DEG:g} degrees, not {self.slant_deg:g}")
        for key, option in self.choices:
            if key not in CHOICES:
                raise StyleError(f"there is no choice {key!r}; there are {', '.join(CHOICES)}")
            if option not in CHOICES[key].options:
                known = ", ".join(CHOICES[key].options)
                raise StyleError(f"the choice for {key!r} is one of {known}, not {option!r}")

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        """Worked out once: a style is looked up at every step of a check."""
        return hash(tuple(getattr(self, one.name) for one in fields(self)))

    @property
    def is_joined(self) -> bool:
        """Whether the letters of a word are written without lifting."""
        return self.script.joins

    @cached_property
    def _answers(self) -> dict[str, str]:
        return dict(self.choices)

    def pick(self, key: str) -> str:
        """The option this style takes for a choice."""
        return self._answers.get(key, CHOICES[key].usual)

    def choosing(self, key: str, option: str) -> HouseStyle:
        """The same style with one choice made otherwise."""
        if key not in CHOICES:
            raise StyleError(f"there is no choice {key!r}; there are {', '.join(CHOICES)}")
        answers = {**self._answers, key: option}
        told = tuple(sorted((k, v) for k, v in answers.items() if v != CHOICES[k].usual))
        return replace(self, choices=told)

    def adjusting(self, letter: str, measure: str, value: float) -> HouseStyle:
        """The same style with one measure of a letter (of all, if `letter` is empty) changed."""
        changed = Adjustment(letter, measure, value)
        rest = [a for a in self.adjustments if (a.letter, a.measure) != (letter, measure)]
        ordered = sorted([*rest, changed], key=lambda a: (a.letter, a.measure))
        return replace(self, adjustments=tuple(ordered))

    def parts(self, char: str) -> Parts:
        """Measures of the shared parts as `char` uses them."""
        changed = {a.measure: a.value for a in self.adjustments if a.letter in ("", char)}
        return Parts(**changed)

    @property
    def matrix(self) -> FloatArray:
        """Linear map from upright, even letter space to this style's; shape (2, 2)."""
        return np.array([[self.width.factor, math.tan(math.radians(self.slant_deg))], [0.0, 1.0]])


DEFAULT_STYLE = HouseStyle()
