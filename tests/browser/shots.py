"""Pictures of every main view, from the demo school: ``make shots``."""

from __future__ import annotations

import re
import socket
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Sequence
from datetime import date
from functools import partial
from pathlib import Path
from shutil import which

import httpx2
import numpy as np
import uvicorn
from playwright.sync_api import Page, sync_playwright

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.demo.build import ensure_demo
from firstloop.demo.tablets import Nature, SimulatedTablet, client_of

PATIENCE_S = 30  # a busy machine is slow, not wrong
CHROMIUM = {
    "executable_path": which("chromium-headless-shell") or "/usr/bin/chromium",  # without windows
    "args": ["--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu"],
}
SHEET_SIZE = {"width": 1280, "height": 1400}
READING_MS = 180_000


def serve(data: Path) -> str:
    """Serve the records in `data` from a thread; returns the address."""
    settings = Settings(data, simulated_pen=True)
    sock = socket.socket()
    sock.bind(("127.0.0.1", 0))
    running = uvicorn.Server(uvicorn.Config(create_app(settings), log_level="error"))
    threading.Thread(target=running.run, kwargs={"sockets": [sock]}, daemon=True).start()
    while not running.started:
        time.sleep(0.05)
    return f"http://127.0.0.1:{sock.getsockname()[1]}"


def _child(api: httpx2.Client, name: str) -> int:
    every = [child for one in api.get("/api/classes").json() for child in one["children"]]
    return next(child["id"] for child in every if child["name"] == name)


def _latest_row(api: httpx2.Client, name: str, letter: str) -> int:
    found = api.get("/api/rows", params={"child_id": _child(api, name), "letter": letter}).json()
    return found[0]["id"]


def _latest_dictation(api: httpx2.Client) -> int:
    number = next(one["id"] for one in api.get("/api/classes").json())
    return api.get(f"/api/classes/{number}/dictations").json()[0]["id"]


def _write(page: Page, letters: int) -> None:
    """A row in the middle: so many letters, the last still under the pen."""
    page.get_by_role("button", name="Start the row").click()
    pen = page.get_by_role("button", name="Simulated pen")
    for i in range(letters):
        pen.click()
        page.wait_for_timeout(200)
        if i < letters - 1:
            page.wait_for_function("() => !document.querySelector('footer button:disabled')", timeout=30_000)
            page.keyboard.press("Enter")
    page.wait_for_timeout(1500)


def _playing(page: Page) -> None:
    page.keyboard.press("r")
    page.wait_for_timeout(1900)
    page.keyboard.press(" ")


def _in_class(page: Page, class_name: str) -> None:
    number = next(one["id"] for one in page.request.get("/api/classes").json() if one["name"] == class_name)
    page.evaluate(f"localStorage.setItem('first-loop.class', '{number}')")
    page.reload()
    page.wait_for_load_state("networkidle")


def _board(page: Page) -> None:
    """The class that joins, a word half played."""
    _in_class(page, "Turnstone group")
    page.get_by_role("img", name="on the board").wait_for()
    page.keyboard.press("r")
    page.wait_for_timeout(5200)
    page.keyboard.press(" ")


def _next_lesson(api: httpx2.Client) -> int:
    return api.get("/api/classes/1/plan").json()["next_key"]


def _joined(page: Page) -> None:
    page.get_by_text("Joined", exact=True).click()
    page.get_by_text("as chosen now").wait_for()


def _on_the_table(page: Page) -> None:
    """The letter sheet beside its rows, one of them chosen."""
    page.get_by_role("button", name=re.compile("^Letter sheet")).click()
    page.get_by_role("button", name=re.compile("model, 2 trace")).first.click()
    page.get_by_role("img", name=re.compile("Letter sheet, page 1")).wait_for()


