"""Saltmarsh Row as data: who the children are, what was taught when, and what their ink tells.

Everything here is invented.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.services.watching import Seen

CLASS_NAME = "Kittiwake class"
XH_MM = 10.0
RULING = "four-lines"
WEEKS = 12  # of lessons
HALF_TERM_AFTER = 6  # weeks of lessons, then one without

CHILDREN = (
    "Anouk P", "Bashir T", "Cleo M", "Dafydd R", "Edie W", "Farah N", "Gus L", "Hana O", "Idris K",
    "Juno S", "Kofi A", "Lotta B", "Mirren D", "Nico V", "Orla F", "Priya J", "Quill H", "Rafi E",
)  # fmt: skip
LEFT_HANDED = {"Cleo M", "Idris K", "Ewan F"}

JOINED_NAME = "Turnstone group"
JOINED_XH_MM = 7.0
JOINED_CHILDREN = (
    "Ailsa B", "Bram O", "Ceri L", "Desta M", "Ewan F", "Freya N", "Goran S", "Hollis T",
)  # fmt: skip
JOINED_STYLE = HouseStyle(name="Joined, slanted", script=Script.CURSIVE, slant_deg=6.0, entry=True).choosing(
    "q", "hook"
)
JOINED_PLAN = "iutnmhoadgpy"  # one letter a week


@dataclass(frozen=True)
class Habit:
    """A fault that a child makes in some letters: how often and how large, by week and place in the row."""

    letters: str
    code: str
    chance: Callable[[int], float]
    size: Callable[[int, int], float] = lambda week, place: 1.0


def always(chance: float) -> Callable[[int], float]:
    """The same chance every week."""
    return lambda week: chance


def until(last_week: int, chance: float, after: float = 0.04) -> Callable[[int], float]:
    """A chance that falls away after `last_week`."""
    return lambda week: chance if week <= last_week else after


def fading(first: float, last: float, begin: int, end: int) -> Callable[[int], float]:
    """A chance that changes evenly between two weeks."""
    return lambda week: first + (last - first) * min(1.0, max(0.0, (week - begin) / (end - begin)))


def _sized(size: float) -> Callable[[int, int], float]:
    return lambda week, place: size


CLOSE_TOGETHER = {"Anouk P": (8, 0.36)}  # until which week the letters of a word stand too close, xh
_FROM_BELOW = "mn"
HABITS: dict[str, tuple[Habit, ...]] = {
    "Bashir T": (Habit(_FROM_BELOW, "start.bottom", always(0.85)),),
    "Dafydd R": (Habit(_FROM_BELOW, "start.bottom", always(0.8)),),
    "Farah N": (Habit(_FROM_BELOW, "start.bottom", always(0.75)),),
    "Edie W": (Habit(_FROM_BELOW, "start.bottom", until(8, 0.85)),),
    "Juno S": (Habit(_FROM_BELOW, "start.bottom", until(8, 0.8)),),
    "Gus L": (
        Habit("b", "shape.mirrored", always(0.8)),
        Habit("d", "shape.mirrored", fading(0.85, 0.15, 7, 11)),
    ),
    "Hana O": (Habit("gjpqy", "position.tail-on-line", always(0.85)),),
    "Kofi A": (Habit("oadgq", "direction.turn", until(7, 0.85)),),
    "Lotta B": (
        Habit(
            "abcdefhiklmnorstuvwxz", "position.floating", always(0.8), lambda week, place: 0.26 + 0.02 * place
        ),
        Habit("acemnorsuvwxz", "size.short", always(0.5), lambda week, place: 12.0 + 8.0 * place),
    ),
    "Nico V": (
        Habit("anmhoxzvw", "size.tall", lambda week: 0.7 if week in (10, 11) else 0.0, _sized(45)),
        Habit("xzake", "position.sinking", lambda week: 0.5 if week in (10, 11) else 0.0, _sized(0.35)),
    ),
    "Quill H": (Habit("h", "size.rise-short", always(0.85), _sized(0.85)),),
    "Cleo M": (Habit("tf", "direction.reversed", always(0.8)),),
    "Rafi E": (Habit("m", "retrace.gap", always(0.85), _sized(0.38)),),
    "Freya N": (Habit("p", "retrace.gap", always(0.85), _sized(0.36)),),
    "Ewan F": (Habit("gy", "join.crossing", always(0.9), _sized(0.55)),),
    "Bram O": (Habit("o", "join.break", always(0.85)),),
}
# the teacher lets a start that is off by no more than this pass, and says so with her marks
LET_PASS = {"start.low": 0.42, "start.high": 0.44}
# week, child, letter, what was seen while the child wrote on paper
WATCHED: tuple[tuple[int, str, str, Seen], ...] = (
    (3, "Bashir T", "n", "bottom"), (3, "Dafydd R", "n", "bottom"), (3, "Edie W", "n", "bottom"),
    (4, "Farah N", "m", "bottom"), (4, "Bashir T", "m", "bottom"), (4, "Priya J", "m", "fine"),
    (6, "Kofi A", "o", "direction"), (7, "Kofi A", "a", "direction"), (9, "Kofi A", "o", "fine"),
    (10, "Edie W", "n", "fine"), (11, "Bashir T", "m", "bottom"), (11, "Rafi E", "m", "lift"),
)  # fmt: skip
AWAY: dict[str, tuple[int, ...]] = {"Nico V": (8, 9)}
STEADY = {"Priya J": 0.55, "Nico V": 0.7}

# slips that any learner makes now and then: code, and its size in the code's unit
COMMON_SLIPS = (
    ("start.low", 0.42), ("start.high", 0.45), ("size.tall", 40.0), ("size.short", 35.0),
    ("shape.form", 0.125), ("shape.open", 0.35), ("retrace.gap", 0.25), ("lift.extra", 1.0),
    ("position.floating", 0.3), ("position.sinking", 0.3),
)  # fmt: skip
SLIP_WHEN_NEW, SLIP_LATER = 0.22, 0.10
CROSSED_OUT = 1 / 6
