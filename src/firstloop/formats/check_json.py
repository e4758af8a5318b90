"""What a checker said, as it is kept: codes, places, values and facts as plain values, ready for JSON.

No sentence is kept. What follows from the code (heading, unit, words) is added where it is shown
(``services.results``), so that a better word, or another language, holds for old results too.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

import numpy as np

from firstloop.core.check.group import GroupResult
from firstloop.core.check.results import LetterResult
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.curves import FloatArray
from firstloop.core.message import Message
from firstloop.core.ruling import Ruling

Document = dict[str, Any]
_SPAN_POINTS = 16  # enough to follow the ink of a letter
_MM_DIGITS = 2  # a hundredth of a millimetre is finer than any pen


def page_points(points: FloatArray, ruling: Ruling) -> list[list[float]]:
    """Letter space to page millimetres."""
    return [[round(float(x), _MM_DIGITS), round(float(y), _MM_DIGITS)] for x, y in ruling.to_page(points)]


def _known(values: Mapping[str, Any]) -> Document:
    """Values to four digits; what is None is left out."""
    return {
        key: round(value, 4) if isinstance(value, float) else value
        for key, value in values.items()
        if value is not None
    }


def finding_document(finding: Finding, ruling: Ruling) -> Document:
    """One finding; ``at``, ``span`` and ``goal`` are page millimetres."""
    every = np.linspace(0, len(finding.span) - 1, min(_SPAN_POINTS, len(finding.span))).round().astype(int)
    document = {
        "code": finding.code,
        "severity": str(finding.severity),
        "stroke": finding.stroke,
        "move": finding.move,
        "value": finding.value,
        "tolerance": finding.tolerance,
        "at": page_points(finding.at[None], ruling)[0],
        "span": page_points(finding.span[every], ruling),
        "goal": None if finding.goal is None else page_points(finding.goal[None], ruling)[0],
        "facts": dict(finding.facts) or None,
    }
    return _known(document)


def letter_document(letter: LetterResult, ruling: Ruling) -> Document:
    """One letter with its verdicts, findings and measures."""
    return {
        "expected": letter.expected,
        "verdict": str(letter.verdict),
        "headings": {str(heading): str(verdict) for heading, verdict in letter.headings.items()},
        "reads_as": letter.reads_as,
        "findings": [finding_document(finding, ruling) for finding in letter.findings],
        "measures": _known(asdict(letter.measures)),
        "model_left_mm": round(letter.model_left_xh * ruling.xh_mm, _MM_DIGITS),
        "place": None if letter.place is None else _known(asdict(letter.place)),
    }


def _message_document(message: Message | None) -> Document | None:
    return None if message is None else {"key": message.key, "values": dict(message.values)}


def group_document(result: GroupResult, ruling: Ruling) -> Document:
    """A group with its letters, and what is said of the whole."""
    return {
        "truth": result.truth,
        "letters": [letter_document(letter, ruling) for letter in result.letters],
        "findings": [finding_document(finding, ruling) for finding in result.findings],
        "measures": _known(result.measures),
        "note": _message_document(result.note),
    }


def moved_letter(document: Document, by_mm: float, xh_mm: float) -> Document:
    """A kept letter whose ink was put further right."""
    if not document:
        return document
    place = document["place"]
    if place is not None:
        place = {
            name: round(value + by_mm / xh_mm, 4) if name in _ACROSS else value
            for name, value in place.items()
        }
    return {
        **document,
        "findings": [_moved_finding(one, by_mm) for one in document["findings"]],
        "model_left_mm": round(document["model_left_mm"] + by_mm, _MM_DIGITS),
        "place": place,
    }


def moved_group(document: Document, by_mm: float, xh_mm: float) -> Document:
    """As :func:`moved_letter`, of a group."""
    if not document:
        return document
    return {
        **document,
        "letters": [moved_letter(one, by_mm, xh_mm) for one in document["letters"]],
        "findings": [_moved_finding(one, by_mm) for one in document["findings"]],
    }


_ACROSS = ("left", "right", "body_left", "body_right")


def _moved_finding(finding: Document, by_mm: float) -> Document:
    def moved(spot: list[float]) -> list[float]:
        return [round(spot[0] + by_mm, _MM_DIGITS), spot[1]]

    out = {**finding, "at": moved(finding["at"]), "span": [moved(one) for one in finding["span"]]}
    return {**out, "goal": moved(finding["goal"])} if finding.get("goal") else out
