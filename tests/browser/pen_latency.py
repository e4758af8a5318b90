"""How long after a pen's report its ink is on the canvas: ``make bench`` prints it.

The handler draws at once, so the ink is on screen with the frame that follows; what is measured is
the time from the event's own stamp to the end of drawing, and the longest frame meanwhile.
"""

from __future__ import annotations

import statistics
import tempfile
import time
from pathlib import Path

import httpx2
from playwright.sync_api import Browser, sync_playwright

from tests.browser.conftest import choose_row, found_school
from tests.browser.shots import CHROMIUM, PATIENCE_S, serve

REPORTS = 300
WATCH = """() => {
    window.late = []; window.frames = []; let last = performance.now();
    const sheet = document.querySelector('canvas');
    sheet.addEventListener('pointermove', (e) => window.late.push(performance.now() - e.timeStamp));
    requestAnimationFrame(function tick(now) {
        window.frames.push(now - last); last = now; requestAnimationFrame(tick);
    });
}"""

BOARD = """async () => {
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'r', bubbles: true }));
    const times = [];
    return await new Promise((done) => requestAnimationFrame(function tick(now) {
        times.push(now);
        if (times.length < 300) requestAnimationFrame(tick);
        else done(times.slice(1).map((one, i) => one - times[i]));
    }));
}"""


def _board_frames(browser: Browser, url: str) -> list[float]:
    """Frame times, ms, while a joined word plays on the board at full size."""
    with httpx2.Client(base_url=url, timeout=PATIENCE_S) as api:
        api.put("/api/classes/1/style", json={"name": "Joined", "script": "cursive"})
    page = browser.new_context(base_url=url, viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/board?text=lighthouse")
    page.get_by_role("img", name="lighthouse on the board").wait_for()
    return page.evaluate(BOARD)


def main() -> None:
    """Write a long stroke with a pen and print the figures as a line of a Markdown table."""
    url = serve(Path(tempfile.mkdtemp()))
    with httpx2.Client(base_url=url, timeout=PATIENCE_S) as api:
        found_school(api)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**CHROMIUM)
        page = browser.new_context(base_url=url, viewport={"width": 1280, "height": 800}).new_page()
        choose_row(page, "Edie W", "l")
        page.evaluate(WATCH)
        box = page.get_by_label("Write l here").bounding_box()
        cdp = page.context.new_cdp_session(page)
        for i in range(REPORTS):
            kind = "mousePressed" if i == 0 else "mouseReleased" if i == REPORTS - 1 else "mouseMoved"
            at = {
                "x": box["x"] + 200 + i % 60,
                "y": box["y"] + 100 + i,
                "button": "left",
                "pointerType": "pen",
            }
            cdp.send("Input.dispatchMouseEvent", {**at, "type": kind, "force": 0.5, "timestamp": time.time()})
            time.sleep(0.004)
        late, frames = page.evaluate("() => [window.late, window.frames.slice(2)]")
        board = _board_frames(browser, url)
        browser.close()
    late.sort()
    print(
        f"| pen report to ink on the canvas | {len(late)} | {statistics.median(late):.1f} ms | "
        f"{late[int(len(late) * 0.95)]:.1f} ms | 16.7 ms |"
    )
    board.sort()
    print(
        f"| frame while a word plays on the board | {len(board)} | {statistics.median(board):.1f} ms | "
        f"{board[int(len(board) * 0.95)]:.1f} ms | 16.7 ms |"
    )
    print(f"| frame while the pen writes | {len(frames)} | {statistics.median(frames):.1f} ms | | 16.7 ms |")


if __name__ == "__main__":
    main()
