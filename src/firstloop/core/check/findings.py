"""A finding: something outside its tolerance, and where."""

from __future__ import annotations

from dataclasses import dataclass, field

from firstloop.core.check.codes import CODES
from firstloop.core.check.grades import Code, Severity
from firstloop.core.curves import FloatArray

DIGITS = {"%": 0, "deg": 0, "lifts": 0, "joins": 0, "pauses": 0}


@dataclass(frozen=True, eq=False)
class Finding:
    """Something outside its tolerance, and where.

    Parameters
    ----------
    at : array, shape (2,)
        Place on the ink in letter space.
    span : array, shape (n, 2)
        The ink it is about, letter space.
    words : dict
        Fills the sentences of its code.
    goal : array, shape (2,), or None
        Where that place should be, letter space; a dimension line goes from ``at`` to it.
    """

    code: str
    severity: Severity
    value: float
    tolerance: float | None
    stroke: int
    move: int
    at: FloatArray
    span: FloatArray
    words: dict[str, str] = field(default_factory=dict)
    goal: FloatArray | None = None

    @property
    def spec(self) -> Code:
        """Its entry in the table."""
        return CODES[self.code]

    def _fill(self, sentence: str) -> str:
        digits = DIGITS.get(self.spec.unit, 2)
        words = {"value": f"{self.value:.{digits}f}", **self.words}
        if self.spec.unit in ("lifts", "joins", "pauses"):
            words["value"] = {1: "once", 2: "twice"}.get(int(self.value), f"{int(self.value)} times")
        return sentence.format(**words)

    @property
    def teacher(self) -> str:
        """Sentence for the teacher."""
        return self._fill(self.spec.teacher)

    @property
    def child(self) -> str:
        """Sentence for the child: what to do next time."""
        text = self._fill(self.spec.child)
        return text[:1].upper() + text[1:]
