"""Words: finding among ten thousand, rings, gaps, sentences, a list of twenty thousand lines."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.words.bank import Bank, BankWord
from firstloop.core.words.find import Conditions, Place, find
from firstloop.core.words.fits import gaps
from firstloop.core.words.joins import JoinKind
from firstloop.core.words.rings import RingFinder
from firstloop.core.words.sentences import Taught, check_sentence
from firstloop.core.words.units import cut
from firstloop.formats.word_bank import shipped_bank, words_besides
from firstloop.services import word_bank
from firstloop.store.database import open_engine, sessions, upgrade

MANY = 10_000
LINES = 20_000
LETTERS = frozenset("litrjnhbpmuycoadgesw")


def made_up(count: int) -> list[BankWord]:
    """Words that spell nothing, of letters as they come in words."""
    rng = np.random.default_rng(2)
    words: dict[str, BankWord] = {}
    while len(words) < count:
        size = int(rng.integers(3, 8))
        text = "".join(rng.choice(list("eeeaaiioutnsrlhdcmpfgbw"), size))
        words.setdefault(text, BankWord(text, cut(text)))
    return list(words.values())


@pytest.fixture(scope="module")
def large() -> Bank:
    bank = shipped_bank()
    own = [word for word in made_up(MANY) if word.text not in bank]
    return Bank((*bank.words, *own)[:MANY])


@pytest.mark.parametrize(
    "asked",
    [
        Conditions(letters=LETTERS, holds="e", place=Place.MIDDLE, most=5),
        Conditions(letters=LETTERS, join=JoinKind.FROM_MID, practise=frozenset("mn")),
        Conditions(),
    ],
    ids=["four conditions", "by its joins", "all of them"],
)
def test_find_among_ten_thousand(benchmark: Any, large: Bank, asked: Conditions):
    find(large, asked, DEFAULT_STYLE)  # joins of a style are worked out once
    benchmark(find, large, asked, DEFAULT_STYLE, list("litrjnhbpmuycoadgesw"), frozenset("mn"))


def test_a_ring(benchmark: Any):
    rng = np.random.default_rng(1)
    finder = RingFinder(shipped_bank())
    benchmark(lambda: finder.rings(rng, through="sh"))


def test_the_graph_of_rings(benchmark: Any):
    benchmark(RingFinder, shipped_bank())


def test_which_one_fits(benchmark: Any):
    rng = np.random.default_rng(1)
    benchmark(lambda: gaps(shipped_bank(), "e", "i", rng, words_besides()))


def test_a_sentence(benchmark: Any):
    taught = Taught(LETTERS, LETTERS)
    benchmark(check_sentence, "The big ship has a red flag on the mast.", shipped_bank(), taught)


def test_a_list_of_twenty_thousand_lines_comes_in(benchmark: Any, tmp_path: Path):
    raw = "\n".join(f"{word.text},{'-'.join(word.units)}," for word in made_up(LINES)).encode()

    def fresh() -> tuple[tuple[Any, ...], dict[str, Any]]:
        database = tmp_path / f"{len(list(tmp_path.iterdir()))}.sqlite3"
        engine = open_engine(database)
        upgrade(engine)
        return (sessions(engine)(), raw, datetime.now(UTC)), {}

    benchmark.pedantic(word_bank.take_list, setup=fresh, rounds=3)
