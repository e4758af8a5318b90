"""A hand on the glass: pens, fingers and palms, in whatever order they come."""

from __future__ import annotations

import numpy as np
import pytest
from playwright.sync_api import CDPSession, Page

from tests.browser.conftest import attempts_kept, choose_row, corners, on_screen

pytestmark = pytest.mark.browser


class Glass:
    """Fingers, palms and pens as the system reports them."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.cdp: CDPSession = page.context.new_cdp_session(page)
        self.cdp.send("Emulation.setTouchEmulationEnabled", {"enabled": True, "maxTouchPoints": 5})
        self.touches: dict[int, tuple[float, float]] = {}

    def _touch(self, kind: str) -> None:
        points = [{"x": x, "y": y, "id": id, "radiusX": 9, "radiusY": 9} for id, (x, y) in self.touches.items()]
        self.cdp.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    def touch(self, id: int, at: tuple[float, float]) -> None:
        kind = "touchMove" if id in self.touches else "touchStart"
        self.touches[id] = at
        self._touch(kind)

    def lift(self, id: int) -> None:
        del self.touches[id]
        self._touch("touchEnd")

    def pen(self, kind: str, at: tuple[float, float]) -> None:
        more = {"button": "left", "buttons": 1, "clickCount": 1} if kind != "mouseReleased" else {"button": "left"}
        self.cdp.send(
            "Input.dispatchMouseEvent",
            {"type": kind, "x": at[0], "y": at[1], "pointerType": "pen", "force": 0.5, **more},
        )

    def write(self, way: list[tuple[float, float]], with_pen: bool) -> None:
        """One stroke, by pen or by the second finger."""
        if with_pen:
            self.pen("mousePressed", way[0])
            for at in way[1:]:
                self.pen("mouseMoved", at)
            self.pen("mouseReleased", way[-1])
        else:
            for at in way:
                self.touch(2, at)
            self.lift(2)


@pytest.mark.parametrize("with_pen", [True, False], ids=["pen", "finger"])
@pytest.mark.parametrize("order", ["palm first", "palm in the middle", "palm there and gone", "palm that slides"])
def test_a_resting_palm_is_no_letter_and_keeps_none_from_being_written(page: Page, api, with_pen, order):
    choose_row(page, "Gus L", "n")
    page.get_by_text("1 of 6").wait_for()
    (way,) = on_screen(page, "Row of", corners("n"), slot=0, points=40)
    palm = (way[0][0] + 260, way[0][1] + 90)
    glass = Glass(page)
    if order != "palm in the middle":
        glass.touch(1, palm)
        page.wait_for_timeout(800)
    if order == "palm there and gone":
        glass.lift(1)
    if order == "palm that slides":
        glass.touch(1, (palm[0] + 12, palm[1]))
    if order == "palm in the middle" and with_pen:
        glass.pen("mousePressed", way[0])
        for at in way[1:20]:
            glass.pen("mouseMoved", at)
        glass.touch(1, palm)
        for at in way[20:]:
            glass.pen("mouseMoved", at)
        glass.pen("mouseReleased", way[-1])
    elif order == "palm in the middle":
        for at in way[:20]:
            glass.touch(2, at)
        glass.touch(1, palm)
        for at in way[20:]:
            glass.touch(2, at)
        glass.lift(2)
    else:
        glass.write(way, with_pen)
    if 1 in glass.touches:
        glass.lift(1)
    page.keyboard.press("Enter")
    page.get_by_text("2 of 6").wait_for()
    (attempt,) = attempts_kept(api, page)
    (stroke,) = attempt["strokes"]
    assert np.ptp(stroke["y"]) > 8  # the letter, all of it
    assert attempt["verdict"] == "secure"
