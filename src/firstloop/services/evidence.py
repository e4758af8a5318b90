"""Days of evidence: worked out whenever rows, marks or notes of a day change, with what follows from it.

Only the day that changed is read again; the days after it are folded on from what is kept of them.
Nothing is worked out where it is only looked at.
"""

from __future__ import annotations

import logging
from collections.abc import Mapping, Sequence
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.grades import Severity, Verdict
from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.evidence import (
    RULES_VERSION,
    Aspect,
    Day,
    Evidence,
    evidence_of,
    from_token,
    in_word_evidence,
    slips_in,
    stands_for_day,
    watched,
)
from firstloop.core.progress.mastery import standings
from firstloop.core.progress.measured import measured, middles, spread
from firstloop.core.progress.review import reviews
from firstloop.core.supports import Support
from firstloop.services.results import counted_codes
from firstloop.store import days as store
from firstloop.store.days import DayRow, Key, Written
from firstloop.store.school import school_time
from firstloop.store.styles import get_style
from firstloop.store.tables import LetterDay, Row, Watched, WrittenWord

log = logging.getLogger(__name__)

_AT_ONCE = 10  # days


def work_out_all(session: Session, child_id: int | None = None) -> int:
    """Work out every day whose rows or notes changed, or that was worked out by other rules; how many.

    Parameters
    ----------
    child_id : int, optional
        Only the changed rows of this child.
    """
    keys = store.unsettled(session, child_id)
    words = store.unsettled_words(session, child_id)
    keys += [key for some in words.values() for key in some]
    if child_id is None:
        keys += store.watched_only(session) + store.outdated(session, RULES_VERSION)
    else:
        keys += [key for key in store.watched_only(session) if key.child_id == child_id]
    done = work_out(session, sorted(dict.fromkeys(keys), key=lambda key: (key.day, key)))
    store.settle_words(session, list(words))
    session.commit()
    return done


def left_in_the_middle(session: Session, now: datetime, rest: timedelta) -> list[Key]:
    """Days with rows written on since their evidence was worked out, which have had a rest by now.

    What a clock that was wrong says was written later than now holds up nothing.
    """
    return store.unsettled(session, rested=(now - rest, now))


def work_out_row(session: Session, row: Row) -> int:
    """Work out the day that a row is of."""
    return work_out(session, [Key(row.child_id, row.letter, school_time(session).day(row.started_at))])


def work_out_word(session: Session, word: WrittenWord) -> int:
    """Work out the day of every letter in a word, on the day on which it was written."""
    keys = store.unsettled_words(session, word.child_id)
    done = work_out(session, keys.get(word.id, []))
    store.settle_words(session, [word.id])
    session.commit()
    return done


def work_out_note(session: Session, note: Watched) -> int:
    """Work out the day on which something was watched."""
    return work_out(session, [Key(note.child_id, note.letter, school_time(session).day(note.at))])


def work_out(session: Session, keys: Sequence[Key]) -> int:
    """Work out the evidence of some days, and how the letters stood from then on; returns how many.

    What the session holds is committed first. A few days go in one commit, so that nobody who writes waits
    for long. A day that cannot be worked out is set aside, and takes no other along.
    """
    session.commit()
    styles: dict[int, HouseStyle] = {}
    begun: list[Key] = []
    for first in range(0, len(keys), _AT_ONCE):
        _work_out_some(session, keys[first : first + _AT_ONCE], styles, begun)
    # words that were written before their letter was begun here count from now on
    later = [after for key in begun for after in store.word_days_after(session, key)]
    waiting = list(dict.fromkeys(after for after in later if after not in set(keys)))
    return len(keys) + (work_out(session, waiting) if waiting else 0)


def _work_out_some(
    session: Session, keys: Sequence[Key], styles: dict[int, HouseStyle], begun: list[Key]
) -> None:
    for key in keys:
        try:
            if _work_out_one(session, key, styles):
                begun.append(key)
        except DBAPIError:
            raise  # the file is locked or full: nothing is wrong with the day
        except Exception as problem:
            log.exception("a day could not be worked out")
            session.rollback()
            store.set_aside(session, key, f"{type(problem).__name__}: {problem}")
            session.commit()
            _work_out_some(session, [other for other in keys if other != key], styles, begun)
            return
    session.commit()


