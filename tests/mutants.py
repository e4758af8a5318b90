"""Damage the checker on purpose and see whether the corpus notices: ``make mutants``.

Each damage is one small thing done wrong: a tolerance doubled, a measure taken another way, a step left out.
It is done in a process of its own, which then judges the corpus until a count falls below its floor. Damage
that nothing notices is a hole in the corpus, or a line of the checker that nobody needs.
"""

from __future__ import annotations

import importlib
import multiprocessing
import sys
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from firstloop.core.check.match.case import Case
from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.simulate.corpus import counted, wanted
from tests.corpus.floors import broken, floors

CHECK = "firstloop.core.check."
UNNOTICED = {  # so far, see docs/evaluation-notes.md
    "match.arrangements._INVERSION_PRICE_XH",
    "recognise.readings._MIRROR_RATIO",
    "recognise.readings._OTHER_PLAIN_XH",
    "recognise.pictures._STRETCH",
    "detect.direction._MIN_RETRACE_XH",
    "detect.shape._TRACE_OF_IT",
    "detect.bends._out",
    "detect.extra._hiding",
    "segment.cutting._PAD_XH",
    "segment.follow._ALONG_WEIGHT",
}


@dataclass(frozen=True)
class Damage:
    """One thing done wrong: a name in a module of the checker, and what it becomes."""

    where: str
    what: str
    made: Callable[[Any], Any]

    def do(self) -> None:
        """Put it in place of the old one in every module that uses it."""
        module, name = self.where.rsplit(".", 1)
        old = getattr(importlib.import_module(CHECK + module), name)
        new = self.made(old)
        for other in list(sys.modules.values()):
            if other.__name__.startswith("firstloop.core") and getattr(other, name, None) is old:
                setattr(other, name, new)


def to(value: object) -> Callable[[Any], Any]:
    """A constant becomes this."""
    return lambda _old: value


def gives(answer: object) -> Callable[[Any], Any]:
    """A function always answers this."""
    return lambda _old: lambda *_args, **_named: answer


def same(_old: object) -> Callable[..., Any]:
    """A function gives back what it was given."""
    return lambda first, *_rest: first


def times(factor: float, *codes: str) -> Callable[[type[Strictness]], type[Strictness]]:
    """The tolerance of some codes is taken so many times as large."""

    def made(old: type[Strictness]) -> type[Strictness]:
        right = old.tolerance

        def tolerance(self: Strictness, code: str) -> float | None:
            found = right(self, code)
            return found * factor if found is not None and code in codes else found

        setattr(old, "tolerance", tolerance)  # noqa: B010
        return old

    return made


def every_stroke(strokes: Sequence[object], dots: int = 0) -> list[int]:
    """In place of the strokes without the taps among them."""
    return [*range(len(strokes))]


def reach_as_width(case: Case) -> list[Finding]:
    """In place of how far an arm reaches from its stem."""
    off = 100 * abs(case.frame.width_ratio - 1)
    if case.char not in "rftjgy" or np.isnan(off):
        return []
    return case.find("shape.reach", off, np.arange(3), part="arm", way="long")


TABLE = "vocabulary.codes.Strictness"

