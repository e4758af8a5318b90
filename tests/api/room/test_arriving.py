"""What arrives on the teacher's screen while children write, and what makes a tablet ask again."""

from __future__ import annotations

import asyncio
import json
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager

import httpx2 as httpx
import pytest

from firstloop.api.server import behind
from firstloop.api.server.behind import Behind
from firstloop.api.server.news import News
from tests.api.room.conftest import ATablet
from tests.api.serving import served

PATIENCE_S = 30


@contextmanager
def listening(address: str, class_id: int) -> Iterator[Iterator[dict]]:
    with (
        httpx.Client(base_url=address, timeout=PATIENCE_S) as client,
        client.stream("GET", f"/api/classes/{class_id}/room/arriving") as answer,
    ):
        yield (json.loads(line[5:]) for line in answer.iter_lines() if line.startswith("data:"))


@pytest.fixture
def address(teacher) -> Iterator[str]:
    """The application of the teacher, served for real: a stream cannot be read otherwise."""
    with served(teacher.client.app) as address:
        yield address


def test_a_letter_arrives_with_its_ink_and_then_with_what_is_seen_in_it(teacher, address):
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        teacher.client = client
        anouk = teacher.tablet("Anouk", client=client)
        teacher.hand_out(letter="n")
        anouk.now()
        with listening(address, teacher.class_id) as arriving:
            first = next(arriving)
            assert first["whole"]
            assert first["room"]["handed_out"] == "a row of n"
            anouk.write("seen-at-once")
            judged = []
            while not judged:
                came = next(arriving)
                lines = [one["line"] for one in came["children"]]
                assert all(len(line["attempts"]) == 1 for line in lines)
                judged = [line for line in lines if line["attempts"][0]["judged"]]
            teacher.ask("delete").raise_for_status()
            while not (came := next(arriving))["whole"]:
                pass
            assert came["room"] is None


def test_a_tablet_that_waits_is_told_at_once_when_something_is_handed_out(teacher, address):
    with httpx.Client(base_url=address, timeout=PATIENCE_S) as client:
        teacher.client = client
        anouk: ATablet = teacher.tablet("Anouk", client=client)
        known = anouk.ask("get", "/now").headers["News"]
        told = []
        waits = threading.Thread(
            target=lambda: told.append(anouk.ask("get", f"/now?after={known}&unsent=2").json())
        )
        waits.start()
        while teacher.child("Anouk")["unsent"] != 2:
            assert waits.is_alive()
        assert not told
        teacher.hand_out(letter="n")
        waits.join(PATIENCE_S)
        assert told[0]["sheet"]["text"] == "n"


def test_news_of_one_subject_wakes_nobody_who_waits_for_another():
    with ThreadPoolExecutor(1) as thread:  # a browser test before it may have left a loop in this one
        thread.submit(asyncio.run, two_who_wait()).result()


async def two_who_wait() -> None:
    news = News()
    news.start(asyncio.get_running_loop())
    known = news.number("tablet 1")
    one = asyncio.create_task(news.wait("tablet 1", known, 5))
    other = asyncio.create_task(news.wait("tablet 2", known, 0.2))
    await asyncio.sleep(0.05)
    news.tell("tablet 1")
    assert await one == known + 1
    assert await other == known, "its patience came to an end"
    assert await news.wait("tablet 1", known, 5) == known + 1, "what is known already is not waited for"


def test_what_follows_gives_way_to_who_writes_for_a_moment_and_not_for_ever(client, monkeypatch):
    somebody_writes, begun = threading.Event(), threading.Event()
    somebody_writes.set()
    monkeypatch.setattr(behind, "_GIVES_WAY_S", 60.0)
    follows = Behind(client.app.state.sessions, 1, somebody_writes.is_set)
    follows.start()
    follows.add(lambda _: begun.set())
    assert not begun.wait(0.2)
    somebody_writes.clear()
    assert begun.wait(10)

    monkeypatch.setattr(behind, "_GIVES_WAY_S", 0.05)
    begun.clear()
    somebody_writes.set()
    follows.add(lambda _: begun.set())
    assert begun.wait(10)
    follows.stop()
