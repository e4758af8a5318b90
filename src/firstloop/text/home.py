"""What a parent reads about a child's letters."""

from __future__ import annotations

from firstloop.core.progress.steps import Kind, NextStep
from firstloop.text import say
from firstloop.text.progress import listed


def better(first: str, code: str, letters: str) -> str:
    """A slip that is made less: "Edie now begins m at the top."."""
    return say(f"home.{code}.better", first=first, letters=listed(letters))


def measure_better(first: str, key: str) -> str:
    """A measure that came nearer to the model: "Edie now sits letters on the line better."."""
    return say(f"home.measure.{key}", first=first)


def step(one: NextStep) -> str:
    """What to look at next: "In m: begin at the top."."""
    if one.kind is Kind.TEACH and one.need is not None:
        return say(f"home.{one.need.code}.next", letters=listed(one.letters))
    return say(f"home.{one.kind}", letters=listed(one.letters))
