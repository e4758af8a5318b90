"""A lesson on tablets: coming in, handing out, writing, pens down, collecting, putting names right."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

import numpy as np
import pytest
from fastapi.testclient import TestClient
from sqlalchemy import event

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.formats.pictures import jpeg
from firstloop.services import room_views, tablets
from firstloop.services.rows import WrittenAttempt
from firstloop.store.tables import Attempt
from tests.api.room.conftest import ATablet, written
from tests.conftest import HERE


def test_a_lesson_on_tablets_from_the_code_to_the_row_that_is_kept(teacher):
    anouk = teacher.tablet("Anouk", admitted=False)
    assert [one["wants"] for one in teacher.room()["door"]] == ["Anouk A"]
    assert anouk.now()["sheet"] is None
    teacher.ask("post", "/admit", json={})
    teacher.hand_out(letter="n")
    sheet = anouk.now()["sheet"]
    assert (sheet["kind"], sheet["text"], sheet["to_write"][0]) == ("row", "n", "trace")
    for number in range(len(sheet["to_write"])):
        kept = anouk.write(f"a-letter-{number}")
        assert kept.status_code == 201
        assert len(kept.json()["to_write"]) == len(sheet["to_write"]) - 1 - number
    attempts = teacher.attempts(sheet["id"])
    assert [one["key"] for one in attempts] == [f"a-letter-{n}" for n in range(len(attempts))]
    assert {one["verdict"] for one in attempts} == {"secure"}
    assert teacher.client.get(f"/api/rows/{sheet['id']}").json()["finished"]
    assert anouk.ask("put", f"/rows/{sheet['id']}/best", json={"key": "a-letter-2"}).status_code == 204
    assert [one["best"] for one in teacher.attempts(sheet["id"])].index(True) == 2


def test_the_last_row_of_a_long_lesson_is_shown_as_quickly_as_the_first(teacher):
    anouk, looked_up = teacher.tablet("Anouk"), []
    for number in range(4):  # handed out one after another: nothing is collected
        teacher.hand_out(letter="n")
        anouk.now()
        anouk.write(f"of-row-{number}")
        teacher.attempts(anouk.page["sheet"]["id"])

    def loaded(attempt, _):
        looked_up.append(attempt.key)

    event.listen(Attempt, "load", loaded)
    try:
        anouk.now()
        assert set(looked_up) == {"of-row-3"}
        looked_up.clear()
        teacher.room()
        assert set(looked_up) == {"of-row-3"}
    finally:
        event.remove(Attempt, "load", loaded)


@contextmanager
def asked_of(teacher) -> Iterator[list[str]]:
    """What this thread asks of the records meanwhile; others look after their own."""
    asked: list[str] = []
    here = threading.get_ident()

    def note(_conn, _cursor, statement, *_rest):
        if threading.get_ident() == here:
            asked.append(statement)

    with teacher.client.app.state.sessions() as session:
        engine = session.get_bind()
    event.listen(engine, "before_cursor_execute", note)
    try:
        yield asked
    finally:
        event.remove(engine, "before_cursor_execute", note)


def test_no_more_is_asked_of_the_records_for_a_class_than_for_a_child(teacher):
    """A class of thirty writes seven letters a second; each statement more is felt by all of them."""
    state, counts = teacher.client.app.state, []
    for number, name in enumerate(("Anouk", "Bashir", "Cleo")):
        tablet = teacher.tablet(name)
        teacher.hand_out(letter="n")
        tablet.now()
        with asked_of(teacher) as kept, state.sessions() as session:
            known = tablets.known(session, tablet.token, datetime.now(UTC))
            letter = WrittenAttempt(f"of-child-{number}", "alone", written("n"))
            tablets.keep_attempt(session, known, tablet.page["sheet"]["id"], letter, datetime.now(UTC))
        outlook = state.room_office.outlook(datetime.now(UTC))
        with asked_of(teacher) as looked, state.sessions() as session:
            ids = list(teacher.children.values())[: number + 1]
            lines = room_views.some(session, teacher.class_id, ids, outlook)
            assert [len(one.line.attempts) for one in lines] == [0] * number + [1]
        with asked_of(teacher) as whole, state.sessions() as session:
            room_views.view(session, teacher.class_id, outlook)
        counts.append((len(kept), len(looked), len(whole)))
    assert counts[0] == counts[1] == counts[2]
    assert all(found <= most for found, most in zip(counts[0], (7, 5, 7), strict=True))


def test_a_child_that_begins_at_the_bottom_is_shown_and_named(teacher):
    bashir, cleo = teacher.tablet("Bashir"), teacher.tablet("Cleo")
    teacher.hand_out(letter="n")
    for one, wrong in ((bashir, True), (cleo, False)):
        one.now()
        one.write(f"first-of-{wrong}", strokes=written("n", from_the_bottom=wrong))
    teacher.attempts(bashir.page["sheet"]["id"])
    shown = teacher.child("Bashir")
    assert shown["slip"] == "start.bottom"
    assert shown["line"]["attempts"][0]["ring"] is not None
    assert teacher.child("Cleo")["remark"] == ""
    assert [said for said in teacher.room()["just_now"] if "Bashir" in said and "Cleo" not in said]
    bashir.write("and-then-well")
    teacher.attempts(bashir.page["sheet"]["id"])
    assert teacher.child("Bashir")["slip"] == ""


def test_a_tablet_is_told_its_own_sheet_and_nothing_else(teacher):
    anouk, bashir = teacher.tablet("Anouk"), teacher.tablet("Bashir")
    teacher.hand_out(letter="n")
    bashir.now()
    bashir.write("of-bashir-1", strokes=written("n", from_the_bottom=True))
    teacher.attempts(bashir.page["sheet"]["id"])
    told = anouk.ask("get", "/now").text
    assert "Bashir" not in told
    assert "of-bashir-1" not in told
    told = bashir.ask("get", "/now").text
    for word in ("verdict", "finding", "bottom", "next_time", "Anouk"):
        assert word not in told


def test_the_same_letter_sent_again_is_kept_once_and_a_cross_out_overtakes_it(teacher):
    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    row = anouk.now()["sheet"]["id"]
    first, again = anouk.write("twice-over"), anouk.write("twice-over")
    assert first.json()["attempt_id"] == again.json()["attempt_id"]
    crossed = anouk.write("twice-over", crossed_out=True).json()
    assert len(crossed["to_write"]) == len(again.json()["to_write"]) + 1
    assert [one["crossed_out"] for one in teacher.attempts(row)] == [True]


def test_words_are_handed_out_to_some_and_kept_once(teacher):
    anouk, bashir = teacher.tablet("Anouk"), teacher.tablet("Bashir")
    teacher.hand_out(text="nun", child_ids=[teacher.children["Anouk"]])
    assert bashir.now()["sheet"] is None
    word = anouk.now()["sheet"]
    assert (word["kind"], word["text"]) == ("word", "nun")
    ink = {"strokes": written("n") + written("u"), "word_started_at": word["started_at"]}
    anouk.ask("put", "/under-pen", json={"word_id": word["id"], "strokes": ink["strokes"][:1]})
    assert len(teacher.child("Anouk")["line"]["under_pen"]) == 1
    for _ in range(2):
        assert anouk.ask("put", f"/words/{word['id']}/ink", json=ink).status_code == 204
    assert teacher.child("Anouk")["line"]["under_pen"] == []
    other = {**ink, "strokes": written("n")}
    assert anouk.ask("put", f"/words/{word['id']}/ink", json=other).status_code == 409
    assert teacher.client.app.state.room_office.behind.wait(60)
    kept = teacher.client.get(f"/api/written/{word['id']}").json()
    assert (len(kept["strokes"]), kept["result"] is not None) == (len(ink["strokes"]), True)
    assert anouk.now()["sheet"]["to_write"] == []


def _put_word(tablet: ATablet, word: dict, letters: str):
    ink = {"strokes": [one for letter in letters for one in written(letter)]}
    return tablet.ask("put", f"/words/{word['id']}/ink", json={**ink, "word_started_at": word["started_at"]})


def _cross_out(tablet: ATablet, word: dict):
    begun = {"word_started_at": word["started_at"]}
    return tablet.ask("put", f"/words/{word['id']}/crossed-out", json=begun)


def test_a_word_that_is_crossed_out_comes_again_on_a_clean_line(teacher):
    anouk, bashir = teacher.tablet("Anouk"), teacher.tablet("Bashir")
    teacher.hand_out(text="nun")
    word = anouk.now()["sheet"]
    _put_word(anouk, word, "nu")
    assert _cross_out(bashir, word).status_code == 404
    other = {"word_started_at": "2000-01-01T00:00:00Z"}
    assert anouk.ask("put", f"/words/{word['id']}/crossed-out", json=other).status_code == 409
    for _ in range(2):
        assert _cross_out(anouk, word).status_code == 204
    again = anouk.now()["sheet"]
    assert (again["id"] > word["id"], again["text"], again["attempts"]) == (True, "nun", [])
    _put_word(anouk, again, "nun")
    assert teacher.client.app.state.room_office.behind.wait(60)
    of_anouk = teacher.client.get(f"/api/children/{teacher.children['Anouk']}/written").json()
    assert [(one["id"], one["crossed_out"]) for one in of_anouk] == [
        (again["id"], False),
        (word["id"], True),
    ]
    teacher.ask("post", "/collect")
    assert _cross_out(anouk, again).status_code == 204  # it had been on its way: it counts no more
    assert anouk.now()["sheet"] is None


def test_a_dictation_is_said_word_by_word_and_no_tablet_shows_it(teacher):
    anouk, bashir = teacher.tablet("Anouk"), teacher.tablet("Bashir")
    classes = f"/api/classes/{teacher.class_id}"
    made = teacher.client.post(f"{classes}/dictations", json={"words": ["nun", "mum"]}).json()

    def say(position: int) -> dict:
        teacher.hand_out(dictated={"dictation_id": made["id"], "position": position})
        return teacher.room()["dictation"]

    assert say(0) == {"id": made["id"], "position": 0, "next": 1, "words": ["nun", "mum"]}
    sheet = anouk.now()["sheet"]
    assert (sheet["boxes"], sheet["text"], sheet["model"]) == (3, "", None)
    assert "nun" not in anouk.ask("get", "/now").text
    _put_word(anouk, sheet, "nn")
    _cross_out(anouk, sheet)
    _put_word(anouk, anouk.now()["sheet"], "nun")
    written_id = anouk.page["sheet"]["id"]
    say(0)  # said once more to all: what is written stays
    assert anouk.now()["sheet"]["id"] == written_id
    assert bashir.now()["sheet"]["to_write"] == ["alone"]
    assert say(1)["next"] is None
    assert anouk.now()["sheet"]["attempts"] == []
    marks = teacher.client.get(f"/api/dictations/{made['id']}").json()["children"]
    by_name = {one["child"]["first_name"]: one["words"] for one in marks}
    assert by_name["Anouk"][0]["word_id"] == written_id
    assert by_name["Anouk"][0]["written"]
    assert not by_name["Bashir"][0]["written"]
    teacher.hand_out(letter="n", child_ids=[teacher.children["Bashir"]])
    assert teacher.room()["dictation"] is None
    nowhere = {"dictated": {"dictation_id": made["id"], "position": 2}}
    assert teacher.client.post(f"{classes}/room/hand-out", json=nowhere).status_code == 404
    two_things = {"letter": "n", "text": "nun"}
    assert teacher.client.post(f"{classes}/room/hand-out", json=two_things).status_code == 422


def test_a_dictated_word_by_a_wrong_name_goes_to_whose_it_is(teacher):
    tablet = teacher.tablet("Anouk")
    made = teacher.client.post(f"/api/classes/{teacher.class_id}/dictations", json={"words": ["nun"]}).json()
    teacher.hand_out(dictated={"dictation_id": made["id"], "position": 0})
    word = tablet.now()["sheet"]
    _put_word(tablet, word, "nun")
    tablet_id = teacher.child("Anouk")["tablet_id"]
    right = {"child_id": teacher.children["Bashir"], "with_written": True}
    teacher.ask("put", f"/tablets/{tablet_id}/child", json=right)
    marks = teacher.client.get(f"/api/dictations/{made['id']}").json()["children"]
    by_name = {one["child"]["first_name"]: one["words"][0] for one in marks}
    assert by_name["Bashir"]["word_id"] == word["id"]
    assert by_name["Anouk"]["word_id"] is None


def test_each_child_gets_a_letter_of_its_own(teacher):
    anouk, bashir = teacher.tablet("Anouk"), teacher.tablet("Bashir")
    teacher.hand_out(letter="m", child_ids=[teacher.children["Anouk"]])
    anouk.now()
    for number in range(len(anouk.page["sheet"]["to_write"])):
        anouk.write(f"an-m-of-{number}", strokes=written("m", from_the_bottom=True))
    teacher.attempts(anouk.page["sheet"]["id"])
    teacher.hand_out()
    assert anouk.now()["sheet"]["text"] == "m"
    assert bashir.now()["sheet"]["text"] not in ("", "m")
    assert teacher.room()["handed_out"] == "each child its own"


def test_pens_go_down_and_up_and_what_is_out_is_collected(teacher):
    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    teacher.ask("put", "/pens", json={"down": True})
    assert anouk.now()["pens_down"]
    row = anouk.page["sheet"]["id"]
    assert anouk.write("under-the-pen").status_code == 201, "what is under the pen is kept all the same"
    teacher.ask("put", "/pens", json={"down": False})
    assert not anouk.now()["pens_down"]
    teacher.ask("post", "/collect").raise_for_status()
    assert anouk.now()["sheet"] is None
    assert teacher.client.get(f"/api/rows/{row}").json()["finished"]
    assert anouk.write("late-comer", row_id=row).status_code == 201, "a letter that was on its way is kept"


def test_a_wrong_name_is_put_right_with_what_was_written(teacher):
    tablet = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    row = tablet.now()["sheet"]["id"]
    for number in range(6):
        tablet.write(f"not-anouk-{number}")
    teacher.attempts(row)
    number = teacher.child("Anouk")["tablet_id"]
    given = {"child_id": teacher.children["Bashir"], "with_written": True}
    teacher.ask("put", f"/tablets/{number}/child", json=given).raise_for_status()
    assert teacher.client.get(f"/api/rows/{row}").json()["child"]["first_name"] == "Bashir"
    page = tablet.now()
    assert (page["child"]["name"], page["sheet"]["id"]) == ("Bashir", row)
    for name, begun in (("Anouk", False), ("Bashir", True)):
        story = teacher.client.get(f"/api/children/{teacher.children[name]}/story").json()
        of_n = next(one for one in story["letters"] if one["letter"] == "n")
        assert (of_n["state"] != "not-started") is begun, name


def test_a_tablet_that_changes_hands_still_sends_what_the_former_child_wrote(teacher):
    tablet = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    of_anouk = tablet.now()["sheet"]["id"]
    number = teacher.child("Anouk")["tablet_id"]
    teacher.ask("put", f"/tablets/{number}/child", json={"child_id": teacher.children["Cleo"]})
    teacher.hand_out(letter="u")
    assert tablet.now()["sheet"]["text"] == "u"
    assert tablet.write("kept-by-anouk", row_id=of_anouk).status_code == 201
    assert teacher.client.get(f"/api/rows/{of_anouk}").json()["child"]["first_name"] == "Anouk"


def test_a_child_goes_on_with_its_row_on_another_tablet(teacher):
    flat = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    flat.now()
    flat.write("on-the-first-one")
    other = teacher.tablet()
    number = next(one["id"] for one in teacher.room()["door"] if not one["admitted"])
    teacher.ask("put", f"/tablets/{number}/child", json={"child_id": teacher.children["Anouk"]})
    sheet = other.now()["sheet"]
    assert sheet["id"] == flat.page["sheet"]["id"]
    assert [one["key"] for one in sheet["attempts"]] == ["on-the-first-one"]
    assert flat.now()["child"] is None
    assert flat.write("still-on-the-first", row_id=sheet["id"]).status_code == 201, "it kept that one"


def test_a_name_is_taken_by_one_tablet_only(teacher):
    teacher.tablet("Anouk")
    second = teacher.tablet()
    assert "Anouk A" not in [one["name"] for one in second.page["names"]]
    assert second.ask("put", "/name", json={"child_id": teacher.children["Anouk"]}).status_code == 409
    assert second.ask("put", "/name", json={"child_id": teacher.children["Cleo"]}).status_code == 200
    assert second.now()["names"] == [], "no other names are told once it has one"
    assert second.ask("put", "/name", json={"child_id": teacher.children["Bashir"]}).status_code == 409


def test_ink_under_the_pen_is_shown_and_kept_nowhere(teacher):
    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    row = anouk.now()["sheet"]["id"]
    shown = {"row_id": row, "strokes": written("n")}
    assert anouk.ask("put", "/under-pen", json=shown).status_code == 204
    assert len(teacher.child("Anouk")["line"]["under_pen"]) == 1
    assert teacher.client.get(f"/api/rows/{row}").json()["attempts"] == []
    anouk.write("and-now-ended")
    line = teacher.child("Anouk")["line"]
    assert (line["under_pen"], len(line["attempts"])) == ([], 1), "nothing is seen twice"


def test_a_closed_room_takes_what_was_kept_and_lets_nobody_in(teacher):
    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    row, code = anouk.now()["sheet"]["id"], teacher.room()["code"]
    assert teacher.ask("delete").json()["room"] is None
    assert teacher.client.post("/api/tablet/join", json={"code": code}).status_code == 409
    page = anouk.now()
    assert (page["open"], page["sheet"], page["names"]) == (False, None, [])
    assert anouk.write("kept-for-a-week", row_id=row).status_code == 201
    assert teacher.ask("post").json()["room"]["code"] != code


@pytest.mark.parametrize("what", ["child", "row"])
def test_what_was_erased_meanwhile_is_refused_and_said(teacher, what):
    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    sheet = anouk.now()["sheet"]
    if what == "child":
        teacher.client.delete(f"/api/children/{teacher.children['Anouk']}").raise_for_status()
    else:
        with teacher.client.app.state.sessions.begin() as session:
            from firstloop.store.rows import get_row

            session.delete(get_row(session, sheet["id"]))
    answer = anouk.write("too-late-now", row_id=sheet["id"])
    assert answer.status_code == 404
    assert "sheet of this tablet" in answer.json()["detail"]
    assert anouk.now()["sheet"] is None


def test_a_letter_whose_judge_fails_is_kept(teacher):
    def broken(judged, task):
        raise RuntimeError("the judge fell ill")

    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    anouk.now()
    teacher.client.app.state.judge = broken
    assert anouk.write("kept-unjudged").status_code == 201
    attempts = teacher.attempts(anouk.page["sheet"]["id"])
    assert [one["key"] for one in attempts] == ["kept-unjudged"]


def test_nothing_is_handed_out_to_nobody(teacher):
    assert teacher.ask("post", "/hand-out", json={"letter": "n"}).status_code == 409
    teacher.tablet("Anouk", admitted=False)
    assert teacher.ask("post", "/hand-out", json={"letter": "n"}).status_code == 409
    assert teacher.ask("post", "/hand-out", json={"letter": "n", "text": "nun"}).status_code == 422


def test_the_teachers_phone_brings_pages_in_and_a_childs_tablet_does_not(teacher):
    picture = jpeg(np.full((700, 500), 250, dtype=np.uint8), 90)
    joined = teacher.client.post("/api/tablet/join", json={"code": teacher.room()["phone_code"]}).json()
    phone = ATablet(teacher.client, joined["token"], joined["page"])
    assert phone.page["names"] == [], "it needs no child's name"
    assert phone.ask("post", "/pages?name=page.jpg", content=picture).status_code == 409, "not let in yet"
    (number,) = [one["id"] for one in teacher.room()["door"] if one["is_phone"]]
    teacher.ask("post", "/admit", json={"tablet_ids": [number]}).raise_for_status()
    assert phone.ask("post", "/pages?name=page.jpg", content=picture).status_code == 201
    pile = teacher.client.get(f"/api/classes/{teacher.class_id}/pages").json()
    assert pile["to_read"] + len(pile["pages"]) >= 1
    assert teacher.tablet("Anouk").ask("post", "/pages?name=page.jpg", content=picture).status_code == 409
    teacher.hand_out(letter="n")
    row = teacher.child("Anouk")["line"]["row_id"]
    assert phone.write("by-a-phone-1", row_id=row).status_code == 404, "and it writes nothing"


def test_what_a_kill_left_between_keeping_and_judging_is_seen_to_at_the_next_start(records, teacher):
    anouk = teacher.tablet("Anouk")
    teacher.hand_out(letter="n")
    row = anouk.now()["sheet"]["id"]
    office = teacher.client.app.state.room_office
    office.behind.stop()  # from here on nothing follows what is kept
    for number in range(6):
        anouk.write(f"kept-only-{number}")
    before = teacher.client.get(f"/api/rows/{row}").json()
    assert ([one["result"] for one in before["attempts"]], before["finished"]) == ([None] * 6, False)
    with TestClient(create_app(Settings(records), web_dir=None), base_url=HERE) as again:
        again.app.state.left_over.wait()
        after = again.get(f"/api/rows/{row}").json()
        assert after["finished"]
        assert {one["verdict"] for one in after["attempts"]} == {"secure"}
