"""One sheet for each child: what each one gets, and why."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.planning.offer import words_for
from firstloop.core.progress.habits import habits_of
from firstloop.core.progress.mastery import State
from firstloop.core.progress.steps import most_in_need
from firstloop.core.sheets.each import LETTERS_MOST, ForChild, for_child
from firstloop.core.sheets.wish import SheetWish
from firstloop.services.child_story import child_steps, habits_got_over
from firstloop.services.children import ChildView, child_view
from firstloop.services.class_map import Signs, signs
from firstloop.services.class_sheets import base_wish
from firstloop.services.evidence import day_of
from firstloop.services.taught import Asked, Ground, ground
from firstloop.store import days as store
from firstloop.store.classes import get_child, get_class
from firstloop.store.days import DayRow
from firstloop.store.styles import house_style
from firstloop.store.tables import Child, LetterDay
from firstloop.text import sheets as words

_FIRST = 2


@dataclass(frozen=True)
class ChildSheet:
    """What a child would get, and why, a line a reason."""

    child: ChildView
    wish: SheetWish
    why: list[str]


def each(session: Session, class_id: int, base: SheetWish | None, on: date) -> list[ChildSheet]:
    """A sheet for every child of a class, in order of name.

    Parameters
    ----------
    base : SheetWish or None
        Page, lines and options; those of the class without it.

    Raises
    ------
    NotFoundError, SheetError
    """
    school_class = get_class(session, class_id)
    style, usual = house_style(school_class), base or base_wish(school_class)
    here = ground(session, Asked(class_id, on))
    by_child: dict[int, dict[str, list[DayRow]]] = {child.id: {} for child in school_class.children}
    for one in store.days(session, LetterDay.day <= on, class_id=class_id):
        by_child[one.child_id].setdefault(one.letter, []).append(one)
    begun = {char for letters in by_child.values() for char in letters}
    known = _Known(signs(session, school_class, begun), here, style, usual, on)
    return [_sheet(child, by_child[child.id], known) for child in school_class.children]


def one_of(session: Session, child_id: int, on: date) -> ChildSheet:
    """The sheet of one child.

    Raises
    ------
    NotFoundError, SheetError
    """
    child = get_child(session, child_id)
    every = each(session, child.class_id, None, on)
    return next(one for one in every if one.child.id == child_id)


@dataclass(frozen=True)
class _Known:
    """What is the same for every child of a class."""

    families: Signs
    ground: Ground
    style: HouseStyle
    usual: SheetWish
    on: date


def _sheet(child: Child, by_letter: dict[str, list[DayRow]], known: _Known) -> ChildSheet:
    made = _for(child, by_letter, known)
    wish, reasons = made.on(known.usual, child.hand == "left", known.style)
    return ChildSheet(child_view(child), wish, [words.reason(one) for one in reasons])


def _for(child: Child, by_letter: dict[str, list[DayRow]], known: _Known) -> ForChild:
    here = known.ground
    habits = habits_of({char: [day_of(one) for one in by_letter[char]] for char in sorted(by_letter)})
    steps = child_steps(child, by_letter, habits_got_over(habits), known.families, known.on)
    chars = list(by_letter)
    states = {number: State(by_letter[char][-1].state_all) for number, char in enumerate(chars)}
    order = most_in_need(states, dict.fromkeys(states, 0.0))
    learning = [chars[one] for one in order if states[one] in (State.LEARNING, State.SLIPPING)]
    first = here.newest[-_FIRST:] or list(known.families.families[0].letters[:_FIRST])
    begun = [char for char in here.newest if char in by_letter]
    wanted = [*dict.fromkeys("".join(step.letters for step in steps)), *learning][:LETTERS_MOST]
    offered = words_for(here.bank, begun, [char for char in wanted if char.islower()], "", known.style)
    return for_child(steps, learning, first, offered, known.usual.xh_mm)
