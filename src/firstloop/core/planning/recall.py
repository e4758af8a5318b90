"""Which letters are likely to be due in the lessons of a plan."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence

from firstloop.core.planning.plan import Lesson, Plan
from firstloop.core.progress.review import Due, Forecast, recall_row

ROW_LEAST = 3
LEAST_FORGOTTEN = 0.02  # by one child in fifty: it was written only just now
SOON_DAYS = 7  # what falls due before the next week is over is taken along


def recalls(
    plan: Plan,
    family: Mapping[str, str],
    alike: Callable[[str, str], bool],
    known: Iterable[str] = (),
    really: Mapping[int, str] | None = None,
    hard: frozenset[str] = frozenset(),
) -> dict[int, str]:
    """Letters to recall in each lesson, by its key.

    Taken is that every other letter is written mostly well in its lesson and in every recall row. Letters of
    the families that are new in a lesson are not recalled in it; a lesson that was missed recalls none.

    Parameters
    ----------
    family : mapping
        Family of every letter.
    alike : callable
        Whether two letters are easily taken for one another.
    known : iterable of str
        Letters that were taught before the term.
    really : mapping, optional
        For lessons that are over the letters that were really recalled in them.
    hard : set of str
        Letters that are not written well yet, and so come back sooner.
    """
    forecast = Forecast(hard)
    first = plan.lessons[0].day if plan.lessons else 0
    for char in known:
        forecast.written(char, first - 1)
    out: dict[int, str] = {}
    for lesson in plan.lessons:
        if lesson.missed:
            out[lesson.key] = ""
            continue
        happened = None if really is None else really.get(lesson.key)
        out[lesson.key] = _row(forecast, lesson, family, alike) if happened is None else happened
        for char in (*lesson.taught, *out[lesson.key]):
            forecast.written(char, lesson.day)
    return out


def _row(
    forecast: Forecast, lesson: Lesson, family: Mapping[str, str], alike: Callable[[str, str], bool]
) -> str:
    """What is due soon; where that makes too short a row, what is remembered least besides."""

    def row(by: int | None) -> str:
        found = forecast.due(lesson.day, family, by)
        due = [one for one in found if one.need > LEAST_FORGOTTEN]
        return row_of(due, lesson.taught, family, alike)

    soon = row(lesson.day + SOON_DAYS)
    return soon if len(soon) >= ROW_LEAST else row(None)[:ROW_LEAST]


def row_of(
    due: Iterable[Due], new: Sequence[str], family: Mapping[str, str], alike: Callable[[str, str], bool]
) -> str:
    """A recall row beside what is new: nothing in it is of its families, or easily taken for it."""
    families = {family.get(char) for char in new}
    beside = [
        one for one in due if one.family not in families and not any(alike(one.char, char) for char in new)
    ]
    return recall_row(beside, alike)
