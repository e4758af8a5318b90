"""Plans over the API: made, put in order, changed and taken back, sent out."""

from __future__ import annotations

from datetime import datetime

import pytest

from tests.api.plans.planner import LETTERS, TERM, Planner, events, run, write_row
from tests.api.test_journeys import school


def test_a_class_without_a_plan_loses_nothing(client, clock):
    child = school(client)["child"]
    path = f"/api/classes/{child['class_id']}/plan"
    assert client.get(path).json() is None
    assert client.get(f"{path}/today").json() is None
    assert client.get(f"/api/classes/{child['class_id']}/today").status_code == 200
    for missing in ("/orders", "/term.pdf", "/lessons.ics", "/lessons.csv", "/lessons/1"):
        assert client.get(path + missing).status_code == 404
    assert client.delete(path).status_code == 404
    begin = client.get(f"{path}/defaults").json()
    assert (begin["first"], begin["wanted"]) == ("2026-09-07", ["lower case"])


def test_a_term_is_planned_from_nothing(planner):
    assert sorted(planner.taught()) == list(LETTERS)
    days = [one["day"] for one in planner.lessons]
    assert days == sorted(set(days))
    assert not [day for day in days if "2026-10-19" <= day <= "2026-10-23"]
    kinds = {one["day"]: one["kind"] for one in planner.lessons}
    assert kinds["2026-10-15"] == kinds["2026-10-27"] == kinds["2026-12-10"] == "recall"
    assert planner.plan["weeks"][6]["holiday"] == "Half-term"
    words = [week["words"] for week in planner.plan["weeks"]]
    assert words == sorted(words)
    assert words[-1] > 1500
    assert planner.plan["said"] == ["The term is planned."]


def test_what_was_taught_before_is_recalled_and_not_new(client, clock):
    planner = Planner(client, school(client)["child"], known=list("litj"), order="words")
    assert sorted(planner.taught()) == sorted(set(LETTERS) - set("litj"))
    assert set("".join(char for one in planner.lessons[:4] for char in one["recall"])) & set("litj")


def test_each_order_is_told_with_what_it_costs_and_is_good_at_what_it_is_for(planner):
    choices = {one["order"]: one for one in planner.client.get(f"{planner.path}/orders").json()}
    assert list(choices) == ["scheme", "movement", "words", "apart"]
    assert choices["scheme"]["present"]
    assert choices["words"]["words_by_half"] > 3 * choices["scheme"]["words_by_half"]
    assert choices["scheme"]["clashes"] > choices["apart"]["clashes"] == 0
    for one in choices.values():
        assert sorted(char for lesson in one["letters"] for char in lesson) == list(LETTERS)
        assert one["says"]
    shares = {"movement": 0.0, "words": 1.0, "apart": 1.0}
    between = planner.client.get(f"{planner.path}/orders", params=shares).json()[-1]
    assert between["order"] == "between"
    planner.step("put", "/order", order="words", share=[1, 1, 1])
    assert planner.plan["order"] == "words"
    assert planner.client.get(f"{planner.path}/orders").json()[2]["present"]
    planner.step("put", "/order", order="between", share=[0.0, 1.0, 1.0])
    dealt = [one["new"] for one in planner.lessons if one["new"]]
    assert dealt == between["letters"]


def test_a_letter_is_moved_what_moves_is_said_and_it_is_taken_back(planner):
    before = planner.taught()
    target = planner.lessons[2]
    planner.step("post", "/letters", letter="s", lesson=target["key"])
    after = planner.taught()
    assert after["s"] == target["day"]
    said = " ".join(planner.plan["said"])
    assert all(char in said for char in LETTERS if before[char] != after[char])
    planner.step("post", "/undo")
    assert planner.taught() == before


def test_a_lesson_is_moved_and_a_locked_one_stays(planner):
    first, second, third = planner.lessons[:3]
    planner.step("put", f"/lessons/{second['key']}/lock", locked=True)
    planner.step("post", f"/lessons/{first['key']}/move", to=third["key"])
    assert [one["new"] for one in planner.lessons[:3]] == [third["new"], second["new"], first["new"]]
    refused = planner.step("post", "/letters", 409, letter="s", lesson=second["key"])
    assert "locked" in refused["detail"]
    planner.step("put", f"/lessons/{second['key']}/lock", locked=False)
    assert planner.lessons[1]["can_change"]


