"""What became of a class's letters since a day: which slipped, which became secure."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from firstloop.core.progress.mastery import State

ChildLetter = tuple[int, str]


@dataclass(frozen=True)
class Changed:
    """A letter of a child that became secure or slipped."""

    child: int
    letter: str
    what: State


def changes(
    before: Mapping[ChildLetter, State], now: Mapping[ChildLetter, State], names: Mapping[int, str]
) -> list[Changed]:
    """Letters that slipped since, then those that became secure; by the children's `names`."""
    changed = [
        Changed(child, char, state)
        for (child, char), state in now.items()
        if state in (State.SLIPPING, State.SECURE) and before.get((child, char)) is not state
    ]
    return sorted(changed, key=lambda one: (one.what is not State.SLIPPING, names[one.child], one.letter))
