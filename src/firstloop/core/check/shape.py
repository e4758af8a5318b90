"""Shape: does it look right, and would it be read as something else."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from firstloop.core.check.align import INK_XH, align
from firstloop.core.check.case import Case
from firstloop.core.check.causes import is_bent_all_over
from firstloop.core.check.findings import Finding
from firstloop.core.check.frame import HEAD_XH
from firstloop.core.check.reading import PLAIN_XH, ClassSet, class_set, mirror, picture, reading_costs
from firstloop.core.check.template import FINE_XH, Part, template
from firstloop.core.check.why import why_it_reads
from firstloop.core.curves import FloatArray, IntArray, length, nearest
from firstloop.core.letterforms.style import HouseStyle, Script
from firstloop.core.moves import MoveKind

K = MoveKind
_MIRROR_RATIO = 0.62
_MIRROR_LEAST_XH = 0.095  # a letter that fits itself better than this is not mirrored
_MIRROR_MOST_XH = 0.16
_MIRROR_MOVE_RATIO = 0.5  # the same, for the pen's way instead of the picture
_MIRROR_LOOKS_RATIO = 0.9
_MIRROR_MOVE_LEAST_XH = 0.085
_SYMMETRIC_XH = 0.03
_OTHER_RATIO = 0.80
_OTHER_PLAIN_XH = 0.08
_OTHER_LOOSE_RATIO = 0.65
_OTHER_MOST_XH = 0.18
_OTHER_BENT_XH = 0.11  # the same, for ink that is far from its own letter's way all over
_AS_LIKELY = 1.3  # a rival that fits no worse than so many times as badly may be it, if the pen went its way
_AS_LIKELY_XH = 0.1
_ITS_WAY = 0.6
_OWN_LEAST_XH = 0.09  # a letter that fits itself better than this in its own frame is no mirror image
_COVERED = 0.45
_TRACE_OF_IT = 0.3  # a part of which this share is covered was meant
_STOPPED_XH = 0.5  # an end this far from the model's lets a part count as missing sooner
_STOPPED_COVERED = 0.7
_MEANT = 0.5  # a stroke that is matched to the bar by more than this share was meant as the bar
_FLAT = 1.5
_OFF_THE_WAY_XH, _BEFORE_A_STEM_XH = 0.22, 0.30
_FIRST_XH = 0.75  # as far along its way as a bowl may be begun and still be a letter
_BAR_LEAST = 0.6  # of a bar's length, run through flat
_PART_LEAST = 4  # points; less of a part than this cannot be told from its neighbours
_WIDTH_LEAST_XH = 0.45
_SLIDE = 1.5
_UNREADABLE_XH = 0.45
# so many times the model's length of ink, that fits neither as a picture nor as a way, is a scribble
_ELSEWHERE_XH = 0.55
_SCRIBBLE_LENGTH = 2.4
_FILLS_ANYTHING = 5.0  # times as long as its model: so much ink looks a little like any letter
_NO_PICTURE_XH = 0.12
_NO_WAY_XH = 0.28


@dataclass(frozen=True)
class Reading:
    """What the ink looks like: the letter asked for, its mirror image or another; and how well it fits.

    ``form`` is what is wrong with its form, before anything else explains it.
    """

    reads_as: str
    own_cost: float
    mirrored: bool
    other: str | None
    best_cost: float
    form: list[Finding]


def read(case: Case, style: HouseStyle, chars: str) -> Reading:
    """Read the ink as a picture, at its true place on the lines."""
    own_set = class_set(case.char, style)
    ink = picture(list(case.bare_ink))
    bent = form(case)
    own = float(reading_costs(ink, own_set)[0])
    if own > PLAIN_XH:  # not plainly itself where it stands: perhaps in its own frame
        laid = picture([case.frame.apply(stroke) for stroke in case.bare_ink])
        own = min(own, float(reading_costs(laid, own_set)[0]))
    astray = bool(bent) or _is_begun_elsewhere(case)
    if own <= PLAIN_XH and not astray:  # plainly itself: what else it is like does not matter
        return Reading(case.char, own, _is_mirrored(case, style, own, own), None, own, bent)
    letters, costs = _costs(case, style, chars, ink)
    own = min(own, float(costs[0]))
    mirror_cost = _mirror_cost(ink, own_set) if own > _OWN_LEAST_XH else own
    mirrored = _is_mirrored(case, style, own, mirror_cost)
    rival = next((int(i) for i in np.argsort(costs) if letters[int(i)] != case.char), 0)
    cost = float(costs[rival])
    clear = own > PLAIN_XH and _passes_for(cost, own, not mirrored and is_bent_all_over(bent))
    if not clear and astray and cost < min(_AS_LIKELY * costs[0], _AS_LIKELY_XH):
        clear = _goes_its_way(case, letters[rival], style)
    return Reading(
        reads_as=letters[rival] if clear else case.char,
        own_cost=own,
        mirrored=mirrored,
        other=letters[rival] if clear else None,
        best_cost=min(own, float(costs.min()), mirror_cost),
        form=bent,
    )


def _is_begun_elsewhere(case: Case) -> bool:
    """Whether the pen went down so far from the model's start that another letter may be meant."""
    off = case.all_normal[case.first_stroke][0] - case.template.runs[0][0]
    return case.begins and float(np.hypot(*off)) > _ELSEWHERE_XH


