"""Simulated tablets: children who join a room, write at a child's pace, lose the network and come back.

They are a stand-in for a class full of tablets, and come in by the same doors. A tablet keeps what it has
written until First Loop has it, as the real one does, and sends it in order.
"""

from __future__ import annotations

import multiprocessing
import ssl
import threading
import time
from collections.abc import Callable
from contextlib import AbstractContextManager
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path
from types import TracebackType
from typing import Any
from uuid import uuid4

import httpx2 as httpx
import numpy as np
from sqlalchemy.orm import Session, sessionmaker

from firstloop.api.server.beside import end_with_the_server
from firstloop.api.settings import Settings
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.ruling import Ruling
from firstloop.core.simulate.faults import FAULTS
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.services.ink import from_stroke
from firstloop.store import rooms as store
from firstloop.store.classes import all_classes
from firstloop.store.database import open_engine, sessions
from firstloop.store.styles import house_style
from firstloop.store.written import get_word

MOST = 18
_AGAIN_S = 2.0
_LOOKS_S = 1.0
_IDLE_S = 0.2
_PATIENCE_S = 60.0
_SLIP_XH = 0.5
_SLIPS = ("start.bottom", "direction.reversed", "shape.open", "size.tall", "position.floating")
Told = Callable[[httpx.Response, float], None]
"""Told of every answer to something written, and of the time.time() at which the pen had gone up."""


@dataclass(frozen=True)
class Nature:
    """How a simulated child is.

    Parameters
    ----------
    slips_often : float
        Share of letters with a slip.
    pause_s : float
        Rest between two letters, on average.
    loses_often : float
        Chance that the network goes with a letter; it comes back after `away_s` on average.
    """

    slips_often: float = 0.2
    pause_s: float = 2.0
    loses_often: float = 0.03
    away_s: float = 15.0


@dataclass
class SimulatedTablet:
    """One tablet; `work` writes until it is told to stop or the room is closed.

    No tablet shows what is dictated: `hears` stands for the teacher's voice, and says a word by its number.
    """

    client: httpx.Client
    rng: np.random.Generator
    style: HouseStyle
    nature: Nature = Nature()
    told: Told = lambda answer, pen_up_s: None
    hears: Callable[[int], str] = lambda word_id: ""
    unsent: list[tuple[str, str, dict[str, Any], float]] = field(default_factory=list)
    _away_until: float = 0.0
    _token: str = ""
    _news: int = 0
    _told: dict[str, Any] | None = None
    _over: bool = False

    def join(self, code: str, child_id: int) -> None:
        """Come to the door and take a name.

        Raises
        ------
        httpx.HTTPError
        """
        joined = self.client.post("/api/tablet/join", json={"code": code})
        joined.raise_for_status()
        self._token = joined.json()["token"]
        self._ask("PUT", "/name", {"child_id": child_id}).raise_for_status()

    def work(self, stopped: threading.Event) -> None:
        """Write what is handed out, as the page does: it is told what is new while it writes."""
        threading.Thread(target=self._listen, args=(stopped,), daemon=True).start()
        while not stopped.is_set() and not self._over:
            sheet = None if self._told is None or self._told["pens_down"] else self._told["sheet"]
            try:
                self._send_unsent()
                if sheet is not None and sheet["to_write"]:
                    self._write_on(sheet, stopped)
                else:
                    stopped.wait(_IDLE_S)
            except httpx.HTTPError:  # what is kept is sent the next time
                stopped.wait(_AGAIN_S)

    def _listen(self, stopped: threading.Event) -> None:
        while not stopped.is_set() and not self._over:
            if time.monotonic() < self._away_until:
                stopped.wait(_IDLE_S)
                continue
            try:
                page = self._page()
            except httpx.HTTPError:
                stopped.wait(_AGAIN_S)
                continue
            self._over = page is None or not page["open"]
            self._told = page

    def _page(self) -> dict[str, Any] | None:
        answer = self._ask("GET", f"/now?after={self._news}&unsent={len(self.unsent)}")
        if answer.status_code == httpx.codes.UNAUTHORIZED:
            return None
        answer.raise_for_status()
        self._news = int(answer.headers["News"])
        found: dict[str, Any] = answer.json()
        return found

    def _write_on(self, sheet: dict[str, Any], stopped: threading.Event) -> None:
        """One letter, or one word; a row that is full gets a best one."""
        lines = sheet["lines"]
        ruling = Ruling(lines["mid"], lines["base"], lines["rise"], lines["drop"])
        if sheet["kind"] == "word":
            text, left_mm = sheet["text"] or self.hears(sheet["id"]), sheet["letter_left_mm"]
            made = write_text(text, self.rng, style=self.style, ruling=ruling, left_mm=left_mm)
            body: dict[str, Any] = {"word_started_at": sheet["started_at"]}
            path, method, under = f"/words/{sheet['id']}/ink", "PUT", {"word_id": sheet["id"]}
        else:
            slot = 0 if sheet["layered"] else len(sheet["attempts"])
            left_mm = sheet["letter_left_mm"] + slot * sheet["slot_mm"]
            made = write(
                sheet["text"],
                self.rng,
                fault=self._slip(sheet["text"]),
                size=_SLIP_XH,
                style=self.style,
                ruling=ruling,
                left_mm=left_mm,
            )
            key = str(uuid4())
            body = {"key": key, "support": sheet["to_write"][0], "row_started_at": sheet["started_at"]}
            path, method, under = f"/rows/{sheet['id']}/attempts", "POST", {"row_id": sheet["id"]}
        strokes = [dict(from_stroke(one)) for one in made.strokes]
        self._show(under, strokes, stopped)
        self.unsent.append((method, path, {**body, "strokes": strokes}, time.time()))
        if sheet["kind"] == "row" and len(sheet["to_write"]) == 1:
            best = {"key": body["key"], "row_started_at": sheet["started_at"]}
            self.unsent.append(("PUT", f"/rows/{sheet['id']}/best", best, time.time()))
        if self.rng.random() < self.nature.loses_often:
            self._away_until = time.monotonic() + self.rng.exponential(self.nature.away_s)
        sheet["attempts"].append(body)  # on its own copy of the sheet; what is told anew takes its place
        sheet["to_write"] = sheet["to_write"][1:]
        self._send_unsent()
        stopped.wait(self.rng.exponential(self.nature.pause_s))

    def _slip(self, char: str) -> str | None:
        """A slip that a letter can be written with, now and then."""
        possible = [code for code in _SLIPS if char in FAULTS[code].letters]
        slips = possible and self.rng.random() < self.nature.slips_often
        return str(self.rng.choice(possible)) if slips else None

    def _show(self, under: dict[str, int], strokes: list[dict[str, Any]], stopped: threading.Event) -> None:
        """Let the pen move in true time, and the teacher see each stroke as it ends."""
        begun = time.monotonic()
        for number, stroke in enumerate(strokes):
            ends_s = (stroke["t"][-1] if stroke.get("t") else 0.0) / 1000
            if stopped.wait(max(0.0, begun + ends_s - time.monotonic())):
                return
            if number + 1 < len(strokes) and time.monotonic() >= self._away_until:
                self._ask("PUT", "/under-pen", {**under, "strokes": strokes[: number + 1]})

    def _send_unsent(self) -> None:
        """Send what is kept, in order; what cannot be sent now stays.

        Raises
        ------
        httpx.HTTPError
            If First Loop does not answer, or not now.
        """
        if time.monotonic() < self._away_until:
            raise httpx.ConnectError("the network is gone")
        while self.unsent:
            method, path, body, pen_up_s = self.unsent[0]
            answer = self._ask(method, path, body)
            if answer.status_code >= httpx.codes.INTERNAL_SERVER_ERROR:
                answer.raise_for_status()
            self.told(answer, pen_up_s)
            self.unsent.pop(0)  # it is there, or refused for good: its row is no more

    def _ask(self, method: str, path: str, body: dict[str, Any] | None = None) -> httpx.Response:
        headers = {"Authorization": f"Bearer {self._token}"}
        return self.client.request(method, f"/api/tablet{path}", json=body, headers=headers)


