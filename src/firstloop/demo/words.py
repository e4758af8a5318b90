"""Words in the demo school: from the fourth week on a word ends every lesson."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.progress.measured import measured_of_text
from firstloop.core.ruling import ruling_kind
from firstloop.core.simulate.text import write_text
from firstloop.core.words.find import Conditions, find
from firstloop.demo import school
from firstloop.demo.hands import SEED, Writing, hand_of, lesson_at, side_of, slip_of
from firstloop.demo.term import lived
from firstloop.formats.check_json import group_document
from firstloop.formats.word_bank import shipped_bank
from firstloop.services.ink import from_stroke
from firstloop.services.rows import TOP_XH
from firstloop.services.written_words import LEFT_XH
from firstloop.store.base import line_columns

_FROM_WEEK = 4
_AFTER = timedelta(minutes=16)
_LOOKED_AFTER = timedelta(hours=5)
_CHOICE = 8  # words to choose from


@dataclass(frozen=True)
class PlannedWord:
    """A word that a child will write: who, what, when, and the seed of its ink."""

    child: str
    text: str
    at: datetime
    week: int
    looked_at: datetime | None
    seed: tuple[int, ...]


def _short_words(taught: str) -> list[str]:
    """Short words of the letters taught, those with the latest first."""
    asked = Conditions(letters=frozenset(taught), least=3, most=5, by_heart=False)
    return [one.text for one in find(shipped_bank(), asked, DEFAULT_STYLE, taught)[:_CHOICE]]


def plan_words(today: date, weeks: int) -> Iterator[PlannedWord]:
    """Every word of so many weeks, of the letters taught by then; the teacher looked at all but the last."""
    taught = ""
    for number, lesson in enumerate(lived(today)):
        taught += lesson.new
        words = _short_words(taught)
        if not _FROM_WEEK <= lesson.week <= weeks:
            continue
        for c, child in enumerate(school.CHILDREN):
            if lesson.week not in school.AWAY.get(child, ()):
                at = lesson_at(today, lesson.week, lesson.weekday) + _AFTER + timedelta(seconds=7 * c)
                text = words[(number + c) % len(words)]
                looked_at = at + _LOOKED_AFTER if lesson.week < weeks else None
                yield PlannedWord(child, text, at, lesson.week, looked_at, (SEED, 1000 + number, c))


def write_word(word: PlannedWord) -> dict[str, Any]:
    """Write and judge a word; gives it as the records keep it, without whose it is."""
    rng = np.random.default_rng(word.seed)
    ruling = ruling_kind(school.RULING).ruled(school.XH_MM, top_mm=TOP_XH * school.XH_MM)
    slips = {
        place: slip
        for place, char in enumerate(word.text)
        if (slip := slip_of(Writing(word.child, char, word.week), 0, rng))
    }
    until, close_xh = school.CLOSE_TOGETHER.get(word.child, (0, 0.0))
    ink = write_text(
        word.text,
        rng,
        fault="spacing.tight" if word.week <= until else None,
        size=close_xh * rng.uniform(0.8, 1.2),
        ruling=ruling,
        hand=hand_of(word.child, word.week, rng),
        left_mm=LEFT_XH * school.XH_MM,
        slips=slips,
    )
    result = check_group(replace(ink, hand=side_of(word.child)), DEFAULT_STYLE, Level.GROWING)
    return {
        "text": word.text,
        "started_at": word.at,
        "looked_at": word.looked_at,
        **line_columns(school.RULING, ruling),
        "ink": [from_stroke(stroke) for stroke in ink.strokes],
        "checker": CHECKER_VERSION,
        "level": str(Level.GROWING),
        "document": group_document(result, ruling),
        "measures": measured_of_text(result.measures, ruling.xh_mm),
    }
