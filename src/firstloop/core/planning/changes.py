"""Changing a plan: what follows moves as little as it must, and nothing that happened changes.

Whatever disturbs a plan (a letter or a lesson taken elsewhere, one missed or cut short, other holidays)
leaves letters to be dealt out again, in an order, over the lessons that can still change. Of all ways to
deal them out in that order the one is taken that costs least, where it costs

* one for every letter and lesson by which it moves,
* three for every letter by which a lesson gets fuller than lessons of this plan are,
* one for every lesson that was kept free and no longer is,
* and most for a letter that is left without a lesson.

That is exact: a table over lessons and letters, as for an edit distance.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from firstloop.core.planning.course import MOST_NEW
from firstloop.core.planning.plan import Lesson, Plan, is_open
from firstloop.core.planning.term import LessonKind, Slot

FULLER_COST, FREE_COST, LEFT_COST = 3.0, 1.0, 1000.0


class ChangeError(ValueError):
    """A change that cannot be made; the message says why."""


@dataclass(frozen=True)
class Moved:
    """A letter that has another day than before; None where it has none."""

    char: str
    before: int | None
    after: int | None


@dataclass(frozen=True)
class Changed:
    """A plan after a change, and what moved."""

    plan: Plan
    moved: tuple[Moved, ...]


def told(before: Plan, after: Plan) -> Changed:
    """A changed plan with what moved in it."""
    was, now = _days(before), _days(after)
    chars = [*dict.fromkeys([*now, *was])]
    return Changed(
        after,
        tuple(Moved(char, was.get(char), now.get(char)) for char in chars if was.get(char) != now.get(char)),
    )


def _days(plan: Plan) -> dict[str, int]:
    """Where each letter stands in the plan; one that was missed stands where it was planned until it is
    dealt out again."""
    out = {char: one.day for one in plan.lessons for char in one.not_shown}
    return {**out, **plan.days}


def _open(plan: Plan, today: int) -> list[Lesson]:
    return [
        one for one in plan.lessons if is_open(one, today) and (one.kind is not LessonKind.RECALL or one.new)
    ]


def move_letter(plan: Plan, char: str, key: int, today: int) -> Changed:
    """Take a letter to another lesson; what lies between moves along if it must.

    Raises
    ------
    ChangeError
        If the letter's own lesson or the other is locked or over, or the letter is not in the plan.
    """
    target = _to_change(plan, key, today)
    source = next((one for one in plan.lessons if char in one.taught), None)
    if source is None and char not in plan.left:
        raise ChangeError(f"{char} is not in this plan")
    if source is not None:
        _to_change(plan, source.key, today)
    if target.kind is LessonKind.RECALL and not target.new:
        plan_now = plan.with_lesson(replace(target, kind=LessonKind.FREE))  # its own wish opens it
    else:
        plan_now = plan
    lessons = _open(plan_now, today)
    place = [one.key for one in lessons].index(key)
    wanted = _wanted(lessons)
    order = [one for one in [*wanted, *plan.left] if one != char]
    stands = wanted.get(char, len(lessons))  # what makes room goes to where the letter came from
    at = sum(wanted.get(one, len(lessons)) < place + (stands < place) for one in order)
    wanted[char] = place
    return told(plan, _dealt(plan_now, lessons, [*order[:at], char, *order[at:]], wanted, {char: place}))


def move_lesson(plan: Plan, key: int, to_key: int, today: int) -> Changed:
    """Take what a lesson holds to another day; what lies between moves on by one lesson.

    Lessons that are locked, free, or for recall stay where they are.

    Raises
    ------
    ChangeError
        If one of the two is locked or over, or no such lesson can be moved.
    """
    source, target = _to_change(plan, key, today), _to_change(plan, to_key, today)
    if not source.new:
        raise ChangeError("there are no letters in this lesson to take elsewhere")
    low, high = sorted((source.day, target.day))
    row = [
        one for one in _open(plan, today) if low <= one.day <= high and (one.new or one.key in (key, to_key))
    ]
    if not target.new and target.kind is LessonKind.RECALL:
        row = [one for one in plan.lessons if one.key in (key, to_key)]
    held = [one.new for one in row]
    here = [one.key for one in row].index(key)
    there = [one.key for one in row].index(to_key)
    if target.new:
        held.insert(there, held.pop(here))
    else:
        held[here], held[there] = held[there], held[here]  # an empty day is simply taken
    now = plan
    for lesson, chars in zip(row, held, strict=True):
        now = now.with_lesson(lesson.holding(chars))
    return told(plan, now)


def lock(plan: Plan, key: int, locked: bool, today: int) -> Plan:
    """Let a lesson stay as it is whatever else moves, or no longer.

    Raises
    ------
    ChangeError
        If the lesson is over.
    """
    lesson = plan.lesson(key)
    if lesson.day < today or lesson.shown is not None:
        raise ChangeError("this lesson is over")
    return plan.with_lesson(replace(lesson, locked=locked))


def tell(plan: Plan, key: int, shown: Sequence[str] | None, today: int) -> Changed:
    """Tell what was shown in a lesson; what was not is dealt out again, first of all.

    Parameters
    ----------
    shown : sequence of str or None
        Letters that were shown; None where the lesson was missed.

    Raises
    ------
    ChangeError
        If the lesson is said to be missed and is still to come, or a letter is not of this plan.
    """
    lesson = plan.lesson(key)
    if lesson.day > today and shown is None:
        raise ChangeError("this lesson is still to come")
    for char in shown or ():
        if char not in plan.left and not any(char in (*one.new, *one.taught) for one in plan.lessons):
            raise ChangeError(f"{char} is not in this plan")
    now_told = replace(lesson, shown=tuple(shown or ()), missed=shown is None, locked=False)
    # a letter shown here is no longer to come anywhere, and one told again of late is not dealt out twice
    elsewhere = {
        char for one in plan.lessons if one.key != key and one.shown is not None for char in one.shown
    }
    seen = tuple(char for char in now_told.shown or () if char not in elsewhere)
    now = _without(plan.with_lesson(replace(now_told, shown=seen)), key, set(seen))
    return told(plan, settled(now, today))


def _without(plan: Plan, key: int, chars: set[str]) -> Plan:
    lessons = tuple(
        one
        if one.key == key or one.shown is not None
        else replace(one, new=tuple(char for char in one.new if char not in chars))
        for one in plan.lessons
    )
    return replace(plan, lessons=lessons, left=tuple(char for char in plan.left if char not in chars))


def settled(plan: Plan, today: int) -> Plan:
    """Deal out what has no lesson: letters that were not shown, first, and those left."""
    lessons = _open(plan, today)
    wanted = _wanted(lessons)
    here = set(plan.days)
    waiting = [*dict.fromkeys(char for one in plan.lessons for char in one.not_shown if char not in here)]
    for char in waiting:
        wanted[char] = 0
    order = [*waiting, *(char for char in wanted if char not in waiting)]
    left = [char for char in plan.left if char not in wanted]
    return _dealt(plan, lessons, [*order, *left], wanted, {})


def new_days(plan: Plan, slots: Sequence[Slot], today: int) -> Changed:
    """Fit a plan to other days: what is over or told stays, every other letter moves as little as it must.

    A lesson keeps its key where its day stays; one whose day goes is dropped, even a locked one.
    """
    kept = [one for one in plan.lessons if one.day < today or one.shown is not None]
    before = {one.day: one for one in plan.lessons if one.day >= today and one.shown is None}
    taken = {one.day for one in kept}
    next_key = plan.next_key
    lessons: list[Lesson] = []
    for slot in slots:
        if slot.day < today or slot.day in taken:
            continue
        old = before.pop(slot.day, None)
        if old is None:
            empty = LessonKind.FREE if slot.kind is LessonKind.NEW else slot.kind
            lessons.append(Lesson(next_key, slot.day, slot.minutes, empty))
            next_key += 1
        else:
            kind = old.kind if old.locked or old.new or slot.kind is LessonKind.NEW else slot.kind
            lessons.append(replace(old, minutes=slot.minutes, kind=kind))
    # letters whose lesson recalls now, or has no day any more, are dealt out again near where they were
    recalls = {slot.day for slot in slots if slot.kind is LessonKind.RECALL}
    homeless = [(one.day, char) for one in before.values() for char in one.new]
    for i, one in enumerate(lessons):
        if one.day in recalls and one.new and not one.locked:
            homeless.extend((one.day, char) for char in one.new)
            lessons[i] = replace(one, new=(), kind=LessonKind.RECALL)
    dropped = (*plan.dropped, *((one.key, one.day) for one in before.values()))
    now = replace(plan, lessons=tuple(sorted([*kept, *lessons], key=lambda one: one.day)), dropped=dropped)
    open_lessons = _open(now, today)
    wanted = _wanted(open_lessons)
    for day, char in homeless:
        wanted[char] = sum(one.day < day for one in open_lessons)
    day_of = {**{char: one.day for one in open_lessons for char in one.new}, **{c: d for d, c in homeless}}
    order = sorted(wanted, key=lambda char: day_of[char])
    left = [char for char in now.left if char not in wanted]
    return told(plan, _dealt(now, open_lessons, [*order, *left], wanted, {}))


def _to_change(plan: Plan, key: int, today: int) -> Lesson:
    lesson = plan.lesson(key)
    if lesson.locked:
        raise ChangeError("this lesson is locked")
    if lesson.day < today or lesson.shown is not None:
        raise ChangeError("this lesson is over")
    return lesson


def _wanted(lessons: Sequence[Lesson]) -> dict[str, int]:
    """Where each letter stands now, among the lessons that can change."""
    return {char: place for place, one in enumerate(lessons) for char in one.new}


def _dealt(
    plan: Plan,
    lessons: Sequence[Lesson],
    order: Sequence[str],
    wanted: Mapping[str, int],
    pinned: Mapping[str, int],
) -> Plan:
    """The plan with letters dealt out in this order over these lessons at the least cost."""
    usual = max([len(one.new) for one in plan.lessons if one.kind is LessonKind.NEW], default=1)
    ends = _cheapest(lessons, order, wanted, pinned, max(1, usual))
    now, begin = plan, 0
    for lesson, end in zip(lessons, ends, strict=True):
        now = now.with_lesson(lesson.holding(tuple(order[begin:end])))
        begin = end
    return replace(now, left=tuple(order[begin:]))


def _cheapest(
    lessons: Sequence[Lesson],
    order: Sequence[str],
    wanted: Mapping[str, int],
    pinned: Mapping[str, int],
    usual: int,
) -> list[int]:
    """How many letters are dealt out after each lesson, so that the whole costs least."""
    count, never = len(order), float("inf")
    costs = [0.0] + [never] * count
    steps: list[list[int]] = []
    for place, lesson in enumerate(lessons):
        most = max(MOST_NEW, len(lesson.new))
        new, came = [never] * (count + 1), [0] * (count + 1)
        for begin, base in enumerate(costs):
            if base == never:
                continue
            cost = base
            for end in range(begin, min(begin + most, count) + 1):
                if end > begin:
                    char = order[end - 1]
                    if pinned.get(char, place) != place:
                        break
                    cost += abs(place - wanted.get(char, place))
                    cost += FULLER_COST * (end - begin > usual)
                    cost += FREE_COST * (end - begin == 1 and not lesson.new)
                if cost < new[end]:
                    new[end], came[end] = cost, begin
        costs = new
        steps.append(came)
    best = min(
        (cost + LEFT_COST * (count - end), end)
        for end, cost in enumerate(costs)
        if not any(char in pinned for char in order[end:])
    )
    end, ends = best[1], []
    for came in reversed(steps):
        ends.append(end)
        end = came[end]
    return ends[::-1]
