"""Who did what, backups that are closed with a passphrase, and the backup of every day."""

from __future__ import annotations

import io
import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from urllib.parse import quote

import pyrage
import pytest

from firstloop.api.server.nightly import KEPT, Nightly
from firstloop.formats.sealed import SealedError, is_sealed, seal, unseal
from firstloop.services import erased, retention
from firstloop.store import audit, backup
from firstloop.store.audit import AuditEntry

WORDS = "lanterns under nine quiet bridges"


def says(client) -> list[str]:
    return [one["says"] for one in client.get("/api/records/audit").json()]


def test_who_opened_took_out_and_erased_a_child_is_told_without_its_name(client, edie, records):
    client.get(f"/api/children/{edie['id']}/story").raise_for_status()
    client.get(f"/api/children/{edie['id']}/export.zip").raise_for_status()
    told = says(client)
    assert told[:2] == [
        "The teacher took out the record · Edie W",
        "The teacher opened the record · Edie W",
    ]
    client.delete(f"/api/children/{edie['id']}").raise_for_status()
    told = says(client)
    assert told[0] == f"The teacher erased the record · a child that is erased (number {edie['id']})"
    assert not [one for one in told if "Edie W" in one]
    kept = "".join(file.read_text() for file in (records / "audit").glob("*"))
    assert "Edie" not in kept


def test_what_is_done_again_and_again_is_told_once_and_looking_on_not_at_all(client, edie):
    before = len(says(client))
    for _ in range(3):
        client.get(f"/api/children/{edie['id']}/story")
        client.get("/api/classes")
    assert len(says(client)) == before + 1
    now = client.app.state.clock
    client.app.state.clock = lambda: now() + timedelta(minutes=11)
    client.get(f"/api/children/{edie['id']}/story")
    assert len(says(client)) == before + 2


def test_what_was_refused_is_not_told_as_done(client, edie):
    before = says(client)
    assert client.delete("/api/children/99999").status_code == 404
    assert says(client) == before


def test_the_list_outlasts_a_restore_and_is_in_no_backup(client, edie):
    client.get(f"/api/children/{edie['id']}/story")
    saved = client.get("/api/records/backup.zip").content
    client.post("/api/records/restore", content=saved).raise_for_status()
    told = says(client)
    assert "The teacher changed the records as a whole" in told[0]
    assert "The teacher opened the record · Edie W" in told
    assert b"audit" not in saved


def test_a_line_that_was_cut_short_is_passed_over_and_old_months_go(tmp_path):
    at = datetime(2026, 11, 28, 9, tzinfo=UTC)
    for days in (500, 30, 0):
        audit.note(tmp_path, AuditEntry(at - timedelta(days=days), "teacher", "opened", "children", days))
    with (tmp_path / "audit" / "2026-11.jsonl").open("a") as file:
        file.write(json.dumps({"at": at.isoformat(), "who": "teacher"}) + '\n{"at": "2026-11-2')
    assert [one.child_id for one in audit.entries(tmp_path)] == [0, 30, 500]
    assert audit.forget_the_old(tmp_path, at) == 1
    assert [one.child_id for one in audit.entries(tmp_path)] == [0, 30]


def test_a_closed_backup_opens_with_its_passphrase_only_and_is_a_file_of_the_open_format(client, edie):
    made = client.post("/api/records/backup.age", json={"passphrase": WORDS})
    assert made.headers["content-disposition"].endswith('.age"')
    assert b"Edie" not in made.content
    assert pyrage.passphrase.decrypt(made.content, WORDS)[:2] == b"PK", "any age tool opens it"
    for said, what in (("", "closed with a passphrase"), ("another one", "does not open")):
        refused = client.post(
            "/api/records/restore", content=made.content, headers={"Backup-Passphrase": quote(said)}
        )
        assert (refused.status_code, what in refused.json()["detail"]) == (400, True)
    client.delete(f"/api/children/{edie['id']}").raise_for_status()
    told = {"Backup-Passphrase": quote(WORDS)}
    looked = client.post("/api/records/restore/check", content=made.content, headers=told)
    assert looked.json()["children"] == 1
    client.post("/api/records/restore", content=made.content, headers=told).raise_for_status()
    assert client.get(f"/api/children/{edie['id']}").json()["child"]["first_name"] == "Edie"


def test_a_backup_is_not_closed_with_what_is_guessed_easily(client):
    refused = client.post("/api/records/backup.age", json={"passphrase": "password1"})
    assert refused.status_code == 400
    assert "guessed too easily" in refused.json()["detail"]


def test_a_closed_file_that_was_changed_does_not_open():
    closed, opened = io.BytesIO(), io.BytesIO()
    seal(io.BytesIO(b"all the letters"), closed, WORDS)
    spoilt = bytearray(closed.getvalue())
    spoilt[-1] ^= 1
    assert is_sealed(io.BytesIO(bytes(spoilt)))
    with pytest.raises(SealedError):
        unseal(io.BytesIO(bytes(spoilt)), opened, WORDS)
    assert opened.getvalue() == b""


def nights(client, folder: Path) -> tuple[Nightly, dict]:
    state, time = client.app.state, {"at": datetime(2026, 11, 20, 9, tzinfo=UTC)}
    return Nightly(state.sessions, state.settings.database, folder, lambda: time["at"]), time


