"""Words and lines that children write: asked for, kept before anything looks at them, and judged."""

from __future__ import annotations

import logging
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from pydantic import BaseModel, Field, field_validator
from sqlalchemy.orm import Session

from firstloop.api.beside import GaveUpError
from firstloop.api.ink import from_stroke, to_group
from firstloop.api.judges import Judge, here
from firstloop.api.schemas import (
    ChildOut,
    FindingOut,
    Given,
    GroupOut,
    Moment,
    RecordId,
    RulingLines,
    StrokeInk,
    WordStrokes,
)
from firstloop.api.settling import settle_all
from firstloop.api.writing import child_level, child_out, fresh_lines, same_sheet
from firstloop.core.check.grades import Level
from firstloop.core.check.group import check_group
from firstloop.core.check.letter import CHECKER_VERSION
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import word as word_model
from firstloop.core.progress.measured import measured_of_text
from firstloop.core.progress.wordlist import within_reach
from firstloop.core.simulate.text import write_text
from firstloop.formats.check_json import group_document
from firstloop.store import days
from firstloop.store import written as store
from firstloop.store.classes import get_child
from firstloop.store.styles import house_style
from firstloop.store.tables import LetterDay, WrittenWord
from firstloop.store.written import Told

log = logging.getLogger(__name__)

LEFT_XH = 1.0  # clear paper before the first letter
_OFFERED_MOST = 24


class WordIn(Given):
    """A word or a line that a child is to write."""

    child_id: RecordId
    text: str = Field(max_length=40)

    @field_validator("text")
    @classmethod
    def _with_single_spaces(cls, text: str) -> str:
        text = " ".join(text.split())
        if len(text.replace(" ", "")) < 2:
            raise ValueError("a word has at least two letters")
        return text


class WordInkIn(Given):
    """What the pen wrote, and for which word. Sending it again changes nothing."""

    word_started_at: Moment | None = None
    strokes: WordStrokes


class CrossOutIn(Given):
    """Whether it is crossed out."""

    crossed_out: bool


class LookedAtIn(Given):
    """Words that the teacher looked at, or did not after all."""

    word_ids: list[RecordId] = Field(min_length=1, max_length=200)
    looked_at: bool


class SayOut(BaseModel):
    """Something to say of a word: of which letters, or of "the whole", to the teacher and to the child."""

    of: str
    of_letters: bool
    teacher: str
    child: str


class WordOut(BaseModel):
    """A word or a line of a child; ``result`` is null until it is written and looked at.

    The model's origin stands at ``left_mm`` on the page. Where there is nothing ``to_say`` of a result,
    every letter is secure and the room between them is even.
    """

    id: int
    child: ChildOut
    text: str
    started_at: datetime
    lines: RulingLines
    xh_mm: float
    left_mm: float
    strokes: list[StrokeInk]
    crossed_out: bool
    checker: str | None
    error: str | None
    result: GroupOut | None
    to_say: list[SayOut]


def ask(session: Session, given: WordIn, at: datetime) -> WrittenWord:
    """Note what a child is to write, on the class's ruling.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    child = get_child(session, given.child_id)
    school_class = child.school_class
    word_model(given.text, house_style(school_class))
    return store.ask(session, child, given.text, at, school_class.ruling, fresh_lines(school_class))


def word_group(word: WrittenWord) -> InkGroup:
    """The ink of a word for the core."""
    strokes = [StrokeInk(**stroke) for stroke in word.ink or []]
    script = str(house_style(word).script)
    return to_group(strokes, word.lines, word.text, script, word.child.hand)


def keep_and_judge(session: Session, word: WrittenWord, given: WordInkIn, judge: Judge = here) -> WrittenWord:
    """Keep the ink, then judge it; a checker that fails leaves the ink and a note.

    Raises
    ------
    ConflictError
        If other ink is there already, or it was written for another word.
    """
    same_sheet(given.word_started_at, word)
    store.keep_ink(session, word, [stroke.model_dump(exclude_none=True) for stroke in given.strokes])
    if word.checker is None:
        judge_word(session, word, judge)
    return word


@dataclass(frozen=True)
class WordTask:
    """A word's ink, and by what it is judged."""

    group: InkGroup
    style: HouseStyle
    level: Level
    own: Mapping[str, float]


def task_of(word: WrittenWord) -> WordTask:
    """By what a word is judged now."""
    child = word.child
    return WordTask(word_group(word), house_style(word), child_level(child), child.school_class.tolerances)


