"""A running First Loop for the browser, and a hand that writes on its strip."""

from __future__ import annotations

import itertools
import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import httpx2
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from firstloop.api.settings import Settings
from tests.browser.shots import CHROMIUM, PATIENCE_S, serve
from tests.pen import model

CHILDREN = (("Edie", "W", "right"), ("Gus", "L", "right"), ("Cleo", "M", "left"))
AT_FIRST = {"width": 1280, "height": 800}
PATIENCE_MS = PATIENCE_S * 1000
expect.set_options(timeout=PATIENCE_MS)  # a busy machine is slow, not wrong


_NUMBERS = itertools.count(1)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    return CHROMIUM


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict) -> dict:
    return {**browser_context_args, "viewport": AT_FIRST}


@dataclass(frozen=True)
class Kittiwake:
    """A class of three: its number, and each child's by name."""

    id: int
    children: dict[str, int]


def found_school(api: httpx2.Client, name: str = "Kittiwake class") -> Kittiwake:
    class_id = api.post("/api/classes", json={"name": name}).raise_for_status().json()["id"]
    children = {}
    for first, initial, hand in CHILDREN:
        body = {"first_name": first, "initial": initial, "hand": hand}
        made = api.post(f"/api/classes/{class_id}/children", json=body).raise_for_status().json()
        children[made["name"]] = made["id"]
    return Kittiwake(class_id, children)


def serve_empty(empty: Path, folder: Path) -> str:
    """A First Loop in which nothing is yet, on records that need no migrating."""
    shutil.copy(empty, Settings(folder).database)
    return serve(folder)


@pytest.fixture(scope="session")
def server(empty: Path, tmp_path_factory: pytest.TempPathFactory) -> str:
    """One server for the session; every test has a class of its own in it."""
    return serve_empty(empty, tmp_path_factory.mktemp("records"))


@pytest.fixture
def school(empty: Path, tmp_path: Path) -> str:
    """A First Loop of its own in which nothing is yet."""
    return serve_empty(empty, tmp_path)


@pytest.fixture(scope="session")
def base_url(server: str) -> str:
    return server


@pytest.fixture(scope="session")
def api(server: str) -> Iterator[httpx2.Client]:
    # a server closes what lies idle for five seconds: never to ask in that moment
    limits = httpx2.Limits(keepalive_expiry=1.0)
    with httpx2.Client(base_url=server, timeout=PATIENCE_S, limits=limits) as client:
        yield client


@pytest.fixture
def kittiwake(api: httpx2.Client) -> Kittiwake:
    """A class of three that no other test writes in."""
    return found_school(api, f"Kittiwake class {next(_NUMBERS)}")


@pytest.fixture
def page(request: pytest.FixtureRequest, page: Page, server: str) -> Page:
    """A page on which a class of this test alone is chosen: the class of three, or the test's `group`."""
    page.set_default_timeout(PATIENCE_MS)
    if "group" not in request.fixturenames:
        own = request.getfixturevalue("kittiwake").id
        page.add_init_script(
            f"if (location.origin === '{server}') localStorage['first-loop.class'] ??= '{own}'"
        )
    return page


@pytest.fixture
def group(page: Page, api: httpx2.Client) -> int:
    """An empty class of its own, its cautions read, chosen in this browser."""
    name = f"Turnstone group {next(_NUMBERS)}"
    made = api.post("/api/classes", json={"name": name}).raise_for_status().json()
    page.add_init_script(f"localStorage.setItem('first-loop.class', '{made['id']}')")
    page.add_init_script("sessionStorage.setItem('first-loop.cautions', '1')")
    return made["id"]


def choose_row(page: Page, child: str, letter: str, school: str = "") -> None:
    """Choose who writes what, and start the row, as a teacher does."""
    page.goto(f"{school}/write")
    page.get_by_role("radio", name=child).click()
    page.get_by_role("radio", name=letter, exact=True).click()
    page.get_by_role("button", name="Start the row").click()
    page.get_by_label(f"Write {letter} here").wait_for()


def write(page: Page, strokes: list[np.ndarray], slot: int, points: int = 14) -> None:
    """Write letter-space strokes into a slot of the strip with the mouse."""
    for stroke in on_screen(page, "Row of", strokes, slot, points):
        _stroke(page, stroke)


def draw(page: Page, drawing: str, strokes: list[np.ndarray], x0: float, points: int) -> None:
    """Draw letter-space strokes, slid to the right by `x0`, over the drawing whose name begins so."""
    for stroke in _on_screen(page, drawing, strokes, x0, points):
        _stroke(page, stroke)


def on_screen(
    page: Page, drawing: str, strokes: list[np.ndarray], slot: int, points: int
) -> list[list[tuple[float, float]]]:
    """Where on the screen letter-space strokes lie in a slot of a strip, so many points a stroke."""
    width = page.evaluate("() => Number(document.querySelector('[data-slot]').dataset.slot)")
    every = np.concatenate(strokes)
    x0 = width * (slot + 0.5) / 100 - (every[:, 0].min() + every[:, 0].max()) / 2
    return _on_screen(page, drawing, strokes, x0, points)


def _on_screen(
    page: Page, drawing: str, strokes: list[np.ndarray], x0: float, points: int
) -> list[list[tuple[float, float]]]:
    scale, left, top = page.evaluate(
        """(name) => {
            const m = document.querySelector(`svg[aria-label^="${name}"] > g`).getScreenCTM();
            return [m.a, m.e, m.f];
        }""",
        drawing,
    )
    out = []
    for stroke in strokes:
        few = stroke[np.unique(np.linspace(0, len(stroke) - 1, points).round().astype(int))]
        out.append([(float((x + x0) * 100 * scale + left), float(-y * 100 * scale + top)) for x, y in few])
    return out


def _stroke(page: Page, way: list[tuple[float, float]]) -> None:
    page.mouse.move(*way[0])
    page.mouse.down()
    for x, y in way[1:]:
        page.mouse.move(x, y)
    page.mouse.up()


def finger(page: Page, way: list[tuple[float, float]]) -> None:
    """A finger drawn along a way on the glass; it rests at the end, or the next tap would stop a fling."""
    session = page.context.new_cdp_session(page)
    for number, (x, y) in enumerate([*way, way[-1]]):
        kind = "touchMove" if number else "touchStart"
        session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y}]})
        page.wait_for_timeout(60)
    session.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    page.wait_for_timeout(1200)  # a touch sooner would be half of a double tap


def corners(char: str) -> list[np.ndarray]:
    """The model's strokes, as a steady hand would write them."""
    return model(char)


def teacher_opens(page: Page) -> None:
    """Open the way out of a child's page."""
    page.keyboard.press("Escape")
    page.get_by_role("group", name="For the teacher").wait_for()


def attempts_kept(api: httpx2.Client, page: Page) -> list[dict]:
    """What the records hold of the row on screen, once everything written has reached them."""
    page.wait_for_function("() => document.documentElement.dataset.waiting === '0'")
    return api.get(f"/api/rows/{row_id(page)}").json()["attempts"]


def row_id(page: Page) -> int:
    return int(page.url.split("/")[-1].split("?")[0])
