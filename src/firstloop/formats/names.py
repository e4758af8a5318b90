"""Lists of children as teachers have them: names pasted, or a spreadsheet saved as CSV."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import regex
from pydantic import TypeAdapter, ValidationError

from firstloop.core.letterforms.style import Hand
from firstloop.formats.bounds import FirstName, Initial

LINES_MOST = 200
_BETWEEN = regex.compile(r"[,;\t]")
_HANDS = {"l": Hand.LEFT, "left": Hand.LEFT, "left-handed": Hand.LEFT, "left hand": Hand.LEFT}
_HANDS |= {"r": Hand.RIGHT, "right": Hand.RIGHT, "right-handed": Hand.RIGHT, "right hand": Hand.RIGHT}
_HEADINGS = {
    "name",
    "names",
    "first name",
    "first names",
    "firstname",
    "forename",
    "child",
    "children",
    "pupil",
}
_FIRST, _INITIAL = TypeAdapter(FirstName), TypeAdapter(Initial)


@dataclass(frozen=True)
class NameRead:
    """A child found in a list. Of a surname the initial is taken and nothing else."""

    line: int
    first_name: str
    initial: str
    hand: Hand


@dataclass(frozen=True)
class LineUnread:
    """A line that is no child to be added, and why."""

    line: int
    text: str
    why: str


@dataclass(frozen=True)
class NamesRead:
    """What a list holds: the children to be added, and the lines that are none."""

    names: list[NameRead]
    unread: list[LineUnread]


def read_names(text: str, known: Iterable[tuple[str, str]] = ()) -> NamesRead:
    """Read a list with one child a line.

    A line is a first name and an initial or surname, and may say the hand: ``Edie W``, ``Gus Lund, left``,
    ``Cleo;M;R``. Columns are parted by commas, semicolons or tabs; a heading and empty lines are passed over.

    Parameters
    ----------
    known : iterable of (first name, initial)
        Who is in the class already.

    Examples
    --------
    >>> read_names("Edie Wren, left").names
    [NameRead(line=1, first_name='Edie', initial='W', hand=<Hand.LEFT: 'left'>)]
    """
    names: list[NameRead] = []
    unread: list[LineUnread] = []
    so_far = set(known)
    lines = text.lstrip("\ufeff").splitlines()
    for number, line in enumerate(lines[:LINES_MOST], 1):
        columns = [one.strip().strip('"').strip() for one in _BETWEEN.split(line)]
        if not any(columns) or (number == 1 and columns[0].lower() in _HEADINGS):
            continue
        found = _read(number, [one for one in columns if one])
        if isinstance(found, str):
            unread.append(LineUnread(number, line.strip()[:80], found))
        elif (found.first_name, found.initial) in so_far:
            why = f"{found.first_name} {found.initial} is in the class or the list already."
            unread.append(LineUnread(number, line.strip()[:80], why))
        else:
            so_far.add((found.first_name, found.initial))
            names.append(found)
    if len(lines) > LINES_MOST:
        unread.append(LineUnread(LINES_MOST + 1, "", f"Only {LINES_MOST} lines are read at once."))
    return NamesRead(names, unread)


def _read(number: int, columns: list[str]) -> NameRead | str:
    hand = Hand.RIGHT
    if len(columns) > 1 and columns[-1].lower() in _HANDS and (len(columns) > 2 or " " in columns[0]):
        hand = _HANDS[columns.pop().lower()]
    words = " ".join(columns).split()
    if len(words) < 2:
        return "There is no initial: write the first letter of the surname after the name."
    try:
        return NameRead(number, _FIRST.validate_python(words[0]), _initial(words[-1]), hand)
    except ValidationError:
        return "This is no first name and initial."


def _initial(word: str) -> str:
    first = regex.match(r"\X", word.strip("."))
    return _INITIAL.validate_python(first.group() if first else "")