def test_two_who_change_one_plan_do_not_overwrite_each_other(planner):
    stale = planner.plan["number"]
    planner.step("put", f"/lessons/{planner.lessons[0]['key']}/lock", locked=True)
    here = planner.plan
    planner.plan = {**here, "number": stale}
    for verb, path, body in (
        ("post", "/letters", {"letter": "s", "lesson": planner.lessons[3]["key"]}),
        ("post", "/undo", {}),
        ("put", "/order", {"order": "words", "share": [1, 1, 1]}),
        ("put", "/days", TERM),
    ):
        assert "meanwhile" in planner.step(verb, path, 409, **body)["detail"]
    assert planner.client.get(planner.path).json()["weeks"] == here["weeks"]


def test_a_missed_lesson_moves_on_and_the_past_stays(planner, clock):
    clock(days=3)
    missed = planner.lessons[0]
    before = planner.taught()
    planner.step("put", f"/lessons/{missed['key']}/told", shown=None)
    assert planner.lessons[0]["came"] == "missed"
    after = planner.taught()
    assert sorted(after) == list(LETTERS)
    assert all(after[char] > missed["day"] for char in missed["new"])
    assert "was missed" in planner.plan["said"][0]
    clock(days=10)
    cut = next(one for one in planner.lessons if one["day"] == "2026-09-15")
    planner.step("put", f"/lessons/{cut['key']}/told", shown=[])
    assert planner.lessons[0] == {**missed, "came": "missed", "shown": [], "can_change": False}
    assert planner.client.get(f"{planner.path}/lessons.csv").text.count("missed") == 1
    assert before != planner.taught()
    future = planner.lessons[-1]
    planner.step("put", f"/lessons/{future['key']}/told", 409, shown=None)


def test_the_plan_asks_about_letters_that_nobody_wrote(planner, client, clock, rng):
    first, second = planner.lessons[:2]
    clock(days=1, hours=2)
    for key, char in enumerate(first["new"]):
        write_row(client, planner.child["id"], char, rng, key)
    clock(days=8)
    plan = client.get(planner.path).json()
    assert [one["key"] for one in plan["to_tell"]] == [second["key"]]
    (asked,) = plan["to_tell"]
    assert asked["whole"]
    assert "Thursday 10 September" in asked["says"]
    planner.plan = plan
    planner.step("put", f"/lessons/{second['key']}/told", shown=second["new"])
    assert planner.plan["to_tell"] == []


def test_other_days_move_no_more_than_they_must(planner):
    before = planner.taught()
    off = {"first": "2026-09-15", "last": "2026-09-15", "name": "Day off"}
    planner.step("put", "/days", **{**TERM, "holidays": [*TERM["holidays"], off]})
    after = planner.taught()
    assert sorted(after) == list(LETTERS)
    assert "2026-09-15" not in after.values()
    moved = [char for char in LETTERS if before[char] != after[char]]
    assert 0 < len(moved) < 12
    planner.step("put", "/days", 400, **{**TERM, "last": "2026-09-01"})
    planner.step("put", "/days", 409, **{**TERM, "first": "2026-12-14", "last": "2026-12-18",
                 "holidays": [{"first": "2026-12-14", "last": "2026-12-18"}]})  # fmt: skip


def test_holidays_are_read_from_a_calendar_file(planner):
    lines = (
        "BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//school//EN",
        "BEGIN:VEVENT", "UID:1", "DTSTAMP:20260101T000000Z", "SUMMARY:Half-term",
        "DTSTART;VALUE=DATE:20261019", "DTEND;VALUE=DATE:20261024", "END:VEVENT",
        "BEGIN:VEVENT", "UID:2", "DTSTAMP:20260101T000000Z", "SUMMARY:Summer",
        "DTSTART;VALUE=DATE:20270719", "DTEND;VALUE=DATE:20270901", "END:VEVENT",
        "BEGIN:VEVENT", "UID:3", "DTSTAMP:20260101T000000Z", "SUMMARY:A meeting",
        "DTSTART:20260915T150000Z", "DTEND:20260915T160000Z", "END:VEVENT",
        "END:VCALENDAR",
    )  # fmt: skip
    params = {"first": TERM["first"], "last": TERM["last"]}
    head = {"Content-Type": "text/calendar"}
    ask = f"{planner.path}/holidays"
    found = planner.client.post(ask, params=params, content="\r\n".join(lines), headers=head)
    assert found.json() == [{"first": "2026-10-19", "last": "2026-10-23", "name": "Half-term"}]
    bad = planner.client.post(ask, params=params, content=b"\x89PNG\r\n", headers=head)
    assert bad.status_code == 400
    assert "no calendar" in bad.json()["detail"]


