"""The document of a check, ``first-loop-check/1``: plain values, ready for JSON."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np

from firstloop.core.check.findings import Finding
from firstloop.core.check.grades import Level
from firstloop.core.check.group import GroupResult, check_group
from firstloop.core.check.letter import CHECKER_VERSION, LetterResult
from firstloop.core.curves import FloatArray
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle
from firstloop.core.ruling import Ruling
from firstloop.formats.inkml import read_inkml

FORMAT = "first-loop-check/1"
_SPAN_POINTS = 24


def page_points(points: FloatArray, ruling: Ruling) -> list[list[float]]:
    """Letter space to page millimetres."""
    return [[round(float(x), 3), round(float(y), 3)] for x, y in ruling.to_page(points)]


def _rounded(value: float | None) -> float | None:
    return round(value, 4) if isinstance(value, float) else value


def finding_document(finding: Finding, ruling: Ruling) -> dict[str, Any]:
    """One finding; ``at`` and ``span`` are page millimetres."""
    every = np.linspace(0, len(finding.span) - 1, min(_SPAN_POINTS, len(finding.span))).round().astype(int)
    return {
        "code": finding.code,
        "heading": str(finding.spec.heading),
        "severity": str(finding.severity),
        "stroke": finding.stroke,
        "move": finding.move,
        "value": round(finding.value, 4),
        "unit": finding.spec.unit,
        "tolerance": None if finding.tolerance is None else round(finding.tolerance, 4),
        "at": page_points(finding.at[None], ruling)[0],
        "span": page_points(finding.span[every], ruling),
        "goal": None if finding.goal is None else page_points(finding.goal[None], ruling)[0],
        "teacher": finding.teacher,
        "child": finding.child,
    }


def letter_document(letter: LetterResult, ruling: Ruling) -> dict[str, Any]:
    """One letter with its verdicts, findings and measures."""
    measures = {key: _rounded(value) for key, value in asdict(letter.measures).items()}
    return {
        "expected": letter.expected,
        "verdict": letter.verdict,
        "headings": {str(heading): verdict for heading, verdict in letter.headings.items()},
        "reads_as": letter.reads_as,
        "findings": [finding_document(finding, ruling) for finding in letter.findings],
        "measures": measures,
        "model_left_mm": round(letter.model_left_xh * ruling.xh_mm, 3),
        "place": None if letter.place is None else {k: _rounded(v) for k, v in asdict(letter.place).items()},
    }


def group_document(result: GroupResult, ruling: Ruling) -> dict[str, Any]:
    """A group with its letters, and what is said of the whole."""
    return {
        "truth": result.truth,
        "letters": [letter_document(letter, ruling) for letter in result.letters],
        "findings": [finding_document(finding, ruling) for finding in result.findings],
        "measures": {key: _rounded(value) for key, value in result.measures.items()},
        "note": result.note,
    }


def check_document(results: list[tuple[GroupResult, Ruling]]) -> dict[str, Any]:
    """The whole document for a file's groups, each with the ruling it was written on."""
    return {
        "format": FORMAT,
        "checker": CHECKER_VERSION,
        "groups": [group_document(result, ruling) for result, ruling in results],
    }


def check_file(data: bytes, level: Level = Level.GROWING, style: HouseStyle | None = None) -> dict[str, Any]:
    """Read an InkML file, judge all its groups, and return the document.

    Raises
    ------
    InkMLError
        If the file cannot be read.
    """
    groups = read_inkml(data)
    return check_document(
        [(check_group(group, style or DEFAULT_STYLE, level), group.ruling) for group in groups]
    )
