"""Family boards, kept step by step so that each can be taken back; and a class's own words."""

from __future__ import annotations

from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from firstloop.store.errors import ConflictError
from firstloop.store.teaching_tables import Board, OwnWords

STEPS_KEPT = 60


def _steps(session: Session, class_id: int, scheme: str, alphabet: str) -> list[Board]:
    """Steps of one board, latest first."""
    found = select(Board).where(
        Board.class_id == class_id, Board.scheme == scheme, Board.alphabet == alphabet
    )
    return list(session.scalars(found.order_by(Board.id.desc())))


def present(session: Session, class_id: int, scheme: str, alphabet: str) -> dict[str, Any] | None:
    """The board as the class has it now; None where nothing was changed."""
    steps = _steps(session, class_id, scheme, alphabet)
    return steps[0].document if steps else None


def keep(session: Session, class_id: int, scheme: str, alphabet: str, document: dict[str, Any]) -> None:
    """Keep a step; very old ones are dropped."""
    session.add(Board(class_id=class_id, scheme=scheme, alphabet=alphabet, document=document))
    session.flush()
    for old in _steps(session, class_id, scheme, alphabet)[STEPS_KEPT:]:
        session.delete(old)


def undo(session: Session, class_id: int, scheme: str, alphabet: str) -> None:
    """Take the latest step back.

    Raises
    ------
    ConflictError
        If there is none.
    """
    steps = _steps(session, class_id, scheme, alphabet)
    if not steps:
        raise ConflictError("There is no step to take back on this board.")
    session.delete(steps[0])
    session.flush()


def own_words(session: Session, class_id: int) -> dict[str, list[str]]:
    """The class's own phrases, by letter."""
    found = session.scalars(select(OwnWords).where(OwnWords.class_id == class_id))
    return {one.letter: list(one.phrases) for one in found}


def keep_words(session: Session, class_id: int, letter: str, phrases: list[str]) -> None:
    """Keep the class's own phrases for a letter; none means the generated ones again."""
    found = session.scalar(select(OwnWords).where(OwnWords.class_id == class_id, OwnWords.letter == letter))
    if found is not None:
        session.delete(found)
        session.flush()
    if phrases:
        session.add(OwnWords(class_id=class_id, letter=letter, phrases=phrases))
