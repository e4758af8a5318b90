"""Dictations in the demo school: one a week from the fourth on, with stories in them.

Kofi leaves the n out before d, Orla writes k for ck until the ninth week, and Juno is ready for longer words.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from sqlalchemy.orm import Session

from firstloop.demo import school
from firstloop.demo.hands import SEED, lesson_at
from firstloop.services import dictations

WORDS = {
    4: "in at hen sand duck bend",
    5: "am us cat rock hand lamp",
    6: "on egg mud sock pond land",
    7: "if up ship kick wind nest",
    8: "in and fish deck send jump",
    9: "is off shell lock mend bump",
    10: "at see rain neck bend stand",
    11: "an sea boat clock sand spend",
    12: "it tree hand chick duck frost",
}
_AFTER = timedelta(minutes=25)
_WEEKDAY = 3
_UNTIL_WEEK = 9  # Orla's k for ck
_SLIP, _MENDED = 0.07, 0.8
_NOT_YET_MARKED = ("Priya J", "Quill H", "Rafi E")  # of the last week: what is left for the teacher


@dataclass(frozen=True)
class _Child:
    name: str
    rng: np.random.Generator

    def to_mend(self, units: list[str], week: int) -> list[int]:
        """The places of the units that went wrong at first."""
        chance = [float(self.rng.random()) for _ in units]
        places = set() if self.name == "Juno S" else {at for at, one in enumerate(chance) if one < _SLIP}
        following = [*units[1:], ""]
        if self.name == "Kofi A":
            places = {at for at, unit in enumerate(units) if (unit, following[at]) == ("n", "d")}
        if self.name == "Orla F":
            places = {at for at, unit in enumerate(units) if unit == "ck" and week <= _UNTIL_WEEK}
        return sorted(places)


def dictate(session: Session, class_id: int, ids: dict[str, int], today: date, weeks: int) -> None:
    """Dictate and mark all words of so many weeks."""
    for week, words in WORDS.items():
        if week > weeks:
            continue
        at = lesson_at(today, week, _WEEKDAY) + _AFTER
        made = dictations.make(session, class_id, words.split(), at)
        for name, place, tries in _marks(made, week, weeks):
            dictations.mark(session, made.id, ids[name], place, tries, at)


def _marks(
    made: dictations.DictationView, week: int, weeks: int
) -> Iterator[tuple[str, int, list[list[int]]]]:
    for number, name in enumerate(school.CHILDREN):
        if week in school.AWAY.get(name, ()) or (week == weeks and name in _NOT_YET_MARKED):
            continue
        child = _Child(name, np.random.default_rng((SEED, 500, week, number)))
        for place, word in enumerate(made.words):
            wrong = child.to_mend(word.boxes, week)
            mended = child.rng.random() < _MENDED
            yield name, place, [wrong, [] if mended else wrong] if wrong else [[]]
