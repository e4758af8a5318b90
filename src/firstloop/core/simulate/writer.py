"""The simulated writer: any letter, any house style, any named fault, as timed ink on a page."""

from __future__ import annotations

import numpy as np

from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.ruling import Ruling
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.hand import ORDINARY_HAND, SimHand, Strokes, in_time, vary
from firstloop.core.simulate.makers import plain
from firstloop.core.simulate.own_forms import THE_MODELS, OwnForms
from firstloop.core.simulate.splines import run_through
from firstloop.core.simulate.strokelets import move

TEN_MM = Ruling(mid_mm=20.0, base_mm=30.0, rise_mm=10.0, drop_mm=40.0)


def sketch(
    char: str,
    rng: np.random.Generator,
    fault: str | None,
    size: float,
    style: HouseStyle,
    forms: OwnForms = THE_MODELS,
) -> Strokes:
    """The letter as meant, before the hand varies it: the model, in the writer's forms, or with a fault.

    Raises
    ------
    KeyError
        If `fault` is no fault the writer can make.
    """
    model = forms.of(letter(char, style))
    if fault is None:
        return plain(model)
    return FAULTS[fault].make(model, min(size, FAULTS[fault].largest), rng, style)


def penned(strokes: Strokes, hand: SimHand, rng: np.random.Generator) -> tuple[Strokes, Strokes]:
    """Strokes as meant (letter space), written by a hand: what the pen reports, and when, ms."""
    if hand.built == "strokelets":
        return move(strokes, hand, rng)
    if hand.built == "splines":
        return run_through(strokes, hand, rng)
    return in_time(vary(strokes, hand, rng), hand, rng)


def write(
    char: str,
    rng: np.random.Generator,
    *,
    fault: str | None = None,
    size: float = 0.0,
    style: HouseStyle = DEFAULT_STYLE,
    ruling: Ruling = TEN_MM,
    hand: SimHand = ORDINARY_HAND,
    left_mm: float = 10.0,
) -> InkGroup:
    """Write one letter.

    Parameters
    ----------
    rng : numpy Generator
        Source of all variation: the same state writes the same ink.
    fault : str, optional
        Code of a fault, see :data:`FAULTS`.
    size : float
        Size of the fault in the unit of its code; held to what still makes sense.
    left_mm : float
        Page x of the letter's origin.
    """
    points, times = penned(sketch(char, rng, fault, size, style, hand.forms), hand, rng)
    ink = []
    for p, t in zip(points, times, strict=True):
        press = 0.45 + 0.15 * np.sin(np.linspace(0, np.pi, len(p)))
        ink.append(InkStroke(ruling.to_page(p, left_mm), t, press))
    return InkGroup(tuple(ink), ruling, truth=char, script=str(style.script))
