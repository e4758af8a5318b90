"""House style: the named set of choices that every model, sheet and check shares."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from firstloop.core.curves import FloatArray

SLANT_MAX_DEG = 15.0


class Script(StrEnum):
    """How letters stand to each other."""

    PRINT = "print"
    PRINT_EXITS = "print-exits"
    CURSIVE = "cursive"


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


class StyleError(ValueError):
    """A house style was asked for that no letter can follow."""


@dataclass(frozen=True)
class HouseStyle:
    """Choices that a class makes once.

    Parameters
    ----------
    slant_deg : float
        Forward slant, 0 to 15 degrees from the vertical.
    width : Width
        Narrow, even or wide letters.

    Raises
    ------
    StyleError
        If the slant is out of range.
    """

    name: str = "Print, upright"
    script: Script = Script.PRINT
    slant_deg: float = 0.0
    width: Width = Width.EVEN

    def __post_init__(self) -> None:
        if not 0.0 <= self.slant_deg <= SLANT_MAX_DEG:
            raise StyleError(f"slant must be 0 to {SLANT_MAX_DEG:g} degrees, not {self.slant_deg:g}")

    @property
    def matrix(self) -> FloatArray:
        """Linear map from upright, even letter space to this style's; shape (2, 2)."""
        return np.array([[self.width.factor, math.tan(math.radians(self.slant_deg))], [0.0, 1.0]])


DEFAULT_STYLE = HouseStyle()
