"""Where schools differ, drawn both ways, with what the class takes."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from firstloop.core.letterforms.differences import Side, differences
from firstloop.services.letters import numbered_paths
from firstloop.store.styles import style_of_class
from firstloop.text import say


@dataclass(frozen=True)
class NumberedStroke:
    """A stroke as SVG path data (hundredths of the middle band, y down), and where its number stands."""

    path: str
    number: int | None
    at: list[float]


@dataclass(frozen=True)
class SideView:
    """One way to do it: its name, what speaks for it, and its drawing."""

    name: str
    speaks: str
    strokes: list[NumberedStroke]
    width: float
    crossed: int
    ruled: bool


@dataclass(frozen=True)
class DifferenceView:
    """A question with both ways, which one is taken when nobody chooses and why.

    ``chosen`` is the side that the class takes, where its house style says so.
    """

    key: str
    question: str
    sides: list[SideView]
    why: str
    chosen: int | None


def where_schools_differ(session: Session, class_id: int | None) -> list[DifferenceView]:
    """Every question on which practitioners differ.

    Raises
    ------
    NotFoundError
    """
    style = style_of_class(session, class_id)
    return [
        DifferenceView(
            key=one.key,
            question=say(f"difference.{one.key}.question"),
            sides=[_side(one.key, side) for side in one.sides],
            why=say(f"difference.{one.key}.why"),
            chosen=one.chosen(style) if one.in_style else None,
        )
        for one in differences()
    ]


def _side(key: str, side: Side) -> SideView:
    strokes = [
        NumberedStroke(path, n + 1 if side.numbered else None, at)
        for n, (path, at) in enumerate(numbered_paths(side.model))
    ]
    return SideView(
        name=say(f"difference.{key}.{side.key}"),
        speaks=say(f"difference.{key}.{side.key}.for"),
        strokes=strokes,
        width=round(float(side.model.bounds[2]) * 100 + 17, 1),
        crossed=side.crossed,
        ruled=side.ruled,
    )
