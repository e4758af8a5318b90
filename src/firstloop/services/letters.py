"""Letters as they are shown: paths, guides, timing and words, so that a screen only has to draw."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from sqlalchemy.orm import Session

from firstloop.core.check.recognise.lookalikes import Likeness, LookAlike, look_alikes
from firstloop.core.curves import FloatArray
from firstloop.core.families import BY_MOVEMENT, Grouping, group, stepping_stone
from firstloop.core.guides import guides
from firstloop.core.letterforms.alphabets import ALPHABETS, alphabet_of, plain
from firstloop.core.letterforms.library import letter_or_word
from firstloop.core.letterforms.model import Letter, SvgPen
from firstloop.core.letterforms.spacing import letter_boxes
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import SIDE_XH, word
from firstloop.core.motion import MODEL_TEMPO, timed
from firstloop.core.patter import Phrase, parting, patter
from firstloop.core.ruling import Box, Boxes, boxes_around
from firstloop.core.simulate.slips import slips
from firstloop.core.simulate.writer import TEN_MM
from firstloop.store.rows import letters_before
from firstloop.store.styles import style_of_class
from firstloop.text import put, say
from firstloop.text.families import about
from firstloop.text.findings import to_teacher
from firstloop.text.lines import cached_by_names
from firstloop.text.movement import sentence, short

UNITS = 100.0  # SVG units in one xh
_EVERY = 3  # every third sample is enough to draw the moving pen


@dataclass(frozen=True)
class ChevronMark:
    """A small arrow along the way, SVG units, y down."""

    x: float
    y: float
    heading_deg: float
    move: int
    beside: bool


@dataclass(frozen=True)
class MoveModel:
    """One move: its name, its path, and when it is made."""

    kind: str
    path: str
    from_ms: float
    to_ms: float


@dataclass(frozen=True)
class StrokeModel:
    """One stroke: path data, samples in time, and marks. SVG units, y down from the base line."""

    path: str
    moves: list[MoveModel]
    points: list[list[float]]
    t_ms: list[float]
    ring: list[float]
    label: list[float]
    chevrons: list[ChevronMark]
    beside: list[str]


@dataclass(frozen=True)
class PhraseView:
    """Words with the time during which they are said."""

    text: str
    short: str
    stroke: int
    first_move: int
    last_move: int
    is_start: bool
    from_ms: float
    to_ms: float


@dataclass(frozen=True)
class LookAlikeView:
    """A letter easily taken for this one, in what way, and the words at which the two part company."""

    letter: str
    how: Likeness
    cost_xh: float
    own_words: str
    other_words: str


@dataclass(frozen=True)
class LetterDrawing:
    """A letter small: its paths and bounds (left, top, right, bottom; SVG units, y down)."""

    char: str
    paths: list[str]
    bounds: list[float]


@dataclass(frozen=True)
class Boxed:
    """What rulings draw around a text: three blocks for every letter, or a box for every word.

    Left, top, right, bottom of each; SVG units, y down.
    """

    letter: list[list[float]]
    word: list[list[float]]


@dataclass(frozen=True)
class TextModel(LetterDrawing):
    """A letter, a word or a line in time. ``blocks`` are the bands that have ink: rise, middle, drop."""

    units: float
    strokes: list[StrokeModel]
    patter: list[PhraseView]
    duration_ms: float
    hop_ms: float
    blocks: list[str]
    boxed: Boxed


@dataclass(frozen=True)
class LetterModel(TextModel):
    """Everything a page about one letter shows."""

    alphabet: str
    family: str
    family_name: str
    family_rule: str
    reason: str
    band: str
    look_alikes: list[LookAlikeView]
    stepping_stone: str | None


@dataclass(frozen=True)
class SlipDrawing:
    """A way to go wrong: samples of each stroke with times, SVG units, and what it would be read as."""

    code: str
    name: str
    reads_as: str
    teacher: str
    paths: list[str]
    points: list[list[list[float]]]
    t_ms: list[list[float]]
    duration_ms: float


@dataclass(frozen=True)
class LineDrawing:
    """A line of text in letterforms: one path for each stroke, and its width. SVG units, y down."""

    text: str
    paths: list[str]
    width: float
    boxed: Boxed


_NUMBER_OFF = 30.0  # SVG units between the start of a stroke and the middle of its number
_A_DOT_XH = 0.05


def _r(value: float) -> float:
    return round(float(value), 2)


def _svg(points: FloatArray) -> str:
    return "M " + " L ".join(f"{_r(x * UNITS)} {_r(-y * UNITS)}" for x, y in points)


@lru_cache(maxsize=1024)
def drawing(model: Letter) -> LetterDrawing:
    """Paths of a letter."""
    pen = SvgPen(UNITS)
    model.draw(pen)
    return LetterDrawing(char=model.char, paths=pen.strokes, bounds=_downwards(model.bounds))


def _downwards(box: Box) -> list[float]:
    """A box in xh as it is drawn: left, top, right, bottom; SVG units."""
    left, bottom, right, top = box
    return [_r(v * UNITS) for v in (left, -top, right, -bottom)]


@lru_cache(maxsize=512)  # a queue asks for the same letters and words again and again
def boxed(text: str, style: HouseStyle) -> Boxed:
    """What rulings draw around a letter or a text.

    Raises
    ------
    UnknownLetterError
    """
    return _boxed(letter_or_word(text, style))


def _boxed(model: Letter) -> Boxed:
    words = letter_boxes(model)
    return Boxed(**{how.value: [_downwards(one) for one in boxes_around(words, how)] for how in Boxes})


def numbered_paths(model: Letter) -> list[tuple[str, list[float]]]:
    """Path data of every stroke, and the middle of its number: off its start, away from it, SVG units."""
    pen = SvgPen(UNITS)
    model.draw(pen)
    out = []
    for path, sampled in zip(pen.strokes, model.sampled, strict=True):
        start, middle = sampled.points[0], sampled.points.mean(axis=0)
        away = start - middle if np.ptp(sampled.points, axis=0).max() > _A_DOT_XH else np.array([0.0, 1.0])
        x, y = start * UNITS + _NUMBER_OFF * away / float(np.hypot(*away))
        out.append((path, [_r(x), _r(-y)]))
    return out


def _strokes(model: Letter) -> list[StrokeModel]:
    pen = SvgPen(UNITS)
    model.draw(pen)
    out = []
    for s, (stroke, moving, marks) in enumerate(zip(model.strokes, timed(model), guides(model), strict=True)):
        few = np.unique(np.append(np.arange(0, len(moving.points), _EVERY), len(moving.points) - 1))
        moves = []
        for m, move in enumerate(stroke.moves):
            times = moving.t_ms[moving.move == m]
            moves.append(
                MoveModel(
                    kind=str(move.kind), path=pen.moves[s][m], from_ms=_r(times[0]), to_ms=_r(times[-1])
                )
            )
        out.append(
            StrokeModel(
                path=pen.strokes[s],
                moves=moves,
                points=[[_r(x * UNITS), _r(-y * UNITS)] for x, y in moving.points[few]],
                t_ms=[_r(t) for t in moving.t_ms[few]],
                ring=[_r(marks.ring[0] * UNITS), _r(-marks.ring[1] * UNITS)],
                label=[_r(marks.label[0] * UNITS), _r(-marks.label[1] * UNITS)],
                chevrons=[
                    ChevronMark(
                        x=_r(c.x * UNITS),
                        y=_r(-c.y * UNITS),
                        heading_deg=_r(-c.heading_deg),
                        move=c.move,
                        beside=c.beside,
                    )
                    for c in marks.chevrons
                ],
                beside=[_svg(points) for points in marks.beside],
            )
        )
    return out


def _phrases(model: Letter, strokes: list[StrokeModel]) -> list[PhraseView]:
    out = []
    for phrase in patter(model):
        moves = strokes[phrase.stroke].moves
        begins, ends = moves[phrase.first_move].from_ms, moves[phrase.last_move].to_ms
        if phrase.is_start:
            ends = begins
            begins = max(0.0, begins - MODEL_TEMPO.hop_ms) if phrase.stroke else 0.0
        out.append(
            PhraseView(
                text=sentence(phrase),
                short=short(phrase),
                stroke=phrase.stroke,
                first_move=phrase.first_move,
                last_move=phrase.last_move,
                is_start=phrase.is_start,
                from_ms=begins,
                to_ms=ends,
            )
        )
    return out


def _band(model: Letter) -> str:
    """In which bands a letter stands."""
    _, bottom, _, top = model.body_bounds
    if bottom > 0.9 or (top < 0.3 and bottom < -0.1):
        return "rise" if top > 1.1 else "drop"
    beyond = (("rise", top > 1.1), ("drop", bottom < -0.1))
    return "-".join(["middle", *(name for name, there in beyond if there)])


@lru_cache(maxsize=64)
def groupings(style: HouseStyle, alphabet: str = "lower case") -> tuple[Grouping, ...]:
    """Families by movement of one alphabet's letters; families without letters are left out."""
    every = group([plain(char, style) for char in ALPHABETS[alphabet]], BY_MOVEMENT, style)
    return tuple(grouping for grouping in every if grouping.members)


