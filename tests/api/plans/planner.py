"""A class with a plan, and what its teacher and children do with it."""

from __future__ import annotations

from datetime import UTC, datetime

from icalendar import Calendar

from tests.api.test_journeys import post, start, strokes

NOW = datetime(2026, 9, 7, 8, 0, tzinfo=UTC)
TERM = {
    "name": "Autumn term",
    "first": "2026-09-07",
    "last": "2026-12-11",
    "minutes": [0, 15, 0, 15, 0, 0, 0],
    "holidays": [{"first": "2026-10-19", "last": "2026-10-23", "name": "Half-term"}],
}
LETTERS = "abcdefghijklmnopqrstuvwxyz"


class Planner:
    """A class with a plan, as a teacher handles it."""

    def __init__(self, client, child: dict, **wish) -> None:
        self.client, self.child = client, child
        self.path = f"/api/classes/{child['class_id']}/plan"
        made = client.post(self.path, json={**TERM, "topics": ["lower case"], **wish})
        assert made.status_code == 201, made.text
        self.plan = made.json()

    @property
    def lessons(self) -> list[dict]:
        return [one for week in self.plan["weeks"] for one in week["lessons"]]

    def taught(self, plan: dict | None = None) -> dict[str, str]:
        """Day of every letter, as it is taught."""
        weeks = (plan or self.plan)["weeks"]
        lessons = [one for week in weeks for one in week["lessons"]]
        return {char: one["day"] for one in lessons for char in (one["shown"] or one["new"])}

    def step(self, verb: str, path: str, status: int = 200, **body):
        answer = getattr(self.client, verb)(self.path + path, json={"number": self.plan["number"], **body})
        assert answer.status_code == status, answer.text
        if status == 200:
            self.plan = answer.json()
        return answer.json()

    def of(self, char: str) -> dict:
        return next(one for one in self.lessons if char in one["new"] and one["came"] != "missed")

    def page(self, key: int) -> dict:
        answer = self.client.get(f"{self.path}/lessons/{key}")
        assert answer.status_code == 200
        return answer.json()


def write_row(client, child_id: int, char: str, rng, number: int, times: int = 1) -> None:
    row = start(client, child_id, char)
    for place in range(times):
        post(client, row, 100 * number + place, strokes(char, rng))
    assert client.post(f"/api/rows/{row['id']}/finish").status_code == 200


def run(planner, key: int, *parts: tuple[str, bool], finished: bool = False):
    at = planner.client.app.state.clock().isoformat()
    body = {
        "started_at": at,
        "parts": [{"part": part, "at": at, "skipped": skipped} for part, skipped in parts],
        "finished": finished,
    }
    answer = planner.client.put(f"{planner.path}/lessons/{key}/run", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def events(planner) -> dict[str, object]:
    raw = planner.client.get(f"{planner.path}/lessons.ics").content
    found = Calendar.from_ical(raw).walk("VEVENT")
    assert len({str(one["UID"]) for one in found}) == len(found)
    return {str(one["UID"]): one for one in found}
