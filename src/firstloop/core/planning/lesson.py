"""What a lesson holds, minute by minute, from how long a class really takes.

A lesson begins as the least that is worth having. What makes it better is then taken in the order of its
worth, each where it still fits; so what was taken last is what is cut first when time runs short.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.words.pace import LEAST_LETTERS, Pace

MINUTE_S = 60.0
ROW_USUAL_S = {Level.STARTING: 10.0, Level.GROWING: 8.0, Level.SETTLED: 6.0}
"""Seconds a letter in a row, with looking and starting again: a rough figure until there is ink."""
_ROW_BEGIN_S, _WORD_BEGIN_S = 15.0, 10.0  # finding the line
_SHOW_S, _AIR_S, _BEFORE_S, _BEST_S = 60.0, 20.0, 60.0, 30.0
_PART_LEAST_S = 30.0
LETTER_MOST_S = 120.0  # longer between two letters of a row: the child did something else


class PartKind(StrEnum):
    """The parts of a lesson, in their order."""

    BEFORE = "before"
    DATE = "date"
    RECALL = "recall"
    SHOW = "show"
    AIR = "air"
    ROW = "row"
    WORDS = "words"
    SENTENCE = "sentence"
    BEST = "best"


PART_ORDER = tuple(PartKind)


@dataclass(frozen=True)
class LessonPace:
    """How long a class takes.

    Parameters
    ----------
    row : Pace
        For a letter in a row.
    text, line : Pace
        For a letter in a word, and in a line of several words.
    """

    row: Pace
    text: Pace
    line: Pace


def row_pace(spans: Sequence[float], level: Level) -> Pace:
    """The pace of letters in rows: the middle of what they took.

    Parameters
    ----------
    spans : sequence of float
        Seconds from one letter of a row to the next.
    """
    taken = [one for one in spans if 0 < one <= LETTER_MOST_S]
    if len(taken) < LEAST_LETTERS:
        return Pace(ROW_USUAL_S[level])
    return Pace(float(np.median(taken)), len(taken))


@dataclass(frozen=True)
class Content:
    """What a lesson holds, without its times.

    Parameters
    ----------
    new : tuple of str
        Letters that are new.
    date : str
        The date that is written to warm up; empty for none.
    recall : str
        Letters of the recall row.
    trace, finish, alone : int
        How many of each new letter.
    words : tuple of str
    sentence : str
    """

    new: tuple[str, ...] = ()
    date: str = ""
    recall: str = ""
    trace: int = 0
    finish: int = 0
    alone: int = 0
    words: tuple[str, ...] = ()
    sentence: str = ""


@dataclass(frozen=True)
class Offer:
    """What a lesson may take from: letters due, words and a sentence within reach, and the dates."""

    recall: str = ""
    words: tuple[str, ...] = ()
    sentence: str = ""
    long_date: str = ""
    short_date: str = ""


class Cut(StrEnum):
    """What can be left out when time runs short."""

    ALONE = "alone"
    WORD = "word"
    DATE = "date"
    SHORT_DATE = "short-date"
    RECALL = "recall"
    SENTENCE = "sentence"
    TRACE = "trace"


@dataclass(frozen=True)
class Part:
    """A part of a lesson and how many whole minutes it has; ``needs_s`` is how long it really takes."""

    kind: PartKind
    minutes: int
    needs_s: float


@dataclass(frozen=True)
class LessonTimes:
    """A lesson with its parts; what is cut first comes first in ``cuts``."""

    content: Content
    parts: tuple[Part, ...]
    cuts: tuple[Cut, ...]


@dataclass(frozen=True)
class Moment:
    """Something a lesson goes through on the board: a part, or of what is new a part for each.

    Parameters
    ----------
    part : PartKind
    about : str
        What of the new things it is about; empty where it is about none.
    slip : bool
        Whether the slip is shown, and not the letter.
    """

    part: PartKind
    about: str = ""
    slip: bool = False
    seconds: float = 0.0

    @property
    def key(self) -> str:
        """By which it is noted."""
        return moment_key("slip" if self.slip else self.part, self.about)


def moment_key(what: str, about: str) -> str:
    """The key of a moment: "show:n", or "recall"."""
    return f"{what}:{about}" if about else what


def was_shown(done: Iterable[tuple[str, bool]], char: str) -> bool:
    """Whether something new was shown, by what was gone through: the key of each moment, and if skipped."""
    return (moment_key(PartKind.SHOW, char), False) in set(done)


_EACH = (PartKind.SHOW, PartKind.AIR, PartKind.ROW)  # gone through for one new thing after another


def moments(parts: Sequence[Part], new: Sequence[str], with_slip: Collection[str]) -> list[Moment]:
    """A lesson moment by moment, in order: each new thing is shown, then its slip, made in the air, written.

    Parameters
    ----------
    with_slip : collection of str
        Those of the new things that have a slip to be shown.
    """
    each = [one for one in parts if one.kind in _EACH]
    out: list[Moment] = []
    for part in parts:
        if part.kind not in _EACH:
            out.append(Moment(part.kind, seconds=part.minutes * MINUTE_S))
        elif part is each[0]:
            for about in new:
                for one in each:
                    out.append(Moment(one.kind, about, seconds=one.minutes * MINUTE_S / len(new)))
                    if one.kind is PartKind.SHOW and about in with_slip:
                        out.append(Moment(PartKind.SHOW, about, slip=True))
    return out


def needs(content: Content, pace: LessonPace) -> dict[PartKind, float]:
    """How many seconds each part of a lesson takes this class; parts that hold nothing are not there."""
    new = len(content.new)
    letters = content.trace + content.finish + content.alone
    each = {
        PartKind.BEFORE: _BEFORE_S,
        PartKind.DATE: _begun(_WORD_BEGIN_S, pace.line.seconds(content.date)),
        PartKind.RECALL: _begun(_ROW_BEGIN_S, pace.row.letter_s * len(content.recall) * RECALL_TIMES),
        PartKind.SHOW: _SHOW_S * new,
        PartKind.AIR: _AIR_S * new,
        PartKind.ROW: new * _begun(_ROW_BEGIN_S, pace.row.letter_s * letters),
        PartKind.WORDS: sum(_begun(_WORD_BEGIN_S, pace.text.seconds(word)) for word in content.words),
        PartKind.SENTENCE: _begun(_WORD_BEGIN_S, pace.line.seconds(content.sentence)),
        PartKind.BEST: _BEST_S,
    }
    return {kind: max(seconds, _PART_LEAST_S) for kind, seconds in each.items() if seconds > 0}


RECALL_TIMES = 2  # each letter of a recall row


def _begun(begin_s: float, seconds: float) -> float:
    return begin_s + seconds if seconds > 0 else 0.0


_Better = Callable[[Content, Offer], Content]


def _words(count: int) -> _Better:
    return lambda now, offer: replace(now, words=offer.words[:count])


def _recall(count: int) -> _Better:
    return lambda now, offer: replace(now, recall=offer.recall[:count])


def _alone(count: int) -> _Better:
    return lambda now, offer: replace(now, alone=count) if now.new else now


_BETTER: tuple[tuple[Cut, _Better], ...] = (
    (Cut.RECALL, _recall(3)),
    (Cut.ALONE, _alone(3)),
    (Cut.WORD, _words(1)),
    (Cut.SHORT_DATE, lambda now, offer: replace(now, date=offer.short_date)),
    (Cut.TRACE, lambda now, offer: replace(now, trace=2) if now.new else now),
    (Cut.WORD, _words(2)),
    (Cut.RECALL, _recall(4)),
    (Cut.ALONE, _alone(4)),
    (Cut.SENTENCE, lambda now, offer: replace(now, sentence=offer.sentence)),
    (Cut.DATE, lambda now, offer: replace(now, date=offer.long_date)),
    (Cut.RECALL, _recall(5)),
    (Cut.WORD, _words(3)),
    (Cut.ALONE, _alone(6)),
    (Cut.WORD, _words(4)),
    (Cut.WORD, _words(6)),
    (Cut.ALONE, _alone(8)),
    (Cut.WORD, _words(8)),
)
"""What makes a lesson better, the most worth first."""


def fit(new: Sequence[str], offer: Offer, minutes: int, pace: LessonPace) -> LessonTimes:
    """The best lesson that fits.

    Parameters
    ----------
    new : sequence of str
        Letters that are new; none in a lesson for recall or words.
    """
    now = Content(tuple(new), trace=1, finish=1, alone=2) if new else Content()
    taken: list[Cut] = []
    for cut, better in _BETTER:
        tried = better(now, offer)
        if tried != now and _fits(tried, minutes, pace):
            now = tried
            taken.append(cut)
    return LessonTimes(now, times(now, minutes, pace), tuple(dict.fromkeys(reversed(taken))))


def _fits(content: Content, minutes: int, pace: LessonPace) -> bool:
    each = needs(content, pace)
    return sum(each.values()) <= minutes * MINUTE_S and len(each) <= minutes


_STRETCH = (PartKind.RECALL, PartKind.ROW, PartKind.WORDS, PartKind.SENTENCE, PartKind.DATE, PartKind.SHOW)


def times(
    content: Content, minutes: int, pace: LessonPace, without: Collection[PartKind] = ()
) -> tuple[Part, ...]:
    """Whole minutes for each part, in their order, that add up to the lesson's.

    Every part has at least one. What is over goes to the parts in which children write. A lesson that
    holds more than its minutes keeps one for each part, and adds up to more where it must.
    """
    each = {kind: seconds for kind, seconds in needs(content, pace).items() if kind not in without}
    share = {kind: max(1, int(seconds // MINUTE_S)) for kind, seconds in each.items()}
    while sum(share.values()) > minutes and max(share.values()) > 1:
        long = [kind for kind in share if share[kind] > 1]
        share[max(long, key=lambda kind: share[kind] * MINUTE_S - each[kind])] -= 1
    stretch = [kind for kind in each if kind in _STRETCH] or list(each)
    while sum(share.values()) < minutes:
        share[max(stretch, key=lambda kind: each[kind] / (share[kind] + 0.5))] += 1
    return tuple(Part(kind, share[kind], each[kind]) for kind in PART_ORDER if kind in share)
