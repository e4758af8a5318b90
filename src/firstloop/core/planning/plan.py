"""A plan: every lesson of a term with the letters new in it, and what came of those that are over."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from firstloop.core.planning.course import spread
from firstloop.core.planning.orders import Lessons
from firstloop.core.planning.term import LessonKind, Slot


class Came(StrEnum):
    """What became of a lesson."""

    PLANNED = "planned"
    HELD = "held"
    CUT = "cut"
    MISSED = "missed"


@dataclass(frozen=True)
class Lesson:
    """One lesson.

    Parameters
    ----------
    key : int
        Tells it from all others, wherever it moves.
    new : tuple of str
        Letters that are planned to be new in it.
    locked : bool
        Whether nothing may move it or its letters.
    shown : tuple of str or None
        Letters that were shown, once that was told.
    missed : bool
        It was not held, which is another thing than one in which nothing new was shown.
    """

    key: int
    day: int
    minutes: int
    kind: LessonKind
    new: tuple[str, ...] = ()
    locked: bool = False
    shown: tuple[str, ...] | None = None
    missed: bool = False

    @property
    def came(self) -> Came:
        """What became of it, as far as it was told."""
        if self.missed:
            return Came.MISSED
        if self.shown is None:
            return Came.PLANNED
        return Came.HELD if set(self.new) <= set(self.shown) else Came.CUT

    @property
    def taught(self) -> tuple[str, ...]:
        """Letters new in it: those shown, or else those planned."""
        return self.new if self.shown is None else self.shown

    @property
    def not_shown(self) -> tuple[str, ...]:
        """Letters that were planned and not shown."""
        return () if self.shown is None else tuple(char for char in self.new if char not in self.shown)

    def holding(self, chars: tuple[str, ...]) -> Lesson:
        """The lesson with other letters: kept free where it has none any more."""
        emptied = LessonKind.FREE if self.kind is LessonKind.NEW else self.kind
        return replace(self, new=chars, kind=LessonKind.NEW if chars else emptied)


@dataclass(frozen=True)
class Plan:
    """The lessons of a term in order of their days.

    Parameters
    ----------
    left : tuple of str
        Letters for which there is no lesson.
    dropped : tuple of (key, day)
        Lessons that were in the plan once, with their last day.
    """

    lessons: tuple[Lesson, ...]
    left: tuple[str, ...] = ()
    dropped: tuple[tuple[int, int], ...] = ()

    @property
    def days(self) -> Mapping[str, int]:
        """Day on which each letter is or was new."""
        return {char: one.day for one in self.lessons for char in one.taught}

    def lesson(self, key: int) -> Lesson:
        """One lesson.

        Raises
        ------
        KeyError
        """
        return {one.key: one for one in self.lessons}[key]

    @property
    def next_key(self) -> int:
        """The key of a lesson that comes new: none that was ever in the plan."""
        return max([*(one.key for one in self.lessons), *(key for key, _ in self.dropped)], default=0) + 1

    def next_from(self, today: int) -> Lesson | None:
        """The first lesson that is not over."""
        return next((one for one in self.lessons if one.day >= today and one.shown is None), None)

    def unwritten(self, today: int, written: Collection[str]) -> list[tuple[Lesson, tuple[str, ...]]]:
        """Lessons that are over and not told of, each with its letters that nobody has written."""
        over = [one for one in self.lessons if one.day < today and one.shown is None]
        found = [(one, tuple(c for c in one.new if len(c) == 1 and c not in written)) for one in over]
        return [(one, chars) for one, chars in found if chars]

    def without(self, today: int) -> tuple[tuple[int, int], ...]:
        """What was dropped once nothing of the plan comes any more: all that was before, and all to come."""
        return (*self.dropped, *((one.key, one.day) for one in self.lessons if one.day >= today))

    @property
    def from_the_start(self) -> Plan:
        """The plan as if nothing of it were over: every lesson can be dealt out anew."""
        return replace(
            self, lessons=tuple(replace(o, shown=None, missed=False, locked=False) for o in self.lessons)
        )

    def taught_by(self, day: int) -> tuple[str, ...]:
        """Letters that are taught by the end of a day, in their order."""
        return tuple(char for one in self.lessons if one.day <= day for char in one.taught)

    def with_lesson(self, new: Lesson) -> Plan:
        """The plan with one lesson as it is now."""
        return replace(self, lessons=tuple(new if one.key == new.key else one for one in self.lessons))


def empty(slots: Sequence[Slot], first_key: int = 1) -> Plan:
    """A plan of lessons that hold nothing yet."""
    return Plan(
        tuple(Lesson(first_key + i, slot.day, slot.minutes, slot.kind) for i, slot in enumerate(slots))
    )


def is_open(lesson: Lesson, today: int) -> bool:
    """Whether letters may still be dealt into a lesson, or out of it."""
    return lesson.day >= today and not lesson.locked and lesson.shown is None


def room(plan: Plan, slots: Sequence[Slot], today: int) -> tuple[int, ...]:
    """Days of the lessons that are open and kept for new letters."""
    kept = {slot.day for slot in slots if slot.kind is LessonKind.NEW}
    return tuple(one.day for one in plan.lessons if is_open(one, today) and one.day in kept)


def dealt(plan: Plan, slots: Sequence[Slot], lessons: Lessons, left: tuple[str, ...], today: int) -> Plan:
    """Deal lessons with letters out anew over the lessons that are open and kept for new ones.

    Where there are more of these than lessons the letters are spread evenly, and those between are for words.
    """
    chars = dict(zip(spread(room(plan, slots, today), len(lessons)), lessons, strict=True))
    kinds = {slot.day: slot.kind for slot in slots}

    def held(lesson: Lesson) -> Lesson:
        if not is_open(lesson, today):
            return lesson
        kind = kinds.get(lesson.day, lesson.kind)
        kind = LessonKind.WORDS if kind is LessonKind.NEW and lesson.day not in chars else kind
        return replace(lesson, kind=kind, new=chars.get(lesson.day, ()))

    return replace(plan, lessons=tuple(map(held, plan.lessons)), left=left)
