"""A folder that a scanner writes to, any other picture of writing, and what means harm."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.services import incoming
from tests.api.pages.given import agree, bring, pile, read_all, rows, wait_for, words
from tests.conftest import HERE
from tests.core.scanning.paper import DPI
from tests.formats.test_pictures import HOSTILE
from tests.returned import png


def test_what_a_scanner_has_finished_is_taken_out_of_its_folder(folder, printed, session_of, tmp_path):
    scanner = tmp_path / "scanner"
    scanner.mkdir()
    (scanner / "page.png").write_bytes(printed.picture(1)[:5000])
    (scanner / ".hidden.png").write_bytes(b"x")
    (scanner / "coming.part").write_bytes(b"x")
    (scanner / "empty.png").touch()
    seen: dict = {}

    def look() -> int:
        return incoming.fetch(session_of, scanner, folder, datetime.now(UTC), seen)

    assert look() == 0  # it may still be written to
    (scanner / "page.png").write_bytes(printed.picture(1))
    assert look() == 0
    assert look() == 1
    assert {one.name for one in scanner.iterdir()} == {".hidden.png", "coming.part", "empty.png"}
    (scanner / "once more.png").write_bytes(printed.picture(1))
    assert look() == 0
    assert look() == 1  # known by its content: it goes, and is not there twice
    assert len(list((folder / "incoming").iterdir())) == 1


@pytest.fixture
def session_of(folder: Path):
    with create_app(Settings(folder), web_dir=None).state.sessions() as session:
        yield session


def test_pages_from_the_scanners_folder_come_to_the_class_of_their_sheet(folder, printed, tmp_path):
    scanner = tmp_path / "scanner"
    scanner.mkdir()
    (scanner / "page.png").write_bytes(printed.picture(3))
    settings = Settings(folder, pages_from=scanner)
    with TestClient(create_app(settings, web_dir=None), base_url=HERE) as client:
        wait_for(lambda: pile(client, printed)["pages"])
        (page,) = pile(client, printed)["pages"]
    assert page["child"]["id"] == printed.children[2]
    assert not list(scanner.iterdir())


def test_an_exercise_book_is_read_by_the_lines_and_words_that_a_person_gives(client, printed):
    from firstloop.core.simulate.camera import Device, take
    from firstloop.core.simulate.notebook import exercise_book

    book, _ = exercise_book(("mud and sand", "n n n n"), np.random.default_rng(5), DPI)
    upright = np.random.default_rng(3)
    bring(client, printed, png(take(Device.PHONE, book, DPI, upright).grey), "book.png")
    (page,) = read_all(client, printed)["pages"]
    assert page["status"] == "not-a-sheet"
    seen = client.post(f"/api/pages/{page['id']}/proposal", json={}).json()
    assert len(seen["bands"]) == 2
    lines = [
        {**band, "text": text} for band, text in zip(seen["bands"], ("mud  and sand", "n n n n"), strict=True)
    ]
    asked = {
        "child_id": printed.children[0],
        "corners_px": seen["corners_px"],
        "lines": lines,
        "mid_to_base_mm": 6.0,
    }
    too_large = client.put(f"/api/pages/{page['id']}/writing", json={**asked, "mid_to_base_mm": 60.0})
    assert too_large.status_code == 409
    answer = client.put(f"/api/pages/{page['id']}/writing", json=asked)
    assert answer.status_code == 200, answer.text
    page = answer.json()
    letters = [one for one in page["entries"] if one["expected"] == "n"]
    assert [one["verdict"] for one in letters] == ["secure"] * 4
    heights = [one["letter"]["measures"]["height_mm"] for one in letters]
    assert np.allclose(heights, 6.0, atol=1.0)
    assert agree(client, page["id"]).status_code == 204
    (row,) = rows(client, printed.children[0])
    assert len(row["attempts"]) == 4
    assert [one["text"] for one in words(client, printed.children[0])] == ["mud and sand"]


def test_nothing_hostile_is_kept_or_left_behind(client, printed, folder):
    for number, (name, data) in enumerate(HOSTILE.items()):
        answer = bring(client, printed, data, f"{number}.png")
        assert answer.status_code == (201 if data else 409), name
    found = read_all(client, printed)
    assert found["pages"] == []
    assert len(found["files"]) == len(HOSTILE) - 1
    assert all(one["problem"] for one in found["files"])
    wait_for(lambda: not list((folder / "incoming").iterdir()))