def test_a_changed_plan_changes_the_calendar_and_doubles_nothing(planner):
    first = events(planner)
    assert len(first) == len(planner.lessons)
    days = {one.decoded("DTSTART").isoformat() for one in first.values()}
    assert days == {one["day"] for one in planner.lessons}
    off = {"first": "2026-09-15", "last": "2026-09-15", "name": "Day off"}
    planner.step("put", "/days", **{**TERM, "holidays": [*TERM["holidays"], off]})
    second = events(planner)
    assert set(second) == set(first), "the same lessons: imported again they change, and none comes twice"
    assert all(int(second[uid]["SEQUENCE"]) > int(first[uid]["SEQUENCE"]) for uid in first)
    gone = [one for one in second.values() if str(one["STATUS"]) == "CANCELLED"]
    assert [one.decoded("DTSTART").isoformat() for one in gone] == ["2026-09-15"]
    planner.step("put", "/days", **TERM)
    third = events(planner)
    assert set(third) > set(first), "the day that came back is a lesson of its own"


def test_a_plan_is_put_away_and_what_was_noted_stays_with_it(planner, client, clock):
    clock(days=1)
    lesson = planner.lessons[0]
    run(planner, lesson["key"], ("before", False), finished=True)
    seen = client.get(planner.path).json()
    assert client.delete(planner.path).status_code == 204
    assert client.get(planner.path).json() is None
    assert client.delete(planner.path).status_code == 404
    back = client.post(f"{planner.path}/undo", json={"number": seen["number"] + 1})
    assert [week["lessons"] for week in back.json()["weeks"]] == [week["lessons"] for week in seen["weeks"]]
    planner.plan = back.json()
    assert planner.page(lesson["key"])["run"]["parts"][0]["part"] == "before"


@pytest.mark.parametrize("put_away", [True, False])
def test_a_plan_made_anew_shares_no_lesson_with_the_one_before(planner, client, clock, put_away):
    clock(days=1)
    run(planner, planner.lessons[0]["key"], ("before", False), finished=True)
    before = events(planner)
    if put_away:
        client.delete(planner.path)
    again = Planner(client, planner.child)
    assert not {one["key"] for one in again.lessons} & {one["key"] for one in planner.lessons}
    assert all(again.page(one["key"])["run"] is None for one in again.lessons[:3])
    after = events(again)
    to_come = [uid for uid, one in before.items() if one.decoded("DTSTART").isoformat() >= "2026-09-08"]
    assert all(str(after[uid]["STATUS"]) == "CANCELLED" for uid in to_come)


def test_orders_are_compared_over_the_whole_term_beside_what_was_taught(planner, client, clock):
    planner.step("put", "/order", order="words", share=[1, 1, 1])
    clock(days=60)
    rest = {one["order"]: one for one in client.get(f"{planner.path}/orders").json()}
    whole = client.get(f"{planner.path}/orders", params={"whole": True}).json()
    assert whole[0]["order"] == "as-it-is"
    assert whole[0]["present"]
    assert sorted(char for lesson in whole[0]["letters"] for char in lesson) == list(LETTERS)
    assert whole[0]["words_by_half"] > next(o for o in whole if o["order"] == "scheme")["words_by_half"]
    assert sum(map(len, rest["scheme"]["letters"])) < len(LETTERS)


def test_look_alikes_that_come_close_are_told_though_letters_are_left_over(client, clock):
    planner = Planner(client, school(client)["child"], last="2026-10-01", holidays=[])
    assert planner.plan["left"]
    assert planner.plan["left_says"].startswith("The term has no lesson")
    days = planner.taught()
    gap = abs((datetime.fromisoformat(days["n"]) - datetime.fromisoformat(days["u"])).days)
    assert gap < 14
    assert any("n" in says and "u" in says for says in planner.plan["close"])


def test_a_joined_class_plans_kinds_of_joins(client, clock):
    child = school(client)["child"]
    style = {"name": "Joined", "script": "cursive"}
    assert client.put(f"/api/classes/{child['class_id']}/style", json=style).status_code == 200
    assert (
        client.get(f"/api/classes/{child['class_id']}/plan/defaults").json()["topics"][-1]["key"] == "joins"
    )
    planner = Planner(client, child, topics=["joins"], known=list(LETTERS))
    lesson = next(one for one in planner.lessons if "into-round" in one["new"])
    page = planner.page(lesson["key"])
    assert "joins into rounds" in page["aim"]
    assert page["words"]
    assert page["show"][0]["item"]["text"] == "ad"
