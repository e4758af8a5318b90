"""Ink between the records, where it stands as it came, and the core."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NotRequired

import numpy as np
from typing_extensions import TypedDict

from firstloop.core.ink import Evidence, InkGroup, InkStroke
from firstloop.core.ruling import Ruling
from firstloop.core.shown import as_shown
from firstloop.store.styles import house_style
from firstloop.store.tables import Attempt, Row, WrittenWord

Stroke = Mapping[str, Any]


class KeptStroke(TypedDict):
    """A stroke as it is kept: x and y in page millimetres; where known t in milliseconds, f from 0 to 1."""

    x: list[float]
    y: list[float]
    t: NotRequired[list[float]]
    f: NotRequired[list[float]]


def seen(ink: Sequence[Stroke]) -> list[KeptStroke]:
    """Strokes to be looked at where many are: only the points that can be told apart, and where they lie."""
    shown = (as_shown(np.array([stroke["x"], stroke["y"]], dtype=np.float64).T).round(2) for stroke in ink)
    return [KeptStroke(x=points[:, 0].tolist(), y=points[:, 1].tolist()) for points in shown]


def _channel(stroke: Stroke, name: str) -> np.ndarray[tuple[int], np.dtype[np.float64]] | None:
    values = stroke.get(name)
    return None if values is None else np.array(values, dtype=np.float64)


def to_stroke(stroke: Stroke) -> InkStroke:
    """A stroke for the core."""
    points = np.column_stack([stroke["x"], stroke["y"]]).astype(np.float64)
    return InkStroke(points, _channel(stroke, "t"), _channel(stroke, "f"))


def to_group(
    strokes: Sequence[Stroke],
    ruling: Ruling,
    truth: str,
    script: str,
    hand: str,
    evidence: str = Evidence.INK,
) -> InkGroup:
    """Strokes written in one go, for the core."""
    return InkGroup(tuple(map(to_stroke, strokes)), ruling, truth, script, hand, Evidence(evidence))


def from_stroke(stroke: InkStroke) -> KeptStroke:
    """A stroke to be kept or sent, to a hundredth of a millimetre."""
    kept: KeptStroke = {
        "x": np.round(stroke.points_mm[:, 0], 2).tolist(),
        "y": np.round(stroke.points_mm[:, 1], 2).tolist(),
    }
    if stroke.t_ms is not None:
        kept["t"] = np.round(stroke.t_ms, 1).tolist()
    if stroke.force is not None:
        kept["f"] = np.round(stroke.force, 3).tolist()
    return kept


def attempt_ink(attempt: Attempt, row: Row) -> InkGroup:
    """The ink of an attempt."""
    script = str(house_style(row).script)
    return to_group(attempt.ink, row.lines, row.letter, script, row.child.hand, attempt.evidence)


def row_ink(row: Row) -> list[InkGroup]:
    """Every attempt of a row, crossed out or not."""
    return [attempt_ink(attempt, row) for attempt in row.attempts]


def word_ink(word: WrittenWord) -> InkGroup:
    """The ink of a word; no strokes where it has not been written."""
    script = str(house_style(word).script)
    return to_group(word.ink or [], word.lines, word.text, script, word.child.hand, word.evidence)
