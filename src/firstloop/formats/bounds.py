"""What anything from outside is held to: strokes on a page, names as a person sees them."""

from __future__ import annotations

from typing import Annotated, Literal

import regex
from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    FiniteFloat,
    StringConstraints,
    model_validator,
)

from firstloop.core.ink import PAGE_MM

Mark = Literal["secure", "near", "fix"]
SupportName = Literal["trace", "finish", "ring", "alone"]
LevelName = Literal["starting", "growing", "settled"]
SeenName = Literal["bottom", "direction", "lift", "order", "fine"]
HandName = Literal["right", "left"]
POINTS_MAX = 100_000  # of all strokes together: seven minutes with a fast pen
LATEST_MS = 1e13  # as a time since 1970 this is the year 2286


class Given(BaseModel):
    """What a request brings: taken as it is, or refused; 0 is no ``false`` and "1" no number."""

    model_config = ConfigDict(strict=True)


class StrokeInk(Given):
    """A stroke as the pen gave it: page millimetres, milliseconds, force 0 to 1."""

    x: list[FiniteFloat] = Field(min_length=1, max_length=POINTS_MAX)
    y: list[FiniteFloat] = Field(min_length=1, max_length=POINTS_MAX)
    t: list[FiniteFloat] | None = None
    f: list[FiniteFloat] | None = None

    @model_validator(mode="after")
    def of_one_pen_on_a_page(self) -> StrokeInk:
        """All channels must be as long as x, and the points lie on a page."""
        for channel in (self.y, self.t, self.f):
            if channel is not None and len(channel) != len(self.x):
                raise ValueError("x, y, t and f of a stroke must have the same length")
        if max(map(abs, (*self.x, *self.y))) > PAGE_MM:
            raise ValueError(f"a point lies more than {PAGE_MM / 1000:g} m from the corner of the page")
        if self.t and max(map(abs, self.t)) > LATEST_MS:
            raise ValueError("a point has a time that no clock shows")
        return self


def _bounded(strokes: list[StrokeInk]) -> list[StrokeInk]:
    if sum(len(stroke.x) for stroke in strokes) > POINTS_MAX:
        raise ValueError(f"there are more than {POINTS_MAX:,} points")
    return strokes


Strokes = Annotated[list[StrokeInk], Field(min_length=1, max_length=200), AfterValidator(_bounded)]
UnderPen = Annotated[list[StrokeInk], Field(max_length=400), AfterValidator(_bounded)]
WordStrokes = Annotated[list[StrokeInk], Field(min_length=1, max_length=400), AfterValidator(_bounded)]


def seen_characters(most: int) -> AfterValidator:
    """At most so many characters as a person sees them: a letter with its marks, or an emoji, is one."""

    def check(text: str) -> str:
        if len(_SEEN_CHARACTER.findall(text)) > most:
            raise ValueError("one character, please" if most == 1 else f"at most {most} characters, please")
        return text

    return AfterValidator(check)


_SEEN_CHARACTER = regex.compile(r"\X")
_CODES_MOST = 12  # in one character that is seen
FirstName = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=40 * _CODES_MOST, pattern=r"^[^\s]+$"),
    seen_characters(40),
]
Initial = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=_CODES_MOST, to_upper=True),
    seen_characters(1),
]