def _costs(case: Case, style: HouseStyle, chars: str, ink: FloatArray) -> tuple[str, FloatArray]:
    """The letters it may be read as, the one asked for first, and how badly it fits each."""
    letters = class_set("".join(dict.fromkeys(case.char + chars)), style)
    costs = reading_costs(ink, letters)
    if costs[0] > PLAIN_XH and style.script is Script.PRINT_EXITS:
        # of another letter more than an exit may have been taken for the exit
        whole = class_set(letters.chars, style, joins=True)
        costs = np.minimum(costs, reading_costs(picture(list(case.ink)), whole))
    return letters.chars, costs


def nearest_readings(case: Case, style: HouseStyle, chars: str, count: int = 4) -> list[tuple[str, float]]:
    """The letters that the ink looks most like, nearest first, and how badly it fits each, xh."""
    letters, costs = _costs(case, style, chars, picture(list(case.bare_ink)))
    return [(letters[int(i)], float(costs[i])) for i in np.argsort(costs)[:count]]


def _goes_its_way(case: Case, other: str, style: HouseStyle) -> bool:
    """Whether the pen went the way of a letter that the ink looks as much like, and clearly not its own."""
    if style.is_joined:
        return False
    return align(case.ink, template(other, style)).cost < _ITS_WAY * case.match.cost


def _passes_for(rival: float, own: float, bent: bool) -> bool:
    """Whether ink that fits a rival so well, and its own letter so badly, is taken for the rival.

    A rival that fits as a well-made letter would has to be only a little better; one that fits
    loosely, as misshapen ink does, has to be much better.
    """
    if rival < _OTHER_PLAIN_XH:
        return rival < _OTHER_RATIO * own
    most = _OTHER_BENT_XH if bent else _OTHER_MOST_XH
    return rival < min(_OTHER_LOOSE_RATIO * own, most)


def _mirror_cost(ink: FloatArray, own: ClassSet) -> float:
    """Cost of the ink's mirror image against the model, on the lines or box on box."""
    flipped = mirror(ink)
    high, low = flipped[:, 1].max(), flipped[:, 1].min()
    goal = own.pictures[0][:, 1]
    boxed = flipped.copy()
    boxed[:, 1] = (flipped[:, 1] - low) / max(high - low, 0.2) * np.ptp(goal) + goal.min()
    return float(min(reading_costs(flipped, own)[0], reading_costs(boxed, own)[0]))


