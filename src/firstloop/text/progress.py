"""Progress in words: how a letter stands, what changed over the weeks, and what to do next."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from firstloop.core.progress.habits import Habit
from firstloop.core.progress.mastery import (
    HALF_AFTER,
    LEAST_DAYS,
    LEAST_LETTERS,
    SECURE_SHARE,
    SLIP_OF,
    WINDOW,
    Standing,
    State,
)
from firstloop.core.progress.slips import Lately
from firstloop.core.progress.steps import Kind, NextStep
from firstloop.core.progress.trends import MEASURES, Measure, Trend, Turn
from firstloop.text import say
from firstloop.text.amounts import share
from firstloop.text.findings import slip_name, to_teach

_FINE = ("mm", "xh/s")  # units told to a tenth


def day(of: date, *, year: bool = False) -> str:
    """A day as it is said: "5 October"; on a report with its year."""
    month = say(f"month.{of.month}")
    return say("day.year" if year else "day", day=of.day, month=month, year=of.year)


def listed(things: Sequence[str]) -> str:
    """Letters, or names, one after another: "a, d and g"."""
    if len(things) < 2:
        return "".join(things)
    return say("list.and", first=", ".join(things[:-1]), last=things[-1])


def why(standing: Standing, in_words: date | None = None) -> str:
    """The claim with its numbers: "secure: 11 of the last 12 alone, on 3 days".

    Parameters
    ----------
    in_words : date, optional
        When it was last written in a word: then it is not "nothing written" that has no row of its own.
    """
    if standing.state is State.NOT_STARTED:
        return say("why.in-words", day=day(in_words)) if in_words else say("why.not-started")
    state = say(f"state.{standing.state}")
    words = _in_words(standing)
    if not standing.letters:
        return say("why.none-alone", state=state, words=words)
    return say(
        "why.state",
        state=state,
        secure=standing.secure,
        letters=standing.letters,
        near=say("why.near", near=standing.near) if standing.near else "",
        words=words,
        days=say("days", count=standing.days),
        wants=_wants(standing),
    )


def _in_words(standing: Standing) -> str:
    if not standing.in_words:
        return ""
    return say("why.words", secure=standing.in_words_secure, letters=standing.in_words)


def _wants(standing: Standing) -> str:
    if not (standing.wants_letters or standing.wants_days):
        return ""
    both = standing.wants_letters and standing.wants_days
    what = "both" if both else "letters" if standing.wants_letters else "days"
    return say("why.wants", what=what, letters=LEAST_LETTERS, days=LEAST_DAYS)


def sureness(standing: Standing) -> str:
    """How sure that is; empty where there is nothing to be sure of."""
    return "" if standing.state is State.NOT_STARTED else say(f"sureness.{standing.sureness}")


def measure_name(key: str) -> str:
    """What a measure is called: "place on the line"."""
    return say(f"measured.{key}")


def _way(measure: Measure, more: bool) -> str:
    return say(f"measured.{measure.key}.{'more' if more else 'less'}")


def measured(key: str, value: float) -> str:
    """A value of a measure as it stands beside a chart: "1.1 mm above the line"."""
    measure = MEASURES[key]
    if not measure.signed:
        return _number(value, measure)
    if abs(value) < measure.worth / 2:
        return say("measured.right")
    return say("measured.off", value=_number(abs(value), measure), way=_way(measure, value > 0))


def named_change(key: str, found: str) -> str:
    """A change with the name of its measure before it."""
    return say("change.named", name=measure_name(key), how=found)


def change(key: str, found: Trend | Turn) -> str:
    """A change in words: "1.1 mm above the line, 0.5 mm at first"."""
    measure = MEASURES[key]
    if isinstance(found, Turn):
        how = _from_to(measure, found.before, found.after, say("when.before"))
        return say("change.turn", how=how, since=day(date.fromordinal(found.day)))
    return _from_to(measure, found.first, found.last, say("when.at-first"))


def _from_to(measure: Measure, then: float, now: float, when: str) -> str:
    if not measure.signed:
        way = _way(measure, now > then)
        return say(
            "change.unsigned", way=way, now=_number(now, measure), then=_number(then, measure), when=when
        )
    if abs(now) < measure.worth / 2:
        was = _number(abs(then), measure)
        return say("change.right-now", then=was, way=_way(measure, then > 0), when=when)
    right = abs(then) < measure.worth / 2
    was = say("change.was-right") if right else _number(abs(then), measure)
    if then * now < 0 and not right:
        was = say("change.other-side", then=was, way=_way(measure, then > 0))
    way = _way(measure, now > 0)
    return say("change.signed", now=_number(abs(now), measure), way=way, then=was, when=when)


def _number(value: float, measure: Measure) -> str:
    if measure.unit == "%":
        return share(value)
    return say(f"unit.{measure.unit}", value=f"{value:{'.1f' if measure.unit in _FINE else '.0f'}}")


def in_ten(share: float) -> str:
    """A share as a teacher counts it: "7 in 10"."""
    return say("in-ten", count=round(10 * share))


def turn(found: Turn) -> str:
    """A turning point in how much is secure."""
    way = "better" if found.after > found.before else "worse"
    return say("turn", way=way, after=in_ten(found.after), before=in_ten(found.before))


def step(one: NextStep) -> str:
    """One thing to do next with a child."""
    if one.kind is Kind.TEACH and one.need is not None:
        need = one.need
        return say(
            "step.teach",
            teach=to_teach(need.code),
            letters=listed(one.letters),
            slip=slip_name(need.code),
            slips=need.slips,
            of=need.letters,
        )
    return say(f"step.{one.kind}", letters=listed(one.letters))


def seen(one: Lately) -> str:
    """What was seen of late: "begun at the bottom in n: 3 of 6 lately"."""
    return say("seen", **_seen(one))


def watch_for(one: Lately) -> str:
    """What was seen where there is too little to claim more."""
    return say("seen.watch", **_seen(one))


def _seen(one: Lately) -> dict[str, str | int]:
    return {"slip": slip_name(one.code), "letters": listed(one.chars), "slips": one.slips, "of": one.letters}


def habit(code: str, letters: str, found: Habit) -> str:
    """A slip and what became of it."""
    (was, was_of), (now, now_of) = found.before, found.after
    slip, over = slip_name(code), listed(letters)
    if found.since is None:
        return say("habit.steady", slip=slip, letters=over, now=now, now_of=now_of)
    since = day(date.fromordinal(found.since))
    return say(
        "habit.changed", slip=slip, letters=over, was=was, was_of=was_of, since=since, now=now, now_of=now_of
    )


def rule_of_states() -> list[str]:
    """The rule by which a letter is learning, secure or slipping, sentence by sentence."""
    return [
        say("rule.alone"),
        say("rule.words"),
        say("rule.latest", window=WINDOW, half=HALF_AFTER),
        say("rule.secure", letters=LEAST_LETTERS, days=LEAST_DAYS, share=in_ten(SECURE_SHARE)),
        say("rule.slipping", letters=SLIP_OF),
        say("rule.mark"),
    ]
