"""Printed lines are taken out of a page, and what was written along one stays: on pages drawn by hand."""

from __future__ import annotations

import numpy as np
import pytest

from firstloop.core.scanning.darkness import Darkness
from firstloop.core.scanning.printed_lines import PrintedLine, without_lines

PX = 8
LINE = 0.55  # darkness of print
INK = 0.75
WIDE = 1440


def page(rows: int = 3) -> np.ndarray:
    return np.zeros((rows * 200, WIDE))


def level(
    values: np.ndarray, y: int, start: int = 0, end: int = WIDE, dark: float = LINE, thick: int = 2
) -> None:
    part = values[y : y + thick, start:end]
    np.maximum(part, dark, out=part)


def line(y: int, **more) -> PrintedLine:
    return PrintedLine((y + 1) / PX, 0.0, WIDE / PX, **more)


def test_a_row_of_bars_that_covers_most_of_a_line_stays():
    """What a line is usually like shows on lines of its kind where less is written."""
    values = page()
    ruled = (100, 300, 500)
    for y in ruled:
        level(values, y)
    bars = [slice(x, x + 60) for x in range(40, 1400, 80)]
    for bar in bars:
        level(values, 299, bar.start, bar.stop, INK, 4)
    dark = Darkness(values, float(PX), 0.01)
    without_lines(dark, [line(y) for y in ruled])
    assert all((values[299:303, bar.start + 8 : bar.stop - 8] > 0.5).all() for bar in bars)
    assert not values[100:102].any()
    assert not values[500:502].any()
    assert not values[300:302, 100 + 8 : 120 - 8].any()  # between two bars


def test_where_an_edge_is_printed_on_a_line_ink_is_told_from_both_though_it_is_all_there_is():
    """A copy lost the line wherever there is an edge, and in every such place a bowl lies on it."""
    values = page(1)
    double = []
    for x in range(80, 1300, 120):
        double.append((x / PX, (x + 60) / PX))
        level(values, 100, x + 60, x + 120)
        level(values, 98, x + 15, x + 50, 0.95, 6)
    kept = values.copy()
    without_lines(Darkness(values, float(PX), 0.01), [line(100, double=tuple(double))])
    for start, end in double:
        bowl = slice(round(start * PX) + 20, round(end * PX) - 15)
        assert (values[98:104, bowl] == kept[98:104, bowl]).all()
    assert not values[100:102, 80 + 64 : 80 + 116].any()


@pytest.mark.parametrize("aside", [0, 3])
def test_a_stem_that_stands_on_the_edge_of_a_block_or_beside_it_stays(aside: int):
    """Most of its edge may lie under it: what an edge is like shows on all of them together."""
    values = page(2)
    edges = range(60, 1300, 60)
    for x in edges:
        for y in range(40, 280, 20):
            level(values.T, x, y, y + 8, LINE)
    level(values.T, 360 + aside - 1, 84, 230, INK, 4)
    lines = [PrintedLine((x + 1) / PX, 40 / PX, 280 / PX) for x in edges]
    without_lines(Darkness(values, float(PX), 0.01), lines, upright=True)
    assert (values[90:224, 360 + aside : 360 + aside + 2] > 0.5).all()
    assert not values[:70, 360:362].any()
    assert not values[240:, 360:362].any()
    assert not values[:, 480:482].any()


def test_a_row_of_i_in_narrow_boxes_keeps_its_stems_and_dots():
    """Every side has a stem beside it that is darker, and nearly as long."""
    values = page(2)
    boxes = range(60, 1300, 60)
    for x in boxes:
        for side in (x, x + 12):
            level(values.T, side, 40, 160, 0.12)
        level(values.T, x + 4, 75, 145, INK, 5)
        level(values.T, x + 4, 50, 55, INK, 5)
    lines = [PrintedLine((side + 1) / PX, 40 / PX, 160 / PX) for x in boxes for side in (x, x + 12)]
    without_lines(Darkness(values, float(PX), 0.01), lines, upright=True)
    for x in boxes:
        assert (values[75:145, x + 4 : x + 9] == INK).all()
        assert (values[50:55, x + 4 : x + 9] == INK).all()
        assert not values[150:160, x : x + 14].any()


def test_a_bar_along_a_dashed_line_stays_where_it_fills_a_gap():
    """It is as thin and as pale as the dashes: only its length tells it, and a stem crosses it."""
    values = page(1)
    for x in range(0, WIDE, 16):
        level(values, 100, x, x + 8)
    level(values, 100, 480, 520)
    values[60:140, 496:500] = INK
    without_lines(Darkness(values, float(PX), 0.01), [line(100)])
    assert (values[100:102, 482:518] > 0.5).all()
    assert not values[100:102, :470].any()
    assert not values[100:102, 536:].any()