def judged(task: WordTask) -> Told:
    """What the checker says; an error where it fails."""
    try:
        result = check_group(task.group, task.style, task.level, own=task.own)
        ruling = task.group.ruling
        return Told(group_document(result, ruling), measured_of_text(result.measures, ruling.xh_mm))
    except Exception as problem:  # the ink is safe; say so instead of losing the word
        log.exception("checking the word %s failed", task.group.truth)
        return cannot(f"{type(problem).__name__}: {problem}")


def judge_word(session: Session, word: WrittenWord, judge: Judge = here) -> None:
    """Judge a word and keep the result; whatever goes wrong in checking, the ink stays."""
    task = task_of(word)
    try:
        told = judge(judged, task)
    except GaveUpError:
        told = cannot("Looking at it took too much time or memory.")
    keep_result(session, word, task, told)


def cannot(why: str) -> Told:
    """What is kept of ink that could not be judged."""
    return Told({}, {}, why[:400])


def keep_result(session: Session, word: WrittenWord, task: WordTask, told: Told) -> None:
    """Keep what was said of a word."""
    store.keep_result(session, word, CHECKER_VERSION, str(task.level), told)


def word_out(word: WrittenWord) -> WordOut:
    """A word for the wire."""
    ruling = word.lines
    result = GroupOut.model_validate(word.document) if word.document else None
    return WordOut.model_validate(
        {
            "id": word.id,
            "child": child_out(word.child),
            "text": word.text,
            "started_at": word.started_at,
            "lines": RulingLines.of(ruling),
            "xh_mm": ruling.xh_mm,
            "left_mm": LEFT_XH * ruling.xh_mm,
            "strokes": word.ink or [],
            "crossed_out": word.crossed_out,
            "checker": word.checker,
            "error": word.error,
            "result": result,
            "to_say": what_to_say(result) if result else [],
        }
    )


def what_to_say(result: GroupOut) -> list[SayOut]:
    """What to say of a word: of the whole first, then of what is missing, then of its letters.

    What is the same with several letters is said once.
    """
    said = [_of_all("the whole", one.teacher, one.child) for one in _meant(result.findings)]
    unseen = ", ".join(letter.expected for letter in result.letters if letter.verdict == "not-seen")
    if unseen:
        said.append(_of_all("not seen", f"There is no ink for {unseen}."))
    alike: dict[tuple[str, str], list[tuple[str, FindingOut]]] = {}
    for letter in result.letters:
        for one in _meant(letter.findings):
            alike.setdefault((one.code, one.child), []).append((letter.expected, one))
    return said + [_of_letters(those) for those in alike.values()]


def _of_all(of: str, teacher: str, child: str = "") -> SayOut:
    return SayOut(of=of, of_letters=False, teacher=teacher, child=child)


def _of_letters(those: list[tuple[str, FindingOut]]) -> SayOut:
    """A finding of one letter, or of several: the first with its measure, the others named."""
    (char, first), *others = those
    teacher = first.teacher
    if others:
        teacher = f"{teacher.removesuffix('.')} ({char}); {', '.join(other for other, _ in others)} too."
    return SayOut(of=" ".join(one for one, _ in those), of_letters=True, teacher=teacher, child=first.child)


def _meant(findings: Sequence[FindingOut]) -> list[FindingOut]:
    """What is to be mended; what is only told of stays with the letter."""
    return [one for one in findings if one.severity != "told"]


def offered(session: Session, child_id: int) -> list[str]:
    """Words whose letters the child has begun, the ones with the latest letters first.

    Raises
    ------
    NotFoundError
    """
    get_child(session, child_id)
    settle_all(session, child_id)
    kept = sorted(days.days(session, LetterDay.child_id == child_id), key=lambda one: one.day)
    begun = {one.letter: None for one in kept}
    return within_reach(list(begun), _OFFERED_MOST)


def pen_ink(word: WrittenWord) -> list[StrokeInk]:
    """Ink for a word as if a pen were writing it now, page millimetres and milliseconds from zero."""
    ruling = word.lines
    rng = np.random.default_rng(word.id)
    style = house_style(word)
    made = write_text(word.text, rng, style=style, ruling=ruling, left_mm=LEFT_XH * ruling.xh_mm)
    return [from_stroke(stroke) for stroke in made.strokes]