def _pages(page: Page) -> None:
    """Pages that children wrote on, read; a place of one of them that wants to be seen."""
    page.get_by_role("button", name="Simulated scanner").click()
    page.get_by_role("list", name="The pile").get_by_role("button").nth(4).wait_for(timeout=READING_MS)
    page.get_by_role("button", name="Stop reading").wait_for(state="detached", timeout=READING_MS)
    read = page.get_by_role("list", name="The pile").get_by_role("button", name=re.compile(", read$"))
    to_fix = page.get_by_role("button", name=re.compile("fix$"))
    for one in read.all():
        one.click()
        page.wait_for_load_state("networkidle")
        if to_fix.count():
            to_fix.first.click()
            break
    page.wait_for_load_state("networkidle")


def _room(page: Page) -> None:
    """Eighteen tablets, half a minute after a row was handed out."""
    page.get_by_role("button", name="Open the room").click()
    page.get_by_role("region", name="Coming in").wait_for()
    room = page.request.get("/api/classes/1/room").json()["room"]
    for one in room["children"]:
        begin = partial(_tablet, page.url.split("/write")[0], room["code"], one["child"]["id"])
        threading.Thread(target=begin, daemon=True).start()
    page.get_by_role("button", name="Let all 18 in").click()
    page.get_by_role("list", name="Children").wait_for()
    page.keyboard.press("n")
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="n", exact=True).click()
    sheet.get_by_role("button", name="Hand it out").click()
    page.wait_for_timeout(22_000)


def _tablet(address: str, code: str, child: int) -> None:
    rng = np.random.default_rng(child)
    nature = Nature(float(rng.choice([0.03, 0.1, 0.3])), float(rng.uniform(1.0, 4.0)), loses_often=0.0)
    with client_of(address, None) as client:
        tablet = SimulatedTablet(client, rng, DEFAULT_STYLE, nature)
        tablet.join(code, child)
        tablet.work(threading.Event())


def main(folder: Path, only: Sequence[str] = ()) -> None:
    """Take every picture into `folder`, or those that are named."""
    data = Path(tempfile.mkdtemp()) / "demo"
    ensure_demo(Settings(data), date.today())
    url = serve(data)
    api = httpx2.Client(base_url=url, timeout=PATIENCE_S)
    views: dict[str, tuple[str, Callable[[Page], object] | None]] = {
        "today": ("/today", None),
        "families": ("/families", None),
        "letters": ("/letters/b", _playing),
        "write": (f"/write?child={_child(api, 'Edie W')}&letter=h", lambda page: _write(page, 4)),
        "check-rows": ("/check", None),
        "check": (f"/check/{_latest_row(api, 'Dafydd R', 'n')}", None),
        "find": ("/words?holds=e&place=middle&sets=7&most=5&chosen=net+pen+ten", None),
        "plan": ("/plan", lambda page: page.get_by_text("Similar movements").wait_for()),
        "lesson": (f"/plan/lesson/{_next_lesson(api)}", None),
        "dictation": (f"/dictation/{_latest_dictation(api)}", None),
        "sheets": ("/sheets", _on_the_table),
        "pages": ("/check/pages", _pages),
        "story": (f"/children/{_child(api, 'Edie W')}", None),
        "room": ("/write/room", _room),
        "records": ("/records", None),
        "class": ("/class?sort=most", lambda page: page.get_by_label("Nico V, n").focus()),
        "board": ("/board?text=gull", _board),
        "house-style": ("/style", _joined),
    }
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**CHROMIUM)
        for name, (path, act) in views.items():
            if only and name not in only:
                continue
            page = browser.new_page(base_url=url, viewport={"width": 1280, "height": 800})
            page.goto(url + path)
            page.wait_for_load_state("networkidle")
            if act:
                act(page)
            page.wait_for_timeout(400)
            page.screenshot(path=folder / f"{name}.png")
            page.close()
        page = browser.new_page(viewport=SHEET_SIZE)
        sheet = api.get("/api/letters.svg", params={"class_id": 1}).text
        page.set_content(f"<style>body {{ margin: 0 }} svg {{ width: 100vw; height: auto }}</style>{sheet}")
        page.locator("svg").screenshot(path=folder / "letter-sheet.png")
        browser.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2:])
