"""Tables of a class that writes on tablets: the room, the tablets in it, who has which, what was handed out.

The ink itself stands with rows and words; when a room is long closed these tables may be emptied and no
letter is lost.
"""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, Index, String, UniqueConstraint, false, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from firstloop.store.base import NUMBERED, Base, UtcDateTime
from firstloop.store.tables import Child, Row, SchoolClass, WrittenWord


class Room(Base):
    """A class that writes on tablets, from when it is opened until it is closed. A class has one at a time.

    ``code`` is what a tablet says to be let in; ``phone_code`` what the teacher's own phone says.
    """

    __tablename__ = "room"
    __table_args__ = (
        Index("ix_room_one_open", "class_id", unique=True, sqlite_where=text("closed_at IS NULL")),
        Index("ix_room_closed_at", "closed_at"),
        NUMBERED,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("school_class.id", ondelete="CASCADE"))
    code: Mapped[str] = mapped_column(String(12))
    phone_code: Mapped[str] = mapped_column(String(12))
    opened_at: Mapped[datetime] = mapped_column(UtcDateTime)
    closed_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    pens_down: Mapped[bool] = mapped_column(default=False, server_default=false())

    school_class: Mapped[SchoolClass] = relationship()
    tablets: Mapped[list[Tablet]] = relationship(
        back_populates="room", order_by="Tablet.id", passive_deletes=True
    )


class Tablet(Base):
    """A tablet, or the teacher's phone, that came into a room. It is known by a token, kept as a hash."""

    __tablename__ = "tablet"
    __table_args__ = (UniqueConstraint("token_hash"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    room_id: Mapped[int] = mapped_column(ForeignKey("room.id", ondelete="CASCADE"), index=True)
    token_hash: Mapped[str] = mapped_column(String(64))
    is_phone: Mapped[bool] = mapped_column(default=False, server_default=false())
    joined_at: Mapped[datetime] = mapped_column(UtcDateTime)
    admitted_at: Mapped[datetime | None] = mapped_column(UtcDateTime)
    sent_away_at: Mapped[datetime | None] = mapped_column(UtcDateTime)

    room: Mapped[Room] = relationship(back_populates="tablets")
    seats: Mapped[list[Seat]] = relationship(
        back_populates="tablet", order_by="Seat.id", passive_deletes=True
    )


class Seat(Base):
    """A tablet in the hands of a child, from one moment to another."""

    __tablename__ = "seat"
    __table_args__ = (
        Index("ix_seat_one_child", "tablet_id", unique=True, sqlite_where=text("until IS NULL")),
        NUMBERED,
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    tablet_id: Mapped[int] = mapped_column(ForeignKey("tablet.id", ondelete="CASCADE"), index=True)
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), index=True)
    since: Mapped[datetime] = mapped_column(UtcDateTime)
    until: Mapped[datetime | None] = mapped_column(UtcDateTime)

    tablet: Mapped[Tablet] = relationship(back_populates="seats")
    child: Mapped[Child] = relationship()


class Handout(Base):
    """A row or a word that was handed out to a child in a room; of those not collected the latest holds."""

    __tablename__ = "handout"
    __table_args__ = (Index("ix_handout_room_id_child_id", "room_id", "child_id"), NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    room_id: Mapped[int] = mapped_column(ForeignKey("room.id", ondelete="CASCADE"))
    child_id: Mapped[int] = mapped_column(ForeignKey("child.id", ondelete="CASCADE"), index=True)
    row_id: Mapped[int | None] = mapped_column(ForeignKey("row.id", ondelete="CASCADE"), index=True)
    word_id: Mapped[int | None] = mapped_column(ForeignKey("written_word.id", ondelete="CASCADE"), index=True)
    handed_at: Mapped[datetime] = mapped_column(UtcDateTime)
    collected_at: Mapped[datetime | None] = mapped_column(UtcDateTime)

    child: Mapped[Child] = relationship()
    row: Mapped[Row | None] = relationship()
    word: Mapped[WrittenWord | None] = relationship()
