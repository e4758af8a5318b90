"""Pages that come back: a page in one process, eighteen of them through a server, and thirty children writing
beside: ``make bench-pages``.
"""

from __future__ import annotations

import asyncio
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path
from statistics import median

import httpx2
import numpy as np
import pypdfium2 as pdfium

from benchmarks.load import LETTERS, ROW, SECONDS, WRITERS, Server, Writer, at_a_pace, ink, school, told
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.scanning.find import find_pages
from firstloop.core.scanning.read import Terms, read_page
from firstloop.core.scanning.written import Chances, filled
from firstloop.core.sheets.scene import Page
from firstloop.core.sheets.wish import SheetWish, WritingRow
from firstloop.core.simulate.camera import Device, take
from firstloop.core.simulate.hand import ORDINARY_HAND
from firstloop.core.simulate.pencil import Lead
from firstloop.formats.pictures import jpeg
from firstloop.formats.sheet_json import write_wish
from firstloop.formats.sheet_layout import read_layout

PAGES, DPI, TIMES = 18, 200.0, 5
LEAD = Lead(0.5, 0.7, 0.2, 0.1)
WISH = SheetWish(tuple(WritingRow((char,), "trace alone*") for char in "nmhbr"), xh_mm=10)


def loop_s() -> float:
    """A plain loop of three million steps: how fast the machine is just now."""
    begun, x = time.perf_counter(), 0
    for i in range(3_000_000):
        x += i
    return time.perf_counter() - begun


def written(pdf: bytes, number: int, layout: dict, device: Device) -> tuple[Page, np.ndarray]:
    """A printed page, filled in and photographed."""
    rng = np.random.default_rng(number)
    page = read_layout(layout).pages[0]
    drawn = pdfium.PdfDocument(pdf)[number].render(scale=DPI / 72).to_pil()
    paper = np.array(drawn.convert("L"))
    few = Chances(empty=0.0, crossed=0.03, fault=0.2, ticked=0.05, rubbed=0.03)
    for entry in page.entries:
        _, paper = filled(entry, paper, DPI, DEFAULT_STYLE, ORDINARY_HAND, LEAD, rng, few)
    return page, take(device, paper, DPI, rng).grey


def one_page(device: Device, page: Page, grey: np.ndarray) -> None:
    """Print how long a page takes in this process."""
    took, loops = [], []
    for _ in range(TIMES):
        loops.append(loop_s())
        begun = time.perf_counter()
        (found,) = find_pages(grey, lambda code, copy, number: page)
        read_page(grey, found, "print", Terms())
        took.append(time.perf_counter() - begun)
    tall, wide = grey.shape
    print(
        f"a page of {len(page.entries)} places, {device} ({wide} x {tall}): {median(took):.2f} s"
        f" ({min(took):.2f} to {max(took):.2f}),"
        f" {median(np.divide(took, loops)):.1f} plain loops of {median(loops):.2f} s"
    )


async def printed(
    api: httpx2.AsyncClient, class_id: int, children: Sequence[int]
) -> tuple[bytes, list[dict]]:
    """A sheet for some children: its pages and layouts."""
    copies = [{"child_id": one, "wish": write_wish(WISH)} for one in children]
    made = (await api.post(f"/api/classes/{class_id}/printed", json={"name": "n", "copies": copies})).json()
    pdf = (await api.get(f"/api/printed/{made['code']}/sheet.pdf")).content
    layouts = [
        (await api.get(f"/api/printed/{made['code']}/{i + 1}/layout.json")).json() for i in range(len(copies))
    ]
    return pdf, layouts


async def all_read(api: httpx2.AsyncClient, class_id: int, before: int) -> tuple[float, float]:
    """Seconds to the first page that is new in the pile, and to the last."""
    begun, first = time.perf_counter(), 0.0
    while True:
        pile = (await api.get(f"/api/classes/{class_id}/pages")).json()
        if len(pile["pages"]) > before and not first:
            first = time.perf_counter() - begun
        if not pile["to_read"]:
            return first, time.perf_counter() - begun
        await asyncio.sleep(0.1)


async def measure(url: str) -> None:
    """Everything, one after another."""
    rng = np.random.default_rng(1)
    inks = {(char, place): ink(char, place, rng) for char in LETTERS for place in range(ROW)}
    limits = httpx2.Limits(max_connections=WRITERS + 8)
    async with httpx2.AsyncClient(base_url=url, timeout=120, limits=limits) as api:
        children = await school(api)
        class_id = (await api.get("/api/classes")).json()[0]["id"]
        pdf, layouts = await printed(api, class_id, children)
        shots = [written(pdf, i, one, Device.SCANNER) for i, one in enumerate(layouts)]
        for device in Device:
            one_page(device, *written(pdf, 0, layouts[0], device))

        async def bring(numbers: Sequence[int]) -> None:
            for i in numbers:
                to = f"/api/classes/{class_id}/pages?name={i}.jpg"
                (await api.post(to, content=jpeg(shots[i][1], 90))).raise_for_status()

        await api.get(f"/api/classes/{class_id}/pages")  # the screen is open: a process is made ready
        await asyncio.sleep(15)
        await bring(range(1))
        first, _ = await all_read(api, class_id, 0)
        print(f"one page dropped: on the screen after {first:.1f} s, {first / loop_s():.1f} plain loops")
        await bring(range(1, PAGES))
        first, last = await all_read(api, class_id, 1)
        print(f"{PAGES - 1} pages more: the first after {first:.1f} s, all after {last:.1f} s")

        writers = [Writer(api, child, inks) for child in children]
        await at_a_pace(writers, 5.0)  # warms up
        told("nothing beside", await at_a_pace(writers, SECONDS))
        await bring(range(PAGES, WRITERS))
        told("beside pages that are read", await at_a_pace(writers, SECONDS))
        left = (await api.get(f"/api/classes/{class_id}/pages")).json()["to_read"]
        print(f"{WRITERS - PAGES - left} pages were read meanwhile, {left} are left")


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
        asyncio.run(measure(server.url))
