"""What a screen waits for. Each round takes the next of many inputs, so that no letter is favoured."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import date
from itertools import cycle
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.guides import guides
from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.letterforms.words import word
from firstloop.core.motion import timed
from firstloop.core.patter import patter
from firstloop.core.simulate.evaluate import CURSIVE, EXITS, LOOPED
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.demo.seed import seed
from firstloop.services.recheck import recheck
from firstloop.store.database import open_engine, sessions, upgrade

ROUNDS = 104
WORDS_OF_EIGHT = ("seashell", "starfish", "driftway", "lampwick", "quayside", "ropewalk")
WORDS_OF_TEN = ("lighthouse", "harbouring", "waterproof", "sandcastle", "starfishes", "fisherfolk")
ROOM_XH = 1.2  # letters of a row stand apart
STYLES = {"print": DEFAULT_STYLE, "exits": EXITS, "cursive": CURSIVE, "looped": LOOPED}


def over(
    benchmark: Any, work: Callable[..., object], inputs: list[tuple[Any, ...]], rounds: int = ROUNDS
) -> None:
    """Time `work` over all inputs in turn, after each has been done once."""
    for one in inputs:
        work(*one)
    turn: Iterator[tuple[Any, ...]] = cycle(inputs)
    benchmark.pedantic(work, setup=lambda: (next(turn), {}), rounds=rounds)


@pytest.fixture
def rng() -> np.random.Generator:
    return np.random.default_rng(1)


@pytest.mark.parametrize("style", [DEFAULT_STYLE, CURSIVE], ids=["print", "cursive"])
def test_one_letter(benchmark, rng, style: HouseStyle):
    inputs = [(write(char, rng, style=style), char, style) for char in LOWER for _ in range(4)]
    over(benchmark, check_letter, inputs)


def test_row_of_ten(benchmark, rng):
    rows: list[tuple[InkGroup]] = [(write_text(char * 10, rng, room_xh=ROOM_XH),) for char in LOWER]
    over(benchmark, check_group, rows, rounds=52)


@pytest.mark.parametrize("name", STYLES)
def test_word_of_eight(benchmark, rng, name: str):
    style = STYLES[name]
    over(
        benchmark, check_group, [(write_text(w, rng, style=style), style) for w in WORDS_OF_EIGHT], rounds=36
    )


def test_model_of_a_letter(benchmark):
    def model(char: str) -> object:
        fresh = replace(letter(char))  # a copy has nothing worked out yet
        return fresh.sampled, patter(fresh), timed(fresh), guides(fresh)

    over(benchmark, model, [(char,) for char in LOWER])


def test_model_of_a_joined_word_of_ten(benchmark):
    def model(text: str) -> object:
        fresh = word.__wrapped__(text, CURSIVE)
        return fresh.sampled, patter(fresh), timed.__wrapped__(fresh), guides(fresh)

    over(benchmark, model, [(text,) for text in WORDS_OF_TEN], rounds=36)


def test_writing_a_letter(benchmark, rng):
    over(benchmark, lambda char: write(char, rng), [(char,) for char in LOWER])


def test_recheck_of_stored_attempts(benchmark, tmp_path: Path):
    """The demo school's first weeks, judged again in two processes: read the attempts and scale."""
    engine = open_engine(tmp_path / "records.sqlite3")
    upgrade(engine)
    with sessions(engine)() as session:
        count = seed(session, date(2026, 11, 25), weeks=4)
        benchmark.extra_info["attempts"] = count
        benchmark.pedantic(recheck, args=(session, True, min(2, os.cpu_count() or 1)), rounds=1, iterations=1)
    print(f"\n{count} attempts rechecked: {10_000 / count * benchmark.stats.stats.median:.0f} s for 10,000")
