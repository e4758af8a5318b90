from __future__ import annotations

import gc
import subprocess
import sys
import weakref
import zipfile
from datetime import date
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from firstloop.api.app import WEB_DIR, create_app
from firstloop.api.settings import DATA_ENV, Settings, default_data_dir
from firstloop.demo import school
from firstloop.demo.build import ensure_demo
from firstloop.demo.seed import plan
from tests.api.test_doors import described
from tests.conftest import HERE

ROOT = Path(__file__).parents[2]


def test_paths_that_are_no_files_are_answered_by_the_page_and_unknown_calls_are_not(tmp_path):
    web = tmp_path / "web"
    (web / "assets").mkdir(parents=True)
    (web / "index.html").write_text("<title>First Loop</title>")
    with TestClient(create_app(Settings(tmp_path), web_dir=web), base_url=HERE) as client:
        assert "First Loop" in client.get("/letters/n").text
        assert client.get("/api/nowhere").status_code == 404
        assert client.get("/api/nowhere").json()["detail"] == "There is no /api/nowhere here."


def test_without_the_screens_the_answer_says_how_to_build_them(tmp_path):
    with TestClient(create_app(Settings(tmp_path), web_dir=tmp_path), base_url=HERE) as client:
        assert client.get("/").status_code == 503
        assert "make build" in client.get("/").json()["detail"]


def test_nothing_keeps_an_application_that_has_ended(records):
    """A few hundred of them, kept by what the framework remembers of their doors, made every test slow."""
    app = create_app(Settings(records), web_dir=None)
    with TestClient(app, base_url=HERE) as client:
        assert client.get("/docs").status_code == 200
    ended = weakref.ref(app)
    del app, client
    gc.collect()
    assert ended() is None


def test_records_are_kept_where_the_environment_says(monkeypatch, tmp_path):
    monkeypatch.setenv(DATA_ENV, str(tmp_path / "here"))
    assert default_data_dir() == tmp_path / "here"
    monkeypatch.delenv(DATA_ENV)
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert default_data_dir() == tmp_path / "first-loop"


def test_the_front_ends_types_are_those_of_the_api():
    text = (ROOT / "web/src/api/schema.d.ts").read_text()
    for name in described()["components"]["schemas"]:
        assert f"        {name}: " in text or f'        "{name}": ' in text, name


def test_the_demo_plan_is_the_term_of_the_demo_school():
    rows = list(plan(date(2026, 11, 24)))
    assert {row.child for row in rows} == set(school.CHILDREN)
    assert {row.week for row in rows} == set(range(1, school.WEEKS + 1))
    assert set("".join(row.letter for row in rows if row.is_new)) == set("abcdefghijklmnopqrstuvwxyz")
    assert all(row.at.date() <= date(2026, 11, 24) for row in rows)
    assert not [row for row in rows if row.child == "Nico V" and row.week in (8, 9)]
    assert len({row.seed for row in rows}) == len(rows)


def test_the_first_week_of_the_demo_is_made_once_and_whole(tmp_path):
    at = Settings(tmp_path / "demo", simulated_pen=True)
    made = ensure_demo(at, date(2026, 11, 24), weeks=1)
    assert made > len(school.CHILDREN) * 6
    assert ensure_demo(at, date(2026, 11, 24), weeks=1) == 0
    with TestClient(create_app(at, web_dir=None), base_url=HERE) as client:
        one, two = client.get("/api/classes").json()
        assert one["name"] == school.CLASS_NAME
        assert [child["hand"] for child in one["children"] if child["name"] == "Cleo M"] == ["left"]
        rows = client.get("/api/rows", params={"class_id": one["id"], "limit": 200}).json()
        assert len(rows) == 2 * len(school.CHILDREN)  # two lessons, nothing to recall yet
        assert client.get(f"/api/rows/{rows[0]['id']}").json()["finished"]
        assert (two["name"], two["style"]["script"]) == (school.JOINED_NAME, "cursive")
        joined = client.get("/api/rows", params={"class_id": two["id"]}).json()
        assert {row["letter"] for row in joined} == {school.JOINED_PLAN[0]}


def test_a_demo_that_broke_off_is_made_again(tmp_path):
    at = Settings(tmp_path / "demo")
    (tmp_path / "demo.making").mkdir()
    (tmp_path / "demo.making" / "first-loop.sqlite3").write_text("half")
    assert ensure_demo(at, date(2026, 11, 24), weeks=1) > 0


@pytest.mark.skipif(not (WEB_DIR / "index.html").exists(), reason="the screens are not built")
def test_the_wheel_carries_the_screens_and_the_migrations(tmp_path):
    subprocess.run(
        [sys.executable, "-m", "build", "--wheel", "--no-isolation", "--outdir", str(tmp_path), str(ROOT)],
        check=True,
        capture_output=True,
    )
    (wheel,) = tmp_path.glob("*.whl")
    names = zipfile.ZipFile(wheel).namelist()
    assert "firstloop/web/index.html" in names
    assert any(name.startswith("firstloop/web/assets/") and name.endswith(".woff2") for name in names)
    assert "firstloop/store/migrations/versions/0001_first_tables.py" in names
