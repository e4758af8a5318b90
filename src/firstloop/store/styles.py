"""House styles in versions. A class follows one; a change never rewrites what was judged by an older one."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from firstloop.core.letterforms.document import style_document, style_from
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.store.errors import NotFoundError
from firstloop.store.tables import HouseStyleRow, Row, SchoolClass, WrittenWord


def first_version(style: HouseStyle, at: datetime | None) -> HouseStyleRow:
    """A style that stands at the beginning of a lineage of its own."""
    return HouseStyleRow(name=style.name, version=1, made_at=at, document=style_document(style))


def house_style(follower: SchoolClass | Row | WrittenWord) -> HouseStyle:
    """The style a class follows, or a row or word was written in, as the core knows it."""
    return read(follower.style)


def read(style: HouseStyleRow) -> HouseStyle:
    """A kept version as the core knows it."""
    return style_from(style.document)


def get_style(session: Session, style_id: int) -> HouseStyleRow:
    """One version of a style.

    Raises
    ------
    NotFoundError
    """
    found = session.get(HouseStyleRow, style_id)
    if found is None:
        raise NotFoundError("house style", style_id)
    return found


def style_like(session: Session, document: dict[str, Any], at: datetime) -> HouseStyleRow:
    """The version that is this very style, else a new one that nobody follows."""
    for known in session.scalars(select(HouseStyleRow).order_by(HouseStyleRow.id.desc())):
        if known.document == document:
            return known
    made = first_version(style_from(document), at)
    session.add(made)
    session.flush()
    made.lineage = made.id
    return made


def latest_styles(session: Session) -> Sequence[HouseStyleRow]:
    """The latest version of every style, by name."""
    newest = select(func.max(HouseStyleRow.id)).group_by(HouseStyleRow.lineage)
    return session.scalars(
        select(HouseStyleRow).where(HouseStyleRow.id.in_(newest)).order_by(HouseStyleRow.name)
    ).all()


def versions(session: Session, style: HouseStyleRow) -> Sequence[HouseStyleRow]:
    """All versions of a style, latest first."""
    return session.scalars(
        select(HouseStyleRow)
        .where(HouseStyleRow.lineage == style.lineage)
        .order_by(HouseStyleRow.version.desc())
    ).all()


def keep_style(session: Session, school_class: SchoolClass, style: HouseStyle, at: datetime) -> HouseStyleRow:
    """Let a class follow `style`: as the next version of its present one, or as a new one by another name.

    Other classes that follow the same style go on following the version they have.
    """
    present = school_class.style
    document = style_document(style)
    if style_document(style_from(present.document)) == document:
        return present
    if style.name == present.name:
        made = HouseStyleRow(
            name=style.name,
            lineage=present.lineage,
            version=versions(session, present)[0].version + 1,
            made_at=at,
            document=document,
        )
    else:
        made = first_version(style, at)
    session.add(made)
    session.flush()
    made.lineage = made.lineage or made.id
    school_class.style = made
    session.flush()
    return made


def follow(session: Session, school_class: SchoolClass, style_id: int) -> None:
    """Let a class follow a version that is kept already.

    Raises
    ------
    NotFoundError
    """
    school_class.style = get_style(session, style_id)
    session.flush()


def style_of_class(session: Session, class_id: int | None) -> HouseStyle:
    """The style a class follows; the default style without a class.

    Raises
    ------
    NotFoundError
    """
    if class_id is None:
        return DEFAULT_STYLE
    found = session.get(SchoolClass, class_id)
    if found is None:
        raise NotFoundError("class", class_id)
    return house_style(found)
