"""By sound order: sets of sounds as a school teaches them, typed or imported."""

from __future__ import annotations

from dataclasses import dataclass

from firstloop.core.letterforms.alphabets import EVERY

SOUND_MOST = 4  # letters in one unit


class SoundError(ValueError):
    """A sound order that cannot be read; the message says where."""


@dataclass(frozen=True)
class SoundSet:
    """Sounds taught together; a unit of several letters is written as one."""

    number: int
    units: tuple[str, ...]


def _is_sound(unit: str) -> bool:
    """Some letters that the house can write, or two with a ``_`` for what stands between them (``a_e``)."""
    split = len(unit) == 3 and unit[1] == "_"
    letters = unit.replace("_", "") if split else unit
    return 0 < len(letters) <= SOUND_MOST and all(char in EVERY for char in letters)


def read_sounds(text: str) -> tuple[SoundSet, ...]:
    """Read one set a line, units with spaces or commas between them.

    Examples
    --------
    >>> [one.units for one in read_sounds("n e t\\nsh u ll")]
    [('n', 'e', 't'), ('sh', 'u', 'll')]

    Raises
    ------
    SoundError
        Nothing to read, a unit that the house cannot write, or one that comes twice.
    """
    sets: list[SoundSet] = []
    seen: dict[str, int] = {}
    for line_number, raw in enumerate(text.splitlines(), start=1):
        units = tuple(raw.replace(",", " ").split())
        for unit in units:
            if not _is_sound(unit):
                raise SoundError(f"line {line_number}: “{unit}” is no sound of at most {SOUND_MOST} letters")
            if unit in seen:
                raise SoundError(f"line {line_number}: “{unit}” is already in line {seen[unit]}")
            seen[unit] = line_number
        if units:
            sets.append(SoundSet(len(sets) + 1, units))
    if not sets:
        raise SoundError("there are no sounds; type one set a line, like “n e t sh”")
    return tuple(sets)
