"""Letters for the wire: paths, guides, timing and words, so that the browser only has to draw."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from pydantic import BaseModel

from firstloop.core.check.lookalikes import Likeness, look_alikes
from firstloop.core.curves import FloatArray
from firstloop.core.families import BY_MOVEMENT, Grouping, group, stepping_stone
from firstloop.core.guides import guides
from firstloop.core.letterforms.library import letter
from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.model import Letter, SvgPen
from firstloop.core.letterforms.style import HouseStyle
from firstloop.core.letterforms.words import SIDE_XH, word
from firstloop.core.motion import MODEL_TEMPO, timed
from firstloop.core.patter import patter

UNITS = 100.0  # SVG units in one xh
_EVERY = 3  # every third sample is enough to draw the moving pen


class ChevronOut(BaseModel):
    """A small arrow along the way, SVG units, y down."""

    x: float
    y: float
    heading_deg: float
    move: int
    beside: bool


class MoveOut(BaseModel):
    """One move: its name, its path, and when it is made."""

    kind: str
    path: str
    from_ms: float
    to_ms: float


class StrokeOut(BaseModel):
    """One stroke: path data, samples in time, and marks. SVG units, y down from the base line."""

    path: str
    moves: list[MoveOut]
    points: list[list[float]]
    t_ms: list[float]
    ring: list[float]
    label: list[float]
    chevrons: list[ChevronOut]
    beside: list[str]


class PhraseOut(BaseModel):
    """Words with the time during which they are said."""

    text: str
    short: str
    stroke: int
    first_move: int
    last_move: int
    is_start: bool
    from_ms: float
    to_ms: float


class LookAlikeOut(BaseModel):
    """A letter easily taken for this one, and in what way."""

    letter: str
    how: Likeness
    cost_xh: float


class LetterDrawing(BaseModel):
    """A letter small: its paths and bounds (left, top, right, bottom; SVG units, y down)."""

    char: str
    paths: list[str]
    bounds: list[float]


class LetterModelOut(LetterDrawing):
    """Everything a page about one letter shows."""

    units: float
    strokes: list[StrokeOut]
    patter: list[PhraseOut]
    duration_ms: float
    hop_ms: float
    family: str
    family_name: str
    family_rule: str
    reason: str
    band: str
    look_alikes: list[LookAlikeOut]
    stepping_stone: str | None


class MemberOut(BaseModel):
    """A letter in a family, and why; ``ring`` is where the mark of its start stands, SVG units."""

    drawing: LetterDrawing
    ring: list[float]
    reason: str


class FamilyOut(BaseModel):
    """A family of letters."""

    key: str
    name: str
    rule: str
    members: list[MemberOut]


class SchemeOut(BaseModel):
    """A way of grouping."""

    key: str
    name: str
    families: list[FamilyOut]


class LineOut(BaseModel):
    """A line of text in letterforms: one path for each stroke, and its width. SVG units, y down."""

    text: str
    paths: list[str]
    width: float


def _r(value: float) -> float:
    return round(float(value), 2)


def _svg(points: FloatArray) -> str:
    return "M " + " L ".join(f"{_r(x * UNITS)} {_r(-y * UNITS)}" for x, y in points)


def drawing(model: Letter) -> LetterDrawing:
    """Paths of a letter."""
    pen = SvgPen(UNITS)
    model.draw(pen)
    left, bottom, right, top = model.bounds
    return LetterDrawing(
        char=model.char, paths=pen.strokes, bounds=[_r(v * UNITS) for v in (left, -top, right, -bottom)]
    )


def _strokes(model: Letter) -> list[StrokeOut]:
    pen = SvgPen(UNITS)
    model.draw(pen)
    out = []
    for s, (stroke, moving, marks) in enumerate(zip(model.strokes, timed(model), guides(model), strict=True)):
        few = np.unique(np.append(np.arange(0, len(moving.points), _EVERY), len(moving.points) - 1))
        moves = []
        for m, move in enumerate(stroke.moves):
            times = moving.t_ms[moving.move == m]
            moves.append(
                MoveOut(kind=str(move.kind), path=pen.moves[s][m], from_ms=_r(times[0]), to_ms=_r(times[-1]))
            )
        out.append(
            StrokeOut(
                path=pen.strokes[s],
                moves=moves,
                points=[[_r(x * UNITS), _r(-y * UNITS)] for x, y in moving.points[few]],
                t_ms=[_r(t) for t in moving.t_ms[few]],
                ring=[_r(marks.ring[0] * UNITS), _r(-marks.ring[1] * UNITS)],
                label=[_r(marks.label[0] * UNITS), _r(-marks.label[1] * UNITS)],
                chevrons=[
                    ChevronOut(
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


def _phrases(model: Letter, strokes: list[StrokeOut]) -> list[PhraseOut]:
    out = []
    for phrase in patter(model):
        moves = strokes[phrase.stroke].moves
        begins, ends = moves[phrase.first_move].from_ms, moves[phrase.last_move].to_ms
        if phrase.is_start:
            ends = begins
            begins = max(0.0, begins - MODEL_TEMPO.hop_ms) if phrase.stroke else 0.0
        out.append(
            PhraseOut(
                text=phrase.text,
                short=phrase.short,
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
    _, bottom, _, top = model.bounds
    others = [name for name, there in (("rise", top > 1.1), ("drop", bottom < -0.1)) if there]
    return "middle band only" if not others else f"middle and {' and '.join(others)} band"


@lru_cache(maxsize=16)
def groupings(style: HouseStyle) -> tuple[Grouping, ...]:
    """Families of the class's letters."""
    return group([letter(char, style) for char in LOWER], BY_MOVEMENT)


