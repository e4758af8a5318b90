"""What requests bring, as far as several resources share it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from firstloop.formats.bounds import Given, LevelName

__all__ = ["AlphabetKey", "Given", "LetterChar", "LevelName", "Moment", "ProblemOut", "RecordId", "StyleDoc"]

RecordId = Annotated[int, Field(ge=1, le=2**63 - 1)]  # what SQLite can count to
LetterChar = Annotated[str, StringConstraints(min_length=1, max_length=1)]
# the time of another answer, given back as text
Moment = Annotated[datetime, Field(strict=False)]
AlphabetKey = Literal["lower case", "capitals", "digits", "marks"]


class AdjustmentDoc(Given):
    """A measure changed on one letter, or on all where ``letter`` is empty."""

    letter: str = Field(default="", max_length=1)
    measure: str = Field(max_length=40)
    value: float = Field(allow_inf_nan=False)


class StyleDoc(Given):
    """A house style; letter choices only where they are not the usual one."""

    name: str = Field(default="Print, upright", min_length=1, max_length=80)
    script: Literal["print", "print-exits", "cursive"] = "print"
    slant_deg: float = Field(default=0.0, ge=0.0, le=15.0)
    width: Literal["narrow", "even", "wide"] = "even"
    entry: bool = True
    ascenders: Literal["plain", "looped"] = "plain"
    tails: Literal["looped", "hooked"] = "looped"
    dots: Literal["at-once", "after-word"] = "at-once"
    correction: Literal["cross-out", "rub-out"] = "cross-out"
    breaks: str = Field(default="", max_length=26)
    choices: dict[str, str] = Field(default_factory=dict, max_length=60)
    adjustments: list[AdjustmentDoc] = Field(default_factory=list, max_length=400)


class ProblemOut(BaseModel):
    """What went wrong, in words fit for a screen."""

    detail: str
