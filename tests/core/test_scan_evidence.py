"""Ink of a scan: what it looks like counts, and in which order it is given means nothing."""

from __future__ import annotations

import string
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firstloop.core.check.group import check_group
from firstloop.core.check.letter import check_letter
from firstloop.core.check.vocabulary.grades import Heading, Severity, Verdict
from firstloop.core.ink import Evidence, InkGroup, InkStroke
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.simulate.text import write_text
from firstloop.core.simulate.writer import TEN_MM, write
from firstloop.formats.inkml import InkMLError, read_inkml, write_inkml

CURSIVE = HouseStyle(script=Script.CURSIVE)
seeds = st.integers(0, 10_000)


def scanned(group: InkGroup, rng: np.random.Generator) -> InkGroup:
    """The same ink as somebody's thinning may give it: cut up, in any order, any way round, without times."""
    pieces: list[np.ndarray] = []
    for stroke in group.strokes:
        points = stroke.points_mm
        cuts = sorted(rng.integers(0, len(points), 2).tolist()) if len(points) > 8 else []
        for low, high in zip([0, *cuts], [*cuts, len(points) - 1], strict=True):
            pieces.append(points[low : high + 1])
    pieces = [one[::-1] if rng.random() < 0.5 else one for one in pieces]
    order = rng.permutation(len(pieces))
    return replace(group, strokes=tuple(InkStroke(pieces[i]) for i in order), evidence=Evidence.SCAN)


def told(result) -> list[list[str]]:
    return [[finding.code for finding in letter.findings] for letter in result.letters]


@settings(max_examples=25)
@given(st.sampled_from(string.ascii_lowercase + "ABKMR258"), seeds)
def test_order_direction_and_cuts_of_traces_mean_nothing(char, seed):
    rng = np.random.default_rng(seed)
    ink = write(char, rng)
    one, other = (check_group(scanned(ink, rng)) for _ in range(2))
    assert told(one) == told(other)
    assert one.letters[0].headings == other.letters[0].headings


@settings(max_examples=25)
@given(st.sampled_from(string.ascii_lowercase), seeds, st.sampled_from([DEFAULT_STYLE, CURSIVE]))
def test_of_a_clean_letter_nothing_is_to_fix_and_nothing_said_of_direction(char, seed, style):
    rng = np.random.default_rng(seed)
    (letter,) = check_group(scanned(write(char, rng, style=style), rng), style).letters
    assert Severity.FIX not in {finding.severity for finding in letter.findings}
    assert letter.headings[Heading.DIRECTION] is letter.headings[Heading.FLOW] is Verdict.NOT_SEEN
    assert letter.headings[Heading.SHAPE] is not Verdict.NOT_SEEN
    measures = letter.measures
    assert measures.start_x_xh is measures.start_y_xh is measures.strokes is measures.duration_ms is None
    assert measures.height_xh is not None


@pytest.mark.parametrize(
    ("char", "fault", "size"),
    [
        ("b", "shape.mirrored", 0), ("s", "shape.mirrored", 0), ("n", "shape.reads-as", 0),
        ("o", "shape.open", 0.5), ("t", "shape.part-missing", 0), ("l", "size.rise-short", 0.9),
        ("n", "size.tall", 60),
        ("a", "position.floating", 0.6), ("n", "shape.slant", 32), ("i", "shape.dot-gap", 0.9),
    ],
)  # fmt: skip
def test_what_can_be_seen_on_paper_is_found(char, fault, size, rng):
    found = 0
    for _ in range(8):
        ink = write(char, rng, fault=fault, size=size)
        (letter,) = check_group(scanned(ink, rng)).letters
        found += fault in {finding.code for finding in letter.findings}
    assert found >= 7


@pytest.mark.parametrize("fault", ["start.bottom", "direction.turn", "order.swapped", "lift.extra"])
def test_what_cannot_be_seen_on_paper_is_not_said(fault, rng):
    char = {"order.swapped": "k", "direction.turn": "o"}.get(fault, "n")
    for _ in range(4):
        (letter,) = check_group(scanned(write(char, rng, fault=fault, size=2), rng)).letters
        assert not [f for f in letter.findings if f.spec.heading in (Heading.DIRECTION, Heading.FLOW)]
        assert letter.headings[Heading.DIRECTION] is Verdict.NOT_SEEN


def test_a_way_back_that_goes_wide_is_no_other_form(rng):
    """Where the model goes twice along a line there are two, and the bowl of a p runs through one of them."""
    same = 0
    for style in (CURSIVE, DEFAULT_STYLE):
        for _ in range(5):
            ink = write("p", rng, style=style, fault="retrace.gap", size=0.4)
            (letter,) = check_group(scanned(ink, rng), style).letters
            with_a_pen = check_letter(ink, "p", style).headings[Heading.SHAPE]
            same += letter.headings[Heading.SHAPE] is with_a_pen
    assert same >= 6


