"""Kills, full disks, old pictures, erased children: nothing is lost and nothing is left behind."""

from __future__ import annotations

import errno
import io
import os
import threading
import time
from datetime import UTC, datetime

import numpy as np
from fastapi.testclient import TestClient
from PIL import Image

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.formats.pictures import read_picture
from firstloop.services import incoming, page_reading
from tests.api.pages.given import (
    PATIENCE_S,
    agree,
    bring,
    brought,
    decide,
    page_of,
    pile,
    read_all,
    rows,
    take_out,
    wait_for,
    words,
)
from tests.conftest import HERE
from tests.returned import png


def test_reading_stops_and_goes_on(client, printed, monkeypatch):
    begun: list[object] = []
    may_go_on, read_in = threading.Event(), page_reading.read_in

    def when_let(*what):
        begun.append(what)
        assert may_go_on.wait(PATIENCE_S)
        return read_in(*what)

    monkeypatch.setattr(page_reading, "read_in", when_let)
    for number in (1, 2):
        bring(client, printed, printed.picture(number))
    wait_for(lambda: begun)
    client.put(f"/api/classes/{printed.class_id}/pages/stopped", json={"stopped": True})
    may_go_on.set()
    wait_for(lambda: pile(client, printed)["pages"])  # the one that was being read
    time.sleep(0.5)
    assert len(begun) == 1
    client.put(f"/api/classes/{printed.class_id}/pages/stopped", json={"stopped": False})
    assert len(read_all(client, printed)["pages"]) == 2


def test_what_a_kill_left_unread_is_read_after_the_next_start(folder, printed):
    application = create_app(Settings(folder), web_dir=None)
    with application.state.sessions() as session, incoming.coming_in(folder) as file:  # never started: killed
        file.write(printed.picture(1))
        incoming.bring_in(session, printed.class_id, "scan.png", file, folder, datetime.now(UTC))
    (folder / "incoming" / "0123abc.part").write_bytes(b"half a file")
    (folder / "incoming" / "4711").write_bytes(b"of records that were put back")
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        (page,) = read_all(client, printed)["pages"]
        assert page["status"] == "read"
        wait_for(lambda: not list((folder / "incoming").iterdir()))


def test_a_file_that_is_gone_is_said(folder, printed):
    application = create_app(Settings(folder), web_dir=None)
    with application.state.sessions() as session, incoming.coming_in(folder) as file:
        file.write(printed.picture(1))
        made = incoming.bring_in(session, printed.class_id, "scan.png", file, folder, datetime.now(UTC))
    incoming.let_go(folder, made.id)
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        (file,) = read_all(client, printed)["files"]
        assert file["problem"] == incoming.GONE


def test_a_full_disk_takes_nothing_in_and_leaves_nothing(client, printed, folder, monkeypatch):
    def full(_descriptor: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    answer = bring(client, printed, printed.picture(1))
    assert answer.status_code == 503
    assert "full" in answer.json()["detail"]
    monkeypatch.undo()
    assert list((folder / "incoming").iterdir()) == []
    assert brought(client, printed, 1)[0]["status"] == "read"


def test_nothing_but_pixels_is_kept_of_a_picture(client, printed, folder):
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x010F] = "Invented Cameras"
    exif.get_ifd(0x8825)[2] = (50.0, 30.0, 0.0)
    exif[0x0112] = 3  # upside down
    upside_down = Image.open(io.BytesIO(printed.picture(1))).rotate(180)
    upside_down.save(out, "JPEG", exif=exif, quality=92)
    bring(client, printed, out.getvalue(), "photo.jpg")
    (page,) = read_all(client, printed)["pages"]
    kept = client.get(f"/api/pictures/{page['picture_id']}.jpg").content
    assert not Image.open(io.BytesIO(kept)).getexif()
    assert b"Invented Cameras" not in Settings(folder).database.read_bytes()
    assert abs(page_of(client, page["id"])["entries"][0]["box"][0]) < 210
    assert page["status"] == "read"
    assert list((folder / "incoming").iterdir()) == []


