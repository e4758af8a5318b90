"""The middle lines of ink: where the pen went, whatever thinning makes of its edge."""

from __future__ import annotations

import base64
import string
import zlib
from collections.abc import Sequence

import numpy as np
import pytest

from firstloop.core.check.ways.follow import stepped
from firstloop.core.check.ways.graph import InkGraph, ink_graph
from firstloop.core.check.ways.letters import letter_strokes
from firstloop.core.curves import length, nearest, resample
from firstloop.core.letterforms.style import DEFAULT_STYLE
from firstloop.core.simulate.writer import write

PX_XH = 80.0


def drawn(strokes: Sequence[np.ndarray], pen: float) -> np.ndarray:
    """What a round pen leaves of runs of points, pixels; a place around them."""
    tall, wide = (int(max(stroke[:, axis].max() for stroke in strokes) + 2 * pen) for axis in (1, 0))
    y, x = np.mgrid[:tall, :wide] + 0.5
    spots = np.column_stack([x.ravel(), y.ravel()])
    ways = np.concatenate([resample(stroke, round(4 * length(stroke))) for stroke in strokes])
    return (nearest(spots, ways) < pen / 2).reshape(tall, wide)


def places(graph: InkGraph) -> np.ndarray:
    return np.concatenate([edge.points for edge in graph.edges])


@pytest.mark.parametrize("pen", [8.0, 12.0, 16.0])
@pytest.mark.parametrize("half_deg", [12, 20, 30])
def test_the_point_of_a_sharp_turn_is_where_the_pen_was(half_deg, pen):
    """A v of straight lines: thinning alone blunts its point by a pen's width and more."""
    point = np.array([120.0, 200.0])
    arm = 160 * np.array([np.sin(np.radians(half_deg)), -np.cos(np.radians(half_deg))])
    graph = ink_graph(drawn([np.array([point + arm * (-1, 1), point, point + arm])], pen))
    assert np.hypot(*(places(graph) - point).T).min() < 0.25 * pen
    assert graph.width == pytest.approx(pen, abs=1.5)


def test_a_v_with_a_round_end_reaches_as_far_as_the_pen_did():
    about = np.radians(np.linspace(180, 0, 20))
    end = np.column_stack([100 + 6 * np.cos(about), 200 + 6 * np.sin(about)])
    way = np.concatenate([[[50.0, 60.0]], end, [[150.0, 60.0]]])
    graph = ink_graph(drawn([way], 12.0))
    assert places(graph)[:, 1].max() == pytest.approx(206, abs=2.0)


def test_a_bend_as_round_as_a_child_makes_it_gets_no_point():
    about = np.radians(np.linspace(180, 0, 60))
    hook = np.column_stack([100 + 20 * np.cos(about), 150 + 20 * np.sin(about)])
    way = np.concatenate([[[80.0, 40.0]], hook])
    graph = ink_graph(drawn([way], 12.0))
    assert nearest(places(graph), resample(way, 800)).max() < 1.5


@pytest.mark.parametrize("bump", [(2, 4), (3, 3), (3, 6)])
def test_roughness_of_an_edge_is_no_branch(bump):
    deep, wide = bump
    mask = np.zeros((60, 140), dtype=bool)
    mask[20:32, 20:120] = True
    mask[32 : 32 + deep, 70 : 70 + wide] = True
    assert len(ink_graph(mask).edges) == 1


def test_a_line_that_hangs_on_a_ring_hangs_on_it_still_when_roughness_is_off():
    about = np.radians(np.linspace(0, 360, 90))
    ring = np.column_stack([100 + 40 * np.cos(about), 80 + 40 * np.sin(about)])
    mask = drawn([ring, np.array([[128.0, 108.0], [128.0, 160.0]])], 12.0)
    for angle in np.radians((30, 130, 220, 310)):
        x, y = np.round((100, 80) + 47 * np.array([np.cos(angle), np.sin(angle)])).astype(int)
        rough = mask.copy()
        rough[y - 3 : y + 3, x - 3 : x + 3] = True
        lines = stepped(ink_graph(rough), PX_XH, lambda spots: spots / PX_XH)
        assert lines.parts.max() == 0, angle