def _is_mirrored(case: Case, style: HouseStyle, own: float, mirror_cost: float) -> bool:
    """Whether the mirror image fits clearly better, as a picture or as a movement.

    Letters that are their own mirror image (o, v, x ...) have no mirrored form.
    """
    if class_set(case.char, replace(style, slant_deg=0.0)).mirror_cost < _SYMMETRIC_XH:
        return False
    looks = mirror_cost < min(_MIRROR_RATIO * own, _MIRROR_MOST_XH) and own > _MIRROR_LEAST_XH
    if not looks and case.match.cost < _MIRROR_MOVE_LEAST_XH:
        return False
    flipped = tuple(stroke * np.array([-1.0, 1.0]) for stroke in case.ink)
    ratio = align(flipped, case.template).cost / case.match.cost
    return ratio < (_MIRROR_LOOKS_RATIO if looks else _MIRROR_MOVE_RATIO)


def is_unreadable(case: Case, reading: Reading) -> bool:
    """Whether this is no letter at all: a tap, or a scribble."""
    written = sum(length(stroke) for stroke in case.ink)
    if written < 0.25:
        return True
    times = (written - 1.0) / case.template.length
    no_picture = reading.best_cost > _NO_PICTURE_XH or times > _FILLS_ANYTHING
    lost = times > _SCRIBBLE_LENGTH and no_picture and case.match.cost > _NO_WAY_XH
    return reading.best_cost > _UNREADABLE_XH or lost


def shape_findings(case: Case, reading: Reading, style: HouseStyle) -> list[Finding]:
    """Everything wrong with the shape; one cause, one finding."""
    everything = np.arange(len(case.match.ink))
    if reading.mirrored:
        return mirrored(case, reading, everything)
    missing, bent = part_missing(case), reading.form
    if missing and bent and _is_only_misshapen(case, missing[0]):
        missing = []
    out = missing + reads_as(case, reading, style, everything)
    if not missing:
        out += shape_open(case) + width(case, everything)
    if reading.other is None and not (missing and not is_bent_all_over(bent)):
        out += bent
    return out


def _is_only_misshapen(case: Case, missing: Finding) -> bool:
    """Whether a part that seems missing is there after all, misshapen like the rest of the letter."""
    strokes = case.template.letter.kinds
    stroke_left_out = len(strokes[missing.stroke]) == 1 and len(case.ink) < len(strokes)
    return missing.value > _TRACE_OF_IT and not stroke_left_out


def mirrored(case: Case, reading: Reading, span: IntArray) -> list[Finding]:
    """The mirror image fits clearly better than the model."""
    reads = f", reads as {reading.other}" if reading.other else ""
    first = "round" if case.template.kinds[0] in (K.ROUND_LEFT, K.ROUND_RIGHT) else "downstroke"
    return case.find("shape.mirrored", reading.own_cost, span, reads=reads, first_part=first)


def reads_as(case: Case, reading: Reading, style: HouseStyle, span: IntArray) -> list[Finding]:
    """Another letter of the class fits clearly better where it stands."""
    if reading.other is None:
        return []
    why, advice = why_it_reads(case.char, reading.other, style)
    hint = f"{advice or 'Start at ' + case.first_words['start']}."
    return case.find("shape.reads-as", reading.own_cost, span, reads=reading.other, why=why, reads_hint=hint)


def part_missing(case: Case) -> list[Finding]:
    """A part of the model that no ink covers; the worst one is named."""
    ink = np.concatenate(case.dense)
    worst: tuple[float, Part] | None = None
    for part in case.template.parts:
        if part.name == "dot":
            if case.match.dot is None and not _dot_like(case):
                return case.find(
                    "shape.part-missing", 0.0, case.match.ink[:1], stroke=part.stroke, part="dot"
                )
            continue
        stopped = _stopped_before(case, part)
        if len(part.points) < _PART_LEAST and not stopped:
            continue
        cover = _bar_cover(case, part) if _is_own_bar(case, part) else part.coverage(ink)
        if cover < (_STOPPED_COVERED if stopped else _COVERED) and (worst is None or cover < worst[0]):
            worst = (cover, part)
    if worst is None:
        return []
    cover, part = worst
    where = case.match.matched(
        np.flatnonzero((case.template.stroke == part.stroke) & (case.template.move == part.move))
    )
    return case.find("shape.part-missing", cover, where, stroke=part.stroke, move=part.move, part=part.name)