@cached_by_names(256)
def text_model(text: str, style: HouseStyle) -> TextModel:
    """A letter, a word or a line, ready to be played.

    Raises
    ------
    UnknownLetterError
    """
    model = letter_or_word(text, style)
    strokes = _strokes(model)
    return TextModel(
        **vars(drawing(model)),
        units=UNITS,
        strokes=strokes,
        patter=_phrases(model, strokes),
        duration_ms=strokes[-1].t_ms[-1] if strokes else 0.0,
        hop_ms=MODEL_TEMPO.hop_ms,
        blocks=_blocks(model),
        boxed=boxed(text, style),
    )


def _blocks(model: Letter) -> list[str]:
    """Which of the three bands have ink in them, from the top."""
    _, bottom, _, top = model.bounds
    here = {"rise": top > 1.1, "middle": top > 0.1 and bottom < 0.9, "drop": bottom < -0.1}
    return [name for name, there in here.items() if there]


@cached_by_names(512)
def letter_model(char: str, style: HouseStyle) -> LetterModel:
    """One letter for its page.

    Raises
    ------
    UnknownLetterError
    """
    alphabet = alphabet_of(char)
    families = groupings(style, alphabet)
    grouping = next(g for g in families for m in g.members if m.char == char)
    order = [member.char for family in families for member in family.members]
    known = [plain(one, style) for one in order[: order.index(char)]]  # taught family by family
    stone = stepping_stone(plain(char, style), known)
    return LetterModel(
        **vars(text_model(char, style)),
        alphabet=alphabet,
        family=grouping.family.key,
        family_name=say(f"family.{BY_MOVEMENT.key}.{grouping.family.key}"),
        family_rule=about(BY_MOVEMENT, grouping.family.key),
        reason=next(put(m.reason) for m in grouping.members if m.char == char),
        band=say("band", bands=_band(plain(char, style))),
        look_alikes=[
            _look_alike(one, plain(char, style), plain(one.char, style)) for one in look_alikes(char, style)
        ],
        stepping_stone=stone.char if stone else None,
    )


