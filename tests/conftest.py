"""What every test may use: hands that write letters, and an application on a database of its own."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from sqlalchemy.orm import Session

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.store.database import open_engine, sessions, upgrade

settings.register_profile(
    "house",
    deadline=None,
    max_examples=40,
    derandomize=True,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
)
settings.load_profile("house")


@pytest.fixture
def rng() -> np.random.Generator:
    return np.random.default_rng(7)


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    """The API alone, on an empty database."""
    with TestClient(create_app(Settings(tmp_path, simulated_pen=True), web_dir=None)) as client:
        yield client


@pytest.fixture
def session(tmp_path: Path) -> Iterator[Session]:
    """A session on an empty, up-to-date database."""
    engine = open_engine(tmp_path / "records.sqlite3")
    upgrade(engine)
    with sessions(engine)() as session:
        yield session
    engine.dispose()
