"""The plan of a class's term: made, put in order, changed step by step, told what happened."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date, datetime

from sqlalchemy.orm import Session

from firstloop.core.planning import changes
from firstloop.core.planning.changes import Changed
from firstloop.core.planning.orders import Aim, Ordered
from firstloop.core.planning.plan import Came, Plan, dealt
from firstloop.core.planning.term import Term
from firstloop.formats.plan_json import PlanDocument, Wish, read_plan, write_plan
from firstloop.services.plan_orders import (
    Between,
    OrderChoice,
    Solve,
    as_it_is,
    choice,
    days_of,
    fresh,
    problem_of,
    to_deal,
)
from firstloop.services.plan_view import PlanView, document_of, view
from firstloop.store import plans as store
from firstloop.store.classes import get_class
from firstloop.store.errors import ConflictError, NotFoundError
from firstloop.store.styles import style_of_class
from firstloop.text import plan as words
from firstloop.text import say

BETWEEN = "between"


def make(session: Session, class_id: int, wish: Wish, on: date, at: datetime, solve: Solve) -> PlanView:
    """Plan a term from nothing, in the order wished for.

    A plan that is there stays in the steps behind; its lessons that are still to come are dropped.

    Raises
    ------
    NotFoundError, TermError
    ConflictError
        If the term has no lesson to come.
    """
    get_class(session, class_id)
    last = store.present(session, class_id)
    today = on.toordinal()
    before = Plan(()) if last is None else read_plan(last.document).plan
    plan = fresh(wish, today, max(before.next_key, store.last_held(session, class_id) + 1))
    if not plan.lessons:
        raise ConflictError("No lesson of this term is still to come: look at its days and holidays.")
    document = _ordered(session, class_id, PlanDocument(wish, plan), today, solve, None)
    document = document.with_plan(replace(document.plan, dropped=before.without(today)))
    said = [say("plan.step.made")]
    store.keep(session, class_id, write_plan(document), said, at, None if last is None else last.number)
    session.commit()
    return _here(session, class_id, on)


def reorder(
    session: Session,
    class_id: int,
    seen: int,
    order: str,
    share: tuple[float, float, float],
    on: date,
    at: datetime,
    solve: Solve,
    between: Between,
) -> PlanView:
    """Put what is still to come in another order; what is over or locked stays.

    Raises
    ------
    NotFoundError, ConflictError
    """
    document, _ = document_of(session, class_id)
    document = replace(document, wish=replace(document.wish, order=order, share=share))
    new = _ordered(session, class_id, document, on.toordinal(), solve, between)
    said = [say("plan.step.order", name=say(f"plan.order.{order}"))]
    store.keep(session, class_id, write_plan(new), said, at, seen)
    session.commit()
    return _here(session, class_id, on)


def orders(
    session: Session,
    class_id: int,
    share: tuple[float, float, float] | None,
    whole: bool,
    on: date,
    solve: Solve,
    between: Between,
) -> list[OrderChoice]:
    """The orders to choose from with what each costs; with a share also the one between.

    Parameters
    ----------
    whole : bool
        Over the whole term, beside what was really taught, and not over what is still to come.

    Raises
    ------
    NotFoundError
    """
    document, _ = document_of(session, class_id)
    plan, today = document.plan, on.toordinal()
    if whole:
        document, today = document.with_plan(plan.from_the_start), plan.lessons[0].day
    problem = problem_of(session, class_id, document, today)
    half = document.wish.term.half(problem.span[0])
    found: dict[str, Ordered] = {str(aim): solve(problem, aim) for aim in Aim}
    if share is not None:
        found[BETWEEN] = between(problem, share)
    told = [choice(problem, order, one, half, plan.days) for order, one in found.items()]
    lived = as_it_is(problem, plan, half) if whole else None
    return told if lived is None else [lived, *told]


def _ordered(
    session: Session,
    class_id: int,
    document: PlanDocument,
    today: int,
    solve: Solve,
    between: Between | None,
) -> PlanDocument:
    """A plan with its open lessons in the order that is wished for."""
    wish = document.wish
    problem = problem_of(session, class_id, document, today)
    if between is not None and wish.order == BETWEEN:
        found = between(problem, wish.share)
    else:
        found = solve(problem, Aim(wish.order))
    style = style_of_class(session, class_id)
    there = days_of(problem, found.lessons)
    all_of_it = [char for one in to_deal(session, class_id, document, today, style) for char in one.chars]
    left = tuple(char for char in all_of_it if char not in there)
    return document.with_plan(dealt(document.plan, wish.slots, found.lessons, left, today))


def move_letter(
    session: Session, class_id: int, seen: int, char: str, key: int, on: date, at: datetime
) -> PlanView:
    """Take a letter to another lesson.

    Raises
    ------
    NotFoundError, ConflictError, ChangeError
    """
    return _change(
        session, class_id, seen, on, at, lambda plan, now: changes.move_letter(plan, char, key, now)
    )


def move_lesson(
    session: Session, class_id: int, seen: int, key: int, to_key: int, on: date, at: datetime
) -> PlanView:
    """Take what a lesson holds to another day.

    Raises
    ------
    NotFoundError, ConflictError, ChangeError
    """
    return _change(
        session, class_id, seen, on, at, lambda plan, now: changes.move_lesson(plan, key, to_key, now)
    )


def lock(
    session: Session, class_id: int, seen: int, key: int, locked: bool, on: date, at: datetime
) -> PlanView:
    """Let a lesson stay as it is, or no longer.

    Raises
    ------
    NotFoundError, ConflictError, ChangeError
    """

    def change(plan: Plan, now: int) -> Changed:
        return Changed(changes.lock(plan, key, locked, now), ())

    def said(before: Plan, _: Changed) -> list[str]:
        day = words.weekday(before.lesson(key).day)
        return [say("plan.step.locked" if locked else "plan.step.unlocked", day=day)]

    return _change(session, class_id, seen, on, at, change, said)


def tell(
    session: Session,
    class_id: int,
    seen: int,
    key: int,
    shown: Sequence[str] | None,
    on: date,
    at: datetime,
) -> PlanView:
    """Tell what was shown in a lesson, None where it was missed; what was not shown is dealt out again.

    Raises
    ------
    NotFoundError, ConflictError, ChangeError
    """

    def said(before: Plan, changed: Changed) -> list[str]:
        now = changed.plan.lesson(key)
        day = words.weekday(now.day)
        if now.came is Came.MISSED:
            head = say("plan.missed", day=day)
        elif now.came is Came.CUT:
            gone = now.not_shown
            head = say("plan.cut-short", day=day, letters=words.listed(gone), count=len(gone))
        else:
            head = say("plan.step.held", day=day)
        return [head, *words.moved_said(changed.moved)]

    return _change(
        session, class_id, seen, on, at, lambda plan, now: changes.tell(plan, key, shown, now), said
    )


def new_days(
    session: Session, class_id: int, seen: int, name: str, term: Term, on: date, at: datetime
) -> PlanView:
    """Give a plan other days or another name; letters move as little as they must.

    Raises
    ------
    NotFoundError, ConflictError
    """
    document, _ = document_of(session, class_id)
    wish = replace(document.wish, name=name, term=term)
    found = changes.new_days(document.plan, wish.slots, on.toordinal())
    if not found.plan.lessons:
        raise ConflictError("So no lesson would be left: look at the days and holidays.")
    said = [say("plan.step.days"), *words.moved_said(found.moved)]
    document = replace(document, wish=wish, plan=found.plan)
    store.keep(session, class_id, write_plan(document), said, at, seen)
    session.commit()
    return _here(session, class_id, on)


def undo(session: Session, class_id: int, seen: int, on: date) -> PlanView | None:
    """Take the latest step back.

    Raises
    ------
    NotFoundError, ConflictError
    """
    get_class(session, class_id)
    store.undo(session, class_id, seen)
    session.commit()
    return view(session, class_id, on)


def drop(session: Session, class_id: int, on: date, at: datetime) -> None:
    """Do without a plan; it is a step like any other. What was noted of lessons that were run stays.

    Raises
    ------
    NotFoundError
    """
    document, number = document_of(session, class_id)
    gone = Plan((), dropped=document.plan.without(on.toordinal()))
    said = [say("plan.step.dropped")]
    store.keep(session, class_id, write_plan(document.with_plan(gone)), said, at, number)
    session.commit()


def _change(
    session: Session,
    class_id: int,
    seen: int,
    on: date,
    at: datetime,
    change: Callable[[Plan, int], Changed],
    said: Callable[[Plan, Changed], list[str]] | None = None,
) -> PlanView:
    """Make one change to the lessons and keep it as a step that can be taken back."""
    document, _ = document_of(session, class_id)
    try:
        found = change(document.plan, on.toordinal())
    except KeyError as unknown:
        raise NotFoundError("lesson", unknown.args[0]) from unknown
    told = words.moved_said(found.moved) if said is None else said(document.plan, found)
    store.keep(session, class_id, write_plan(document.with_plan(found.plan)), told, at, seen)
    session.commit()
    return _here(session, class_id, on)


def _here(session: Session, class_id: int, on: date) -> PlanView:
    found = view(session, class_id, on)
    assert found is not None
    return found