@pytest.mark.parametrize(
    ("char", "seed", "pen_xh"),
    [
        ("z", 1, 0.2),
        ("z", 11, 0.2),
        ("v", 0, 0.2),
        ("v", 1, 0.2),
        ("w", 9, 0.2),
        ("z", 21, 0.25),
        ("z", 27, 0.25),
    ],
)
def test_a_blunt_pen_leaves_the_points_of_a_letter_where_they_are(char, seed, pen_xh):
    """Letters of children by a pen of a fifth of the x-height and more: a felt pen on the smallest lines."""
    strokes = write(char, np.random.default_rng(seed)).in_letter_space
    left, top = np.concatenate(strokes).min(0)[0], np.concatenate(strokes).max(0)[1]
    on_picture = [np.column_stack([one[:, 0] - left, top - one[:, 1]]) * PX_XH + 30 for one in strokes]
    graph = ink_graph(drawn(on_picture, pen_xh * PX_XH))
    lines = stepped(graph, PX_XH, lambda spots: np.column_stack([spots[:, 0], -spots[:, 1]]) / PX_XH)
    found = np.concatenate(
        [resample(one, 200) for one in letter_strokes(lines, char, DEFAULT_STYLE, string.ascii_lowercase)]
    )
    off = nearest(np.concatenate(on_picture), found * (PX_XH, -PX_XH))
    assert off.max() < 0.07 * PX_XH


@pytest.mark.parametrize(("bar", "edges"), [(12, 4), (4, 1)])
def test_a_bar_along_a_printed_line_stays_where_it_is_as_wide_as_the_pen(bar, edges):
    """The bar of t lies on the middle line; what is left of a printed line is thinner than a pen."""
    mask = np.zeros((140, 80), dtype=bool)
    mask[10:130, 34:46] = True
    mask[60 : 60 + bar, 18:62] = True
    graph = ink_graph(mask, lambda line: bool(np.ptp(line[:, 0]) > np.ptp(line[:, 1])))
    assert len(graph.edges) == edges


BLUNT_FOOT = (
    "c-oy+L2kq#3<RYTmrD6SB|cJ#Z}rCB_FMVEeu2KAxitqAw*i99SZ%6u+3aNSU^8}%Y0KRVtTzM#E%L9WJJCR(@0BIs4<rd-J^&"
    "eJB19@c5QJ#MJ;W!D7093?<2GQ&u(V=W!mupu4%Jyo7Y#4s&Lv{xv~ArVd6O^fiQ`W7onuO<+kL0FmR#tRSf6Z9U~W%yKg)Tln"
    "7VQ+$kq>+)g^-wCQ<o8nU~`t_Obxrkzy4k3{EM^`xV70O1!4f=;Nbu`HJF^VihHzkY~Rg+^5rV<mm9)W(igbh};p_5TFMFyP|w"
    "3BqH#sDC#WlN~m{LPoR3?*}Qn}NWb^qsm*06i3%mAlp+?pO?->5=L>`GSk={=D_{PJqTH<;U_na$kC|7bpme~v)3xg?p|o$U<`"
    "$-`^;b--A{{g5m}_Q<XJ3*-rH?djZCm{=TDuKDk?LF!C%T{7#9W8ro&87|XSMrrR{t{215&K|DCqBo`n0suti$yWK~AY<yp?fJ"
    "*|e*9aRZ~_T`KDt4-8{_)Gw%5f&K"
)
"""The foot of a t, by a blunt pen, unsteady; 115 rows of 140 pixels: two points within its own width."""


def test_of_two_points_nearer_than_the_pen_is_wide_one_is_made():
    bits = np.unpackbits(np.frombuffer(zlib.decompress(base64.b85decode(BLUNT_FOOT)), np.uint8))
    mask = bits[: 115 * 140].reshape(115, 140) > 0
    graph = ink_graph(mask)
    rows, columns = np.floor(np.concatenate([edge.points for edge in graph.edges])).astype(int).T[::-1]
    assert mask[rows, columns].mean() > 0.98
    assert graph.length > 150
