"""What every test may use: hands that write letters, and an application on a database of its own."""

from __future__ import annotations

import gc
import shutil
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import numpy as np
import pytest
from argon2 import PasswordHasher
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from sqlalchemy.orm import Session

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.services import door
from firstloop.store.database import open_engine, sessions, upgrade

HERE = "http://localhost"

settings.register_profile(
    "house",
    deadline=None,
    max_examples=30,
    derandomize=True,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
)
settings.load_profile("house")


def pytest_configure() -> None:
    """Rubbish is looked for seldom: with all that tests load, that took a quarter of the time and more."""
    gc.set_threshold(50_000, 10, 10)


def pytest_collection_finish() -> None:
    """What is loaded by now stays, and is not looked through again."""
    gc.collect()
    gc.freeze()


@pytest.fixture(scope="session", autouse=True)
def quick_to_hash() -> Iterator[None]:
    """Passphrases are kept by the same algorithm, without the time and memory that make guessing dear."""
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(
            door, "PasswordHasher", partial(PasswordHasher, time_cost=1, memory_cost=8, parallelism=1)
        )
        yield


@pytest.fixture
def rng() -> np.random.Generator:
    return np.random.default_rng(7)


@pytest.fixture(scope="session")
def empty(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """An empty, up-to-date database, made once and copied for every test."""
    database = Settings(tmp_path_factory.mktemp("empty")).database
    engine = open_engine(database)
    upgrade(engine)
    engine.dispose()
    return database


@pytest.fixture
def records(empty: Path, tmp_path: Path) -> Path:
    """The folder of the records that `client` starts with: none."""
    shutil.copy(empty, Settings(tmp_path).database)
    return tmp_path


@pytest.fixture
def client(records: Path) -> Iterator[TestClient]:
    """The API alone, on the records of the test."""
    with TestClient(create_app(Settings(records, simulated_pen=True), web_dir=None), base_url=HERE) as client:
        yield client


@pytest.fixture
def session(records: Path) -> Iterator[Session]:
    """A session on the records of the test."""
    engine = open_engine(Settings(records).database)
    with sessions(engine)() as session:
        yield session
    engine.dispose()
