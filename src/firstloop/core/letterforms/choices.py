"""The forms of single letters that schools choose between.

A choice is an entry here; the alphabets ask for it by its key. The first option is what a new
house style begins with.
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
    question : str
        Plain words for the screen.
    options : dict
        Value in style files to plain words; the first is the usual one.
    joined_only : bool
        Whether it matters in joined writing only.
    """

    key: str
    letters: str
    question: str
    options: dict[str, str]
    joined_only: bool = False

    @property
    def usual(self) -> str:
        """The option of a new house style."""
        return next(iter(self.options))


_CHOICES = (
    Choice("f", "f", "Where does f end?", {"base": "on the base line", "tail": "with a tail"}),
    Choice("k", "k", "How is k made?", {"two": "two strokes", "one": "one stroke, small loop"}),
    Choice("b", "b", "Is the bowl of b closed?", {"closed": "closed", "open": "left open"}, True),
    Choice("p", "p", "Is the bowl of p closed?", {"closed": "closed", "open": "left open"}, True),
    Choice("q", "q", "How does q end?", {"plain": "plain", "flick": "with a flick", "hook": "with a hook"}),
    Choice("t", "t", "What is the foot of t?", {"curved": "curved foot", "straight": "straight"}),
    Choice("t-height", "t", "How tall is t?", {"short": "short", "full": "to the rise line"}),
    Choice("v", "v", "Is v pointed?", {"pointed": "pointed", "rounded": "rounded"}),
    Choice("w", "w", "Is w pointed?", {"pointed": "pointed", "rounded": "rounded"}),
    Choice("y", "y", "How is y made?", {"cup": "cup and tail", "slopes": "two slopes"}),
    Choice("z", "z", "How is z made?", {"plain": "plain", "barred": "with a bar", "tail": "with a tail"}),
    Choice("x", "x", "How is x made?", {"slopes": "two slopes", "curves": "two curves"}),
    Choice("r", "r", "How is r joined?", {"print": "like print", "shoulder": "with a shoulder"}, True),
    Choice("s", "s", "How is s joined?", {"print": "like print", "shoulder": "with a shoulder"}, True),
    Choice("I", "I", "Has I bars?", {"barred": "bars at top and base", "plain": "plain"}),
    Choice("E", "E", "Are the bars of E equal?", {"equal": "equal bars", "short": "short middle bar"}),
    Choice("G", "G", "How does G end?", {"bar": "with a bar", "stem": "with a bar and a stem"}),
    Choice("J", "J", "Has J a bar?", {"plain": "plain", "barred": "bar at the top"}),
    Choice("M", "M", "Are the sides of M upright?", {"upright": "upright sides", "sloped": "sloped sides"}),
    Choice("N", "N", "How does N end?", {"up": "up to the rise line", "down": "down from the rise line"}),
    Choice("W", "W", "How high is the middle of W?", {"tall": "to the rise line", "half": "halfway"}),
    Choice(
        "stems",
        "BDKLMNPR",
        "After the stem of a capital",
        {"lift": "lift and start again at the top", "retrace": "go back up the stem"},
    ),
    Choice("1", "1", "What does 1 look like?", {"plain": "one down", "flag": "with a flag"}),
    Choice("4", "4", "Is 4 open?", {"open": "open at the top", "closed": "closed at the top"}),
    Choice("7", "7", "Has 7 a bar?", {"plain": "plain", "barred": "with a bar"}),
    Choice("9", "9", "What is the stem of 9?", {"straight": "straight", "curved": "curved"}),
)
CHOICES: dict[str, Choice] = {choice.key: choice for choice in _CHOICES}
