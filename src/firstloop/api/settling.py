"""Working out a day's evidence whenever its rows, marks or notes change, and what follows from it.

Only the day that changed is read again; the days after it are folded on from what is kept of them.
"""

from __future__ import annotations

import logging
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from firstloop.core.letterforms.document import style_from
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.evidence import Aspect, Day, Piece, from_token, piece, watched
from firstloop.core.progress.mastery import standings
from firstloop.core.progress.measured import measured, middles, spread
from firstloop.core.progress.review import reviews
from firstloop.store import days as store
from firstloop.store.days import DayRow, Key, Written
from firstloop.store.styles import get_style
from firstloop.store.tables import LetterDay

log = logging.getLogger(__name__)

ALONE = "alone"
_AT_ONCE = 10  # days


def settle_all(session: Session, child_id: int | None = None) -> int:
    """Work out every day whose rows changed, and of a child also its watched ones; returns how many."""
    keys = store.unsettled(session, child_id)
    if child_id is not None:
        keys += [key for key in store.watched_days(session, child_id) if key not in keys]
    return settle(session, keys)


def settle(session: Session, keys: Sequence[Key]) -> int:
    """Work out the evidence of some days, and how the letters stood from then on; returns how many.

    A day that cannot be worked out is set aside, and takes no other along.
    """
    styles: dict[int, HouseStyle] = {}
    for first in range(0, len(keys), _AT_ONCE):
        _settle_some(session, keys[first : first + _AT_ONCE], styles)
    return len(keys)


def _settle_some(session: Session, keys: Sequence[Key], styles: dict[int, HouseStyle]) -> None:
    """A few days in one commit, so that nobody who writes waits for long."""
    for key in keys:
        try:
            _settle_one(session, key, styles)
        except DBAPIError:
            raise  # the file is locked or full: nothing is wrong with the day
        except Exception as problem:
            log.exception("a day could not be worked out")
            session.rollback()
            store.set_aside(session, key, f"{type(problem).__name__}: {problem}")
            session.commit()
            _settle_some(session, [other for other in keys if other != key], styles)
            return
    session.commit()


def _settle_one(session: Session, key: Key, styles: dict[int, HouseStyle]) -> None:
    child_id, char, day = key
    fields = _worked_out(session, key, styles)
    others = [one for one in store.of_letter(session, child_id, char) if one.day != day]
    history = [day_of(one) for one in others]
    if fields is not None:
        history.append(_day(day, fields))
    history.sort(key=lambda one: one.day)
    stood = {one.day: how for one, how in zip(history, _how_it_stood(history), strict=True)}
    for one in others:
        if one.day > day:
            for name, value in stood[one.day.toordinal()].items():
                setattr(one, name, value)
    store.keep_day(session, key, None if fields is None else {**fields, **stood[day.toordinal()]})


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
    return Day(
        day.toordinal(),
        tuple(map(from_token, fields["alone"])),
        helped=fields["helped"],
        slips=fields["slips"],
    )


def day_of(kept: LetterDay | DayRow) -> Day:
    """A kept day for the core."""
    pieces = tuple(map(from_token, kept.alone))
    return Day(kept.day.toordinal(), pieces, helped=kept.helped, slips=kept.slips)


def _worked_out(session: Session, key: Key, styles: dict[int, HouseStyle]) -> dict[str, Any] | None:
    attempts, notes = store.written(session, key), store.seen(session, key)
    if not attempts and not notes:
        return None
    alone = [one for one in attempts if one.support == ALONE]
    pieces = [_piece(one) for one in alone] + [watched(seen == "fine") for seen in notes]
    usual = (alone or attempts)[-1:]
    shown = next((one for one in attempts if one.picked), usual[0] if usual else None)
    for one in attempts:
        if one.style_id not in styles:
            styles[one.style_id] = style_from(get_style(session, one.style_id).document)
    return {
        "written": len(attempts),
        "helped": len(attempts) - len(alone),
        "waiting": len({one.row_id for one in attempts if one.mark is None}),
        "alone": [one.token for one in pieces],
        "slips": _slips(alone),
        "measures": _measures(alone, key[1], styles),
        "shown_id": None if shown is None else shown.id,
    }


def _piece(one: Written) -> Piece:
    verdict = one.verdict if one.document else "not-seen"  # what could not be looked at says nothing
    return piece(verdict, one.document.get("headings", {}), one.mark)


def _slips(attempts: Sequence[Written]) -> dict[str, int]:
    """In how many letters each slip was made; a letter the teacher let pass has none."""
    found: Counter[str] = Counter()
    for one in attempts:
        if one.mark != "secure":
            found.update({f["code"] for f in one.document.get("findings", []) if f["severity"] != "told"})
    return dict(found)


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