@pytest.mark.parametrize("char", "nmpado")
def test_on_paper_a_line_more_is_extra_ink_and_with_a_pen_that_was_seen_it_is_a_lift(char, rng):
    ink = write(char, rng)
    stem = ink.strokes[0].points_mm
    line = np.linspace((-5.0, 1.0), (4.0, -1.0), 30) + stem[len(stem) // 4]
    more = replace(ink, strokes=(*ink.strokes, InkStroke(line)))
    codes = {
        evidence: {one.code for one in check_letter(replace(more, evidence=evidence), char).findings}
        for evidence in (Evidence.INK, Evidence.SCAN)
    }
    assert "shape.part-extra" in codes[Evidence.SCAN] - codes[Evidence.INK]


@pytest.mark.parametrize("char", "xtk")
def test_on_paper_the_line_that_a_lift_would_have_spared_is_no_extra_ink(char, rng):
    for _ in range(4):
        ink = replace(write(char, rng, fault="lift.missing", size=1), evidence=Evidence.SCAN)
        assert "shape.part-extra" not in {one.code for one in check_letter(ink, char).findings}


@pytest.mark.parametrize(
    ("text", "style"),
    [
        ("mast raft", DEFAULT_STYLE), ("a crab on a raft", DEFAULT_STYLE), ("nnnnn", DEFAULT_STYLE),
        ("jump", CURSIVE), ("little fox", CURSIVE),
    ],
)  # fmt: skip
def test_words_and_lines_are_followed_letter_by_letter(text, style, rng):
    ink = write_text(text, rng, style=style, room_xh=0.4 if len(set(text)) == 1 else 0.0)
    result = check_group(scanned(ink, rng), style)
    assert "".join(letter.expected for letter in result.letters) == text.replace(" ", "")
    directly = check_group(ink, style)
    same = [
        one.headings[heading] is other.headings[heading]
        for one, other in zip(result.letters, directly.letters, strict=True)
        for heading in (Heading.SHAPE, Heading.SIZE)
    ]
    assert sum(same) >= 0.85 * len(same)


@pytest.mark.parametrize("truth", [".", "?", "n", "nn.", "a crab", "", "ö", "7"])
@pytest.mark.parametrize("kind", ["a dot", "far apart", "a scribble", "a long line"])
def test_any_ink_of_a_scan_is_judged_or_said_to_be_no_letter(truth, kind, rng):
    strokes = {
        "a dot": [np.array([[20.0, 30.0]])],
        "far apart": [np.array([[0.0, 0.0]]), np.array([[4_900.0, 4_900.0]]), np.array([[10.0, 40.0]])],
        "a scribble": [rng.uniform(10, 25, (40, 2))],
        "a long line": [np.column_stack([np.linspace(0, 400, 900), np.full(900, 25.0)])],
    }[kind]
    group = InkGroup(tuple(map(InkStroke, strokes)), TEN_MM, truth, evidence=Evidence.SCAN)
    result = check_group(group)
    for letter in result.letters:
        assert letter.headings[Heading.DIRECTION] is Verdict.NOT_SEEN


def test_more_ink_than_can_be_followed_is_left_as_it_is(rng):
    """A line of four hundred letters, all run into one another."""
    x = np.linspace(0, 3_000, 60_000)
    trace = InkStroke(np.column_stack([x, 25 + 4 * np.sin(x / 2)]))
    group = InkGroup((trace,), TEN_MM, "mn" * 190, evidence=Evidence.SCAN)
    assert check_group(group).letters


def test_the_evidence_of_a_file_or_a_group_is_read_and_written():
    ink = write("n", np.random.default_rng(1))
    text = write_inkml([replace(ink, evidence=Evidence.SCAN), ink])
    assert [one.evidence for one in read_inkml(text)] == [Evidence.SCAN, Evidence.INK]
    with pytest.raises(InkMLError, match="photo"):
        read_inkml(text.replace(b">scan<", b">photo<"))


@pytest.mark.parametrize(("seed", "on_paper"), [(1, False), (2, True)])
def test_on_paper_a_corner_is_told_only_when_a_blunt_pencil_cannot_have_made_it(seed, on_paper):
    """Both arches are pointed more than this class accepts, the second plainly so."""
    ink = write("n", np.random.default_rng(seed), fault="shape.corner")
    for evidence, is_told in ((Evidence.INK, True), (Evidence.SCAN, on_paper)):
        given = check_letter(replace(ink, evidence=evidence), "n", tolerances={"shape.corner": 45.0})
        assert ("shape.corner" in {finding.code for finding in given.findings}) is is_told
