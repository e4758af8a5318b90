"""One letter on the table: everything the headings look at, gathered once."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from firstloop.core.check.match.align import INK_XH, Correspondence
from firstloop.core.check.match.frame import Frame, Heights, slant_deg
from firstloop.core.check.match.template import Template
from firstloop.core.check.vocabulary.codes import USUAL, Strictness
from firstloop.core.check.vocabulary.findings import Finding, graded
from firstloop.core.check.vocabulary.grades import Severity
from firstloop.core.curves import FloatArray, IntArray
from firstloop.core.heights import height_name
from firstloop.core.ink import InkGroup
from firstloop.core.moves import MoveKind
from firstloop.core.patter import patter


@dataclass(frozen=True, eq=False)
class Case:
    """Ink, model, their correspondence, and how strict to be.

    ``begins`` is False where the ink was cut from what came before, ``lifted_after`` True where the
    pen came up although the word runs on. ``run_on`` is ink that ran on from the letter to its dot, where
    the pen was not lifted; it is no longer in ``ink``.
    """

    group: InkGroup
    ink: tuple[FloatArray, ...]
    template: Template
    match: Correspondence
    heights: Heights
    frame: Frame
    strictness: Strictness = USUAL
    begins: bool = True
    lifted_after: bool = False
    run_on: FloatArray | None = None

    @property
    def char(self) -> str:
        """The letter asked for."""
        return self.template.letter.char

    @cached_property
    def slant_deg(self) -> float | None:
        """Lean of the downstrokes, degrees forward of the vertical."""
        return slant_deg(self.match, self.template)

    @cached_property
    def normal(self) -> FloatArray:
        """The matched ink laid on the model; shape (m, 2)."""
        return self.frame.apply(self.match.ink)

    @cached_property
    def off_model(self) -> FloatArray:
        """How far each matched ink point is from its place on the model, xh; shape (m,)."""
        off = self.normal - self.template.points[self.match.model]
        return np.hypot(off[:, 0], off[:, 1])

    @cached_property
    def all_normal(self) -> tuple[FloatArray, ...]:
        """Every ink stroke (dot too) laid on the model, as written."""
        return tuple(self.frame.apply(stroke) for stroke in self.ink)

    @cached_property
    def bare_ink(self) -> tuple[FloatArray, ...]:
        """The ink of the letter itself, without its joins; all of it where the model has none."""
        if self.template.body.all():
            return self.ink
        own = self.template.body[self.match.model]
        runs = [self.match.ink[run.at][own[run.at]] for run in self.match.runs if own[run.at].sum() > 1]
        dots = [self.ink[self.match.dot]] if self.match.dot is not None else []
        return (*runs, *dots) or self.ink

    @cached_property
    def dense(self) -> tuple[FloatArray, ...]:
        """As `all_normal`, evenly spaced, so that what is covered does not depend on the pen's rate."""
        out = list(self.all_normal)
        for run in self.match.runs:
            out[run.number] = self.normal[run.at]
        return tuple(out)

    @cached_property
    def shares(self) -> IntArray:
        """How many points of each run of the ink are of each stroke of the model; shape (runs, strokes)."""
        count = len(self.template.letter.strokes)
        of = self.template.stroke[self.match.model]
        return np.array([np.bincount(of[run.at], minlength=count) for run in self.match.runs])

    def strokes_of(self, model_stroke: int, least: float = 0.2) -> list[int]:
        """Ink strokes that write a fair share of a model stroke, in the model's order."""
        long = max(self.template.lengths.get(model_stroke, 0.0), 0.1)
        return [
            run.number
            for run, here in zip(self.match.runs, self.shares[:, model_stroke].tolist(), strict=True)
            if here / run.size > 0.5 or here * INK_XH / long > least
        ]

    @cached_property
    def first_stroke(self) -> int:
        """The ink stroke that begins the model's first stroke."""
        return min(self.strokes_of(0) or self.match.arrangement.order)

    @cached_property
    def common_facts(self) -> dict[str, str]:
        """Facts that any sentence may need: the letter, where it starts, how high it is, what comes first."""
        model = self.template.letter
        return {
            "letter": self.char,
            "start": height_name(float(model.strokes[0].start[1])),
            "top": height_name(float(model.bounds[3])),
            "first": patter(model)[1].key,
        }

    def part_name(self, stroke: int) -> str:
        """What a stroke of the model is called, as a key: "stem", "bar", "dot"."""
        kinds = self.template.letter.kinds[stroke]
        names = {MoveKind.BAR: "bar", MoveKind.DOT: "dot", MoveKind.DOWN: "stem"}
        if kinds[0] in names and (len(kinds) == 1 or kinds[0] is MoveKind.DOWN):
            return names[kinds[0]]
        if stroke == 0 and len(self.template.letter.strokes) == 1:
            return "letter"
        return "slope" if kinds[0] in (MoveKind.SLOPE_LEFT, MoveKind.SLOPE_RIGHT) else "stem"

    def severity(self, code: str, value: float) -> Severity | None:
        """How serious a measured value is here; None inside the tolerance."""
        return self.strictness.severity(code, value)

    def find(
        self,
        code: str,
        value: float,
        where: IntArray | FloatArray,
        *,
        stroke: int = 0,
        move: int = 0,
        height: float | None = None,
        goal: FloatArray | None = None,
        **facts: str,
    ) -> list[Finding]:
        """A list with the finding, or an empty one when `value` is inside the tolerance.

        Parameters
        ----------
        where : array
            Either positions in the matched ink, shape (n,), or points in letter space, shape (n, 2).
        height : float, optional
            Height above the base line at which it should be, xh.
        goal : array, shape (2,), optional
            Where it should be on the model; laid on the child's letter.
        facts
            What the code's sentences need beside the value and :attr:`common_facts`.
        """
        if self.severity(code, value) is None:
            return []
        span = np.asarray(self.match.ink[where] if where.ndim == 1 else where, dtype=np.float64)
        if not len(span):
            span = self.match.ink[:1]
        meant = None if goal is None else self.frame.undo(goal[None])[0]
        if height is not None:
            meant = np.array([span[len(span) // 2][0], height])
        known = {**self.common_facts, **facts}
        return graded(code, value, self.strictness, span, known, stroke=stroke, move=move, goal=meant)
