"""Sheets in the demo school: two that are kept, two that were printed, and what of them came back."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from sqlalchemy.orm import Session

from firstloop.core.sheets.readymade import Ready
from firstloop.core.sheets.wish import DateRow, SheetWish, WritingRow
from firstloop.demo.hands import lesson_at
from firstloop.formats.sheet_json import NamedSheet
from firstloop.services import child_sheets, class_sheets, kept_sheets, printed_sheets
from firstloop.services.class_sheets import base_wish
from firstloop.services.printed_sheets import CopyWish
from firstloop.store.classes import get_class

_AFTER = timedelta(minutes=40)
_MONDAY, _THURSDAY = 0, 3
_LETTERS_WEEKS, _OWN_WEEKS = 3, 2  # how many weeks before the last they were printed
_AT_HOME = ("Lotta B", "Nico V")  # whose copies have not come back


def print_sheets(session: Session, class_id: int, today: date, weeks: int) -> None:
    """Keep and print what a teacher would have by now; nothing in the first weeks."""
    if weeks <= _LETTERS_WEEKS:
        return
    school_class = get_class(session, class_id)
    at = lesson_at(today, weeks - _LETTERS_WEEKS, _MONDAY) + _AFTER
    on = at.date()
    ready = {one.key: one for one in class_sheets.ready_sheets(session, class_id, on)}
    recall = [row for row in ready[Ready.RECALL].wish.rows if isinstance(row, WritingRow)]
    mondays = SheetWish((DateRow("trace"), *recall), xh_mm=8.0, ruling=school_class.ruling)
    kept_sheets.keep(session, class_id, NamedSheet("Monday: date and recall", mondays), at)
    kept_sheets.keep(session, class_id, NamedSheet("Words for the tray", ready[Ready.WORDS].wish), at)

    letters = ready[Ready.LETTER].wish
    everybody = [
        CopyWish(child.id, replace(letters, left_hand=child.hand == "left"))
        for child in school_class.children
    ]
    made = printed_sheets.print_copies(session, class_id, ready[Ready.LETTER].name, everybody, on, at)
    for copy in made.copies:
        printed_sheets.came_back(session, made.code, copy.number, on + timedelta(days=1))

    at = lesson_at(today, weeks - _OWN_WEEKS, _THURSDAY) + _AFTER
    own = [
        CopyWish(one.child.id, one.wish)
        for one in child_sheets.each(session, class_id, base_wish(school_class), at.date())
    ]
    made = printed_sheets.print_copies(session, class_id, "One for each child", own, at.date(), at)
    for copy in made.copies:
        if copy.child is not None and copy.child.name not in _AT_HOME:
            printed_sheets.came_back(session, made.code, copy.number, at.date() + timedelta(days=4))
