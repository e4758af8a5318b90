from __future__ import annotations

from tests.chaos import BEFORE, chaos


def test_a_little_bad_luck_loses_and_doubles_nothing():
    told = chaos(5, seed=4)
    assert len(told.acknowledged) > BEFORE
    assert sum(told.events.values()) >= 1
