"""The forms of single letters that schools choose between.

A choice is an entry here; the alphabets ask for it by its key. The first option is what a new
house style begins with. Question and answers are worded in the catalogue.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Choice:
    """One question a school answers once.

    Parameters
    ----------
    key : str
        How the alphabets and style files name it.
    letters : str
        The letters it changes; the first stands for it on a screen.
    options : tuple of str
        As style files name them; the first is the usual one.
    joined_only : bool
        Whether it matters in joined writing only.
    """

    key: str
    letters: str
    options: tuple[str, ...]
    joined_only: bool = False

    @property
    def usual(self) -> str:
        """The option of a new house style."""
        return self.options[0]


_CHOICES = (
    Choice("f", "f", ("base", "tail")),
    Choice("k", "k", ("two", "one")),
    Choice("b", "b", ("closed", "open"), joined_only=True),
    Choice("p", "p", ("closed", "open"), joined_only=True),
    Choice("q", "q", ("plain", "flick", "hook")),
    Choice("t", "t", ("curved", "straight")),
    Choice("t-height", "t", ("short", "full")),
    Choice("v", "v", ("pointed", "rounded")),
    Choice("w", "w", ("pointed", "rounded")),
    Choice("y", "y", ("cup", "slopes")),
    Choice("z", "z", ("plain", "barred", "tail")),
    Choice("x", "x", ("slopes", "curves")),
    Choice("r", "r", ("print", "shoulder"), joined_only=True),
    Choice("s", "s", ("print", "shoulder"), joined_only=True),
    Choice("I", "I", ("barred", "plain")),
    Choice("E", "E", ("equal", "short")),
    Choice("G", "G", ("bar", "stem")),
    Choice("J", "J", ("plain", "barred")),
    Choice("M", "M", ("upright", "sloped")),
    Choice("N", "N", ("up", "down")),
    Choice("W", "W", ("tall", "half")),
    Choice("stems", "BDKLMNPR", ("lift", "retrace")),
    Choice("1", "1", ("plain", "flag")),
    Choice("4", "4", ("open", "closed")),
    Choice("7", "7", ("plain", "barred")),
    Choice("9", "9", ("straight", "curved")),
)
CHOICES: dict[str, Choice] = {choice.key: choice for choice in _CHOICES}
