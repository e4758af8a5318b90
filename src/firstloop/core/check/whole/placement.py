"""Where one written letter stands, for what is judged of a row, a word or a line."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Placement:
    """Where one written letter stands, letter space; None where it has no such part.

    Parameters
    ----------
    left, right : float
        Of all its ink.
    body_left, body_right : float
        Of the ink that is no join.
    foot : float or None
        Lowest point of its body above the base line.
    body, tall, deep : float or None
        Heights of the part in the middle band (of a capital or digit: all of it), of the tall part
        and of the tail, against those of the model.
    """

    left: float
    right: float
    body_left: float
    body_right: float
    foot: float | None = None
    body: float | None = None
    tall: float | None = None
    deep: float | None = None

    @property
    def middle(self) -> float:
        """Halfway along its ink."""
        return (self.left + self.right) / 2


@dataclass(frozen=True, eq=False)
class PlacedLetter:
    """One letter of a group: its place, which word it is of, and whether its own size is told already."""

    char: str
    word: int
    place: Placement | None
    told_of: bool = False