def _work_out_one(session: Session, key: Key, styles: dict[int, HouseStyle]) -> bool:
    """Work out a day; whether the letter was begun with it."""
    others = [one for one in store.of_letter(session, key.child_id, key.letter) if one.day != key.day]
    fields = _worked_out(session, key, styles, begun=any(one.day < key.day for one in others))
    history = [day_of(one) for one in others]
    if fields is not None:
        history.append(_day(key.day, fields))
    history.sort(key=lambda one: one.day)
    stood = {one.day: how for one, how in zip(history, _how_it_stood(history), strict=True)}
    for one in others:
        if one.day > key.day:
            for name, value in stood[one.day.toordinal()].items():
                setattr(one, name, value)
    session.flush()
    store.keep_day(session, key, None if fields is None else {**fields, **stood[key.day.toordinal()]})
    return fields is not None and not any(one.day < key.day for one in others)


def _how_it_stood(history: Sequence[Day]) -> list[dict[str, Any]]:
    """For every day, the columns that follow from it and the days before."""
    states = {aspect: standings(history, aspect) for aspect in Aspect}
    out = []
    for i, due in enumerate(reviews(history)):
        out.append(
            {
                **{f"state_{aspect}": str(states[aspect][i].state) for aspect in Aspect},
                "due": None if due is None else date.fromordinal(due.due),
                "strength_days": None if due is None else due.strength_days,
            }
        )
    return out


def _day(day: date, fields: Mapping[str, Any]) -> Day:
    alone, words = (tuple(map(from_token, fields[name])) for name in ("alone", "in_words"))
    return Day(day.toordinal(), alone, words, helped=fields["helped"], slips=fields["slips"])


def day_of(kept: LetterDay | DayRow) -> Day:
    """A kept day for the core."""
    alone, words = (tuple(map(from_token, tokens)) for tokens in (kept.alone, kept.in_words))
    return Day(kept.day.toordinal(), alone, words, helped=kept.helped, slips=kept.slips)


def _worked_out(
    session: Session, key: Key, styles: dict[int, HouseStyle], begun: bool
) -> dict[str, Any] | None:
    """The columns of a day; None without one: words make none of a letter not yet `begun`."""
    attempts, notes = store.written(session, key), store.seen(session, key)
    words = store.in_words(session, key)
    if not attempts and not notes and not (words and begun):
        return None
    alone = [one for one in attempts if one.support == Support.ALONE]
    evidence = [_evidence(one) for one in alone] + [watched(seen == "fine") for seen in notes]
    shown = stands_for_day([(one.picked, one.support == Support.ALONE) for one in attempts])
    for one in attempts:
        if one.style_id not in styles:
            styles[one.style_id] = style_from(get_style(session, one.style_id).document)
    marked = [(counted_codes(one.document), None if one.mark is None else Verdict(one.mark)) for one in alone]
    return {
        "rules": RULES_VERSION,
        "written": len(attempts),
        "helped": len(attempts) - len(alone),
        "waiting": len({one.row_id for one in attempts if one.mark is None}),
        "alone": [one.token for one in evidence],
        "in_words": [_in_word(one).token for one in words],
        "slips": slips_in(marked),
        "measures": _measures(alone, key.letter, styles),
        "shown_id": None if shown is None else attempts[shown].id,
    }


def _evidence(one: Written) -> Evidence:
    verdict = one.verdict if one.document else Verdict.NOT_SEEN  # what could not be looked at says nothing
    return evidence_of(verdict, one.document.get("headings", {}), one.mark)


def _in_word(letter_in_word: Mapping[str, Any]) -> Evidence:
    verdict = letter_in_word["verdict"]
    found = [(one["code"], Severity(one["severity"])) for one in letter_in_word["findings"]]
    read = verdict not in (Verdict.UNREADABLE, Verdict.NOT_SEEN)
    return in_word_evidence(letter_in_word["headings"], found, read)


def _measures(attempts: Sequence[Written], char: str, styles: Mapping[int, HouseStyle]) -> dict[str, float]:
    found: list[dict[str, float]] = []
    by_row: dict[int, list[float]] = {}
    for one in attempts:
        if not one.document.get("measures"):
            continue
        style = styles[one.style_id]
        mine = measured(one.document["measures"], letter(char, style), style.slant_deg, one.xh_mm)
        found.append(mine)
        if "height" in mine:
            by_row.setdefault(one.row_id, []).append(mine["height"])
    spreads = [{"spread": value} for heights in by_row.values() if (value := spread(heights)) is not None]
    return middles([*found, *spreads])
