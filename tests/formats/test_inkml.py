from __future__ import annotations

from contextlib import suppress

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from firstloop.core.ink import POINTS_MAX, InkGroup, InkStroke
from firstloop.core.ruling import Ruling
from firstloop.formats.inkml import InkMLError, read_inkml, write_inkml

RULED = """<annotation type="ruling.mid">18</annotation><annotation type="ruling.base">26</annotation>"""
GROUP = "<traceGroup><annotation type='truth'>l</annotation><trace>{}</trace></traceGroup>"
PLAIN = "20 18, 20 22, 20 26"


def file(body: str, channels: str = "", notes: str = RULED) -> str:
    form = f"<traceFormat>{channels}</traceFormat>" if channels else ""
    return (
        f'<ink xmlns="http://www.w3.org/2003/InkML"><definitions><inkSource xml:id="pen">{form}</inkSource>'
        f"</definitions>{notes}{body}</ink>"
    )


def xy(unit: str) -> str:
    return (
        f'<channel name="X" type="decimal" units="{unit}"/><channel name="Y" type="decimal" units="{unit}"/>'
    )


numbers = st.floats(-500, 500).map(lambda v: round(v, 3))
points = st.lists(st.tuples(numbers, numbers), min_size=1, max_size=20)


@given(st.lists(points, min_size=1, max_size=4), st.sampled_from(["", "m", "mast", "a crab"]), st.booleans())
def test_what_is_written_is_read_back(strokes, truth, timed):
    made = tuple(
        InkStroke(
            np.array(stroke),
            np.arange(len(stroke)) * 8.0 if timed else None,
            np.full(len(stroke), 0.5) if timed else None,
        )
        for stroke in strokes
    )
    group = InkGroup(made, Ruling(18.0, 26.0, 10.0, 34.0), truth, "print", "left")
    (back,) = read_inkml(write_inkml([group]))
    assert (back.truth, back.script, back.hand, back.ruling) == (truth, "print", "left", group.ruling)
    for before, after in zip(group.strokes, back.strokes, strict=True):
        np.testing.assert_allclose(after.points_mm, before.points_mm, atol=1e-3)
        assert (after.t_ms is None) == (before.t_ms is None)
        if timed:
            np.testing.assert_allclose(after.t_ms, before.t_ms)
            np.testing.assert_allclose(after.force, before.force)


def test_the_reference_example_is_read():
    text = file(
        '<annotation type="script">print</annotation><traceGroup><annotation type="truth">m</annotation>'
        "<trace>20 18.1 0, 20.1 19 12</trace></traceGroup>",
        xy("mm") + '<channel name="T" type="integer" units="ms"/>',
        '<annotation type="ruling.rise">10.0</annotation><annotation type="ruling.drop">34.0</annotation>'
        + RULED,
    )
    (group,) = read_inkml(text)
    np.testing.assert_allclose(group.strokes[0].points_mm, [[20, 18.1], [20.1, 19]])
    np.testing.assert_allclose(group.strokes[0].t_ms, [0, 12])
    assert group.ruling.lines_mm == (10, 18, 26, 34)


@pytest.mark.parametrize(("unit", "mm"), [("mm", 1.0), ("cm", 10.0), ("in", 25.4), ("pt", 25.4 / 72)])
def test_other_units_become_millimetres(unit, mm):
    (group,) = read_inkml(file(GROUP.format("1 2, 3 4"), xy(unit)))
    np.testing.assert_allclose(group.strokes[0].points_mm, np.array([[1, 2], [3, 4]]) * mm)


def test_device_units_need_their_resolution():
    properties = (
        "<channelProperties><channelProperty channel='X' name='resolution' value='100' units='1/in'/>"
        "<channelProperty channel='Y' name='resolution' value='50' units='1/cm'/></channelProperties>"
    )
    text = file(GROUP.format("100 50, 200 100"), xy("dev")).replace(
        "</inkSource>", properties + "</inkSource>"
    )
    (group,) = read_inkml(text)
    np.testing.assert_allclose(group.strokes[0].points_mm, [[25.4, 10], [50.8, 20]])
    with pytest.raises(InkMLError, match="resolution"):
        read_inkml(file(GROUP.format("1 1"), xy("dev")))


