"""Which letters are likely to be due in the lessons of a plan."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from firstloop.core.planning.plan import Plan
from firstloop.core.progress.review import Due, Forecast, recall_row

SOON_DAYS = 7  # what falls due before the next week is over is taken along


def recalls(
    plan: Plan,
    family: Mapping[str, str],
    alike: Callable[[str, str], bool],
    known: Iterable[str] = (),
    really: Mapping[int, str] | None = None,
) -> dict[int, str]:
    """Letters to recall in each lesson, by its key.

    Taken is that every letter is written mostly well in its lesson and in every recall row. Letters of
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
    """
    forecast = Forecast()
    first = plan.lessons[0].day if plan.lessons else 0
    for char in known:
        forecast.written(char, first - 1)
    out: dict[int, str] = {}
    for lesson in plan.lessons:
        if lesson.missed:
            out[lesson.key] = ""
            continue
        new = {family.get(char) for char in lesson.taught}
        soon = forecast.due(lesson.day + SOON_DAYS, family)
        due = [one for one in soon if one.family not in new and one.char not in lesson.taught]
        happened = None if really is None else really.get(lesson.key)
        out[lesson.key] = row_of(due, lesson.taught, alike) if happened is None else happened
        for char in (*lesson.taught, *out[lesson.key]):
            forecast.written(char, lesson.day)
    return out


def row_of(due: list[Due], new: Iterable[str], alike: Callable[[str, str], bool]) -> str:
    """A recall row beside letters that are new: nothing in it is easily taken for one of them."""
    letters = list(new)
    return recall_row([one for one in due if not any(alike(one.char, char) for char in letters)], alike)
