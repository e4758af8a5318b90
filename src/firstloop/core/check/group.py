"""A group of ink: one letter, a row of one letter, or a word. Finds the letters, then judges each."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from firstloop.core.check.align import align
from firstloop.core.check.grades import Heading, Level
from firstloop.core.check.letter import LetterResult, Measures, check_letter
from firstloop.core.check.reading import class_set, picture, reading_costs
from firstloop.core.check.template import template
from firstloop.core.ink import InkGroup, InkStroke
from firstloop.core.letterforms.alphabets import ALPHABETS
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script

_PAD_XH = 0.08  # strokes closer sideways than twice this belong to one letter
_PARTS_MAX = 3  # clusters that one letter may be made of
JUDGED = "".join(char for key in ("lower case", "capitals", "digits") for char in ALPHABETS[key])
_SKIP_COST = 0.55  # price of a letter without ink, or of ink without a letter


@dataclass(frozen=True, eq=False)
class GroupResult:
    """The letters of a group, judged in the order they were asked for.

    ``note`` says why a group could not be judged; its letters are then all not seen.
    """

    truth: str
    letters: tuple[LetterResult, ...]
    strokes: tuple[tuple[int, ...], ...]
    note: str = ""


def check_group(
    group: InkGroup, style: HouseStyle = DEFAULT_STYLE, level: Level = Level.GROWING, chars: str = ""
) -> GroupResult:
    """Find and judge every letter of a group.

    Without a ``truth`` the ink is taken for the letter it looks most like. The group's own script
    wins over that of the style. A group that asks for something the house cannot judge is not judged:
    its letters are not seen, with a note.

    Raises
    ------
    InkError
        If there is no ink.
    """
    if group.script in set(Script):
        style = replace(style, script=Script(group.script))
    wanted = "".join(group.truth.split())
    note = _cannot_judge(group, wanted)
    if note:
        return GroupResult(group.truth, tuple(map(_not_seen, wanted)), ((),) * len(wanted), note)
    if not wanted:
        wanted = likeliest(group, style, chars or JUDGED)
    pieces = [tuple(range(len(group.strokes)))] if len(wanted) == 1 else find_letters(group, wanted, style)
    letters = []
    for char, piece in zip(wanted, pieces, strict=True):
        if not piece:
            letters.append(_not_seen(char))
            continue
        part = replace(group, strokes=tuple(group.strokes[i] for i in piece), truth=char)
        letters.append(check_letter(part, char, style, level, chars))
    return GroupResult(group.truth, tuple(letters), tuple(pieces))


def _cannot_judge(group: InkGroup, wanted: str) -> str:
    unknown = sorted(set(wanted) - set(JUDGED))
    if unknown:
        return f"The house cannot judge {', '.join(unknown)}."
    joined = group.script == Script.CURSIVE and len(wanted) > 1
    if joined and len(clusters(group.strokes, group.ruling.xh_mm)) != len(wanted):
        return "Joined words are not taken apart into letters yet; single joined letters are judged."
    return ""


def likeliest(group: InkGroup, style: HouseStyle, chars: str) -> str:
    """The letter that unlabelled ink looks most like, at its place on the lines."""
    letters = class_set(chars, style)
    costs = reading_costs(picture(list(group.in_letter_space)), letters)
    return letters.chars[int(costs.argmin())]


def _not_seen(char: str) -> LetterResult:
    return LetterResult(char, "not-seen", {heading: "not-seen" for heading in Heading}, "", (), Measures())


def clusters(strokes: tuple[InkStroke, ...], xh_mm: float) -> list[tuple[int, ...]]:
    """Strokes that overlap sideways, from left to right; each a tuple of stroke numbers."""
    spans = [
        (float(s.points_mm[:, 0].min()), float(s.points_mm[:, 0].max()), i) for i, s in enumerate(strokes)
    ]
    spans.sort()
    pad = _PAD_XH * xh_mm
    out: list[list[int]] = []
    reach = -np.inf
    for low, high, i in spans:
        if out and low - pad <= reach + pad:
            out[-1].append(i)
            reach = max(reach, high)
        else:
            out.append([i])
            reach = high
    return [tuple(sorted(one)) for one in out]


def find_letters(group: InkGroup, wanted: str, style: HouseStyle) -> list[tuple[int, ...]]:
    """Share the strokes of a row or word out between its letters.

    Returns
    -------
    For each letter the numbers of its strokes in the order written; empty where no ink was found.
    """
    found = clusters(group.strokes, group.ruling.xh_mm)
    if len(found) == len(wanted):
        return found
    return _shared_out(group, found, wanted, style)


def _fit(group: InkGroup, piece: tuple[int, ...], char: str, style: HouseStyle) -> float:
    part = replace(group, strokes=tuple(group.strokes[i] for i in piece), truth=char)
    return align(part.in_letter_space, template(char, style)).cost


def _shared_out(
    group: InkGroup, found: list[tuple[int, ...]], wanted: str, style: HouseStyle
) -> list[tuple[int, ...]]:
    """Cheapest way to give neighbouring clusters to letters, leaving either over at a price."""
    n, m = len(found), len(wanted)
    best = np.full((n + 1, m + 1), np.inf)
    best[0, 0] = 0.0
    came: dict[tuple[int, int], tuple[int, int, bool]] = {}
    fits: dict[tuple[int, int, str], float] = {}
    for i in range(n + 1):
        for j in range(m + 1):
            options = []
            if i:
                options.append((best[i - 1, j] + _SKIP_COST, i - 1, j, False))
            if j:
                options.append((best[i, j - 1] + _SKIP_COST, i, j - 1, False))
            for k in range(1, min(_PARTS_MAX, i) + 1) if j else ():
                key = (i - k, i, wanted[j - 1])
                if key not in fits:
                    fits[key] = _fit(group, _joined(found[i - k : i]), wanted[j - 1], style)
                options.append((best[i - k, j - 1] + fits[key], i - k, j - 1, True))
            if options:
                cost, a, b, took = min(options)
                best[i, j] = min(best[i, j], cost)
                came[i, j] = (a, b, took)
    pieces: list[tuple[int, ...]] = [()] * m
    i, j = n, m
    while i or j:
        a, b, took = came[i, j]
        if took:
            pieces[b] = _joined(found[a:i])
        i, j = a, b
    return pieces


def _joined(parts: list[tuple[int, ...]]) -> tuple[int, ...]:
    return tuple(sorted(i for part in parts for i in part))