DAMAGES = (
    Damage(TABLE, "the tolerance of start.high doubled", times(2, "start.high")),
    Damage(TABLE, "the tolerance of shape.form halved", times(0.5, "shape.form")),
    Damage(TABLE, "the tolerance of size.tall doubled", times(2, "size.tall")),
    Damage(TABLE, "the tolerance of position.floating halved", times(0.5, "position.floating")),
    Damage(TABLE, "the tolerance of line.drift doubled", times(2, "line.drift")),
    Damage("ink.cleaning.mended", "strokes cut in two are not put together", same),
    Damage("ink.cleaning.without_taps", "taps are taken for strokes", lambda _: every_stroke),
    Damage("ink.cleaning.TAP_XH", "a dot larger than a hair is no dot", to(0.02)),
    Damage("match.arrangements._INVERSION_PRICE_XH", "strokes in another order cost nothing", to(0.0)),
    Damage("match.arrangements._REVERSAL_PRICE_XH", "a stroke written backwards costs nothing", to(0.0)),
    Damage("match.arrangements._ALL_DIRECTIONS", "no stroke is tried backwards", to(0)),
    Damage("match.warp._FAR_XH", "ink far from its model counts no more than ink beside it", to(0.15)),
    Damage("match.align._MATCH_XH", "the ink is matched at four times the spacing", to(0.36)),
    Damage(
        "match.frame._body_scale", "the letter is measured in the lines' scale, not in its own", gives(1.0)
    ),
    Damage("match.frame.HEAD_XH", "the first stretch of ink counts for the size", to(0.0)),
    Damage("match.frame.slant_deg", "every letter stands upright", gives(0.0)),
    Damage("match.frame._ROBUST_XH", "one stray stretch moves the whole letter", to(10.0)),
    Damage("recognise.readings._MIRROR_RATIO", "no letter is mirrored", to(0.0)),
    Damage("recognise.readings._OTHER_PLAIN_XH", "no letter fits well enough not to be another", to(0.0)),
    Damage(
        "recognise.readings._goes_its_way", "the pen's way says nothing of which letter it is", gives(True)
    ),
    Damage("recognise.readings.is_unreadable", "everything can be read", gives(False)),
    Damage("recognise.pictures._STRETCH", "letters are compared as wide as they come", to((1.0, 1.0))),
    Damage("detect.direction._TURNED_BACK_DEG", "a round is reversed a little early", to(20.0)),
    Damage("detect.direction.order_swapped", "the order of strokes is not looked at", gives([])),
    Damage("detect.direction._MIN_RETRACE_XH", "short ways back are not looked at", to(0.9)),
    Damage("detect.joins._COVERED", "a join is there as soon as it is begun", to(0.05)),
    Damage("detect.joins._crossing", "a loop crosses where the model's does", gives(None)),
    Damage("detect.shape._COVERED", "a part is there as soon as it is begun", to(0.05)),
    Damage("detect.shape._TRACE_OF_IT", "half a part is a missing one", to(0.9)),
    Damage("detect.shape._STOPPED_COVERED", "a part that stops early is there", to(0.0)),
    Damage("detect.size._TAIL_UP_XH", "no tail ever stands on the line", to(-9.0)),
    Damage(
        "detect.bends._out",
        "how far an arm reaches is how wide it is itself",
        lambda _: lambda arm, _s: float(np.ptp(arm)),
    ),
    Damage("detect.bends.reach", "how far an arm reaches is the width of its letter", to(reach_as_width)),
    Damage("detect.bends._CHORD_XH", "bends are looked for three times as coarsely", to(0.48)),
    Damage("detect.extra.is_extra", "an extra stroke is never one", gives(False)),
    Damage("detect.extra._hiding", "a letter behind a long curl is not looked for", gives(None)),
    Damage("detect.extra._TURN_DEG", "ink that goes on past its end is always too much", to(0.0)),
    Damage("detect.causes.unexplained", "every finding is told, whatever explains it", same),
    Damage("detect.form._SLIDE", "how bent a letter is is read off its matched points alone", to(0.0)),
    Damage("whole.evenness._PARTS", "bodies are not compared for evenness", to(("tall", "deep"))),
    Damage(
        "whole.spacing.model_gaps", "letters are to touch", lambda old: lambda *a: tuple(0.0 for _ in old(*a))
    ),
    Damage("whole.spacing.finger_xh", "a finger is twice as wide", lambda old: lambda *a: 2 * old(*a)),
    Damage("whole.spacing._BOTH_WAYS_XH", "gaps off both ways are wide or tight, never uneven", to(9.0)),
    Damage("segment.cutting._PAD_XH", "letters a little apart are one", to(0.4)),
    Damage("segment.follow._ALONG_WEIGHT", "words are followed by their heights alone", to(0.0)),
    Damage("segment.follow._HEADING_WEIGHT", "words are followed wherever the pen was heading", to(0.0)),
)


def noticed(number: int | None) -> tuple[str | None, float]:
    """The first count below its floor once a damage is done, and after how long; in a process of its own."""
    begun = time.monotonic()
    if number is not None:
        DAMAGES[number].do()
    known = floors()
    try:
        for name, counts in counted(wanted()):
            if lines := broken(name, counts, known):
                return lines[0], time.monotonic() - begun
    except Exception as problem:  # damage that makes the checker fall over is noticed too
        return f"{type(problem).__name__}: {problem}", time.monotonic() - begun
    return None, time.monotonic() - begun


def main(wanted_words: Sequence[str]) -> int:
    """Do every damage, or those that a word names; 1 if one goes unnoticed that was noticed, or if the
    undamaged checker is below a floor."""
    todo = [
        number
        for number, damage in enumerate(DAMAGES)
        if not wanted_words or any(word in f"{damage.where} {damage.what}" for word in wanted_words)
    ]
    caught, missed = 0, 0
    with multiprocessing.get_context("spawn").Pool(2, maxtasksperchild=1) as pool:
        whole = pool.apply_async(noticed, (None,))
        for number, (line, seconds) in zip(todo, pool.imap(noticed, todo, 1), strict=True):
            caught += line is not None
            missed += line is None and DAMAGES[number].where not in UNNOTICED
            sys.stdout.write(f"{seconds:5.1f} s  {DAMAGES[number].what}\n         {line or 'NOT NOTICED'}\n")
            sys.stdout.flush()
        fault = whole.get()[0]
    sys.stdout.write(f"{caught} of {len(todo)} noticed; undamaged: {fault or 'nothing below its floor'}\n")
    return int(fault is not None or missed > 0)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
