"""What a class or a child has been taught by a day: letters, sounds, and what of it is due."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from functools import lru_cache

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.families.sounds import read_sounds
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.coverage import not_yet_secure
from firstloop.core.progress.mastery import State
from firstloop.core.words.bank import Bank
from firstloop.core.words.pace import Pace, pace
from firstloop.core.words.sentences import Taught
from firstloop.services import sounds, word_bank
from firstloop.services.families import columns
from firstloop.store import days as store
from firstloop.store import written
from firstloop.store.classes import get_child, get_class
from firstloop.store.styles import style_of_class
from firstloop.store.tables import Child, SchoolClass

_SCHEME = "by-movement"


@dataclass(frozen=True)
class Asked:
    """Whose words are asked for: of a class, or of one of its children, with what was taught by a day.

    ``sets`` is how many sets of sounds count as taught; all of them without it. ``family`` narrows the
    letters to those of a family, with those of the families before it where ``before`` is set.
    """

    class_id: int
    on: date
    child_id: int | None = None
    sets: int | None = None
    family: str | None = None
    before: bool = True
    any_letters: bool = False


@dataclass(frozen=True)
class Ground:
    """What words are looked for on: the bank, the style, the letters by child, and the order of all.

    Of the bank those words are left out that are a child's first name.

    Parameters
    ----------
    newest : list of str
        Letters in the order in which they were taught.
    units : list of str
        Units in the order in which they are taught.
    by_child : list of frozenset of str
        The letters each child has begun.
    due, wrong : frozenset of str
        Letters that are due again; letters that the child, or a third of the class, does not have secure.
    """

    bank: Bank
    style: HouseStyle
    taught: Taught
    newest: list[str]
    units: list[str]
    by_child: list[frozenset[str]]
    due: frozenset[str]
    wrong: frozenset[str]


def ground(session: Session, asked: Asked) -> Ground:
    """Everything that finding, making and checking words need to know.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, asked.class_id)
    child = None if asked.child_id is None else get_child(session, asked.child_id)
    begun, newest = _begun(session, school_class, asked.on)
    known = [unit for one in unit_order(session, asked.class_id)[: asked.sets] for unit in one]
    letters = frozenset(newest) if child is None else begun.get(child.id, frozenset())
    taught = Taught(
        None if asked.any_letters and asked.family is None else _of_family(session, asked, letters),
        None if asked.sets is None else frozenset(known),
    )
    due, wrong = _due_and_wrong(session, school_class, child, asked.on)
    return Ground(
        bank=_without(word_bank.present(session), word_bank.names(session)),
        style=style_of_class(session, asked.class_id),
        taught=taught,
        newest=newest,
        units=known,
        by_child=[begun.get(one.id, frozenset()) for one in school_class.children],
        due=due,
        wrong=wrong,
    )


@lru_cache(maxsize=8)
def _without(bank: Bank, names: frozenset[str]) -> Bank:
    """Kept, so that what is worked out of it is kept too."""
    return bank.without_names(names)


def unit_order(session: Session, class_id: int) -> list[tuple[str, ...]]:
    """The sets of units of a class in order: its own, or those worked out from the bank that ships."""
    return [one.units for one in read_sounds(sounds.text_of(session, class_id))]


def class_pace(session: Session, class_id: int) -> Pace:
    """How long a letter in a text takes a class.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    return pace(written.durations(session, class_id), Level(school_class.level))


def _begun(
    session: Session, school_class: SchoolClass, on: date
) -> tuple[dict[int, frozenset[str]], list[str]]:
    """The letters each child had begun by a day, and all of them in the order in which they were taught."""
    first: dict[str, date] = {}
    letters: dict[int, set[str]] = {}
    for (child, char), (day, _) in store.first_and_last_alone(session, school_class.id).items():
        if day <= on:
            letters.setdefault(child, set()).add(char)
            first[char] = min(first.get(char, day), day)
    order = sorted(first, key=lambda char: (first[char], char))
    return {child: frozenset(own) for child, own in letters.items()}, order


def _of_family(session: Session, asked: Asked, letters: frozenset[str]) -> frozenset[str]:
    if asked.family is None:
        return letters
    order = columns(session, asked.class_id, _SCHEME, "lower case", style_of_class(session, asked.class_id))
    keys = [column.family.key for column in order]
    at = keys.index(asked.family) if asked.family in keys else len(keys)
    wanted = order[: at + 1] if asked.before else order[at : at + 1]
    own = frozenset(member.char for column in wanted for member in column.places)
    return own if asked.any_letters else letters & own


def _due_and_wrong(
    session: Session, school_class: SchoolClass, child: Child | None, on: date
) -> tuple[frozenset[str], frozenset[str]]:
    due: set[str] = set()
    states: dict[str, list[State]] = {}
    for cell in store.cells(session, school_class.id, "all", on):
        if child is not None and cell.child_id != child.id:
            continue
        if cell.due is not None and cell.due <= on:
            due.add(cell.letter)
        states.setdefault(cell.letter, []).append(State(cell.state))
    return frozenset(due), not_yet_secure(states)