def client_of(address: str, authority: Path | None) -> httpx.Client:
    """A connection to First Loop that trusts its own authority."""
    trusted: ssl.SSLContext | bool = True
    if authority is not None:
        trusted = ssl.create_default_context(cafile=authority)
    return httpx.Client(base_url=address, verify=trusted, timeout=_PATIENCE_S)


def _look_after(settings: Settings, address: str, authority: Path | None) -> None:
    """Wait for a room to be opened, and send a tablet in for every child; in a process of its own."""
    threading.Thread(target=end_with_the_server, daemon=True).start()
    engine = open_engine(settings.database)
    known: set[int] = set()
    hears = partial(_said, sessions(engine))
    while True:
        time.sleep(_LOOKS_S)
        with sessions(engine)() as session:
            for school_class in all_classes(session):
                room = store.open_room(session, school_class.id)
                if room is None or room.id in known:
                    continue
                known.add(room.id)
                style, code = house_style(school_class), room.code
                for child in school_class.children[:MOST]:
                    begin = partial(_child, address, authority, style, code, child.id, hears)
                    threading.Thread(target=begin, daemon=True).start()


def _said(records: sessionmaker[Session], word_id: int) -> str:
    """The word as the teacher says it."""
    with records() as session:
        return get_word(session, word_id).text


def _child(
    address: str,
    authority: Path | None,
    style: HouseStyle,
    code: str,
    child_id: int,
    hears: Callable[[int], str],
) -> None:
    rng = np.random.default_rng(child_id)
    nature = Nature(slips_often=float(rng.choice([0.03, 0.1, 0.3])), pause_s=float(rng.uniform(1.0, 4.0)))
    time.sleep(rng.uniform(0.5, 6.0))  # children do not all come in at once
    with client_of(address, authority) as client:
        tablet = SimulatedTablet(client, rng, style, nature, hears=hears)
        try:
            tablet.join(code, child_id)
        except httpx.HTTPStatusError:  # somebody at a real tablet took the name
            return
        tablet.work(threading.Event())


class SimulatedRoom(AbstractContextManager["SimulatedRoom"]):
    """A class of simulated tablets, beside First Loop for as long as it is served."""

    def __init__(self, settings: Settings, address: str, authority: Path | None) -> None:
        self._process = multiprocessing.get_context("spawn").Process(
            target=_look_after, args=(settings, address, authority), daemon=True
        )

    def __enter__(self) -> SimulatedRoom:
        self._process.start()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, problem: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._process.kill()
