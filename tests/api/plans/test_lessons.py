"""Lessons of a plan over the API: their page, their minutes, run, and what came of them."""

from __future__ import annotations

from datetime import timedelta

import pypdfium2 as pdfium

from tests.api.plans.planner import NOW, Planner, run, write_row
from tests.api.test_journeys import post, school, start, strokes


def test_the_page_of_a_lesson_adds_up_and_holds_nothing_that_is_not_taught(planner):
    for lesson in planner.lessons[4:18:3]:
        page = planner.page(lesson["key"])
        assert sum(part["minutes"] for part in page["parts"]) == 15
        assert page["over_by"] == 0
        known = {char for one in planner.lessons if one["day"] <= lesson["day"] for char in one["new"]}
        written = [*(one["text"] for one in page["words"]), *(one["text"] for one in page["recall"])]
        assert all(set(text) <= known for text in written)
        if page["sentence"]:
            text = page["sentence"]["text"]
            assert {char for char in text.lower() if char.isalpha()} <= known


def test_everything_on_the_page_can_be_changed_and_goes_back(planner):
    key = planner.lessons[6]["key"]
    before = planner.page(key)
    path = f"{planner.path}/lessons/{key}"

    def change(status: int = 200, **fields):
        number = planner.page(key)["number"]
        answer = planner.client.patch(path, json={"number": number, **fields})
        assert answer.status_code == status, answer.text
        return answer.json()

    change(aim="I can do it.", words=["tin", "lit"], sentence="It is a tin.", alone=2, beside="by the door")
    page = change(minutes={"words": 6}, without=["air"])
    assert page["aim"] == "I can do it."
    assert [one["text"] for one in page["words"]] == ["tin", "lit"]
    assert page["sentence"]["text"] == "It is a tin."
    assert page["beside_note"] == "by the door"
    minutes = {part["kind"]: part["minutes"] for part in page["parts"]}
    assert minutes["words"] == 6
    assert "air" not in minutes
    assert page["over_by"] == max(0, sum(minutes.values()) - 15)
    change(422, words=["l\u00efvre\u2603"])
    change(422, sentence="\u4f60")
    page = change(**dict.fromkeys(page["changed"]))
    assert {**page, "number": 0} == {**before, "number": 0}
    assert planner.client.patch(path, json={"number": 1, "aim": "x"}).status_code == 409


def test_the_minutes_come_from_the_classs_own_letters(planner, client, clock, rng):
    key = planner.lessons[4]["key"]
    usual = planner.page(key)
    assert "usual" in usual["pace_says"]
    for row in range(6):
        made = start(client, planner.child["id"], "n")
        for place in range(6):
            client.app.state.clock = lambda r=row, p=place: NOW + timedelta(minutes=5 * r, seconds=20 * p)
            post(client, made, 100 * row + place, strokes("n", rng))
    clock()
    own = planner.page(key)
    assert "20 seconds" in own["pace_says"]
    assert own["alone"] <= usual["alone"]


def test_a_lesson_that_is_run_leaves_a_note_and_the_plan_follows(client, clock, rng):
    planner = Planner(client, school(client)["child"], last="2026-11-06")
    clock(days=1)
    lesson = planner.lessons[0]
    assert len(lesson["new"]) == 2
    shown, skipped = lesson["new"]
    today = client.get(f"{planner.path}/today").json()
    assert today["today"]["key"] == lesson["key"]
    page = run(planner, lesson["key"], ("before", False))
    assert page["run"]["finished_at"] is None
    write_row(client, planner.child["id"], shown, rng, 0)
    clock(days=4)
    write_row(client, planner.child["id"], shown, rng, 1)  # days later, and so no part of it
    clock(days=1)
    meanwhile = planner.page(lesson["key"])["run"]
    assert (meanwhile["rows"], meanwhile["words"], meanwhile["children"]) == (1, 0, 1)
    assert page["shown"] is None
    done = [("before", False), (f"show:{shown}", False), (f"show:{skipped}", True)]
    page = run(planner, lesson["key"], *done, finished=True)
    assert page["shown"] == [shown]
    assert page["came"] == "cut"
    assert [one["part"] for one in page["run"]["parts"]] == [part for part, _ in done]
    planner.plan = client.get(planner.path).json()
    assert planner.taught()[skipped] > lesson["day"]
    again = run(planner, lesson["key"], *done, finished=True)
    assert again["number"] == page["number"], "the same note sent again changes nothing"
    planner.step("put", f"/lessons/{lesson['key']}/told", shown=lesson["new"])
    assert planner.page(lesson["key"])["came"] == "held"
    came = client.get(f"{planner.path}/today").json()["came"]
    assert came["key"] == lesson["key"]


def test_what_came_of_a_lesson_is_told_from_the_ink(planner, client, clock, rng):
    clock(days=1, hours=1)
    lesson = planner.lessons[0]
    char = lesson["new"][0]
    write_row(client, planner.child["id"], char, rng, 0, times=3)
    planner.step("put", f"/lessons/{lesson['key']}/told", shown=lesson["new"])
    came = client.get(f"{planner.path}/today").json()["came"]
    assert f"{char}: 1 of 1 child who wrote it has most of its letters secure." in came["says"]


def test_pages_to_print_are_one_page_each(planner):
    for path in ("/term.pdf", f"/lessons/{planner.lessons[4]['key']}/page.pdf"):
        answer = planner.client.get(planner.path + path)
        assert answer.headers["content-type"] == "application/pdf"
        assert len(pdfium.PdfDocument(answer.content)) == 1
    text = pdfium.PdfDocument(planner.client.get(planner.path + "/term.pdf").content)[0].get_textpage()
    words = text.get_text_bounded()
    assert "Autumn term" in words
    assert "Half-term" in words


def test_minutes_that_were_fixed_stay_when_others_are(planner):
    key = planner.lessons[6]["key"]
    path = f"{planner.path}/lessons/{key}"
    worked_out = {part["kind"]: part["minutes"] for part in planner.page(key)["parts"]}
    for minutes in ({"words": 7}, {"show": 4}):
        number = planner.page(key)["number"]
        assert planner.client.patch(path, json={"number": number, "minutes": minutes}).status_code == 200
    now = {part["kind"]: part["minutes"] for part in planner.page(key)["parts"]}
    assert now == {**worked_out, "words": 7, "show": 4}