def test_every_day_has_one_backup_and_the_last_seven_stay(client, edie, tmp_path):
    folder = tmp_path / "nightly"
    nightly, time = nights(client, folder)
    for _ in range(KEPT + 2):
        made = nightly.look()
        assert made is not None
        assert backup.check(made, tmp_path).children == 1
        time["at"] += timedelta(hours=3)
        assert nightly.look() is None, "once a day"
        time["at"] += timedelta(hours=21)
    assert [file.name[-6:-4] for file in sorted(folder.glob("*"))] == [f"{day}" for day in range(22, 29)]


def test_a_backup_that_cannot_be_written_leaves_no_half_of_one(client, edie, tmp_path):
    folder = tmp_path / "full"
    nightly, _ = nights(client, folder)
    folder.mkdir()
    broken = folder / "first-loop-2026-11-20.zip.making"
    broken.mkdir()  # what cannot be written
    with pytest.raises(OSError, match="making"):
        nightly.look()
    assert list(folder.glob("*.zip")) == []
    broken.rmdir()
    assert nightly.look() is not None


def test_a_child_that_is_let_go_of_leaves_the_backups_made_here_and_nobody_else_does(client, edie, tmp_path):
    state = client.app.state
    other = {"first_name": "Gus", "initial": "L", "hand": "right"}
    client.post(f"/api/classes/{edie['class_id']}/children", json=other).raise_for_status()
    row = client.post("/api/rows", json={"child_id": edie["id"], "letter": "n"}).json()
    ink = client.get(f"/api/rows/{row['id']}/simulated-pen").json()
    body = {"key": "a-letter-of-edie", "support": "alone", "strokes": ink}
    client.post(f"/api/rows/{row['id']}/attempts", json=body).raise_for_status()
    file = Nightly(state.sessions, state.settings.database, state.settings.nightly, state.clock).look()
    with backup.checked(file, tmp_path) as found:
        assert b"EdieWright" in found.records.read_bytes()
    erased_id = client.delete(f"/api/children/{edie['id']}").json()["id"]
    with state.sessions() as session:
        assert erased.clear_backups(session, state.settings.data_dir) == 0, "it can be brought back as yet"
    client.delete(f"/api/erased/{erased_id}").raise_for_status()
    with state.sessions() as session:
        assert erased.clear_backups(session, state.settings.data_dir) == 1
        assert erased.clear_backups(session, state.settings.data_dir) == 0
    with backup.checked(file, tmp_path) as found:
        assert (found.contents.children, found.contents.attempts) == (1, 0)
        whole = found.records.read_bytes()
        assert b"EdieWright" not in whole, "first name, initial and hand as the file has them"
        assert b"a-letter-of-edie" not in whole


def test_a_child_that_was_brought_back_stays_in_the_backups(client, edie, tmp_path):
    state = client.app.state
    file = Nightly(state.sessions, state.settings.database, state.settings.nightly, state.clock).look()
    erased_id = client.delete(f"/api/children/{edie['id']}").json()["id"]
    client.post(f"/api/erased/{erased_id}/bring-back").raise_for_status()
    with state.sessions() as session:
        assert erased.clear_backups(session, state.settings.data_dir) == 0
    assert backup.check(file, tmp_path).children == 1


def put_away(client, class_id: int) -> None:
    client.patch(f"/api/classes/{class_id}", json={"archived": True}).raise_for_status()


def test_a_class_that_is_put_away_is_kept_for_ever_until_a_school_says_otherwise(client, edie):
    put_away(client, edie["class_id"])
    assert client.get("/api/records/kept-after-a-year").json() == {"days": None, "leaving": []}
    with client.app.state.sessions() as session:
        assert retention.let_go(session, datetime.now(UTC) + timedelta(days=9999)) == 0


def test_whom_it_concerns_is_told_two_weeks_before_and_then_let_go_of_for_good(client, edie, tmp_path):
    state, now = client.app.state, datetime.now(UTC)
    file = Nightly(state.sessions, state.settings.database, state.settings.nightly, state.clock).look()
    put_away(client, edie["class_id"])
    state.clock = lambda: now + timedelta(days=400)  # long after it was put away
    told = client.put("/api/records/kept-after-a-year", json={"days": 365}).json()
    on = (now + timedelta(days=414)).date()
    assert [(one["children"], one["on"]) for one in told["leaving"]] == [(1, on.isoformat())]
    with state.sessions() as session:
        assert retention.let_go(session, now + timedelta(days=413)) == 0
        assert retention.let_go(session, now + timedelta(days=415)) == 1
        assert erased.clear_backups(session, state.settings.data_dir) == 1
    assert client.get(f"/api/children/{edie['id']}").status_code == 404
    assert client.get("/api/erased").json() == []
    assert backup.check(file, tmp_path).children == 0
    assert client.get("/api/records/kept-after-a-year").json()["leaving"] == []


def test_a_class_brought_back_or_a_rule_taken_back_keeps_everybody(client, edie):
    now = datetime.now(UTC)
    put_away(client, edie["class_id"])
    client.put("/api/records/kept-after-a-year", json={"days": 30})
    client.patch(f"/api/classes/{edie['class_id']}", json={"archived": False})
    with client.app.state.sessions() as session:
        assert retention.let_go(session, now + timedelta(days=999)) == 0
    put_away(client, edie["class_id"])
    client.put("/api/records/kept-after-a-year", json={"days": None})
    with client.app.state.sessions() as session:
        assert retention.let_go(session, now + timedelta(days=999)) == 0
    assert client.get(f"/api/children/{edie['id']}").status_code == 200
