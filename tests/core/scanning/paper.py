"""Sheets, printed and written on, as tests need them."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.scanning.find import find_pages
from firstloop.core.scanning.read import ReadEntry, ReadPage, Terms, read_page
from firstloop.core.sheets.compose import compose
from firstloop.core.sheets.scene import Entry, Page
from firstloop.core.sheets.wish import RowWish, SheetWish, WritingRow
from firstloop.core.simulate.pencil import Lead, rub_out, write_on
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import write
from firstloop.formats.sheet_pdf import page_grey

DPI = 200.0
PENCIL = Lead(0.5, 0.65, 0.2, 0.1)


def made(*rows: RowWish, style: HouseStyle = DEFAULT_STYLE, code: str = "K7Q2M9", **wish) -> Page:
    """The first page of a sheet."""
    return compose(
        SheetWish(rows or (WritingRow(("n",)),), xh_mm=wish.pop("xh_mm", 9), **wish), style, code
    ).pages[0]


@dataclass
class Paper:
    """A printed page that can be written on."""

    page: Page
    printing: str = "colour"
    lead: Lead = PENCIL
    style: HouseStyle = DEFAULT_STYLE
    rng: np.random.Generator = field(default_factory=lambda: np.random.default_rng(4))

    def __post_init__(self) -> None:
        """Print it."""
        self.grey = page_grey(self.page, self.printing, DPI)
        self.written: dict[str, InkGroup] = {}

    def entry(self, key: str) -> Entry:
        """A place of the page."""
        return next(one for one in self.page.entries if one.key == key)

    def write(self, key: str, **how) -> InkGroup:
        """Write what is asked for in a place, as the simulated writer does."""
        ink = self.written[key] = self.ink_for(key, **how)
        self.draw(*(stroke.points_mm for stroke in ink.strokes))
        return ink

    def ink_for(self, key: str, **how) -> InkGroup:
        """What the simulated writer would write in a place."""
        entry = self.entry(key)
        maker = write if entry.is_letter else write_text
        text = how.pop("text", entry.expected)
        ink = maker(text, self.rng, style=self.style, ruling=entry.lines, **how)
        every = np.concatenate([stroke.points_mm for stroke in ink.strokes])
        dx = (entry.box[0] + entry.box[2]) / 2 - (every[:, 0].min() + every[:, 0].max()) / 2
        return replace(ink, strokes=tuple(InkStroke(s.points_mm + np.array([dx, 0.0])) for s in ink.strokes))

    def draw(self, *strokes) -> None:
        """Strokes anywhere on the page, mm."""
        self.grey = write_on(
            self.grey, DPI, [np.array(one, dtype=float) for one in strokes], self.lead, self.rng
        )

    def rub_out(self, ink: InkGroup) -> None:
        """Leave the ghost of what was written and rubbed out."""
        self.grey = rub_out(self.grey, DPI, [s.points_mm for s in ink.strokes], self.lead, self.rng)

    def tick(self, key: str) -> None:
        """Tick a place as the best one."""
        x, y, _ = self.entry(key).best
        self.draw([(x - 0.9, y - 0.1), (x - 0.2, y + 0.8), (x + 1.1, y - 1.2)])

    def strike(self, key: str, slope: float = 1.0) -> None:
        """Draw a line through what stands in a place."""
        left, top, right, bottom = self.across(key)
        middle, half = (top + bottom) / 2, slope * (bottom - top) / 2
        x = np.linspace(left - 1.2, right + 1.2, 40)
        self.draw(np.column_stack([x, np.linspace(middle + half, middle - half, 40)]))

    def across(self, key: str) -> tuple[float, float, float, float]:
        """The box of what was written in a place."""
        every = np.concatenate([stroke.points_mm for stroke in self.written[key].strokes])
        return (*every.min(0).tolist(), *every.max(0).tolist())

    def read(self, picture: np.ndarray | None = None) -> ReadPage:
        """Read the page, or a picture of it."""
        grey = self.grey if picture is None else picture
        (found,) = find_pages(grey, lambda sheet, copy, number: self.page)
        return read_page(grey, found, str(self.style.script), Terms(self.style))


def by_key(read: ReadPage) -> dict[str, ReadEntry]:
    """What was read, by place."""
    return {one.entry.key: one for one in read.entries}
