"""The term and the lesson in words: what an order costs, what moved, what a lesson's parts are."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date
from itertools import groupby

from firstloop.core.planning.changes import Moved
from firstloop.core.planning.costs import FORTNIGHT, Apart, Costs
from firstloop.core.planning.lesson import Cut
from firstloop.text import say
from firstloop.text.progress import day as day_of_month
from firstloop.text.progress import listed as all_listed

_SAID_MOST = 4
_WEEK = 7
_NEAR_MOVES, _FAR_MOVES = 1.8, 2.3  # how unlike neighbours are, on the mean


def weekday(day: int) -> str:
    """A day as it is said: "Tuesday 24 November"."""
    of = date.fromordinal(day)
    return say("day.weekday", weekday=say(f"weekday.{of.weekday()}"), day=day_of_month(of))


def listed(items: Sequence[str]) -> str:
    """Letters one after another; kinds of joins by their names."""
    return all_listed([item if len(item) == 1 else say(f"plan.join.{item}") for item in items])


def apart(gap_days: int) -> str:
    """How far two lessons are from one another."""
    if gap_days == 0:
        return say("plan.apart.same")
    if gap_days < _WEEK:
        return say("plan.apart.week")
    return say("plan.apart.weeks", count=gap_days // _WEEK)


def close_said(gaps: Iterable[Apart]) -> list[str]:
    """Look-alikes that are new within a fortnight of each other."""
    near = [one for one in gaps if one[2] < FORTNIGHT]
    return [say("plan.close", one=one, other=other, when=apart(gap)) for one, other, gap in near]


def costs_said(costs: Costs, gaps: Sequence[Apart], by_half: int | None) -> list[str]:
    """What an order costs, in a few words each.

    Parameters
    ----------
    gaps : sequence
        Look-alikes with the days between them, the nearest first.
    by_half : int or None
        How many words can be written half-way; None where no word waits for its letters.
    """
    kind = "near" if costs.movement <= _NEAR_MOVES else "far" if costs.movement >= _FAR_MOVES else "some"
    out = [] if by_half is None else [say("plan.cost.words", count=by_half)]
    out.append(say(f"plan.cost.movement-{kind}"))
    close = close_said(gaps)
    if len(close) > 1:
        out.append(say("plan.cost.more-close", first=close[0], count=len(close) - 1))
    elif close:
        out += close
    elif gaps:
        one, other, gap = gaps[0]
        out.append(say("plan.cost.nearest", one=one, other=other, when=apart(gap)))
    return out


def left_said(left: Sequence[str]) -> str:
    """Letters for which there is no lesson; nothing where there are none."""
    return say("plan.left", letters=listed(left), count=len(left)) if left else ""


def moved_said(moved: Sequence[Moved]) -> list[str]:
    """What moved in a plan: where each letter comes now."""

    def after(one: Moved) -> int:
        return -1 if one.after is None else one.after

    groups = [
        (day, [one.char for one in some])
        for day, some in groupby(sorted(moved, key=lambda one: (after(one), one.char)), after)
    ]
    said: list[str] = []
    for day, chars in groups:
        key = "plan.moved.nowhere" if day < 0 else "plan.moved.first" if not said else "plan.moved.then"
        when = "" if day < 0 else weekday(day)
        said.append(say(key, letters=listed(chars), count=len(chars), day=when))
    rest = sum(len(chars) for _, chars in groups[_SAID_MOST:])
    return [*said[:_SAID_MOST], *([say("plan.moved.more", count=rest)] if rest else [])]


def cut_said(cuts: Sequence[Cut]) -> str:
    """What is left out first when time runs short."""
    if not cuts:
        return say("plan.cut.nothing")
    first, *rest = (say(f"plan.cut.{one}") for one in cuts[:2])
    return (
        say("plan.cut.first-then", first=first, then=rest[0]) if rest else say("plan.cut.first", first=first)
    )
