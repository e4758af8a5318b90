"""Every table of the records, wherever it is written down: who needs them all takes them from here."""

from firstloop.store import page_tables, room_tables, tables, teaching_tables  # noqa: F401 - theirs are among them
from firstloop.store.base import Base

METADATA = Base.metadata