@lru_cache(maxsize=128)
def letter_model(char: str, style: HouseStyle) -> LetterModelOut:
    """One letter for its page.

    Raises
    ------
    UnknownLetterError
    """
    model = letter(char, style)
    strokes = _strokes(model)
    grouping = next(g for g in groupings(style) for m in g.members if m.char == char)
    chars = [member.char for member in grouping.members]
    known = [letter(one, style) for one in chars[: chars.index(char)]]
    stone = stepping_stone(model, known)
    return LetterModelOut(
        **drawing(model).model_dump(),
        units=UNITS,
        strokes=strokes,
        patter=_phrases(model, strokes),
        duration_ms=strokes[-1].t_ms[-1],
        hop_ms=MODEL_TEMPO.hop_ms,
        family=grouping.family.key,
        family_name=grouping.family.name,
        family_rule=grouping.family.rule_words,
        reason=next(m.reason for m in grouping.members if m.char == char),
        band=_band(model),
        look_alikes=[
            LookAlikeOut(letter=one.char, how=one.how, cost_xh=_r(one.cost_xh))
            for one in look_alikes(char, style)
        ],
        stepping_stone=stone.char if stone else None,
    )


def _member(model: Letter, reason: str) -> MemberOut:
    x, y = guides(model)[0].label
    return MemberOut(drawing=drawing(model), ring=[_r(x * UNITS), _r(-y * UNITS)], reason=reason)


@lru_cache(maxsize=8)
def scheme(style: HouseStyle) -> SchemeOut:
    """All families with their letters."""
    return SchemeOut(
        key=BY_MOVEMENT.key,
        name=BY_MOVEMENT.name,
        families=[
            FamilyOut(
                key=g.family.key,
                name=g.family.name,
                rule=g.family.rule_words,
                members=[_member(letter(m.char, style), m.reason) for m in g.members],
            )
            for g in groupings(style)
        ],
    )


@lru_cache(maxsize=64)
def line(text: str, style: HouseStyle) -> LineOut:
    """A line of text in letterforms."""
    model = word(text, style)
    paths = [_svg(sampled.points[::4]) for sampled in model.sampled]
    return LineOut(text=text, paths=paths, width=_r((model.bounds[2] + SIDE_XH) * UNITS))
