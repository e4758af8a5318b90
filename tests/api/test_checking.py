"""The check screen's side of the API: queue, explanation, next step, watched notes, tolerances, levels."""

from __future__ import annotations

import numpy as np
import pytest
from typer.testing import CliRunner

from firstloop.cli import app
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.services.recheck import recheck
from firstloop.store import rows as store
from firstloop.store.database import open_engine, sessions
from firstloop.store.rows import AttemptResult
from tests.api.test_journeys import post, start, strokes


def written(client, child, rng, faults=(None, None), letter="n", first=1, **how):
    row = start(client, child["id"], letter)
    for k, fault in enumerate(faults):
        code, size = fault or (None, 0.0)
        ink = strokes(letter, rng, left_mm=4.0 + 18.0 * k, fault=code, size=size, **how)
        post(client, row, first * 100 + k, ink)
    return client.get(f"/api/rows/{row['id']}").json()


BELOW = ("start.bottom", 1.0)
TALL = ("size.tall", 40.0)


def queue(client, child, order="newest"):
    answer = client.get(f"/api/classes/{child['class_id']}/queue", params={"order": order}).json()
    return [row["id"] for group in answer["groups"] for row in group["rows"]]


def test_the_queue_holds_what_has_no_mark_newest_or_most_worrying_first(client, edie, rng):
    fine, bad = (written(client, edie, rng, faults, first=i) for i, faults in enumerate(([None], [BELOW]), 1))
    later = written(client, edie, rng, [None], first=3)
    assert queue(client, edie) == [later["id"], bad["id"], fine["id"]]
    assert queue(client, edie, "worrying")[0] == bad["id"]
    listed = client.get(f"/api/rows?child_id={edie['id']}").json()
    assert {one["id"] for one in listed if one["all_secure"]} == {later["id"], fine["id"]}
    client.post(f"/api/rows/{bad['id']}/agree")
    assert queue(client, edie) == [later["id"], fine["id"]]


def test_the_queue_is_by_day_and_letter_and_says_what_to_look_at(client, edie, rng):
    written(client, edie, rng, [None, BELOW, BELOW])
    written(client, edie, rng, [None], letter="o", first=2)
    crossed = written(client, edie, rng, [TALL], letter="o", first=3)["attempts"][0]["id"]
    answer = client.get(f"/api/classes/{edie['class_id']}/queue", params={"order": "worrying"}).json()
    assert answer["more"] == 0
    assert [(group["letter"], len(group["rows"])) for group in answer["groups"]] == [("n", 1), ("o", 2)]
    (row,) = answer["groups"][0]["rows"]
    assert (row["says"], row["to_see"]) == ("begun at the bottom, twice", 1)
    fine, low, _ = row["attempts"]
    assert (fine["at"], fine["says"]) == (None, "")
    (x, y) = low["at"]
    assert min(low["strokes"][0]["x"]) - 1 < x < max(low["strokes"][0]["x"]) + 1
    assert abs(y - row["lines"]["base"]) < 3  # where it began: at the bottom
    assert "bottom" in low["says"]
    assert answer["groups"][1]["rows"][0]["attempts"][0]["id"] == crossed  # the worse one first


def test_of_a_long_queue_the_latest_rows_come_with_their_ink_and_the_rest_is_counted(
    client, edie, rng, monkeypatch
):
    monkeypatch.setattr(store, "_WAITING_MOST", 2)
    ids = [written(client, edie, rng, [None], first=i)["id"] for i in (1, 2, 3)]
    assert queue(client, edie) == [ids[2], ids[1]]
    assert client.get(f"/api/classes/{edie['class_id']}/queue").json()["more"] == 1


def test_agreeing_with_several_rows_is_a_step_to_undo_on_each(client, edie, rng):
    ids = [written(client, edie, rng, [None, BELOW], first=i)["id"] for i in (1, 2)]
    url = f"/api/classes/{edie['class_id']}"
    answer = client.post(f"{url}/queue/agree", json={"row_ids": ids}).json()
    assert [row["marked"] for row in answer] == [True, True]
    assert queue(client, edie) == []
    client.post(f"/api/rows/{ids[0]}/undo")
    assert queue(client, edie) == [ids[0]]
    assert client.post(f"{url}/queue/agree", json={"row_ids": [ids[1], 999]}).status_code == 404
    assert client.post("/api/classes/99/queue/agree", json={"row_ids": ids}).status_code == 404


