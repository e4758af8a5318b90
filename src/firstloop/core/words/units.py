"""Units: a letter, or several that stand for one sound; a word is a row of them.

A split unit such as ``a_e`` stands on both sides of the unit that follows it: ``l-a_e-k`` is *lake*.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from itertools import combinations
from types import MappingProxyType

UNIT_MOST = 4  # letters in one unit
WORD_MOST = 20  # letters in one word
SPLIT = "_"
CUT = "-"

_BY_SOUND = (
    *("a", "b/bb", "k/c/ck", "d/dd", "e", "f/ff/ph", "g/gg", "h", "i", "j/dge/ge", "l/ll", "le", "m/mm/mb"),
    *("n/nn/kn", "o", "p/pp", "r/rr/wr", "s/ss/ce/se", "t/tt", "u", "v/ve", "w/wh", "x", "y", "z/zz/ze"),
    *("sh", "ch/tch", "th", "ng", "qu"),
    *("ai/ay/a_e/ey/eigh", "ee/ea/e_e/ie", "igh/i_e", "oa/ow/o_e/oe", "oo/u_e/ue/ew/ui", "ou", "ar"),
    *("or/ore/oar/aw/au/al/our", "er/ir/ur", "air/are", "ear/eer", "oi/oy"),
)
SOUNDS: Mapping[str, int] = MappingProxyType(
    {unit: number for number, group in enumerate(_BY_SOUND) for unit in group.split("/")}
)
"""Every unit that ships, and the number of the sound that it most often stands for."""

_CLOSE = (
    "m n ng",
    "b p",
    "d t",
    "k g",
    "c g",
    "f th v",
    "s sh",
    "sh ch",
    "s z",
    "ch j",
    "e i",
    "a u",
    "o u",
    "w v",
    "ow ou",
)
_CLOSE_PAIRS = frozenset(frozenset(pair) for group in _CLOSE for pair in combinations(group.split(), 2))


class UnitError(ValueError):
    """Letters that are no row of units; the message says which."""


def sound_alike(one: str, other: str) -> bool:
    """Whether two units stand for one sound, or for sounds that are easily taken for one another.

    Examples
    --------
    >>> sound_alike("ai", "a_e"), sound_alike("m", "n"), sound_alike("m", "t")
    (True, True, False)
    """
    if one == other:
        return False
    known = one in SOUNDS and other in SOUNDS
    return (known and SOUNDS[one] == SOUNDS[other]) or frozenset((one, other)) in _CLOSE_PAIRS


def spell(units: Iterable[str]) -> str:
    """The word that a row of units makes.

    Examples
    --------
    >>> spell(["l", "a_e", "k"]), spell(["sh", "e", "ll"])
    ('lake', 'shell')

    Raises
    ------
    UnitError
        If a split unit has nothing to stand around.
    """
    out, waiting = [], ""
    for unit in units:
        first, _, second = unit.partition(SPLIT)
        if second and waiting:
            raise UnitError(f"“{unit}” cannot stand inside another split unit")
        out.append(first)
        if waiting:
            out.append(waiting)
        waiting = second
    if waiting:
        raise UnitError(f"nothing stands inside “{unit}”")
    return "".join(out)


def places(units: Sequence[str]) -> list[tuple[int, ...]]:
    """Which letters of the word each unit is, by their places.

    Examples
    --------
    >>> places(["l", "a_e", "k"])
    [(0,), (1, 3), (2,)]
    """
    out: list[tuple[int, ...]] = []
    at, split = 0, None
    for unit in units:
        first, _, second = unit.partition(SPLIT)
        out.append(tuple(range(at, at + len(first))))
        at += len(first)
        if split is not None:
            out[split] = (*out[split], at)
            at, split = at + 1, None
        if second:
            split = len(out) - 1
    return out


def cut(word: str, units: Collection[str] = SOUNDS) -> tuple[str, ...]:
    """Propose units for a word, the longest known one first; a final e may belong to a split unit.

    Examples
    --------
    >>> cut("shell"), cut("lakes")
    (('sh', 'e', 'll'), ('l', 'a_e', 'k', 's'))

    Raises
    ------
    UnitError
        If something in it is no letter.
    """
    out: list[str] = []
    at = 0
    while at < len(word):
        unit = _unit_at(word, at, units)
        if SPLIT in unit:
            out += [unit, word[at + 1]]
            at += 3
        else:
            out.append(unit)
            at += len(unit)
    return tuple(out)


def _unit_at(word: str, at: int, units: Collection[str]) -> str:
    for length in range(min(UNIT_MOST, len(word) - at), 1, -1):
        if word[at : at + length] in units:
            return word[at : at + length]
    split = f"{word[at]}{SPLIT}e"
    if split in units and word[at + 1 : at + 2] in units and word[at + 2 :] in ("e", "es"):
        return split
    if word[at].isalpha():
        return word[at]
    raise UnitError(f"“{word[at]}” in “{word}” is no unit")


def read_cut(text: str) -> tuple[str, ...]:
    """Units as they are typed, with ``-`` between them.

    Raises
    ------
    UnitError
        If one of them is empty, too long, or not of letters.
    """
    units = tuple(text.strip().split(CUT))
    for unit in units:
        letters = unit.replace(SPLIT, "", 1)
        if (
            not letters.isalpha()
            or len(letters) > UNIT_MOST
            or unit.startswith(SPLIT)
            or unit.endswith(SPLIT)
        ):
            raise UnitError(f"“{unit}” in “{text.strip()}” is no unit of at most {UNIT_MOST} letters")
    spell(units)
    return units
