"""Finding words that meet every condition, the most useful first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.joins import JoinKind, pairs_of
from firstloop.core.words.units import SPLIT


class Place(StrEnum):
    """Where in a word something stands."""

    ANYWHERE = "anywhere"
    FIRST = "first"
    MIDDLE = "middle"
    LAST = "last"
    DOUBLED = "doubled"


class Counted(StrEnum):
    """What the length of a word is counted in."""

    LETTERS = "letters"
    UNITS = "units"


@dataclass(frozen=True)
class Conditions:
    """What a word has to meet, all at once; what is None, or an empty text, asks for nothing.

    Parameters
    ----------
    letters, units : frozenset of str or None
        Of no others than these.
    holds : str
        A letter or a unit that stands at `place`. One letter is looked for among the letters, or, where
        it is to be a sound of its own (`as_sound`), among the units.
    least, most : int
        How many letters or units (`counted`) it has.
    practise : frozenset of str or None
        At least one of these letters is in it.
    pair : str
        Two letters that are joined in it.
    join : JoinKind or None
        A kind of join that is in it.
    by_heart : bool or None
        Only words to know by heart, or none of them.
    """

    letters: frozenset[str] | None = None
    units: frozenset[str] | None = None
    holds: str = ""
    place: Place = Place.ANYWHERE
    as_sound: bool = False
    least: int = 1
    most: int | None = None
    counted: Counted = Counted.LETTERS
    practise: frozenset[str] | None = None
    pair: str = ""
    join: JoinKind | None = None
    by_heart: bool | None = None


def _at(parts: Sequence[str], sought: str, place: Place) -> bool:
    match place:
        case Place.FIRST:
            return parts[0] == sought
        case Place.LAST:
            return parts[-1] == sought
        case Place.MIDDLE:
            return sought in parts[1:-1]
        case Place.DOUBLED:
            return list(parts).count(sought) > 1
        case _:
            return sought in parts


def holds(word: BankWord, sought: str, place: Place, as_sound: bool = False) -> bool:
    """Whether a letter or a unit stands at a place of a word.

    A letter is doubled where two of it stand side by side, a unit where the word has two of it.
    """
    if as_sound or len(sought) > 1:
        # the e of a split unit is the last letter, not the last sound
        last_split = place is Place.LAST and SPLIT in sought
        return _at(word.units[:-1] if last_split and len(word.units) > 1 else word.units, sought, place)
    text = word.text.lower()
    return 2 * sought in text if place is Place.DOUBLED else _at(text, sought, place)


def _tests(given: Conditions, style: HouseStyle) -> list[Callable[[BankWord], bool]]:
    """The conditions that ask for something, the cheapest first."""
    tests: list[Callable[[BankWord], bool]] = []
    letters, units, practise, most = given.letters, given.units, given.practise, given.most
    if letters is not None:
        tests.append(lambda word: word.letters <= letters)
    if units is not None:
        tests.append(lambda word: word.sounds <= units)
    if given.least > 1 or most is not None:
        by_units = given.counted is Counted.UNITS
        tests.append(
            lambda word: given.least <= len(word.units if by_units else word.text) <= (most or len(word.text))
        )
    if given.by_heart is not None:
        tests.append(lambda word: word.by_heart is given.by_heart)
    if practise is not None:
        tests.append(lambda word: not practise.isdisjoint(word.letters))
    if given.holds:
        tests.append(lambda word: holds(word, given.holds, given.place, given.as_sound))
    if given.pair or given.join:
        joined = pairs_of(given.join, style) if given.join else None
        wanted = joined if not given.pair else {given.pair} if joined is None else {given.pair} & joined
        tests.append(lambda word: not word.pairs.isdisjoint(wanted or ()))
    return tests


def find(
    bank: Bank,
    given: Conditions,
    style: HouseStyle,
    newest: Sequence[str] = (),
    due: frozenset[str] = frozenset(),
) -> list[BankWord]:
    """Words of the bank that meet every condition.

    Those with the letter taught last come first, then those with most letters that are due, then those to
    be sounded before those to know by heart, then the shorter.

    Parameters
    ----------
    style : HouseStyle
        By which joins are told.
    newest : sequence of str
        Letters in the order in which they were taught.
    due : frozenset of str
        Letters that are due to be written again.
    """
    tests = _tests(given, style)
    taught = {char: number for number, char in enumerate(newest)}
    met = [word for word in bank if all(test(word) for test in tests)]
    met.sort(key=lambda word: _rank(word, taught, due))
    return met


def able(word: BankWord, children: Sequence[frozenset[str]]) -> int:
    """How many children have all letters of a word.

    Parameters
    ----------
    children : sequence of frozenset of str
        The letters that each child has.
    """
    return sum(word.letters <= letters for letters in children)


def _rank(word: BankWord, taught: Mapping[str, int], due: frozenset[str]) -> tuple[int, int, bool, int, str]:
    newest = max([taught.get(char, -1) for char in word.letters])
    return -newest, -len(word.letters & due), word.by_heart, len(word.text), word.text


def of_one_length(words: Sequence[BankWord], least: int) -> list[BankWord]:
    """Words of one length: the first in their order of which there are enough, else the commonest.

    For a sheet, where words of one length stand in columns.
    """
    counts = Counter(len(one.text) for one in words)
    enough = (len(one.text) for one in words if counts[len(one.text)] >= least)
    length = next(enough, max(counts, key=lambda one: counts[one], default=0))
    return [one for one in words if len(one.text) == length]
