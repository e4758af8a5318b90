"""A class with a printed sheet whose pages came back, as the tests of pages begin with it."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.formats.sheet_json import write_wish
from tests.api.pages.given import CHILDREN, Printed
from tests.conftest import HERE
from tests.returned import WISH, written


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
