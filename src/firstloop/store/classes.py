"""Classes and their children."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session, selectinload

from firstloop.core.letterforms.style import HouseStyle
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.styles import first_version
from firstloop.store.tables import Attempt, Child, Note, Row, SchoolClass, WrittenWord


def counts(session: Session) -> dict[str, int]:
    """How many classes, children, rows and attempts there are."""
    tables = {"classes": SchoolClass, "children": Child, "rows": Row, "attempts": Attempt}
    return {
        name: session.scalar(select(func.count()).select_from(table)) or 0 for name, table in tables.items()
    }


def all_classes(session: Session, archived: bool = False) -> Sequence[SchoolClass]:
    """Every class of now, or every one put away, with its children, by name."""
    away = SchoolClass.archived_at.is_not(None)
    return session.scalars(
        select(SchoolClass)
        .where(away if archived else ~away)
        .options(selectinload(SchoolClass.children), selectinload(SchoolClass.style))
        .order_by(SchoolClass.name)
    ).all()


def get_class(session: Session, class_id: int) -> SchoolClass:
    """One class.

    Raises
    ------
    NotFoundError
    """
    found = session.get(SchoolClass, class_id)
    if found is None:
        raise NotFoundError("class", class_id)
    return found


def get_child(session: Session, child_id: int) -> Child:
    """One child.

    Raises
    ------
    NotFoundError
    """
    found = session.get(Child, child_id)
    if found is None:
        raise NotFoundError("child", child_id)
    return found


def some_children(session: Session, class_id: int, ids: Sequence[int]) -> Sequence[Child]:
    """Some of the children of a class, in the order in which it has them."""
    some = select(Child).where(Child.class_id == class_id, Child.id.in_(ids))
    return session.scalars(some.order_by(Child.first_name)).all()


def add_class(
    session: Session,
    name: str,
    style: HouseStyle,
    ruling: str,
    xh_mm: float,
    level: str,
    at: datetime | None = None,
) -> SchoolClass:
    """Add a class with its own house style.

    Raises
    ------
    ConflictError
        If there is a class of that name.
    """
    made = SchoolClass(
        name=name,
        ruling=ruling,
        xh_mm=xh_mm,
        level=level,
        style=first_version(style, at),
    )
    session.add(made)
    _flush(session, f"There is already a class called {name}.")
    made.style.lineage = made.style.id
    return made


def line_names(
    session: Session,
    class_id: int | None = None,
    child_id: int | None = None,
    row_id: int | None = None,
    word_id: int | None = None,
) -> dict[str, str] | None:
    """What the class of one of these calls the lines; None for the usual names, or where there is none."""
    query = select(SchoolClass.line_names)
    if class_id is not None:
        query = query.where(SchoolClass.id == class_id)
    else:
        query = query.join(Child)
        if row_id is not None:
            query = query.join(Row).where(Row.id == row_id)
        elif word_id is not None:
            query = query.join(WrittenWord).where(WrittenWord.id == word_id)
        else:
            query = query.where(Child.id == child_id)
    return session.scalar(query)


def change_class(session: Session, school_class: SchoolClass, **fields: Any) -> None:
    """Change how a class is set up.

    Raises
    ------
    ConflictError
        If another class has that name.
    """
    for name, value in fields.items():
        setattr(school_class, name, value)
    _flush(session, f"There is already a class called {school_class.name}.")


def add_child(session: Session, class_id: int, first_name: str, initial: str, hand: str) -> Child:
    """Add a child to a class.

    Raises
    ------
    NotFoundError, ConflictError
    """
    made = Child(class_id=get_class(session, class_id).id, first_name=first_name, initial=initial, hand=hand)
    session.add(made)
    _flush(session, f"{first_name} {initial} is already in this class.")
    return made


def change_child(session: Session, child: Child, **fields: Any) -> None:
    """Change what is known of a child, or which class it is in.

    Raises
    ------
    ConflictError
        If the class has another child of that name.
    """
    for name, value in fields.items():
        setattr(child, name, value)
    _flush(session, f"{child.first_name} {child.initial} is already in this class.")
    session.expire(child, ["school_class"])


def _flush(session: Session, message: str) -> None:
    try:
        session.flush()
    except IntegrityError:
        session.rollback()
        raise ConflictError(message) from None


def add_note(session: Session, child_id: int, text: str, at: datetime) -> Note:
    """Keep what the teacher wrote down.

    Raises
    ------
    NotFoundError
    """
    note = Note(child_id=get_child(session, child_id).id, text=text, at=at)
    session.add(note)
    session.flush()
    return note


def take_back_note(session: Session, child_id: int, note_id: int) -> None:
    """Take a note back.

    Raises
    ------
    NotFoundError
        If there is no such note of this child.
    """
    note = session.get(Note, note_id)
    if note is None or note.child_id != child_id:
        raise NotFoundError("note", note_id)
    session.delete(note)
