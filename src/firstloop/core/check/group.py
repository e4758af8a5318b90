"""A group of ink: one letter, a row of one letter, a word, or a line of words.

Finds the letters, judges each, then the whole.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from itertools import pairwise

from firstloop.core.check.ink.cleaning import mended
from firstloop.core.check.ink.limits import TEXT_LONGEST, too_much
from firstloop.core.check.letter import check_letters, unreadable
from firstloop.core.check.match.cases import Asked, Neighbours
from firstloop.core.check.match.template import template_in
from firstloop.core.check.recognise.pictures import likeliest
from firstloop.core.check.results import LetterResult, found_mark, not_seen
from firstloop.core.check.segment.cutting import LetterInk, clusters, cut_letters, follow_letters
from firstloop.core.check.vocabulary.codes import NO_TOLERANCES, Strictness
from firstloop.core.check.vocabulary.findings import Finding
from firstloop.core.check.vocabulary.grades import Level, Verdict
from firstloop.core.check.ways.traces import along_traces
from firstloop.core.check.whole.placement import PlacedLetter
from firstloop.core.check.whole.whole import is_row, judge_whole
from firstloop.core.ink import Evidence, InkError, InkGroup
from firstloop.core.letterforms.alphabets import ALPHABETS, EVERY
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle, Script
from firstloop.core.letterforms.words import word
from firstloop.core.message import Message, message

JUDGED = "".join(char for key in ("lower case", "capitals", "digits") for char in ALPHABETS[key])


@dataclass(frozen=True, eq=False)
class GroupResult:
    """The letters of a group, judged in the order they were asked for, and the group as a whole.

    ``inks`` is the ink of each letter. ``note`` says why something could not be judged.
    """

    truth: str
    letters: tuple[LetterResult, ...]
    inks: tuple[LetterInk, ...]
    findings: tuple[Finding, ...] = ()
    measures: dict[str, float | None] = field(default_factory=dict)
    note: Message | None = None


def check_group(
    group: InkGroup,
    style: HouseStyle = DEFAULT_STYLE,
    level: Level = Level.GROWING,
    chars: str = "",
    tolerances: Mapping[str, float] = NO_TOLERANCES,
    *,
    goes_its_way: bool = False,
) -> GroupResult:
    """Find and judge every letter of a group.

    Without a ``truth`` the ink is taken for the letter it looks most like. The group's own script
    wins over that of the style. A group that asks for something the house cannot judge is not judged:
    its letters are not seen, with a note.

    Parameters
    ----------
    chars : str
        Letters that any letter might be read as; those of its own alphabet where none are given.
    tolerances : mapping
        Tolerances a class has accepted in place of the table's.
    goes_its_way : bool
        Whether the strokes of a scan go as the text asked for does, so that no way has to be found for them.

    Raises
    ------
    InkError
        If there is no ink.
    """
    if not group.strokes:
        raise InkError("there is no ink to check")
    if group.script in set(Script):
        style = replace(style, script=Script(group.script))
    group = mended(group)
    text = " ".join(group.truth.split())
    wanted = text.replace(" ", "")
    unknown = sorted(set(wanted) - set(EVERY))
    if unknown or len(wanted) > TEXT_LONGEST:
        why = message("note.unknown", chars=", ".join(unknown)) if unknown else message("note.too-long")
        none = (LetterInk(()),) * len(wanted)
        measures: dict[str, float | None] = {"letters": len(wanted)}
        return GroupResult(group.truth, tuple(map(not_seen, wanted)), none, measures=measures, note=why)
    if too_much(group, max(1, len(wanted))):
        return _no_letters(group, wanted)
    if not wanted:
        text = wanted = likeliest(group.in_letter_space, chars or JUDGED, style)
    if group.evidence is Evidence.SCAN and not goes_its_way:
        group = along_traces(group, text, style, chars or JUDGED)
    inks, in_word = _inks(group, text, wanted, style)
    letters = _judged(group, text, inks, style, in_word, (level, chars, tolerances))
    if all(one.verdict in (Verdict.UNREADABLE, Verdict.NOT_SEEN) for one in letters):
        return _no_letters(group, wanted)
    if len(wanted) == 1:
        return GroupResult(group.truth, tuple(letters), tuple(inks), measures={"letters": 1})
    whole = judge_whole(text, _placed(text, letters), style, Strictness(level, tolerances))
    marks = sorted(set(wanted) & set(ALPHABETS["marks"]))
    note = message("note.marks", marks=", ".join(marks)) if marks else None
    return GroupResult(group.truth, tuple(letters), tuple(inks), whole.findings, whole.measures, note)


def _no_letters(group: InkGroup, wanted: str) -> GroupResult:
    one = unreadable(group, group.truth or wanted)
    return GroupResult(group.truth, (one,), (LetterInk(group.strokes),), measures={"letters": 1})


def _inks(group: InkGroup, text: str, wanted: str, style: HouseStyle) -> tuple[list[LetterInk], bool]:
    """The ink of each letter, and whether it was cut out of a joined word."""
    if len(wanted) == 1:
        return [LetterInk(group.strokes)], False
    apart = is_row(text) and len(clusters(group.in_letter_space)) == len(wanted)
    if style.is_joined and not apart:
        followed = follow_letters(group, text, style)
        if followed is not None:
            return followed.pieces, True
    return cut_letters(group, text, style), False


def _judged(
    group: InkGroup,
    text: str,
    inks: list[LetterInk],
    style: HouseStyle,
    in_word: bool,
    terms: tuple[Level, str, Mapping[str, float]],
) -> list[LetterResult]:
    level, chars, tolerances = terms
    places = [i for i, char in enumerate(text) if char != " "]
    lifted = _lifted_after(text, places, inks, style) if in_word else [False] * len(inks)
    left_out = [place for place, piece in zip(places, inks, strict=True) if not piece.strokes]
    written = "".join(char for place, char in enumerate(text) if place not in left_out)
    letters: list[LetterResult | None] = []
    asked = []
    for place, piece, lift in zip(places, inks, lifted, strict=True):
        char = text[place]
        if not piece.strokes or char in ALPHABETS["marks"]:
            letters.append(not_seen(char) if not piece.strokes else found_mark(char))
            continue
        before = sum(other < place for other in left_out)
        model = template_in(written, place - before, style) if in_word else None
        part = replace(group, strokes=piece.strokes, truth=char)
        beside = Neighbours(model, begins=piece.begins, lifted_after=lift)
        letters.append(None)
        asked.append(Asked(part, char, style, level, chars, tolerances, beside))
    judged = iter(check_letters(asked))
    return [next(judged) if letter is None else letter for letter in letters]


def _lifted_after(text: str, places: list[int], inks: list[LetterInk], style: HouseStyle) -> list[bool]:
    """For each letter of a joined word, whether the pen came up where it should have run on."""
    stroke_of: dict[int, set[int]] = {}
    for span in word(text, style).spans:
        stroke_of.setdefault(span.index, set()).add(span.stroke)
    out = []
    for (a, _), (b, after) in pairwise(zip(places, inks, strict=True)):
        runs_on = bool(stroke_of[a] & stroke_of[b])
        out.append(runs_on and bool(after.strokes) and after.begins)
    return [*out, False]


def _placed(text: str, letters: list[LetterResult]) -> list[PlacedLetter]:
    words = [number for number, one in enumerate(text.split(" ")) for _ in one]
    return [
        PlacedLetter(
            letter.expected, number, letter.place, any(f.code.startswith("size.") for f in letter.findings)
        )
        for letter, number in zip(letters, words, strict=True)
    ]
