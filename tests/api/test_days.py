"""Days are the school's: in four places of the world, over midnight and both changes of the clock."""

from __future__ import annotations

import csv
import io
import zipfile
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo, available_timezones

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import select

from firstloop.services.evidence import work_out_all
from firstloop.store import school as store
from firstloop.store.days import days as evidence
from firstloop.store.school import SchoolTime, machine_zone
from firstloop.store.tables import LetterDay
from tests.api.test_journeys import post, start, strokes

ZONES = ["Australia/Sydney", "America/New_York", "Europe/London", "Asia/Kathmandu"]


def at(zone: str, text: str) -> datetime:
    """A moment by the clock of a zone."""
    return datetime.fromisoformat(text).replace(tzinfo=ZoneInfo(zone)).astimezone(UTC)


@pytest.fixture
def clock(client):
    """Sets the time for the application."""

    def set_to(moment: datetime) -> None:
        client.app.state.clock = lambda: moment

    return set_to


def move(client, zone: str) -> None:
    assert client.put("/api/records/time-zone", json={"name": zone}).json()["name"] == zone


def write(client, child, rng, key: int, letter: str = "n") -> dict:
    row = start(client, child["id"], letter)
    assert post(client, row, key, strokes(letter, rng)).json()["verdict"] == "secure"
    client.post(f"/api/rows/{row['id']}/finish").raise_for_status()
    return row


@pytest.mark.parametrize("zone", ZONES)
def test_two_rows_of_one_school_day_are_one_day_and_two_over_midnight_are_two(client, edie, rng, clock, zone):
    move(client, zone)
    for key, text in enumerate(["2026-05-12T08:50", "2026-05-12T14:50"]):
        clock(at(zone, text))
        write(client, edie, rng, key)
    on = client.get("/api/classes/1/map").json()
    assert on["dates"] == ["2026-05-12"]
    assert on["on"] == "2026-05-12"
    (cell,) = on["children"][0]["cells"]
    assert cell["state"] != "secure"  # which takes two days
    clock(at(zone, "2026-05-13T00:05"))
    assert client.get("/api/classes/1/today").json()["on"] == "2026-05-13"
    assert client.get("/api/about").json()["today"] == "2026-05-13"
    write(client, edie, rng, 9)
    assert client.get("/api/classes/1/map").json()["dates"] == ["2026-05-12", "2026-05-13"]


@pytest.mark.parametrize(
    ("zone", "change"),
    [
        ("Europe/London", "2026-03-29"), ("Europe/London", "2026-10-25"),
        ("America/New_York", "2026-03-08"), ("America/New_York", "2026-11-01"),
        ("Australia/Sydney", "2026-10-04"), ("Australia/Sydney", "2026-04-05"),
    ],
)  # fmt: skip
def test_on_a_day_of_23_or_25_hours_every_hour_belongs_to_it(client, edie, rng, clock, zone, change):
    move(client, zone)
    day = date.fromisoformat(change)
    begin, end = SchoolTime(ZoneInfo(zone)).bounds(day)
    begin, end = begin.astimezone(UTC), end.astimezone(UTC)
    assert (end - begin).total_seconds() / 3600 in (23, 25)
    for key, moment in enumerate([begin, end - timedelta(minutes=1), end]):
        clock(moment)
        write(client, edie, rng, key)
    assert client.get("/api/classes/1/map").json()["dates"] == [change, str(day + timedelta(days=1))]
    with client.app.state.sessions() as session:
        assert [one.written for one in session.scalars(select(LetterDay).order_by(LetterDay.day))] == [2, 1]


def test_evidence_is_worked_out_anew_when_the_school_moves_and_is_what_it_would_have_been(
    client, edie, rng, clock
):
    move(client, "Europe/London")
    for key, text in enumerate(["2026-05-12T23:30", "2026-05-13T00:30", "2026-05-13T12:00"]):
        clock(at("Europe/London", text))
        write(client, edie, rng, key)
    clock(at("Europe/London", "2026-05-12T23:45"))
    client.post("/api/watched", json={"child_id": edie["id"], "letter": "n", "seen": "fine"})

    def kept() -> list:
        with client.app.state.sessions() as session:
            work_out_all(session, edie["id"])
            return evidence(session)

    london = kept()
    assert [str(one.day) for one in london] == ["2026-05-12", "2026-05-13"]
    move(client, "Asia/Kathmandu")
    assert [str(one.day) for one in kept()] == ["2026-05-13"]
    move(client, "America/New_York")
    assert [str(one.day) for one in kept()] == ["2026-05-12", "2026-05-13"]
    assert [len(one.alone) for one in kept()] == [3, 1]
    move(client, "Europe/London")
    assert kept() == london


def test_a_story_and_a_letters_history_tell_the_schools_days(client, edie, rng, clock):
    move(client, "Australia/Sydney")
    clock(at("Australia/Sydney", "2026-05-13T08:30"))  # still the 12th in London
    write(client, edie, rng, 1)
    history = client.get(f"/api/children/{edie['id']}/letters/n").json()
    assert [one["day"] for one in history["attempts"]] == ["2026-05-13"]
    story = client.get(f"/api/children/{edie['id']}/story").json()
    assert story["since"] == "2026-05-11"
    data = client.get(f"/api/children/{edie['id']}/export.zip").content
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        text = packed.read("letters.csv").decode("utf-8-sig")
    assert [line["day"] for line in csv.DictReader(io.StringIO(text))] == ["2026-05-13"]


def test_the_time_zone_is_set_at_first_start_kept_and_taken_along_in_a_backup(client, tmp_path):
    assert client.get("/api/records/time-zone").json()["name"] == machine_zone()
    assert client.put("/api/records/time-zone", json={"name": "Narnia/Cair"}).status_code == 409
    move(client, "Asia/Kathmandu")
    saved = client.get("/api/records/backup.zip").content
    move(client, "Europe/London")
    assert client.post("/api/records/restore", content=saved).status_code == 200
    assert client.get("/api/about").json()["time_zone"] == "Asia/Kathmandu"
    with client.app.state.sessions() as session:
        store.begin(session, "Europe/London")  # a later start changes nothing
        assert store.school_time(session).zone.key == "Asia/Kathmandu"


@given(
    st.sampled_from(sorted(available_timezones() - {"localtime"})),
    st.datetimes(datetime(1990, 1, 2), datetime(2100, 1, 1)),
)
def test_every_moment_lies_within_its_day_and_no_other(zone, moment):
    here = SchoolTime(ZoneInfo(zone))
    moment = moment.replace(tzinfo=UTC)
    day = here.day(moment)
    begin, end = here.bounds(day)
    before, after = here.bounds(day - timedelta(days=1)), here.bounds(day + timedelta(days=1))
    assert begin <= moment < end
    assert before[1] == begin
    assert after[0] == end
