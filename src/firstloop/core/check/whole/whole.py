"""A row, a word or a line as a whole: evenness, room between letters and words, and the line of feet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from firstloop.core.check.vocabulary.codes import Strictness
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.check.whole.evenness import drift, uneven
from firstloop.core.check.whole.placement import PlacedLetter
from firstloop.core.check.whole.spacing import between_words, spacing
from firstloop.core.letterforms.style import HouseStyle


@dataclass(frozen=True)
class Whole:
    """What is judged of a group as a whole."""

    findings: tuple[Finding, ...]
    measures: dict[str, float | None]


def judge_whole(
    text: str,
    letters: Sequence[PlacedLetter],
    style: HouseStyle,
    strictness: Strictness,
) -> Whole:
    """Judge a row of one letter, a word or a line of words.

    Parameters
    ----------
    text : str
        What was asked for, single spaces between words.
    letters : sequence of PlacedLetter
        One for each character that is no space, in order.
    """
    seen = [one for one in letters if one.place is not None]
    findings = uneven(seen, strictness)
    line, slope = drift(seen, strictness)
    measures: dict[str, float | None] = {"letters": len(letters), "drift_deg": slope}
    if not is_row(text):
        found, gap, off = spacing(text, letters, style, strictness)
        between, fingers = between_words(letters, style, strictness)
        findings += found + between
        measures |= {"gap_xh": gap, "gap_off_xh": off, "finger_spaces": fingers}
    return Whole(tuple(findings + line), measures)


def is_row(text: str) -> bool:
    """Whether a text is one letter over and over."""
    return len(set(text)) == 1
