"""A class of 30 over three years: how soon its map, a story and today open (``make bench``).

300,000 attempts take ten minutes and 3.5 GB to make; ``FIRST_LOOP_BENCH_ATTEMPTS`` says how many.
"""

from __future__ import annotations

import os
from datetime import date
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from benchmarks.three_years import three_years
from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.store.database import open_engine, sessions, upgrade

ATTEMPTS = int(os.environ.get("FIRST_LOOP_BENCH_ATTEMPTS", "30000"))


@pytest.fixture(scope="module")
def school(tmp_path_factory: pytest.TempPathFactory):
    """An application on such records."""
    folder: Path = tmp_path_factory.mktemp("three-years")
    engine = open_engine(Settings(folder).database)
    upgrade(engine)
    with sessions(engine)() as session:
        three_years(session, ATTEMPTS)
    engine.dispose()
    with TestClient(create_app(Settings(folder), web_dir=None)) as client:
        yield client


@pytest.mark.parametrize(
    "path",
    [
        "/api/classes/1/map",
        f"/api/classes/1/map?aspect=size&on={date(2025, 1, 15)}",
        "/api/children/7/story",
        "/api/children/7/written",
        "/api/classes/1/today",
    ],
)
def test_opening(benchmark, school: TestClient, path: str):
    benchmark.extra_info["attempts"] = ATTEMPTS
    benchmark.pedantic(lambda: school.get(path).raise_for_status(), rounds=9, warmup_rounds=1)
