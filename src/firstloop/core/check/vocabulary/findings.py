"""A finding: something outside its tolerance, and where."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from firstloop.core.check.vocabulary.codes import CODES, Strictness
from firstloop.core.check.vocabulary.grades import Code, Severity
from firstloop.core.curves import FloatArray


@dataclass(frozen=True, eq=False)
class Finding:
    """Something outside its tolerance, and where.

    Parameters
    ----------
    at : array, shape (2,)
        Place on the ink in letter space.
    span : array, shape (n, 2)
        The ink it is about, letter space.
    facts : mapping
        What its sentences need beside the value, by the names its code lists.
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
    facts: Mapping[str, str] = field(default_factory=dict)
    goal: FloatArray | None = None

    @property
    def spec(self) -> Code:
        """Its entry in the table."""
        return CODES[self.code]

    @property
    def counts(self) -> bool:
        """Whether it is something to mend; what is only told counts for nothing."""
        return self.severity is not Severity.TOLD


def graded(
    code: str,
    value: float,
    strictness: Strictness,
    span: FloatArray,
    facts: Mapping[str, str],
    *,
    stroke: int = 0,
    move: int = 0,
    goal: FloatArray | None = None,
) -> list[Finding]:
    """A list with the finding, or an empty one when `value` is inside the tolerance.

    Parameters
    ----------
    span : array, shape (n, 2)
        The ink it is about, letter space; its middle point is where it is shown.
    facts : mapping
        Of these only what the code's sentences need is kept.
    """
    severity = strictness.severity(code, value)
    if severity is None:
        return []
    return [
        Finding(
            code=code,
            severity=severity,
            value=float(value),
            tolerance=strictness.tolerance(code),
            stroke=stroke,
            move=move,
            at=span[len(span) // 2],
            span=np.asarray(span, dtype=np.float64),
            facts={name: facts[name] for name in CODES[code].facts if name in facts},
            goal=goal,
        )
    ]