def page(session: Session, char: str, class_id: int | None) -> LetterModel:
    """One letter for its page, in a class's style; its stepping stone is one the class has begun, if any.

    Raises
    ------
    NotFoundError, UnknownLetterError
    """
    style = style_of_class(session, class_id)
    found = letter_model(char, style)
    taught = [] if class_id is None else letters_before(session, class_id, char)
    stone = stepping_stone(plain(char, style), [plain(one, style) for one in taught])
    return replace(found, stepping_stone=stone.char) if stone else found


def _look_alike(one: LookAlike, model: Letter, other: Letter) -> LookAlikeView:
    own, others = parting(model, other)
    return LookAlikeView(
        letter=one.char,
        how=one.how,
        cost_xh=_r(one.cost_xh),
        own_words=_words(own),
        other_words=_words(others),
    )


def _words(phrase: Phrase | None) -> str:
    return "" if phrase is None else sentence(phrase)


@lru_cache(maxsize=1024)
def ring_of(model: Letter) -> list[float]:
    """Where the mark of a letter's start stands, SVG units."""
    x, y = guides(model)[0].label
    return [_r(x * UNITS), _r(-y * UNITS)]


@lru_cache(maxsize=64)
def line(text: str, style: HouseStyle) -> LineDrawing:
    """A line of text in letterforms."""
    model = word(text, style)
    paths = [_svg(sampled.points[::4]) for sampled in model.sampled]
    return LineDrawing(text, paths, _r((model.bounds[2] + SIDE_XH) * UNITS), _boxed(model))


@cached_by_names(128)
def slip_drawings(char: str, style: HouseStyle) -> list[SlipDrawing]:
    """The slips of a letter.

    Raises
    ------
    UnknownLetterError
    """
    out = []
    for slip in slips(char, style):
        points = [[[_r(x * UNITS), _r(-y * UNITS)] for x, y in stroke] for stroke in slip.strokes]
        out.append(
            SlipDrawing(
                code=slip.code,
                name=say(f"slip.{slip.name}"),
                reads_as=slip.reads_as,
                teacher=to_teacher(slip.code, slip.finding.value, slip.finding.facts, TEN_MM.xh_mm),
                paths=[_svg(stroke) for stroke in slip.strokes],
                points=points,
                t_ms=[[_r(t) for t in times] for times in slip.t_ms],
                duration_ms=_r(slip.t_ms[-1][-1]),
            )
        )
    return out
