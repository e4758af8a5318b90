"""A class marked by keys alone: ``python -m benchmarks.marking``.

Thirty children wrote a row of six. A scripted teacher goes through the queue as it stands: every ninth letter
is marked otherwise than the checker would, and then its row is agreed with. Told are the keys it
takes, how long at three keys a second, and whether every mark reached the records.
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

import httpx2
import numpy as np
from playwright.sync_api import sync_playwright
from tests.api.test_journeys import strokes
from tests.browser.shots import CHROMIUM, PATIENCE_S, serve

CHILDREN, ROW, A_SECOND = 30, 6, 3.0
FAULTS = (None, None, None, ("start.bottom", 1.0), ("size.tall", 45.0))
OTHERWISE = 9  # every so many letters the teacher sees otherwise


def school(api: httpx2.Client) -> None:
    """A class whose rows all wait."""
    rng = np.random.default_rng(4)
    made = api.post("/api/classes", json={"name": "Thirty"}).json()["id"]
    for k in range(CHILDREN):
        body = {"first_name": f"Child{chr(97 + k % 26)}{k // 26}", "initial": "A"}
        child = api.post(f"/api/classes/{made}/children", json=body).json()["id"]
        row = api.post("/api/rows", json={"child_id": child, "letter": "n"}).json()["id"]
        for place in range(ROW):
            code, size = FAULTS[int(rng.integers(len(FAULTS)))] or (None, 0.0)
            ink = strokes("n", rng, left_mm=4.0 + 20.0 * place, fault=code, size=size)
            key = f"{row:04d}-{place:04d}"
            body = {"key": key, "support": "alone", "strokes": ink}
            api.post(f"/api/rows/{row}/attempts", json=body).raise_for_status()


def main() -> None:
    """Make the class, mark it, tell."""
    url = serve(Path(tempfile.mkdtemp()))
    with httpx2.Client(base_url=url, timeout=PATIENCE_S) as api, sync_playwright() as playwright:
        school(api)
        browser = playwright.chromium.launch(**CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{url}/check")
        page.locator("g[role=button]:focus").wait_for()
        pressed, letters, begun = 0, 0, time.monotonic()

        def press(key: str) -> None:
            nonlocal pressed
            pressed += 1
            time.sleep(max(0.0, begun + pressed / A_SECOND - time.monotonic()))
            page.keyboard.press(key)

        def at() -> int:
            """Which letter of its row has the focus."""
            name = page.locator("g[role=button]:focus").get_attribute("aria-label") or ""
            return int(name.split("number ")[1].split(",")[0]) - 1

        for _ in range(CHILDREN):
            for place in range(ROW):
                letters += 1
                if letters % OTHERWISE == 0:
                    for _ in range(abs(place - at())):
                        press("ArrowRight" if place > at() else "ArrowLeft")
                    press("2")
            press("a")
        took = time.monotonic() - begun
        page.wait_for_timeout(2000)
        waiting = api.get("/api/classes/1/queue").json()["groups"]
        sys.stdout.write(
            f"{CHILDREN} rows of {ROW}: {pressed} keys, {took:.0f} s; {len(waiting)} groups wait still\n"
        )
        browser.close()


if __name__ == "__main__":
    main()
