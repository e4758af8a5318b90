"""A class whose room is open, and tablets that come into it as children do."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import pytest
from fastapi.testclient import TestClient

from firstloop.core.ruling import ruling_kind
from firstloop.services.ink import from_stroke
from tests.pen import ink, model

SHEET = ruling_kind("four-lines").ruled(10.0, top_mm=4.0)  # as a class that chose nothing has it
NAMES = ("Anouk", "Bashir", "Cleo")


def written(char: str = "n", *, from_the_bottom: bool = False) -> list[dict[str, Any]]:
    """A letter as a pen sends it: as its model is, or each stroke the other way round."""
    strokes = [stroke[::-1] for stroke in reversed(model(char))] if from_the_bottom else model(char)
    return [dict(from_stroke(one)) for one in ink(strokes, char, ruling=SHEET).strokes]


@dataclass
class ATablet:
    """A tablet with the token it was given."""

    client: TestClient
    token: str
    page: dict[str, Any]

    @property
    def headers(self) -> dict[str, str]:
        return {"Authorization": f"Bearer {self.token}"}

    def ask(self, method: str, path: str, **given: Any):
        return self.client.request(method, f"/api/tablet{path}", headers=self.headers, **given)

    def now(self) -> dict[str, Any]:
        self.page = self.ask("get", "/now").json()
        return self.page

    def write(self, key: str, row_id: int | None = None, **more: Any):
        sheet = self.page["sheet"] or {}
        body = {"key": key, "support": "alone", "strokes": written("n"), **more}
        return self.ask("post", f"/rows/{row_id or sheet['id']}/attempts", json=body)


@dataclass
class Teacher:
    """The teacher of the class, leading its room."""

    client: TestClient
    class_id: int
    children: dict[str, int]

    def ask(self, method: str, path: str = "", **given: Any):
        return self.client.request(method, f"/api/classes/{self.class_id}/room{path}", **given)

    def room(self) -> dict[str, Any]:
        return self.ask("get").json()["room"]

    def child(self, name: str) -> dict[str, Any]:
        return next(one for one in self.room()["children"] if one["child"]["first_name"] == name)

    def tablet(
        self, name: str | None = None, *, admitted: bool = True, client: TestClient | None = None
    ) -> ATablet:
        joined = (client or self.client).post("/api/tablet/join", json={"code": self.room()["code"]})
        one = ATablet(client or self.client, joined.json()["token"], joined.json()["page"])
        if name is not None:
            one.ask("put", "/name", json={"child_id": self.children[name]}).raise_for_status()
            if admitted:
                self.ask("post", "/admit", json={}).raise_for_status()
        return one

    def hand_out(self, **what: Any) -> None:
        self.ask("post", "/hand-out", json=what).raise_for_status()

    def attempts(self, row_id: int) -> list[dict[str, Any]]:
        assert self.client.app.state.room_office.behind.wait(60)
        return self.client.get(f"/api/rows/{row_id}").json()["attempts"]


@pytest.fixture
def teacher(client) -> Teacher:
    made = client.post("/api/classes", json={"name": "Turnstone class"}).json()
    children = {
        name: client.post(
            f"/api/classes/{made['id']}/children", json={"first_name": name, "initial": "A", "hand": "right"}
        ).json()["id"]
        for name in NAMES
    }
    one = Teacher(client, made["id"], children)
    one.ask("post").raise_for_status()
    return one
