"""Writing that is on no sheet: a page of an exercise book, and a small whiteboard."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np

from firstloop.core.ink import InkGroup
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.ruling import Ruling
from firstloop.core.simulate.hand import ORDINARY_HAND, SimHand
from firstloop.core.simulate.pencil import Lead, write_on
from firstloop.core.simulate.text import write_text

_BOOK_MM, _BOARD_MM = (165.0, 210.0), (300.0, 210.0)
_PENCIL, _FELT_PEN = Lead(0.5, 0.6, 0.2, 0.1), Lead(1.6, 0.9, 0.05, 0.0)
_MARGIN_MM, _LEFT_MM, _TOP_MM = 18.0, 24.0, 24.0
_LINE_MM, _LINE_GREY, _PAPER_GREY, _FRAME_GREY, _FRAME_MM = 0.25, 168, 246, 120, 8.0


def exercise_book(
    texts: Sequence[str],
    rng: np.random.Generator,
    dpi: float,
    gap_mm: float = 12.0,
    style: HouseStyle = DEFAULT_STYLE,
    hand: SimHand = ORDINARY_HAND,
) -> tuple[np.ndarray, list[InkGroup]]:
    """A page with ruled lines and a margin, a text on every second line; and the ink on it.

    Small letters are half as tall as lines are apart.
    """
    page = _blank(_BOOK_MM, dpi)
    y = _TOP_MM
    while y < _BOOK_MM[1] - 10:
        _level(page, y, dpi)
        y += gap_mm
    margin = round(_MARGIN_MM * dpi / 25.4)
    cv2.line(page, (margin, 0), (margin, page.shape[0]), 190, max(1, round(0.3 * dpi / 25.4)))
    lines = [_TOP_MM + (2 * i + 1) * gap_mm for i in range(len(texts))]
    inks = [
        _written(text, base, gap_mm / 2, style, hand, rng) for text, base in zip(texts, lines, strict=True)
    ]
    return _with(page, inks, dpi, _PENCIL, rng), inks


def whiteboard(
    texts: Sequence[str],
    rng: np.random.Generator,
    dpi: float,
    xh_mm: float = 18.0,
    style: HouseStyle = DEFAULT_STYLE,
    hand: SimHand = ORDINARY_HAND,
) -> tuple[np.ndarray, list[InkGroup]]:
    """A small whiteboard with a dark frame and no lines, written on with a felt pen; and the ink on it."""
    board = _blank(_BOARD_MM, dpi)
    frame = round(_FRAME_MM * dpi / 25.4)
    cv2.rectangle(board, (0, 0), (board.shape[1], board.shape[0]), _FRAME_GREY, 2 * frame)
    bases = [60.0 + 4.2 * xh_mm * i for i in range(len(texts))]
    rows = zip(texts, bases, strict=True)
    inks = [_written(text, base, xh_mm, style, hand, rng) for text, base in rows]
    return _with(board, inks, dpi, _FELT_PEN, rng), inks


def _blank(size_mm: tuple[float, float], dpi: float) -> np.ndarray:
    wide, tall = (round(one * dpi / 25.4) for one in size_mm)
    return np.full((tall, wide), _PAPER_GREY, dtype=np.uint8)


def _level(page: np.ndarray, y_mm: float, dpi: float) -> None:
    y = round(y_mm * dpi / 25.4)
    cv2.line(page, (0, y), (page.shape[1], y), _LINE_GREY, max(1, round(_LINE_MM * dpi / 25.4)))


def _written(
    text: str, base_mm: float, xh_mm: float, style: HouseStyle, hand: SimHand, rng: np.random.Generator
) -> InkGroup:
    ruling = Ruling(base_mm - xh_mm, base_mm)
    left = _LEFT_MM + float(rng.uniform(0, 4))
    return replace(write_text(text, rng, style=style, ruling=ruling, hand=hand, left_mm=left), truth=text)


def _with(
    page: np.ndarray, inks: Sequence[InkGroup], dpi: float, lead: Lead, rng: np.random.Generator
) -> np.ndarray:
    strokes = [stroke.points_mm for ink in inks for stroke in ink.strokes]
    return write_on(page, dpi, strokes, lead, rng)