def test_an_attempt_is_explained_move_by_move(client, edie, rng):
    row = written(client, edie, rng, [BELOW])
    (attempt,) = row["attempts"]
    answer = client.get(f"/api/rows/{row['id']}/attempts/{attempt['id']}/explained").json()
    assert [move["words"] for move in answer["moves"]]
    ink = np.column_stack([attempt["strokes"][0]["x"], attempt["strokes"][0]["y"]])
    for move in answer["moves"]:
        for run in move["runs"]:
            apart = np.hypot(*(np.array(run)[:, None] - ink[None]).T)
            assert apart.min(0).max() < 0.6
    np.testing.assert_allclose(answer["starts"][0], ink[0], atol=0.01)
    top = min(y for stroke in answer["model"] for _, y in stroke)
    assert top == pytest.approx(ink[:, 1].min(), abs=1.5)
    assert all(-180 <= arrow["heading_deg"] <= 180 for arrow in answer["arrows"])
    assert client.get(f"/api/rows/{row['id']}/attempts/999/explained").status_code == 404


def test_a_teacher_swaps_the_next_step_and_goes_back(client, edie, rng):
    row = written(client, edie, rng, [BELOW, TALL, TALL])
    codes = [step["code"] for step in row["next_steps"]]
    assert codes[0] == "start.bottom"
    assert "size.tall" in codes
    swapped = client.put(f"/api/rows/{row['id']}/next-step", json={"code": "size.tall"}).json()
    assert swapped["next_time"] == next(s["child"] for s in row["next_steps"] if s["code"] == "size.tall")
    back = client.put(f"/api/rows/{row['id']}/next-step", json={"code": None}).json()
    assert back["next_time"] == row["next_time"]


def test_a_row_as_a_whole_is_told_of(client, edie, rng):
    steady = ORDINARY_HAND.steadier(0.2)
    row = written(client, edie, rng, [("size.tall", 20.0), ("size.short", 20.0), None], hand=steady)
    assert {f["code"] for f in row["findings"]} <= {"size.uneven", "line.drift"}
    (uneven,) = [f for f in row["findings"] if f["code"] == "size.uneven"]
    assert uneven["value"] > 30


def test_the_checkers_best_is_one_that_was_written_alone(client, edie, rng):
    row = start(client, edie["id"])
    post(client, row, 1, strokes("n", rng), support="trace")
    post(client, row, 2, strokes("n", rng, fault="size.tall", size=40.0))
    post(client, row, 3, strokes("n", rng))
    seen = client.get(f"/api/rows/{row['id']}").json()
    assert seen["checkers_best"] == seen["attempts"][2]["id"]


def test_what_was_watched_counts_for_direction_only_and_can_be_taken_back(client, edie):
    url = f"/api/children/{edie['id']}"

    def watched(seen):
        return client.post("/api/watched", json={"child_id": edie["id"], "letter": "m", "seen": seen})

    note = watched("bottom").json()
    watched("fine")
    history = client.get(f"{url}/letters/m").json()
    assert [one["seen"] for one in history["watched"]] == ["fine", "bottom"]
    counts = {week["heading"]: (week["secure"], week["fix"]) for week in history["weeks"]}
    assert counts == {"direction": (1, 1), "shape": (0, 0), "size": (0, 0)}
    assert client.delete(f"/api/watched/{note['id']}").status_code == 204
    assert len(client.get(f"/api/classes/{edie['class_id']}/watched").json()) == 1
    assert client.delete(f"/api/watched/{note['id']}").status_code == 404
    assert watched("sleeping").status_code == 422


