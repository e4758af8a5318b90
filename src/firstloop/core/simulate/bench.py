"""Speed of the core on this machine: medians over many runs, after a round to warm up."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.guides import guides
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.letterforms.words import word
from firstloop.core.motion import timed
from firstloop.core.patter import patter
from firstloop.core.simulate.writer import TEN_MM, write

ROW = 10
WORDS = ("lighthouse", "harbouring", "waterproof", "sandcastle", "starfishes", "fisherfolk")
JOINED = HouseStyle(script=Script.CURSIVE)
ROW_PITCH_MM = 24.0
Clock = Callable[[], float]


@dataclass(frozen=True)
class Timing:
    """Times of one task in milliseconds, and what was asked of it."""

    task: str
    runs: int
    median_ms: float
    p95_ms: float
    goal_ms: float | None


def _timed(task: str, works: list[Callable[[], object]], clock: Clock, goal_ms: float | None) -> Timing:
    for work in works:
        work()
    times = []
    for work in works:
        begin = clock()
        work()
        times.append(1000 * (clock() - begin))
    return Timing(task, len(times), float(np.median(times)), float(np.quantile(times, 0.95)), goal_ms)


def row_of(char: str, rng: np.random.Generator, count: int = ROW) -> InkGroup:
    """A row of one letter, written side by side."""
    strokes: list[InkStroke] = []
    for i in range(count):
        strokes += write(char, rng, left_mm=10.0 + i * ROW_PITCH_MM).strokes
    return InkGroup(tuple(strokes), TEN_MM, truth=char * count)


def _model(char: str) -> object:
    fresh = replace(letter(char))  # a copy has no cached points
    return fresh.sampled, patter(fresh), timed(fresh), guides(fresh)


def _word(text: str) -> object:
    fresh = word.__wrapped__(text, JOINED)  # nothing kept from before
    return fresh.sampled, patter(fresh), timed.__wrapped__(fresh), guides(fresh)


def bench(clock: Clock, seed: int = 1, repeats: int = 4) -> list[Timing]:
    """Time the tasks that a screen waits for.

    Parameters
    ----------
    clock : callable
        Seconds, growing; the core has no clock of its own.
    """
    rng = np.random.default_rng(seed)
    inks = [(char, write(char, rng)) for _ in range(repeats) for char in LOWER]
    rows = [row_of(char, rng) for char in LOWER]
    return [
        _timed("one letter judged", [partial(check_letter, ink, char) for char, ink in inks], clock, 10.0),
        _timed("a row of ten judged", [partial(check_group, row) for row in rows], clock, 80.0),
        _timed(
            "a letter's model, words, timing and marks",
            [partial(_model, char) for char in LOWER],
            clock,
            5.0,
        ),
        _timed(
            "a joined word of ten letters, likewise", [partial(_word, text) for text in WORDS], clock, 30.0
        ),
        _timed(
            "one letter written by the simulated writer",
            [partial(write, char, rng) for char, _ in inks],
            clock,
            None,
        ),
    ]
