"""Pages that are brought in, and what is asked of them."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from fastapi.testclient import TestClient

PATIENCE_S = 60.0
CHILDREN = ("Anouk", "Bashir", "Cleo")


@dataclass(frozen=True)
class Printed:
    """A class with a sheet that was printed for each of its children, and for nobody; the last page."""

    database: Path
    class_id: int
    children: tuple[int, ...]
    code: str
    pages: tuple[bytes, ...]
    keys: tuple[str, ...]

    def picture(self, copy: int) -> bytes:
        """The page of a copy, written on and scanned."""
        return self.pages[copy - 1]


def pile(client: TestClient, printed: Printed) -> dict:
    return client.get(f"/api/classes/{printed.class_id}/pages").json()


def wait_for(what: Callable[[], object]) -> None:
    """Wait until something is so.

    Raises
    ------
    AssertionError
        If it is not so in time.
    """
    until = time.monotonic() + PATIENCE_S
    while not what():
        assert time.monotonic() < until, "this did not come to be in time"
        time.sleep(0.05)


def read_all(client: TestClient, printed: Printed) -> dict:
    """The pile once everything in it was read."""
    wait_for(lambda: not pile(client, printed)["to_read"])
    return pile(client, printed)


def bring(client: TestClient, printed: Printed, data: bytes, name: str = "scan.png"):
    return client.post(f"/api/classes/{printed.class_id}/pages", params={"name": name}, content=data)


def brought(client: TestClient, printed: Printed, *copies: int) -> list[dict]:
    """Pages of some copies, read, in the order brought in."""
    for copy in copies:
        assert bring(client, printed, printed.picture(copy), f"{copy}.png").status_code == 201
    return sorted(read_all(client, printed)["pages"], key=lambda page: page["id"])


def page_of(client: TestClient, page_id: int) -> dict:
    return client.get(f"/api/pages/{page_id}").json()


def entries(page: dict) -> dict[str, dict]:
    return {one["key"]: one for one in page["entries"]}


def agree(client: TestClient, *page_ids: int):
    return client.post("/api/agree-with-pages", json={"page_ids": list(page_ids)})


def take_out(client: TestClient, page_id: int):
    return client.post(f"/api/pages/{page_id}/out")


def decide(client: TestClient, page_id: int, key: str, **what):
    return client.put(f"/api/pages/{page_id}/entries/{key}", json=what)


def rows(client: TestClient, child_id: int) -> list[dict]:
    found = client.get("/api/rows", params={"child_id": child_id}).json()
    return [client.get(f"/api/rows/{one['id']}").json() for one in found]


def words(client: TestClient, child_id: int) -> list[dict]:
    return client.get(f"/api/children/{child_id}/written").json()
