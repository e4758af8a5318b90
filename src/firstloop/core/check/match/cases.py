"""From what was asked for to cases: ink cleaned, tied to its model and laid in its frame."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from firstloop.core.check.ink.cleaning import mended, smoothed, without_taps
from firstloop.core.check.match.align import (
    Correspondence,
    Laying,
    align_all,
    as_modelled,
    rematch_all,
)
from firstloop.core.check.match.arrangements import dot_freed
from firstloop.core.check.match.case import Case
from firstloop.core.check.match.frame import Frame, Heights, fit_frame, heights, without_stray_start
from firstloop.core.check.match.template import Template, template
from firstloop.core.check.vocabulary.codes import NO_TOLERANCES, Strictness
from firstloop.core.check.vocabulary.grades import Level
from firstloop.core.curves import FloatArray
from firstloop.core.ink import InkError, InkGroup
from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.style import DEFAULT_STYLE, HouseStyle

_LOOK_AGAIN_XH = 0.045  # a match worse than this is made once more in its own frame


@dataclass(frozen=True, eq=False)
class Neighbours:
    """How a letter stands in its word.

    Parameters
    ----------
    template : Template or None
        Its model as it stands there; None for the letter as it stands alone.
    begins : bool
        Whether its ink begins where the pen went down.
    lifted_after : bool
        Whether the pen came up after it although the word runs on.
    """

    template: Template | None = None
    begins: bool = True
    lifted_after: bool = False


ALONE = Neighbours()


@dataclass(frozen=True, eq=False)
class Asked:
    """One written letter that is to be judged, and how.

    Parameters
    ----------
    group : InkGroup
        The strokes of this letter only.
    expected : str
        The letter the child was asked for.
    chars : str
        Letters it might be read as; those of its own alphabet where none are given.
    tolerances : mapping
        Tolerances a class has accepted in place of the table's, by code, at the level "growing".
    usual_xh_s : float, optional
        How fast this child usually writes.
    """

    group: InkGroup
    expected: str
    style: HouseStyle = DEFAULT_STYLE
    level: Level = Level.GROWING
    chars: str = ""
    tolerances: Mapping[str, float] = field(default_factory=lambda: NO_TOLERANCES)
    beside: Neighbours = ALONE
    usual_xh_s: float | None = None

    @property
    def strictness(self) -> Strictness:
        """How strict to be."""
        return Strictness(self.level, self.tolerances)

    @property
    def forms(self) -> tuple[HouseStyle, ...]:
        """The class's style, then those with other forms of the letter that are no fault."""
        return accepted(self.expected, self.style) if self.beside.template is None else (self.style,)


def accepted(char: str, style: HouseStyle) -> tuple[HouseStyle, ...]:
    """The class's style, then those with other forms of `char` that are no fault.

    After the stem of a capital a child may lift or go back up, whichever the model shows.
    """
    stems = CHOICES["stems"]
    if char not in stems.letters:
        return (style,)
    return style, *(style.choosing("stems", o) for o in stems.options if o != style.pick("stems"))


def build_cases(asked: Sequence[Asked]) -> list[Case]:
    """Tie the ink of each letter to its model and lay it in its frame; taps of the pen are left out.

    Raises
    ------
    UnknownLetterError
        If the house has no model for a letter.
    InkError
        If there is no ink.
    """
    models, groups = [], []
    for one in asked:
        model = one.beside.template or template(one.expected, one.style)
        if not one.group.strokes:
            raise InkError("there is no ink to check")
        group = mended(one.group)
        keep = without_taps(group.in_letter_space, dots=model.dot is not None)
        if len(keep) < len(group.strokes):
            group = replace(group, strokes=tuple(group.strokes[i] for i in keep))
        models.append(model)
        groups.append(group)
    freed = [
        dot_freed(tuple(smoothed(stroke) for stroke in group.in_letter_space), model)
        for group, model in zip(groups, models, strict=True)
    ]
    inks = [ink for ink, _ in freed]
    return [
        Case(group, ink, model, *laid, one.strictness, one.beside.begins, one.beside.lifted_after, run_on)
        for one, group, (ink, run_on), model, laid in zip(
            asked, groups, freed, models, _laid(inks, models), strict=True
        )
    ]


Laid = tuple[Correspondence, Heights, Frame]


def _laid(inks: Sequence[tuple[FloatArray, ...]], models: Sequence[Template]) -> list[Laid]:
    """Match each ink with its model, and once more in its own frame where they do not fit well."""
    out: list[Laid] = []
    for match, model in zip(align_all(list(zip(inks, models, strict=True))), models, strict=True):
        found = heights(match, model)
        out.append((match, found, fit_frame(match, model, found)))
    again: dict[int, tuple[Correspondence, Laying]] = {}
    for k, ((match, _, frame), model) in enumerate(zip(out, models, strict=True)):
        aside = without_stray_start(match, model, frame)
        if aside:
            again[k] = as_modelled(match, model), aside
        elif match.cost > _LOOK_AGAIN_XH:
            again[k] = match, frame.apply
    for k, match in zip(again, rematch_all(list(again.values())), strict=True):
        if again[k][0] is not out[k][0] or match.cost < out[k][0].cost:
            found = heights(match, models[k])
            out[k] = match, found, fit_frame(match, models[k], found)
    return out


def build_case(group: InkGroup, expected: str, style: HouseStyle = DEFAULT_STYLE) -> Case:
    """As :func:`build_cases`, for one letter that stands alone."""
    return build_cases([Asked(group, expected, style)])[0]


def relaid(case: Case, ink: tuple[FloatArray, ...]) -> Case:
    """The same case with other ink."""
    match, found, frame = _laid([ink], [case.template])[0]
    return replace(case, ink=ink, match=match, heights=found, frame=frame)