def test_pictures_go_when_they_are_old_and_what_was_decided_stays(client, printed):
    first, second, third = brought(client, printed, 1, 2, 3)
    agree(client, first["id"])
    client.delete(f"/api/pages/{second['id']}")
    assert client.put("/api/records/pictures", json={"days": 30}).json() == {"days": 30}
    assert client.get(f"/api/pictures/{first['picture_id']}.jpg").status_code == 200
    client.put("/api/records/pictures", json={"days": 0})
    assert client.get(f"/api/pictures/{first['picture_id']}.jpg").status_code == 409
    assert client.get(f"/api/pictures/{third['picture_id']}.jpg").status_code == 200  # nobody decided yet
    assert client.get(f"/api/pages/{first['id']}/straight.jpg").status_code == 200
    assert client.post(f"/api/pages/{second['id']}/back").status_code == 404
    assert len(rows(client, printed.children[0])) == 1


def test_a_page_thrown_away_comes_back(client, printed):
    (page,) = brought(client, printed, 1)
    client.delete(f"/api/pages/{page['id']}")
    assert pile(client, printed)["pages"] == []
    assert agree(client, page["id"]).status_code == 409
    assert client.post(f"/api/pages/{page['id']}/back").json()["status"] == "read"
    assert agree(client, page["id"]).status_code == 204


def test_erasing_a_child_leaves_no_picture_and_bringing_it_back_brings_the_page(client, printed, folder):
    both = np.hstack([read_picture(printed.picture(1), 1), read_picture(printed.picture(2), 1)])
    bring(client, printed, png(both), "both.png")
    first, second = sorted(read_all(client, printed)["pages"], key=lambda page: page["child"]["id"])
    agree(client, first["id"], second["id"])
    erased = client.delete(f"/api/children/{printed.children[0]}").json()
    assert client.get(f"/api/pictures/{first['picture_id']}.jpg").status_code == 409
    assert client.get(f"/api/pages/{first['id']}/straight.jpg").status_code == 404
    assert client.get(f"/api/pages/{second['id']}/straight.jpg").status_code == 200  # the other child's own
    back = client.post(f"/api/erased/{erased['id']}/bring-back").json()
    (row,) = rows(client, back["id"])
    paper = row["attempts"][0]["paper"]
    assert client.get(f"/api/pages/{paper['page_id']}/straight.jpg").status_code == 200
    assert take_out(client, paper["page_id"]).status_code == 200
    assert rows(client, back["id"]) == []


def test_pages_go_along_with_their_child(client, printed, elsewhere):
    (page,) = brought(client, printed, 1)
    decide(client, page["id"], printed.keys[4], found="crossed-out")
    agree(client, page["id"])
    file = client.get(f"/api/children/{printed.children[0]}/export.zip").content
    there = elsewhere.get("/api/classes").json()[0]["id"]
    answer = elsewhere.post(f"/api/classes/{there}/children/import", content=file)
    assert answer.status_code == 201, answer.text
    child = answer.json()["id"]
    (row,) = rows(elsewhere, child)
    (before,) = rows(client, printed.children[0])
    assert [one["verdict"] for one in row["attempts"]] == [one["verdict"] for one in before["attempts"]]
    paper = row["attempts"][0]["paper"]
    original = client.get(f"/api/pages/{page['id']}/straight.jpg").content
    assert elsewhere.get(f"/api/pages/{paper['page_id']}/straight.jpg").content == original
    assert words(elsewhere, child)[0]["paper"]["page_id"] == paper["page_id"]


def test_a_backup_holds_the_pages(client, printed):
    (page,) = brought(client, printed, 1)
    backup = client.get("/api/records/backup.zip").content
    agree(client, page["id"])
    assert client.post("/api/records/restore", content=backup).status_code == 200
    assert rows(client, printed.children[0]) == []
    assert client.get(f"/api/pictures/{page['picture_id']}.jpg").status_code == 200
    assert agree(client, page["id"]).status_code == 204
