"""What follows from rows, marks and notes: days of evidence, states, groups, recall."""

from __future__ import annotations

from datetime import timedelta
from itertools import count
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import select, text
from sqlalchemy.orm import Session

from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.progress.evidence import Aspect
from firstloop.core.ruling import USUAL_RULING, ruling_kind
from firstloop.services import child_story, class_map, erased, letter_history, today, watching
from firstloop.services import evidence as evidence_service
from firstloop.services import rows as row_service
from firstloop.store import classes, rows, written
from firstloop.store.rows import Edit
from firstloop.store.tables import Child, LetterDay
from tests.services.test_letter_history import BELOW, FIRST, GOOD, TALL, write

_NUMBERS = count()
TODAY = (FIRST + timedelta(days=15)).date()
USUAL = ruling_kind(USUAL_RULING).ruled(10.0)
LATER = (FIRST + timedelta(days=60)).date()


@pytest.fixture
def kittiwakes(session: Session) -> list[Child]:
    made = classes.add_class(session, "Kittiwake class", HouseStyle(), "four-lines", 10.0, "growing")
    return [classes.add_child(session, made.id, name, "X", "right") for name in ("Ada", "Ben", "Cleo", "Dai")]


def evidence(session: Session, child: Child) -> list[tuple]:
    columns = [column for column in LetterDay.__table__.columns if column.name != "shown_id"]
    return session.execute(
        select(*columns).where(LetterDay.child_id == child.id).order_by(*columns[:3])
    ).all()


def test_a_mark_and_taking_it_back_change_what_follows(session, kittiwakes):
    child = kittiwakes[0]
    for day in (0, 7):
        row = write(session, child, day, BELOW, BELOW, BELOW)
    evidence_service.work_out_all(session)
    assert letter_history.standings(session, child.id, "n")[1].state == "learning"
    before = evidence(session, child)
    for each in rows.find_rows(session, child_id=child.id):
        row_service.edit(session, each.id, [Edit(one.id, "mark", "secure") for one in each.attempts], FIRST)
    assert letter_history.standings(session, child.id, "n")[1].why.startswith("secure: 6 of the last 6")
    for each in rows.find_rows(session, child_id=child.id):
        row_service.undo(session, each.id, FIRST)
    evidence_service.work_out_all(session)
    assert evidence(session, child) == before
    assert row.attempts


def test_crossing_out_every_letter_of_a_day_leaves_no_day(session, kittiwakes):
    child = kittiwakes[0]
    row = write(session, child, 0, GOOD)
    evidence_service.work_out_all(session)
    row_service.edit(session, row.id, [Edit(row.attempts[0].id, "crossed_out", True)], FIRST)
    evidence_service.work_out_all(session)
    assert evidence(session, child) == []


@settings(max_examples=8)
@given(st.randoms(use_true_random=False))
def test_working_out_bit_by_bit_gives_what_working_out_at_once_gives(session, random: Random):
    """Whatever is done in whatever order, the evidence is that of the records as they are."""
    made = classes.add_class(session, f"Class {next(_NUMBERS)}", HouseStyle(), "four-lines", 10.0, "growing")
    child = classes.add_child(session, made.id, "Ada", "X", "right")
    for _ in range(12):
        act = random.choice(["write", "write", "mark", "cross", "watch", "settle"])
        found = rows.find_rows(session, child_id=child.id)
        if act == "write" or not found:
            results = random.choices([GOOD, BELOW, TALL], k=3)
            char, support = random.choice("nm"), random.choice(["alone", "alone", "trace"])
            write(session, child, random.randrange(20), *results, letter=char, support=support)
        elif act == "watch":
            seen = random.choice(["fine", "bottom"])
            watching.log(session, child.id, "n", seen, FIRST + timedelta(days=3))
        elif act == "settle":
            evidence_service.work_out_all(session)
        else:
            row = random.choice(found)
            attempt = random.choice(row.attempts)
            value = random.choice(["secure", "fix", None]) if act == "mark" else random.random() < 0.5
            edit = Edit(attempt.id, "mark" if act == "mark" else "crossed_out", value)
            row_service.edit(session, row.id, [edit], FIRST)
    evidence_service.work_out_all(session)
    bit_by_bit = evidence(session, child)
    session.execute(text("DELETE FROM letter_day"))
    session.execute(text("UPDATE row SET settled = 0"))
    session.expire_all()
    evidence_service.work_out_all(session, child.id)
    assert evidence(session, child) == bit_by_bit


def test_the_map_of_a_day_knows_nothing_of_later_days(session, kittiwakes):
    child = kittiwakes[0]
    write(session, child, 0, GOOD, GOOD, GOOD)
    write(session, child, 7, GOOD, GOOD, GOOD)
    states = [
        class_map.class_map(session, child.class_id, Aspect.ALL, (FIRST + timedelta(days=day)).date())
        .children[0]
        .cells
        for day in (-1, 0, 6, 7, 400)
    ]
    assert [[cell.state for cell in cells] for cells in states] == [
        [], ["learning"], ["learning"], ["secure"], ["secure"],
    ]  # fmt: skip
    assert [cells[0].due for cells in states[1:]] == [False, False, False, True]


