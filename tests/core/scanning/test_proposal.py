"""Paper, lines and rows that are proposed for any picture of writing."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.scanning.proposal import flat, propose
from firstloop.core.simulate.camera import Device, take
from firstloop.core.simulate.notebook import exercise_book, whiteboard

DPI = 200.0
TEXTS = ("a crab on a raft", "mud and sand")
CURL_MM = (
    2.0  # a page that does not lie flat is longer than it looks between its corners; lines are 6 mm apart
)


def corners_of(page: np.ndarray, picture) -> np.ndarray:
    """Where the corners of a page are in its picture, clockwise from its own top left."""
    tall, wide = (side * 25.4 / DPI for side in page.shape)
    return picture.where(np.array([(0, 0), (wide, 0), (wide, tall), (0, tall)], dtype=float))


def turned_alike(found: np.ndarray, true: np.ndarray) -> np.ndarray:
    """The corners found, from the one on that is the page's own top left."""
    first = int(np.hypot(*(found - true[0]).T).argmin())
    return np.roll(found, -first, axis=0)


@pytest.mark.parametrize("seed", range(4))
def test_the_paper_is_found_wherever_it_lies(seed):
    rng = np.random.default_rng(seed)
    page, _ = exercise_book(TEXTS, rng, DPI)
    picture = take(Device.PHONE, page, DPI, rng)
    true = corners_of(page, picture)
    found = turned_alike(propose(picture.grey).corners, true)
    assert np.hypot(*(found - true).T).max() < 0.02 * max(picture.grey.shape)


@pytest.mark.parametrize("seed", range(4))
def test_ruled_lines_and_the_rows_written_on_are_found(seed):
    rng = np.random.default_rng(seed)
    page, inks = exercise_book(TEXTS, rng, DPI)
    picture = take(Device.PHONE, page, DPI, rng)
    found = propose(picture.grey, corners_of(page, picture))
    tall = page.shape[0] * 25.4 / DPI
    assert len(found.lines) == 15
    assert len(found.uprights) == 1
    for ink in inks:
        near = min(found.bands, key=lambda band: abs(band.base * tall - ink.ruling.base_mm))
        assert abs(near.base * tall - ink.ruling.base_mm) < CURL_MM
        assert abs(near.mid * tall - ink.ruling.mid_mm) < CURL_MM


def test_a_page_on_a_scanners_glass_is_made_level():
    rng = np.random.default_rng(2)
    page, _ = exercise_book(TEXTS, rng, DPI)
    picture = take(Device.SCANNER, page, DPI, rng)
    found = propose(picture.grey)
    (ax, ay), (bx, by), *_ = found.corners
    (tx, ty), (ux, uy), *_ = corners_of(page, picture)
    turn = np.degrees(np.arctan2(by - ay, bx - ax) - np.arctan2(uy - ty, ux - tx))
    assert abs((turn + 90) % 180 - 90) < 0.5
    assert len(found.lines) >= 13


def test_rows_of_a_board_without_lines_are_found_by_their_ink():
    rng = np.random.default_rng(4)
    board, inks = whiteboard(("mast", "raft"), rng, DPI)
    picture = take(Device.PHONE, board, DPI, rng)
    found = propose(picture.grey, corners_of(board, picture))
    tall = board.shape[0] * 25.4 / DPI
    assert len(found.lines) <= 2  # edges of its frame
    assert len(found.bands) == 2
    for band, ink in zip(found.bands, inks, strict=True):
        assert abs(band.base * tall - ink.ruling.base_mm) < 0.35 * ink.ruling.xh_mm
        assert abs(band.mid * tall - ink.ruling.mid_mm) < 0.35 * ink.ruling.xh_mm


def test_a_blank_picture_proposes_itself_and_no_rows():
    grey = np.full((500, 700), 230, dtype=np.uint8)
    found = propose(grey)
    assert found.corners.tolist() == [[0, 0], [700, 0], [700, 500], [0, 500]]
    assert found.bands == found.lines == ()
    assert flat(grey, found.corners).min() > 220