def test_a_childs_own_level_goes_before_the_classs(client, edie, rng):
    floating = strokes("n", np.random.default_rng(4), fault="position.floating", size=0.22)

    def verdict(key):
        row = start(client, edie["id"])
        return post(client, row, key, floating).json()["result"]["headings"]["size"]

    assert verdict(1) == "near"
    assert (
        client.patch(f"/api/children/{edie['id']}", json={"level": "starting"}).json()["level"] == "starting"
    )
    assert verdict(2) == "secure"
    client.patch(f"/api/children/{edie['id']}", json={"level": None})
    client.patch(f"/api/classes/{edie['class_id']}", json={"level": "starting"})
    assert verdict(3) == "secure"


def test_a_tolerance_is_proposed_with_its_numbers_and_holds_only_once_accepted(client, edie):
    for k in range(8):
        row = start(client, edie["id"])
        ink = strokes("n", np.random.default_rng(k), fault="position.floating", size=0.25)
        post(client, row, 700 + k, ink)
        attempt = client.get(f"/api/rows/{row['id']}").json()["attempts"][0]
        client.post(f"/api/rows/{row['id']}/edits", json={"attempt_ids": [attempt["id"]], "mark": "secure"})
    url = f"/api/classes/{edie['class_id']}"
    trust = client.get(f"{url}/trust").json()
    (floating,) = [one for one in trust["codes"] if one["code"] == "position.floating"]
    assert floating["agreed"] == 0
    proposal = floating["proposal"]
    assert proposal["ticked"] == proposal["looked_at"] >= 6
    assert 0.20 < proposal["tolerance"] <= 0.40
    assert proposal["said"] == f"{10 * proposal['tolerance']:.1f} mm"
    lowest, _, _, highest, unit = proposal["between"].split()
    assert (2.0 < float(lowest) <= float(highest) <= 10 * proposal["tolerance"], unit) == (True, "mm")
    assert floating["tolerance"] == 0.20
    taken = client.put(
        f"{url}/tolerances/position.floating", json={"tolerance": proposal["tolerance"]}
    ).json()
    assert taken["own"] == {"position.floating": proposal["tolerance"]}
    row = start(client, edie["id"])
    ink = strokes("n", np.random.default_rng(0), fault="position.floating", size=0.25)
    assert post(client, row, 799, ink).json()["result"]["headings"]["size"] == "secure"
    back = client.put(f"{url}/tolerances/position.floating", json={"tolerance": None}).json()
    assert back["own"] == {}
    for code, tolerance in (("position.floating", 3.0), ("start.bottom", 0.2)):
        assert client.put(f"{url}/tolerances/{code}", json={"tolerance": tolerance}).status_code == 409
    assert client.put(f"{url}/tolerances/no.such", json={"tolerance": 1}).status_code == 404


def test_a_recheck_shows_what_would_change_and_keeps_the_old_results(client, edie, rng):
    row = written(client, edie, rng, [None, BELOW])
    path = client.app.state.settings.database
    engine = open_engine(path)
    with sessions(engine)() as session:
        first, second = (a.id for a in store.get_row(session, row["id"]).attempts)
        old = store.attempts(session, [first])[0]
        store.add_result(old, "0", "growing", AttemptResult("fix", {"findings": []}))
        session.commit()
        session.expire_all()
        shown = recheck(session, keep=False, workers=1)
        assert (shown.attempts, shown.changed) == (2, 1)
        assert shown.verdicts == {("fix", "secure"): 1}
        assert store.attempts(session, [first])[0].result.checker == "0"
        recheck(session, keep=True, workers=2)
        again = store.attempts(session, [first, second])
        assert [one.result.verdict for one in again] == ["secure", "fix"]
        assert [r.checker for r in again[0].results][1] == "0"
        assert sum(r.current for r in again[0].results) == 1
    engine.dispose()
    said = CliRunner().invoke(app, ["recheck", "--data", str(path.parent), "--workers", "1"])
    assert said.exit_code == 0
    assert "2 attempts" in said.output
    assert "Nothing was changed" in said.output


def test_a_recheck_without_records_says_so(tmp_path):
    said = CliRunner().invoke(app, ["recheck", "--data", str(tmp_path / "none")])
    assert said.exit_code == 2
    assert "There are no records" in said.output
