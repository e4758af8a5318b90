"""What all tables stand on: names of keys, times in UTC, ruled lines as columns."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import DateTime, Dialect, MetaData, String, TypeDecorator
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from firstloop.core.ruling import Ruling

NAMING = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}


class UtcDateTime(TypeDecorator[datetime]):
    """Times kept in UTC, given back with their zone."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        """To the database."""
        return None if value is None else value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        """From the database."""
        return None if value is None else value.replace(tzinfo=UTC)


class Base(DeclarativeBase):
    """Root of all tables."""

    metadata = MetaData(naming_convention=NAMING)


class OnLines:
    """What was written between ruled lines: their kind, and where they stood, page millimetres."""

    ruling: Mapped[str] = mapped_column(String(30))
    rise_mm: Mapped[float]
    mid_mm: Mapped[float]
    base_mm: Mapped[float]
    drop_mm: Mapped[float]

    @property
    def lines(self) -> Ruling:
        """The lines as the core knows them."""
        return Ruling(self.mid_mm, self.base_mm, self.rise_mm, self.drop_mm)


LINES = ("ruling", "rise_mm", "mid_mm", "base_mm", "drop_mm")


def line_columns(kind: str, ruling: Ruling) -> dict[str, Any]:
    """The columns of :class:`OnLines`."""
    return dict(zip(LINES, (kind, *ruling.lines_mm), strict=True))


NUMBERED = {"sqlite_autoincrement": True}
"""Of tables whose numbers are known elsewhere (in a browser): none is given a second time."""
