"""Any other picture of writing: its lines drawn, its words typed, and from there as of any sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.letterforms.document import style_document
from firstloop.core.letterforms.words import word as word_model
from firstloop.core.ruling import Ruling
from firstloop.core.scanning.proposal import flat, propose, sides
from firstloop.core.sheets.scene import Entry, Page, Rule, Sheet, Spot, Tone
from firstloop.core.supports import Support
from firstloop.formats.pictures import jpeg, read_picture
from firstloop.formats.sheet_layout import write_layout
from firstloop.services.page_reading import TakenPage, lies_so, read_lying
from firstloop.store.classes import get_child
from firstloop.store.errors import ConflictError
from firstloop.store.pages import PrintedPage
from firstloop.store.styles import house_style

_LONGEST_MM = 450.0  # a page larger than A3 is photographed in parts
_EDGE_MM, _OUT_XH = 1.0, 1.2
_FLAT_QUALITY = 85
_NO_SHEET = ""
Corners = Sequence[Sequence[float]]


@dataclass(frozen=True)
class BandView:
    """A row of writing: its mid and base line as shares of the flat page's height."""

    mid: float
    base: float


@dataclass(frozen=True)
class ProposalView:
    """Where the paper of a picture seems to be, and its rows; ``tall`` is its height in widths."""

    corners_px: list[list[float]]
    tall: float
    bands: list[BandView]


@dataclass(frozen=True)
class WritingLine:
    """A row and what it says; its mid and base line as shares of the flat page's height."""

    mid: float
    base: float
    text: str


@dataclass(frozen=True)
class Asked:
    """What a person says of a picture of writing."""

    class_id: int
    child_id: int
    style: dict[str, Any]
    ruling: str
    corners_px: list[list[float]]
    lines: list[WritingLine]
    mid_to_base_mm: float


def propose_in(image: bytes, corners_px: Corners | None) -> ProposalView:
    """Paper, lines and rows of a kept picture."""
    found = propose(read_picture(image, 1), None if corners_px is None else np.array(corners_px, dtype=float))
    wide, tall = sides(found.corners)
    return ProposalView(
        [[round(float(x), 1), round(float(y), 1)] for x, y in found.corners],
        tall / wide,
        [BandView(one.mid, one.base) for one in found.bands],
    )


def flat_jpeg(image: bytes, corners_px: Corners) -> bytes:
    """What lies between four corners of a kept picture, made flat."""
    return jpeg(flat(read_picture(image, 1), np.array(corners_px, dtype=float)), _FLAT_QUALITY)


def asked(
    session: Session,
    child_id: int,
    corners_px: list[list[float]],
    lines: Sequence[WritingLine],
    mid_to_base_mm: float,
) -> Asked:
    """What is to be read, by the style of the child's class.

    Raises
    ------
    NotFoundError, UnknownLetterError
    ConflictError
        If a base line is not below its mid line, or the page would be larger than any that is read.
    """
    child = get_child(session, child_id)
    style = house_style(child.school_class)
    texts = [" ".join(one.text.split()) for one in lines]
    for text in texts:
        if not text:
            raise ConflictError("Say what is written in each row.")
        word_model(text, style)
    if any(one.base - one.mid <= 0 for one in lines):
        raise ConflictError("A base line stands below its mid line.")
    tidy = [WritingLine(one.mid, one.base, text) for one, text in zip(lines, texts, strict=True)]
    made = Asked(
        child.class_id,
        child.id,
        style_document(style),
        child.school_class.ruling,
        corners_px,
        sorted(tidy, key=lambda one: one.base),
        mid_to_base_mm,
    )
    if max(_size_mm(made)) > _LONGEST_MM:
        raise ConflictError(
            f"With lines {mid_to_base_mm:g} mm apart the page would be larger than A3. "
            "Photograph a part of it, or say less."
        )
    return made


def _size_mm(made: Asked) -> tuple[float, float]:
    wide, tall = sides(np.array(made.corners_px, dtype=float))
    height = made.mid_to_base_mm / float(np.median([one.base - one.mid for one in made.lines]))
    return height * wide / tall, height


def read_writing(database: Path, image: bytes, made: Asked) -> TakenPage:
    """Read a kept picture by the lines that were drawn on it."""
    grey = read_picture(image, 1)
    size_mm = _size_mm(made)
    seen = propose(grey, np.array(made.corners_px, dtype=float))
    page = _page(made, size_mm, seen.lines, seen.uprights)
    sheet = Sheet(_NO_SHEET, str(made.style["script"]), (page,))
    printed = PrintedPage(made.class_id, made.child_id, made.style, made.ruling, write_layout(sheet))
    return read_lying(database, grey, printed, lies_so(size_mm, made.corners_px))


def _page(
    made: Asked, size_mm: tuple[float, float], lines: Sequence[float], uprights: Sequence[float]
) -> Page:
    """The writing as a page of a sheet: a place a row, and what is ruled on the paper beside it."""
    wide, tall = size_mm
    rules = [_rule((0.0, y * tall), (wide, y * tall)) for y in lines]
    rules += [_rule((x * wide, 0.0), (x * wide, tall)) for x in uprights]
    entries = [
        _entry(number, one, size_mm, tuple(rules) if number == 1 else ())
        for number, one in enumerate(made.lines, start=1)
    ]
    return Page(1, size_mm, (), tuple(entries))


def _rule(start: Spot, end: Spot) -> Rule:
    return Rule(start, end, 0.0, Tone.GREY)


def _entry(number: int, line: WritingLine, size_mm: tuple[float, float], ruled: tuple[Rule, ...]) -> Entry:
    wide, tall = size_mm
    ruling = Ruling(line.mid * tall, line.base * tall)
    out = _OUT_XH * ruling.xh_mm
    box = (_EDGE_MM, ruling.mid_mm - out, wide - _EDGE_MM, ruling.base_mm + out)
    return Entry(f"w{number}", number, 1, line.text, Support.ALONE, box, ruling, aside=ruled)
