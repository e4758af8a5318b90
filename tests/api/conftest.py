"""Who is in the records when an API test begins."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from tests.api.test_journeys import school
from tests.conftest import HERE


@pytest.fixture
def edie(client: TestClient) -> dict:
    return school(client)["child"]


@pytest.fixture
def elsewhere(empty: Path, tmp_path: Path) -> Iterator[TestClient]:
    """Another First Loop with one empty class."""
    (tmp_path / "elsewhere").mkdir()
    shutil.copy(empty, Settings(tmp_path / "elsewhere").database)
    with TestClient(create_app(Settings(tmp_path / "elsewhere"), web_dir=None), base_url=HERE) as client:
        client.post("/api/classes", json={"name": "Sanderling class"})
        yield client