def test_the_map_counts_slips_and_not_those_the_teacher_let_pass(session, kittiwakes):
    child = kittiwakes[0]
    row = write(session, child, 14, BELOW, BELOW, TALL)
    row_service.edit(session, row.id, [Edit(row.attempts[0].id, "mark", "secure")], FIRST)
    slips = class_map.class_map(session, child.class_id, Aspect.ALL, TODAY).slips
    assert {one.code: (one.times, one.letters, one.children) for one in slips} == {
        "start.bottom": (1, "n", ["Ada"]),
        "size.tall": (1, "n", ["Ada"]),
    }


def test_children_who_share_a_slip_make_a_group_until_the_teacher_changes_it(session, kittiwakes):
    ada, ben, cleo, dai = kittiwakes
    for child in (ada, ben):
        write(session, child, 10, BELOW, BELOW, GOOD)
    write(session, cleo, 10, GOOD, GOOD, GOOD)
    found = today.today(session, ada.class_id, TODAY)
    assert [(one.code, one.letters, [c.first_name for c in one.children]) for one in found.groups] == [
        ("start.bottom", "n", ["Ada", "Ben"])
    ]
    assert not found.groups_kept
    assert found.causes == []  # the only one is made a group of already
    wanted = today.WantedGroup("start.bottom", "Mine", "nm", [cleo.id, dai.id])
    today.keep_groups(session, ada.class_id, [wanted], FIRST)
    write(session, cleo, 14, GOOD, GOOD, GOOD)
    kept = today.today(session, ada.class_id, TODAY)
    assert [[c.first_name for c in one.children] for one in kept.groups] == [["Cleo", "Dai"]]
    assert kept.groups_kept
    assert [(one.code, [c.first_name for c in one.children]) for one in kept.causes] == [
        ("start.bottom", ["Ada", "Ben"])
    ]
    erased.erase(session, cleo.id, FIRST)
    session.expire_all()
    assert [[c.first_name for c in g.children] for g in today.today(session, ada.class_id, TODAY).groups] == [
        ["Dai"]
    ]


def test_coverage_says_when_a_letter_was_begun_and_who_has_not_written_it_alone(session, kittiwakes):
    ada, ben, cleo, dai = kittiwakes
    write(session, ada, 0, GOOD)
    write(session, ben, 3, GOOD, support="trace")
    write(session, ada, 7, GOOD)
    evidence_service.work_out_all(session)
    (one,) = today.covered(session, ada.class_id, TODAY)
    assert (one.letter, one.taught) == ("n", FIRST.date())
    assert one.last_alone == (FIRST + timedelta(days=7)).date()
    assert [child.first_name for child in one.children] == [ben.first_name, cleo.first_name, dai.first_name]


def test_a_letter_in_a_word_counts_as_written_unless_it_was_left_out_or_crossed_out(session, kittiwakes):
    ada, ben, cleo, dai = kittiwakes
    write(session, ada, 0, GOOD)
    evidence_service.work_out_all(session)
    for child, verdict, crossed_out in (
        (ben, "fix", False),
        (cleo, "not-seen", False),
        (dai, "secure", True),
    ):
        document = {"letters": [{"expected": "i", "verdict": "fix"}, {"expected": "n", "verdict": verdict}]}
        word = written.ask(session, child, "in", FIRST + timedelta(days=2), "four-lines", USUAL)
        word.ink, word.document, word.crossed_out = [{"x": [1], "y": [1]}], document, crossed_out
    session.commit()
    (one,) = today.covered(session, ada.class_id, TODAY)
    assert [child.first_name for child in one.children] == ["Cleo", "Dai"]
    told = {letter.letter: letter.why for letter in child_story.story(session, ben.id, TODAY).letters}
    assert told["n"].startswith("written in words")
    assert told["m"] == "not started: nothing written yet"


def test_one_lesson_is_told_as_what_was_seen_and_claims_no_more(session, kittiwakes):
    child = kittiwakes[0]
    write(session, child, 14, BELOW, GOOD, GOOD)
    evidence_service.work_out_all(session)
    told = child_story.story(session, child.id, TODAY)
    assert told.watch_for == [
        "begun at the bottom in n: 1 of 3 so far. Too little to say more; watch for it."
    ]
    assert told.habits == []
    (seen,) = today.today(session, child.class_id, TODAY).watch_for
    assert (seen.words, [one.first_name for one in seen.children]) == (
        "begun at the bottom in n: 1 of 3 lately",
        ["Ada"],
    )


