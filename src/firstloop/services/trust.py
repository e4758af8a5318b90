"""Where the teacher's marks and the checker's verdicts differ, and the tolerances a class has taken over."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy.orm import Session

from firstloop.core.check.vocabulary.codes import CODES
from firstloop.core.check.vocabulary.grades import Heading, Level, Severity, Verdict
from firstloop.core.teaching.agreement import LEAST_TIMES, MOST_TIMES, Agreement, Marked, agreement
from firstloop.store import rows as store
from firstloop.store.classes import get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.text.findings import amount, amounts, slip_name


@dataclass(frozen=True)
class ProposalView:
    """A tolerance at which the checker would say what the teacher said; values at the level "growing".

    ``said`` is the tolerance in words, ``between`` how far off the attempts were.
    """

    tolerance: float
    said: str
    ticked: int
    looked_at: int
    between: str


@dataclass(frozen=True)
class SeenValue:
    """A value the checker told alone on a marked attempt, and whether the teacher let it pass."""

    value: float
    let_pass: bool


@dataclass(frozen=True)
class AgreementView:
    """How often the teacher agreed with one code, and what it allows; amounts also as they are said.

    ``own_said`` is the tolerance that the class has accepted in place of the house's, empty without one.
    """

    code: str
    heading: Heading
    name: str
    agreed: int
    looked_at: int
    tolerance: float | None
    tolerance_said: str
    house_tolerance_said: str
    own_said: str
    proposal: ProposalView | None
    seen: list[SeenValue]


@dataclass(frozen=True)
class Trust:
    """The teacher's marks against the checker's verdicts, and the tolerances the class has taken over."""

    marked: int
    agreed: int
    codes: list[AgreementView]
    own: dict[str, float]


def trust(session: Session, class_id: int) -> Trust:
    """Where the teacher's marks and the checker's verdicts differ in a class, code by code.

    Raises
    ------
    NotFoundError
    """
    school_class = get_class(session, class_id)
    tolerances = school_class.tolerances
    both = store.marked_results(session, class_id)
    marked = [
        Marked(
            tuple(
                (one["code"], one["value"])
                for one in document.get("findings", [])
                if one["severity"] != Severity.TOLD
            ),
            Verdict(mark),
            Level(level),
        )
        for document, level, mark in both
    ]
    return Trust(
        marked=len(both),
        agreed=sum(document.get("verdict") == mark for document, _, mark in both),
        codes=[_agreement(one, tolerances, school_class.xh_mm) for one in agreement(marked, tolerances)],
        own=dict(tolerances),
    )


def _agreement(one: Agreement, own: Mapping[str, float], xh_mm: float) -> AgreementView:
    code, proposal = one.code, one.proposal
    return AgreementView(
        code=code,
        heading=CODES[code].heading,
        name=slip_name(code),
        agreed=one.agreed,
        looked_at=one.looked_at,
        tolerance=one.tolerance,
        tolerance_said=amount(code, one.tolerance, xh_mm),
        house_tolerance_said=amount(code, CODES[code].tolerance, xh_mm),
        own_said=amount(code, own.get(code), xh_mm),
        proposal=None
        if proposal is None
        else ProposalView(
            tolerance=proposal.tolerance,
            said=amount(code, proposal.tolerance, xh_mm),
            ticked=proposal.ticked,
            looked_at=proposal.looked_at,
            between=amounts(code, proposal.lowest, proposal.highest, xh_mm),
        ),
        seen=[SeenValue(value, let_pass) for value, let_pass in one.seen],
    )


def take_over(session: Session, class_id: int, code: str, tolerance: float | None) -> Trust:
    """Let a class have its own tolerance for a code from now on; None goes back to the house's.

    Raises
    ------
    NotFoundError
        If there is no such class or code.
    ConflictError
        If the code has no tolerance, or this one is not between half and twice the house's.
    """
    spec = CODES.get(code)
    if spec is None:
        raise NotFoundError("code", code)
    if tolerance is not None:
        if not spec.tolerance:
            raise ConflictError(f"{code} has no tolerance to change.")
        if not LEAST_TIMES * spec.tolerance <= tolerance <= MOST_TIMES * spec.tolerance:
            raise ConflictError("A tolerance may be between half and twice the house's.")
    school_class = get_class(session, class_id)
    own = {key: value for key, value in school_class.tolerances.items() if key != code}
    school_class.tolerances = own if tolerance is None else {**own, code: tolerance}
    session.commit()
    return trust(session, class_id)
