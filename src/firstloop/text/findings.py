"""Findings in words: to the teacher what was seen, to the child what to do next time."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Unit
from firstloop.text import say
from firstloop.text.movement import in_a_sentence

_DIGITS = {Unit.PERCENT: 0, Unit.DEGREES: 0, Unit.LIFTS: 0, Unit.JOINS: 0, Unit.PAUSES: 0}
_COUNTS = (Unit.LIFTS, Unit.JOINS, Unit.PAUSES)
_HEIGHTS = ("start", "top", "line", "place", "begin")
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


def code_name(code: str) -> str:
    """A code in plain words: "start high"."""
    return code.replace(".", " ").replace("-", " ")


def _number(unit: Unit, value: float) -> str:
    return f"{value:.{_DIGITS.get(unit, 2)}f}"


def amount(code: str, value: float | None) -> str:
    """A value of a code with its unit: "0.30 xh"; empty where there is none."""
    if value is None:
        return ""
    unit = CODES[code].unit
    return say("amount", unit=str(unit), value=_number(unit, value))


def amounts(code: str, low: float, high: float) -> str:
    """From one value to another: "0.31 to 0.47 xh"."""
    return say("amounts", low=_number(CODES[code].unit, low), high=amount(code, high))


def allowance(code: str, value: float, tolerance: float | None) -> str:
    """What was measured and what is allowed; empty where nothing is, or where it is counted."""
    if tolerance is None or CODES[code].unit in _COUNTS:
        return ""
    return say("allowance", value=amount(code, value), tolerance=amount(code, tolerance))
