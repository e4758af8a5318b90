"""Tables of pages that came back: the files they came in, their pictures, and what was found on them.

Nothing of a page is in the records of a child (rows, words) before the teacher agrees; what she agrees to
is told by the row or word that its places then belong to.
"""

from __future__ import annotations

from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    JSON,
    ColumnElement,
    Date,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    UniqueConstraint,
    and_,
    false,
    func,
    or_,
    text,
)
from sqlalchemy.ext.hybrid import hybrid_property
from sqlalchemy.orm import Mapped, deferred, mapped_column, relationship

from firstloop.core.check.vocabulary.grades import Verdict
from firstloop.core.scanning.states import Found
from firstloop.store.base import NUMBERED, Base, OnLines, UtcDateTime
from firstloop.store.tables import Attempt, Child, WrittenWord


class BroughtFile(Base):
    """A file with pictures of pages that was brought in.

    The file itself lies in a folder beside the records until its pictures are taken out of it.
    ``pictures`` is how many it has, None until it was opened, ``problem`` why it could not be.
    ``stopped``: the rest of it is not to be read for now.
    """

    __tablename__ = "brought_file"
    __table_args__ = (UniqueConstraint("digest"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int | None] = mapped_column(
        ForeignKey("school_class.id", ondelete="CASCADE"), index=True
    )
    name: Mapped[str] = mapped_column(String(120))
    digest: Mapped[str] = mapped_column(String(64))
    brought_at: Mapped[datetime] = mapped_column(UtcDateTime)
    pictures: Mapped[int | None]
    problem: Mapped[str | None] = mapped_column(String(200))
    stopped: Mapped[bool] = mapped_column(default=False, server_default=false())


class Picture(Base):
    """One picture of a file: grey JPEG without anything else that the file said; gone when it is old.

    ``read_at`` is when it was read, ``problem`` why it could not be.
    """

    __tablename__ = "picture"
    __table_args__ = (
        UniqueConstraint("file_id", "number"),
        Index("ix_picture_waiting", "file_id", sqlite_where=text("read_at IS NULL")),
        NUMBERED,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    file_id: Mapped[int] = mapped_column(ForeignKey("brought_file.id", ondelete="CASCADE"))
    number: Mapped[int]
    read_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    problem: Mapped[str | None] = mapped_column(String(200))
    image: Mapped[bytes | None] = deferred(mapped_column(LargeBinary))
    wide_px: Mapped[int | None]
    tall_px: Mapped[int | None]

    file: Mapped[BroughtFile] = relationship()


class ReturnedPage(Base):
    """A page found in a picture, or a picture in which none was found.

    ``sheet``, ``copy`` and ``page`` are what its code says, ``layout`` is where everything on it is, as a
    layout file of that one page has it, ``to_px`` how it lies in the picture (3 x 3, page millimetres to
    pixels), ``straight`` the page made straight, grey JPEG of 150 dots to the inch. ``written_on`` is the
    day on which it was written, the day it came in unless the teacher says another. ``steps`` can be taken
    back one by one: what entries were before.
    """

    __tablename__ = "returned_page"
    __table_args__ = (Index("ix_returned_page_code", "sheet", "copy", "page"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    picture_id: Mapped[int | None] = mapped_column(ForeignKey("picture.id", ondelete="SET NULL"), index=True)
    class_id: Mapped[int | None] = mapped_column(
        ForeignKey("school_class.id", ondelete="CASCADE"), index=True
    )
    child_id: Mapped[int | None] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), index=True)
    came_at: Mapped[datetime] = mapped_column(UtcDateTime)
    status: Mapped[str] = mapped_column(String(12))
    sheet: Mapped[str | None] = mapped_column(String(6))
    copy: Mapped[int | None]
    page: Mapped[int | None]
    layout: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))
    style: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))
    ruling: Mapped[str | None] = mapped_column(String(30))
    to_px: Mapped[list[list[float]] | None] = mapped_column(JSON(none_as_null=True))
    turned_deg: Mapped[float | None]
    dpi: Mapped[float | None]
    residual_mm: Mapped[float | None]
    straight: Mapped[bytes | None] = deferred(mapped_column(LargeBinary))
    written_on: Mapped[date] = mapped_column(Date)
    agreed_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    dropped_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    steps: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)

    picture: Mapped[Picture | None] = relationship()
    child: Mapped[Child | None] = relationship()
    entries: Mapped[list[PageEntry]] = relationship(
        back_populates="page", order_by="PageEntry.id", cascade="all, delete-orphan"
    )


class PageEntry(OnLines, Base):
    """One place of a page: what was found in it, the way along its ink, and what the checker says.

    ``decided`` is whether the teacher has put it right or said that it is. ``moved_mm`` is how much further
    right the ink stands in the row or word that it became, which ``attempt_id`` or ``word_id`` names;
    ``mark`` and ``teachers_best`` are the teacher's from a time when it was in the records before.
    """

    __tablename__ = "page_entry"
    __table_args__ = (UniqueConstraint("page_id", "key"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    page_id: Mapped[int] = mapped_column(ForeignKey("returned_page.id", ondelete="CASCADE"))
    key: Mapped[str] = mapped_column(String(12))
    row: Mapped[int]
    place: Mapped[int]
    expected: Mapped[str] = mapped_column(String(120))
    support: Mapped[str] = mapped_column(String(10))
    box: Mapped[list[float]] = mapped_column(JSON)
    found: Mapped[str] = mapped_column(String(12))
    ticked: Mapped[bool] = mapped_column(default=False)
    decided: Mapped[bool] = mapped_column(default=False)
    ink: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    level: Mapped[str] = mapped_column(String(10))
    checker: Mapped[str] = mapped_column(String(20))
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    moved_mm: Mapped[float] = mapped_column(default=0.0)
    mark: Mapped[str | None] = mapped_column(String(12))
    teachers_best: Mapped[bool] = mapped_column(default=False)
    attempt_id: Mapped[int | None] = mapped_column(ForeignKey("attempt.id", ondelete="SET NULL"), index=True)
    word_id: Mapped[int | None] = mapped_column(
        ForeignKey("written_word.id", ondelete="SET NULL"), index=True
    )

    @hybrid_property
    def wants(self) -> bool:
        """Whether it is for a person to decide: nothing could be made of what is there."""
        lost = self.document.get("verdict") == Verdict.UNREADABLE
        return not self.decided and (self.found == Found.UNCLEAR or lost)

    @wants.inplace.expression
    @classmethod
    def _wants(cls) -> ColumnElement[bool]:
        lost = func.json_extract(cls.document, "$.verdict") == Verdict.UNREADABLE
        return and_(~cls.decided, or_(cls.found == Found.UNCLEAR, func.coalesce(lost, false())))

    page: Mapped[ReturnedPage] = relationship(back_populates="entries")
    attempt: Mapped[Attempt | None] = relationship()
    word: Mapped[WrittenWord | None] = relationship()
