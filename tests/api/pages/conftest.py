"""A class with a printed sheet whose pages came back, as the tests of pages begin with it."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.core.scanning.find import FoundPage
from firstloop.core.scanning.read import ReadPage, Terms, read_page
from firstloop.formats.sheet_json import write_wish
from firstloop.services import page_reading
from tests.api.pages.given import CHILDREN, Printed
from tests.conftest import HERE
from tests.returned import WISH, written


@pytest.fixture(scope="session", autouse=True)
def read_once() -> Iterator[None]:
    """The same few pictures come in again and again: how one is read is worked out the first time."""
    known: dict[tuple[object, ...], ReadPage] = {}

    def read(grey: np.ndarray, found: FoundPage, script: str, terms: Terms) -> ReadPage:
        key = grey.tobytes(), found.to_px.tobytes(), repr((found.page, script, terms))
        if key not in known:
            known[key] = read_page(grey, found, script, terms)
        return known[key]

    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(page_reading, "read_page", read)
        yield


@pytest.fixture(scope="session")
def printed(empty: Path, tmp_path_factory: pytest.TempPathFactory) -> Printed:
    folder = tmp_path_factory.mktemp("printed")
    shutil.copy(empty, Settings(folder).database)
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        made = client.post("/api/classes", json={"name": "Turnstone class"}).json()["id"]
        children = [
            client.post(f"/api/classes/{made}/children", json={"first_name": one, "initial": "T"}).json()[
                "id"
            ]
            for one in CHILDREN
        ]
        wish = write_wish(WISH)
        copies = [{"child_id": one, "wish": wish} for one in (*children, None)]
        answer = client.post(f"/api/classes/{made}/printed", json={"name": "Tunnels", "copies": copies})
        code = answer.json()["code"]
        pdf = client.get(f"/api/printed/{code}/sheet.pdf").content
        pages = [
            written(pdf, i, client.get(f"/api/printed/{code}/{i + 1}/layout.json").json())
            for i in range(len(copies))
        ]
    return Printed(
        Settings(folder).database,
        made,
        tuple(children),
        code,
        tuple(one for one, _ in pages),
        tuple(pages[0][1]),
    )


@pytest.fixture
def folder(printed: Printed, tmp_path: Path) -> Path:
    shutil.copy(printed.database, Settings(tmp_path).database)
    return tmp_path


@pytest.fixture
def client(folder: Path) -> Iterator[TestClient]:
    with TestClient(create_app(Settings(folder), web_dir=None), base_url=HERE) as client:
        yield client
