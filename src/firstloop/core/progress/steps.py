"""The next few things to do with one child, by rule."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence, Set
from dataclasses import dataclass
from enum import StrEnum

from firstloop.core.check.vocabulary.grades import COUNTED_HEADINGS
from firstloop.core.progress.groups import OFTEN, TIMES, Need
from firstloop.core.progress.mastery import State

STEPS = 3
_SLIPPING_WEIGHS = 11  # letters that are only being learned
_URGENT = (State.SLIPPING, State.LEARNING, State.SECURE, State.NOT_STARTED)


class Kind(StrEnum):
    """What a step is: teach again, bring back what slipped, or recall what is due."""

    TEACH = "teach"
    BRING_BACK = "bring-back"
    RECALL = "recall"


@dataclass(frozen=True)
class NextStep:
    """One thing to do; ``need`` says how often what was slipped, for a step that teaches."""

    kind: Kind
    letters: str
    need: Need | None = None


def next_steps(needs: Iterable[Need], slipping: Sequence[str], due: str) -> list[NextStep]:
    """At most three steps: the gravest slip, then what slipped back, then what is due, then further slips.

    A slip is worth a step when it was made at least twice and in three letters of ten; direction comes
    before shape before size, then the commonest. No letters are named twice for one cause.
    """
    real = [n for n in needs if n.slips >= TIMES and n.share >= OFTEN and n.heading in COUNTED_HEADINGS]
    real.sort(key=lambda n: (COUNTED_HEADINGS.index(n.heading), -n.slips, -n.share, n.code, n.family))
    teach = [NextStep(Kind.TEACH, need.chars, need) for need in real]
    out = teach[:1]
    if slipping:
        out.append(NextStep(Kind.BRING_BACK, "".join(slipping)))
    if due:
        out.append(NextStep(Kind.RECALL, due))
    return [*out, *teach[1:]][:STEPS]


def to_do(states: Iterable[str]) -> int:
    """How much there is to do with letters that stand so: what has slipped weighs most."""
    weights = {State.SECURE: 0, State.SLIPPING: _SLIPPING_WEIGHS}
    return sum(weights.get(State(state), 1) for state in states)


def most_to_do(amounts: Mapping[int, int], new: Set[int] = frozenset()) -> list[int]:
    """Children in the order in which there is most to do with them; who has as much stays in place.

    Parameters
    ----------
    new : set of int
        Children who have taken to a slip of late: they come first, before it becomes a habit.
    """
    return sorted(amounts, key=lambda child: (child not in new, -amounts[child]))


def most_in_need(states: Mapping[int, State], slips: Mapping[int, float]) -> list[int]:
    """Children in the order in which they need a letter: who slipped, who is learning, who never wrote it.

    Parameters
    ----------
    slips : mapping
        How grave each one's slips of late are together; the graver first among those who stand alike.
    """
    order = (State.SLIPPING, State.LEARNING, State.NOT_STARTED, State.SECURE)
    return sorted(states, key=lambda child: (order.index(states[child]), -slips[child]))


def most_urgent(states: Mapping[str, str]) -> str | None:
    """The letter to look at first: one that slipped, then one being learned; None where none was begun."""
    return min(states, key=lambda char: _URGENT.index(State(states[char])), default=None)