@pytest.mark.parametrize(
    "trace",
    [
        "20 18, '0 '4, 0 4",  # first differences go on until something else is said
        "20 18,'0'4,0 4",
        "20 18, '0 '4, \"0 \"0",  # second differences keep the speed
        "20 18, !20 !22, !20 !26",
        " 20   18 ,20\n22, 20 26 ",
        "20 18, * 22, * 26",
    ],
)
def test_coded_traces_are_decoded(trace):
    (group,) = read_inkml(file(GROUP.format(trace)))
    np.testing.assert_allclose(group.strokes[0].points_mm, [[20, 18], [20, 22], [20, 26]])


def test_a_groups_own_ruling_and_script_win_over_the_files():
    own = (
        "<traceGroup><annotation type='ruling.mid'>50</annotation>"
        "<annotation type='ruling.base'>60</annotation>"
        "<annotation type='script'>cursive</annotation><trace>1 1</trace></traceGroup>"
    )
    other, mine = read_inkml(file(GROUP.format(PLAIN) + own))
    assert (other.ruling.base_mm, other.script) == (26.0, "print")
    assert (mine.ruling.base_mm, mine.script) == (60.0, "cursive")


def test_traces_outside_a_group_are_one_unlabelled_group():
    groups = read_inkml(file(f"<trace>{PLAIN}</trace>" + GROUP.format(PLAIN) + f"<trace>{PLAIN}</trace>"))
    assert [(group.truth, len(group.strokes)) for group in groups] == [("", 2), ("l", 1)]


def test_unknown_elements_and_annotations_are_ignored():
    extra = "<mystery a='b'><inner/></mystery><annotation type='mood'>sunny</annotation>"
    assert len(read_inkml(file(extra + GROUP.format(PLAIN)))) == 1


BAD = {
    "not XML": ("this is no ink", "not XML"),
    "empty": ("", "not XML"),
    "another root": ("<svg/>", "not InkML"),
    "no traces": (file("<traceGroup/>"), "no traces"),
    "no ruling": (file(GROUP.format(PLAIN), notes=""), "no ruling"),
    "half a ruling": (
        file(GROUP.format(PLAIN), notes='<annotation type="ruling.mid">18</annotation>'),
        "no ruling",
    ),
    "lines upside down": (
        file(GROUP.format(PLAIN), notes=RULED.replace("18", "30")),
        "in the order rise, mid, base, drop",
    ),
    "unknown unit": (file(GROUP.format(PLAIN), xy("furlong")), "furlong"),
    "not a number": (file(GROUP.format("20 18, NaN 22")), "NaN"),
    "infinite": (file(GROUP.format("20 18, 1e999 22")), "finite"),
    "an infinite word": (file(GROUP.format("20 18, inf 22")), "finite"),
    "one value": (file(GROUP.format("20 18, 22")), "1 values where 2"),
    "an entity": ('<!DOCTYPE ink [<!ENTITY x "18">]>' + file(GROUP.format("20 &x;")), "entity"),
    "an infinite ruling": (file(GROUP.format(PLAIN), notes=RULED.replace("18", "inf")), "finite"),
    "no Y": (file(GROUP.format("1"), '<channel name="X" type="decimal"/>'), "X and Y"),
    "an empty trace": (file(GROUP.format(" ")), "where 2 are needed"),
}


@pytest.mark.parametrize("name", BAD)
def test_a_bad_file_is_refused_in_one_clear_line(name):
    text, said = BAD[name]
    with pytest.raises(InkMLError) as refused:
        read_inkml(text)
    assert said in str(refused.value)
    assert "\n" not in str(refused.value)


def test_more_points_than_anyone_writes_are_refused():
    with pytest.raises(InkMLError, match="2,000,000"):
        read_inkml(file(GROUP.format(",".join(["1 1"] * (POINTS_MAX + 1)))))


@given(st.text(alphabet="0123456789 .,'\"!*?-eETF#<>/abc\n", max_size=60))
def test_no_trace_whatever_it_holds_does_more_than_be_refused(trace):
    with suppress(InkMLError):
        assert read_inkml(file(GROUP.format(trace.replace("<", "&lt;").replace(">", "&gt;"))))


@given(st.binary(max_size=200))
def test_no_bytes_do_more_than_be_refused(data):
    with pytest.raises(InkMLError):
        read_inkml(data)
