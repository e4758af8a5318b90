"""Findings in words: to the teacher what was seen, to the child what to do next time."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Unit
from firstloop.text import say
from firstloop.text.amounts import share
from firstloop.text.movement import in_a_sentence

_DIGITS = {Unit.FINGERS: 1, Unit.PERCENT: 0, Unit.DEGREES: 0, Unit.LIFTS: 0, Unit.JOINS: 0, Unit.PAUSES: 0}
_COUNTS = (Unit.LIFTS, Unit.JOINS, Unit.PAUSES)
_HEIGHTS = ("start", "top", "line", "place", "begin")
_WHOLE = 87.5  # per cent from which it is called all of it
_FROM_THE_LEFT = "left"


def _height(name: str, value: str) -> dict[str, str]:
    if value == _FROM_THE_LEFT:
        return {name: value}
    return {name: say(f"height.{value}"), f"at_{name}": say(f"at.{value}")}


def _why(name: str, value: str) -> dict[str, str]:
    return {name: value, f"{name}_said": say(f"why.{value}")}


_SAID: dict[str, Callable[[str, str], dict[str, str]]] = {
    **dict.fromkeys(_HEIGHTS, _height),
    "part": lambda name, value: {name: say(f"part.{value}")},
    "other": lambda name, value: {name: say(f"part.{value}")},
    "first": lambda name, value: {name: in_a_sentence(value)},
    "why": _why,
}
"""How a fact is said that is more than a letter or a way to choose by."""


def _places(code: str, value: float, facts: Mapping[str, str], xh_mm: float) -> dict[str, str]:
    unit = CODES[code].unit
    places = {"value": _number(unit, value), "mm": f"{value * xh_mm:.1f} mm"}
    if unit in (Unit.PERCENT, Unit.RATIO):
        percent = value if unit is Unit.PERCENT else 100 * value
        places |= {"share": share(percent), "much": "whole" if percent >= _WHOLE else "part"}
    if unit in _COUNTS:
        places["times"] = say("times", count=int(value))
    for name, fact in facts.items():
        places |= _SAID[name](name, fact) if name in _SAID else {name: fact}
    places["alike"] = "same" if facts.get("largest") == facts.get("smallest") else "other"
    return places


def _sentence(to: str, code: str, value: float, facts: Mapping[str, str], xh_mm: float) -> str:
    try:
        return say(f"finding.{code}.{to}", **_places(code, value, facts, xh_mm))
    except LookupError:  # an old result that lacks a fact: its name says most of it
        name = slip_name(code) if to == "teacher" else to_teach(code)
        return f"{name[0].upper()}{name[1:]}."


def to_teacher(code: str, value: float, facts: Mapping[str, str], xh_mm: float) -> str:
    """What was seen.

    Parameters
    ----------
    value : float
        In the code's unit.
    facts : mapping
        As the finding has them.
    xh_mm : float
        Height of the middle band that it was written in, by which lengths are told in millimetres.
    """
    return _sentence("teacher", code, value, facts, xh_mm)


def to_child(code: str, value: float, facts: Mapping[str, str], xh_mm: float) -> str:
    """What to do next time; parameters as of :func:`to_teacher`."""
    return _sentence("child", code, value, facts, xh_mm)


def slip_name(code: str) -> str:
    """What a slip is called: "begun at the bottom"."""
    return say(f"finding.{code}.name")


def to_teach(code: str) -> str:
    """What to teach again where it is made: "where it starts, before the pen moves"."""
    return say(f"finding.{code}.teach")


def _number(unit: Unit, value: float) -> str:
    return f"{value:.{_DIGITS.get(unit, 2)}f}"


def amount(code: str, value: float | None, xh_mm: float) -> str:
    """A value of a code as a teacher measures it: "3.0 mm"; empty where there is none.

    Parameters
    ----------
    xh_mm : float
        Height of the middle band, by which lengths are told in millimetres.
    """
    if value is None:
        return ""
    unit = CODES[code].unit
    number = f"{value * xh_mm:.1f}" if unit is Unit.XH else _number(unit, value)
    return say("amount", unit=str(unit), value=number)


def amounts(code: str, low: float, high: float, xh_mm: float) -> str:
    """From one value to another: "3.1 mm to 4.7 mm"."""
    return say("amounts", low=amount(code, low, xh_mm), high=amount(code, high, xh_mm))


_TIMES = ((1.25, "little"), (1.75, "half"), (2.5, "twice"), (3.5, "thrice"), (float("inf"), "far"))
"""How many times the tolerance is still said so."""


def allowance(code: str, value: float, tolerance: float | None, xh_mm: float) -> str:
    """How much of it is fine: a length in millimetres, all else by how many times too much it is.

    Empty where nothing is allowed, or where it is counted.
    """
    unit = CODES[code].unit
    if tolerance is None or unit in _COUNTS:
        return ""
    if unit is Unit.XH:
        return say("allowance.length", tolerance=amount(code, tolerance, xh_mm))
    return say("allowance.times", how=next(how for most, how in _TIMES if value < most * tolerance))