def test_a_child_with_a_new_slip_comes_first_and_is_on_today(session, kittiwakes):
    ada, ben = kittiwakes[:2]
    for day in (0, 1):
        write(session, ada, day, TALL, TALL, TALL)  # much to do, and nothing new
        write(session, ben, day, GOOD, GOOD, GOOD)
    write(session, ben, 30, BELOW, BELOW, GOOD)
    evidence_service.work_out_all(session)
    on = (FIRST + timedelta(days=31)).date()
    assert class_map.class_map(session, ada.class_id, Aspect.ALL, on).most_to_do[0] == ben.id
    (new,) = today.today(session, ada.class_id, on).new_slips
    assert (new.code, new.letters, [one.first_name for one in new.children]) == ("start.bottom", "n", ["Ben"])


def test_a_group_of_another_class_or_an_unknown_code_is_refused(client):
    client.post("/api/classes", json={"name": "One"})
    client.post("/api/classes", json={"name": "Two"})
    client.post("/api/classes/2/children", json={"first_name": "Ada", "initial": "X"})
    group = {"code": "start.bottom", "family": "", "letters": "n", "child_ids": [1]}
    assert client.put("/api/classes/1/groups", json={"groups": [group]}).status_code == 404
    assert client.put("/api/classes/2/groups", json={"groups": [group | {"code": "x"}]}).status_code == 404
    assert client.get("/api/classes/1/today").json()["groups"] == []


def test_today_says_what_changed_what_is_due_and_what_was_never_alone(session, kittiwakes):
    ada, ben, *_ = kittiwakes
    for day in (0, 2, 13):
        write(session, ada, day, GOOD, GOOD, GOOD)
    write(session, ben, 13, GOOD, GOOD, GOOD, support="trace")
    for day in (0, 4):
        write(session, ben, day, GOOD, GOOD, GOOD, letter="o")
    write(session, ben, 14, BELOW, BELOW, BELOW, letter="o")
    found = today.today(session, ada.class_id, TODAY)
    assert [(one.child.first_name, one.letter, one.what) for one in found.changes] == [
        ("Ben", "o", "slipping")
    ]
    assert found.waiting.rows == 7
    assert {one.letter: [c.first_name for c in one.children] for one in found.not_since} == {
        "n": ["Ben", "Cleo", "Dai"],
        "o": ["Ada", "Cleo", "Dai"],
    }
    later = today.today(session, ada.class_id, TODAY + timedelta(days=400))
    assert [one.letter for one in later.recall] in (["o", "n"], ["n", "o"])
    assert {one.children for one in later.recall} == {1}


def test_a_story_compares_a_child_with_its_own_past(session, kittiwakes):
    child = kittiwakes[0]
    for week in range(6):
        write(session, child, 7 * week, *([BELOW] * 3 if week < 3 else [GOOD] * 3))
    told = child_story.story(session, child.id, (FIRST + timedelta(days=40)).date())
    (habit,) = told.habits
    assert (habit.course, habit.letters) == ("gone", "n")
    assert "begun at the bottom in n: 9 of 9 before 29 September, 0 of 9 since" in habit.words
    (turn,) = told.headings[1].turns
    assert turn.day.isoformat() == "2026-09-29"
    n = next(one for one in told.letters if one.letter == "n")
    assert n.first.day < n.latest.day
    assert told.next_steps == []


def test_a_story_of_nothing_is_short(session, kittiwakes):
    told = child_story.story(session, kittiwakes[0].id, TODAY)
    assert {one.state for one in told.letters} == {"not-started"}
    assert (told.since, told.habits, told.next_steps, told.picks.rows) == (None, [], [], 0)


def test_the_story_teaches_again_what_was_slipped_in_one_letter_however_long_ago(session, kittiwakes):
    child = kittiwakes[0]
    write(session, child, 0, BELOW, BELOW, GOOD, letter="h")
    for day in range(40, 50, 3):
        write(session, child, day, GOOD, GOOD, GOOD, letter="n")
    told = child_story.story(session, child.id, LATER)
    assert [one.words for one in told.next_steps if one.kind == "teach"] == [
        "Teach again where it starts, before the pen moves: h begun at the bottom in 2 of the last 3."
    ]


def test_a_slip_got_over_is_no_next_step(session, kittiwakes):
    child = kittiwakes[0]
    for day in range(0, 21, 3):
        write(session, child, day, BELOW, BELOW, BELOW)
    for day in range(21, 33, 2):
        write(session, child, day, GOOD, GOOD, GOOD)
    told = child_story.story(session, child.id, LATER)
    assert [one.course for one in told.habits] == ["gone"]
    assert all(one.kind != "teach" for one in told.next_steps)


def test_a_child_may_turn_out_to_be_left_handed(client):
    client.post("/api/classes", json={"name": "One"})
    child = client.post("/api/classes/1/children", json={"first_name": "Ada", "initial": "X"}).json()
    assert child["hand"] == "right"
    changed = client.patch(f"/api/children/{child['id']}", json={"hand": "left"})
    assert changed.json()["hand"] == "left"
    assert client.patch(f"/api/children/{child['id']}", json={"hand": "both"}).status_code == 422
