"""Classes: which there are, new ones, how one is set up, and putting one away."""

from __future__ import annotations

from dataclasses import dataclass, fields
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.style import (
    DEFAULT_STYLE,
    Ascenders,
    Correction,
    Dots,
    HouseStyle,
    Script,
    Tails,
    Width,
)
from firstloop.core.ruling import RULINGS, USUAL_RULING, Boxes, ruling_kind
from firstloop.core.supports import USUAL_ROW, Support
from firstloop.services.children import ChildView, child_view
from firstloop.store import classes as store
from firstloop.store.styles import house_style
from firstloop.store.tables import SchoolClass
from firstloop.text import say

_FLOATING = "position.floating"  # what a level is shown by


@dataclass(frozen=True)
class AdjustmentView:
    """A measure changed on one letter, or on all where ``letter`` is empty."""

    letter: str
    measure: str
    value: float


@dataclass(frozen=True)
class StyleView:
    """A house style; letter choices only where they are not the usual one."""

    name: str
    script: Script
    slant_deg: float
    width: Width
    entry: bool
    ascenders: Ascenders
    tails: Tails
    dots: Dots
    correction: Correction
    breaks: str
    choices: dict[str, str]
    adjustments: list[AdjustmentView]


@dataclass(frozen=True)
class ClassStyle(StyleView):
    """House style of a class, in the version it follows."""

    id: int
    version: int


@dataclass(frozen=True)
class RuledLineView:
    """A line of a ruling: its height above the base line, and how it is drawn."""

    name: str
    height_xh: float
    dashed: bool
    strong: bool


@dataclass(frozen=True)
class RulingView:
    """What a ruling draws: lines, a tinted middle band, boxes around every letter or word."""

    key: str
    name: str
    lines: list[RuledLineView]
    washed: bool
    boxes: Boxes | None


@dataclass(frozen=True)
class ClassView:
    """A class with its children.

    ``pattern`` is how its rows go, ``fill_line`` whether they go on until the line is full, ``layered``
    whether their letters are written on top of one another.
    """

    id: int
    name: str
    ruling: str
    ruled: RulingView
    xh_mm: float
    level: Level
    line_names: dict[str, str]
    pattern: list[Support]
    fill_line: bool
    layered: bool
    style: ClassStyle
    children: list[ChildView]
    archived: bool


@dataclass(frozen=True)
class LevelView:
    """A level in a sentence, and by how much of a small letter one may stand off the line at it."""

    level: Level
    says: str
    floating_xh: float


def levels() -> list[LevelView]:
    """Every level, from the most lenient."""
    return [
        LevelView(level, say(f"level.{level}"), Strictness(level).tolerance(_FLOATING) or 0.0)
        for level in Level
    ]


def style_fields(style: HouseStyle) -> dict[str, Any]:
    """The fields of a :class:`StyleView`."""
    return {
        **{one.name: getattr(style, one.name) for one in fields(StyleView)},
        "choices": dict(style.choices),
        "adjustments": [AdjustmentView(**vars(one)) for one in style.adjustments],
    }


def ruling_view(key: str, washed: bool | None = None) -> RulingView:
    """A ruling to be drawn, its middle band tinted as it is usual for it or as the class has it."""
    kind = ruling_kind(key)
    lines = [RuledLineView(**vars(line)) for line in kind.lines]
    return RulingView(key, say(f"ruling.{key}"), lines, kind.washed if washed is None else washed, kind.boxes)


def row_pattern(school_class: SchoolClass) -> list[Support]:
    """How the rows of a class go."""
    return [Support(one) for one in school_class.pattern or USUAL_ROW]


def class_view(one: SchoolClass) -> ClassView:
    """A class to be shown."""
    return ClassView(
        id=one.id,
        name=one.name,
        ruling=one.ruling,
        ruled=ruling_view(one.ruling, one.washed),
        xh_mm=one.xh_mm,
        level=Level(one.level),
        line_names=one.line_names or {},
        pattern=row_pattern(one),
        fill_line=one.fill_line,
        layered=one.layered,
        style=ClassStyle(id=one.style.id, version=one.style.version, **style_fields(house_style(one))),
        children=[child_view(child) for child in one.children],
        archived=one.archived_at is not None,
    )


def every(session: Session, archived: bool = False) -> list[ClassView]:
    """Every class of now, or every one put away, with its children."""
    return [class_view(one) for one in store.all_classes(session, archived)]


def line_names(session: Session, **about: int) -> dict[str, str] | None:
    """What the class that something is about calls the lines; one of class, child, row or word, by number."""
    return store.line_names(session, **about)


def ruling_of(session: Session, class_id: int | None) -> str:
    """Key of a class's ruling; the usual one without a class.

    Raises
    ------
    NotFoundError
    """
    return USUAL_RULING if class_id is None else store.get_class(session, class_id).ruling


def add(
    session: Session,
    name: str,
    ruling: str,
    xh_mm: float,
    level: str,
    style: HouseStyle = DEFAULT_STYLE,
    at: datetime | None = None,
) -> ClassView:
    """Add a class that writes on the given ruling.

    Raises
    ------
    ConflictError
        If there is a class of that name.
    RulingError
        If nothing can be written on that ruling.
    """
    ruling_kind(ruling).ruled(xh_mm)
    made = store.add_class(session, name, style, ruling, xh_mm, level, at)
    session.commit()
    return class_view(made)


def change(session: Session, class_id: int, at: datetime, **fields: Any) -> ClassView:
    """Change a class from now on; what was written and judged stays as it is.

    Parameters
    ----------
    fields
        Of ``name``, ``ruling``, ``xh_mm``, ``washed``, ``line_names``, ``level``, ``pattern`` (how its rows
        go), ``fill_line``, ``layered``, and ``archived``: whether it is put away.

    Raises
    ------
    NotFoundError
    ConflictError
        If another class has that name.
    RulingError
        If nothing can be written on that ruling.
    """
    school_class = store.get_class(session, class_id)
    if "line_names" in fields:  # the usual names are none of its own
        given = {line: name for line, name in fields["line_names"].items() if name != f"{line} line"}
        fields["line_names"] = given or None
    if "archived" in fields:
        fields["archived_at"] = at if fields.pop("archived") else None
    ruling_kind(fields.get("ruling", school_class.ruling)).ruled(fields.get("xh_mm", school_class.xh_mm))
    store.change_class(session, school_class, **fields)
    session.commit()
    return class_view(school_class)


def rulings() -> list[RulingView]:
    """Every way of ruling paper there is."""
    return [ruling_view(key) for key in RULINGS]
