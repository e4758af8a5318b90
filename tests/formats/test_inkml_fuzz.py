"""Whatever bytes come as ink, the answer is a document or one clear sentence, and soon."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.ink import InkError
from firstloop.core.simulate.text import write_text
from firstloop.formats.inkml import DEEPEST, TRUTH_LONGEST, InkMLError, write_inkml
from firstloop.services.check_files import CheckDocument, check_file

GOOD = write_inkml([write_text("tide", np.random.default_rng(1))])
NUMBER = st.one_of(
    st.integers(-(10**9), 10**9).map(str),
    st.floats(allow_nan=True, allow_infinity=True).map(str),
    st.sampled_from(["", "'", '"', "!", "?", "*", "#a", "1e309", "-", "0x1", "T", "F"]),
)


def judged(data: bytes) -> None:
    said = ""
    try:
        document = check_file(data)
    except InkError as problem:
        said = str(problem)
        document = CheckDocument("", [])
    assert document.groups or (said and "\n" not in said)
    for group in document.groups:
        assert all(one.verdict for one in group.letters)


@settings(max_examples=60)
@given(st.data())
def test_a_file_with_some_bytes_changed_never_crashes(data):
    spoilt = bytearray(GOOD)
    for _ in range(data.draw(st.integers(1, 6))):
        at = data.draw(st.integers(0, len(spoilt) - 1))
        spoilt[at] = data.draw(st.integers(0, 255))
    judged(bytes(spoilt))


@settings(max_examples=60)
@given(st.lists(st.lists(st.lists(NUMBER, max_size=4), max_size=12), max_size=4), st.text(max_size=6))
def test_any_traces_and_any_truth_are_judged_or_refused(traces, truth):
    body = "".join(
        "<trace>" + ", ".join(" ".join(point) for point in trace).replace("<", "") + "</trace>"
        for trace in traces
    )
    safe = "".join(c for c in truth if c.isprintable() and c not in "<>&")
    judged(
        f"""<ink xmlns="http://www.w3.org/2003/InkML">
        <annotation type="ruling.mid">18</annotation><annotation type="ruling.base">26</annotation>
        <traceGroup><annotation type="truth">{safe}</annotation>{body}</traceGroup></ink>""".encode()
    )


@settings(max_examples=30)
@given(st.integers(0, len(GOOD)), st.binary(max_size=40))
def test_a_file_cut_short_or_run_on_is_judged_or_refused(at, more):
    judged(GOOD[:at] + more)


@settings(max_examples=30)
@given(
    st.text("abcdefghijklmnopqrstuvwxyzABC123 .,", min_size=1, max_size=12),
    st.integers(1, 9),
    st.integers(1, 12),
    st.sampled_from(["print", "print-exits", "cursive", "runes"]),
    st.integers(0, 999),
)
def test_ink_that_has_nothing_to_do_with_its_truth_is_judged(truth, strokes, points, script, seed):
    rng = np.random.default_rng(seed)
    body = "".join(
        "<trace>" + ", ".join(f"{x:.2f} {y:.2f}" for x, y in rng.uniform(0, 60, (points, 2))) + "</trace>"
        for _ in range(strokes)
    )
    judged(
        f"""<ink xmlns="http://www.w3.org/2003/InkML">
        <annotation type="ruling.mid">18</annotation><annotation type="ruling.base">26</annotation>
        <annotation type="script">{script}</annotation>
        <traceGroup><annotation type="truth">{truth}</annotation>{body}</traceGroup></ink>""".encode()
    )


@pytest.mark.parametrize("points", [2, 8])
def test_few_points_a_stroke_still_read_as_the_letter(points):
    """Straight lines of two points, rounds of eight: digits and letters as a plotter would draw them."""
    turn = np.linspace(1.2, 7.4, 8)
    shapes = {
        2: {"l": [[(12, 10), (12, 26)]], "x": [[(12, 18), (18, 26)], [(18, 18), (12, 26)]]},
        8: {"o": [list(zip(14 + 3.2 * np.cos(turn), 22 - 4 * np.sin(turn), strict=True))]},
    }
    for char, runs in shapes[points].items():
        traces = [", ".join(f"{x:.1f} {y:.1f}" for x, y in run) for run in runs]
        body = "".join(f"<trace>{trace}</trace>" for trace in traces)
        document = check_file(
            f"""<ink xmlns="http://www.w3.org/2003/InkML">
            <annotation type="ruling.mid">18</annotation><annotation type="ruling.base">26</annotation>
            <traceGroup><annotation type="truth">{char}</annotation>{body}</traceGroup></ink>""".encode()
        )
        assert document.groups[0].letters[0].reads_as == char


def document(body: str, mid: object = 18, base: object = 26, more: str = "") -> bytes:
    return f"""<ink xmlns="http://www.w3.org/2003/InkML">{more}
        <annotation type="ruling.mid">{mid}</annotation><annotation type="ruling.base">{base}</annotation>
        {body}</ink>""".encode()


TRACE = "<trace>12 18, 12 26, 12.5 20, 15 18, 16 26</trace>"


@settings(max_examples=40)
@given(st.integers(1, 4000), st.sampled_from(["traceGroup", "annotationXML", "definitions"]), st.booleans())
def test_however_deep_a_file_is_it_is_judged_or_refused(depth, tag, with_truth):
    truth = '<annotation type="truth">n</annotation>' if with_truth else ""
    data = document(f"<{tag}>" * depth + truth + TRACE + f"</{tag}>" * depth)
    if tag == "traceGroup" and depth > DEEPEST:
        with pytest.raises(InkMLError, match="deep"):
            check_file(data)
    else:
        judged(data)


@settings(max_examples=8)
@given(
    st.sampled_from([(4000, 1), (600, 2), (60, 50), (1, 30_000), (3, 5000)]),
    st.sampled_from(["n", "tide and sea", "x" * TRUTH_LONGEST, "x" * (TRUTH_LONGEST + 1)]),
    st.integers(0, 99),
)
def test_however_much_a_file_holds_it_is_judged_or_refused(size, truth, seed):
    strokes, points = size
    ink = np.random.default_rng(seed).uniform(0, 90, (strokes, points, 2))
    body = "".join("<trace>" + ", ".join(f"{x:.1f} {y:.1f}" for x, y in one) + "</trace>" for one in ink)
    judged(document(f'<traceGroup><annotation type="truth">{truth}</annotation>{body}</traceGroup>'))


WILD = st.one_of(
    st.floats(allow_nan=True, allow_infinity=True),
    st.builds(lambda digit, power: digit * 10.0**power, st.floats(-9, 9), st.integers(-300, 300)),
    st.sampled_from([0.0, -0.0, 5e-324, 1e308, -1e308, 18.0, 26.0]),
)


@settings(max_examples=80)
@given(WILD, WILD, st.lists(st.tuples(WILD, WILD), min_size=1, max_size=12), st.integers(-300, 300))
def test_however_wild_its_lines_and_points_are_it_is_judged_or_refused(mid, base, points, power):
    trace = ", ".join(f"{x!r} {y!r}" for x, y in points)
    judged(document(f"<trace>{trace}</trace>{TRACE}", mid, base))
    grown = ", ".join(f"{x * 10.0**power!r} {y * 10.0**power!r}" for x, y in [(12, 18), (12, 26), (16, 26)])
    judged(
        document(f'<traceGroup><annotation type="truth">l</annotation><trace>{grown}</trace></traceGroup>')
    )


@settings(max_examples=40)
@given(WILD, st.sampled_from(["1/mm", "1/cm", "mm", "dev", ""]), st.lists(WILD, min_size=3, max_size=3))
def test_however_wild_its_units_and_times_are_it_is_judged_or_refused(resolution, units, times):
    source = f"""<inkSource xml:id="pen"><traceFormat xml:id="form">
        <channel name="X" units="dev"/><channel name="Y" units="dev"/><channel name="T" units="s"/>
        </traceFormat><channelProperties>
        <channelProperty channel="X" name="resolution" value="{resolution!r}" units="{units}"/>
        <channelProperty channel="Y" name="resolution" value="{resolution!r}" units="{units}"/>
        </channelProperties></inkSource>"""
    points = ", ".join(f"{120 + 9 * i} {180 + 40 * i} {t!r}" for i, t in enumerate(times))
    judged(
        document(f'<trace contextRef="#form">{points}</trace>', more=f"<definitions>{source}</definitions>")
    )