def _is_own_bar(case: Case, part: Part) -> bool:
    return part.name == "bar" and case.template.letter.kinds[part.stroke] == (K.BAR,)


def _bar_cover(case: Case, part: Part) -> float:
    """Whether some ink was meant as the bar, wherever it stands: a stroke of its own, or a flat stretch."""
    of_ink = case.template.stroke[case.match.model]
    for run, here in zip(case.match.runs, case.shares[:, part.stroke], strict=True):
        wide, high = np.ptp(case.normal[run.at], axis=0)
        if here > _MEANT * run.size and wide > high:
            return 1.0
    across, up = np.abs(np.diff(case.normal[of_ink == part.stroke], axis=0)).T
    flat = float(across[across > _FLAT * up].sum())
    is_bar = flat > _BAR_LEAST * float(np.ptp(part.points[:, 0]))
    return part.coverage(np.concatenate(case.dense)) if is_bar else 0.0


def _stopped_before(case: Case, part: Part) -> bool:
    """Whether this is the model's last part and the pen came up far from its end."""
    strokes = case.template.letter.strokes
    if len(strokes) > 1 or part.move != len(strokes[0].moves) - 1:
        return False
    end = case.template.points[-1]
    return min(float(np.hypot(*(stroke[-1] - end))) for stroke in case.all_normal) > _STOPPED_XH


def _dot_like(case: Case) -> bool:
    """A second mark anywhere above the letter, however large."""
    body_top = case.heights.top if case.heights.top is not None else 1.0
    return any(float(stroke[:, 1].min()) > body_top + 0.05 for stroke in case.ink)


def shape_open(case: Case) -> list[Finding]:
    """Gap where a bowl should close."""
    match = case.match
    start = case.all_normal[match.arrangement.order[0]][:1]
    first = case.template.points[: round(_FIRST_XH / FINE_XH)]
    off = float(nearest(start, first)[0])
    last_move = len(case.template.letter.kinds[0]) - 1
    for closure in case.template.closures:
        if off > (_OFF_THE_WAY_XH if closure.move == last_move else _BEFORE_A_STEM_XH):
            continue  # begun off the way, the bowl cannot close: the start is told
        ending, partner = match.matched(closure.ending), match.matched(closure.partner)
        if len(ending) < 1 or len(partner) < 1:
            continue
        gaps = nearest(match.ink[ending], match.ink[partner])
        gap = max(0.0, float(gaps.min()) - INK_XH / 2) / case.frame.scale
        found = case.find("shape.open", gap, match.ink[ending], move=closure.move)
        if found:
            return found
    return []


def width(case: Case, span: IntArray) -> list[Finding]:
    """Width against the model at the same height."""
    if case.template.width < _WIDTH_LEAST_XH or np.isnan(case.frame.width_ratio):
        return []
    ratio = case.frame.width_ratio
    off = 100 * max(ratio - 1, 1 / ratio - 1 if ratio < 1 else 0)
    wider = ("wider", "narrower") if ratio > 1 else ("narrower", "wider")
    return case.find("shape.width", off, span, wider=wider[0], width_hint=wider[1])


def form_xh(case: Case) -> float:
    """Mean distance of the ink from its place on the model, in the letter's own frame, xh.

    The match may slide along the model and so takes in about a third of a bend (median over all
    letters, bends of 0.12 xh); the factor gives it back.
    """
    return float(_SLIDE * case.off_model.mean())


def form(case: Case) -> list[Finding]:
    """Mean distance to the model after best shift, scale and slant; points at the worst stretch.

    A start in the wrong place is told as that, so the first stretch may not make the shape worse.
    """
    distances = _SLIDE * case.off_model
    later = distances[case.match.since_pen_down > HEAD_XH]
    value = float(min(distances.mean(), later.mean() if len(later) else np.inf))
    if case.severity("shape.form", value) is None:
        return []
    off = nearest(case.normal, case.template.points)
    worst = int(off.argmax())
    span = np.arange(max(0, worst - 15), min(len(off), worst + 16))
    return case.find("shape.form", value, span, stroke=int(case.template.stroke[case.match.model[worst]]))
