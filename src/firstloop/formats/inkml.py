"""InkML (W3C Recommendation, 2011): ink files in and out.

Coordinates become millimetres with y downwards whatever the file's unit; unknown elements and
annotations are ignored. The ruling travels in annotations, see ``docs/ink-files.md``.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from xml.etree import ElementTree as ET

import numpy as np
from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from firstloop.core.curves import FloatArray
from firstloop.core.ink import POINTS_MAX, Evidence, InkError, InkGroup, InkStroke
from firstloop.core.letterforms.model import Letter
from firstloop.core.motion import timed
from firstloop.core.ruling import Ruling, RulingError

NAMESPACE = "http://www.w3.org/2003/InkML"
DEEPEST = 60  # groups in groups
TRUTH_LONGEST = 400  # characters; more is no line of writing
MM_IN: dict[str, float] = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}
MS_IN: dict[str, float] = {"ms": 1.0, "s": 1000.0, "us": 0.001}
_BY_RESOLUTION = ("px", "dev")
_TOKEN = re.compile(r"\s*([!'\"]?)\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?|[*?TF]|#[0-9A-Fa-f]+)")
_PLAIN = re.compile(r"[0-9eE+.\-\s,]*")


class InkMLError(InkError):
    """An InkML file that cannot be read, and why, in one line."""


@dataclass(frozen=True)
class _Channel:
    name: str
    factor: float


_DEFAULT_CHANNELS = (_Channel("X", 1.0), _Channel("Y", 1.0))


@dataclass(frozen=True)
class _Notes:
    """Annotations in force at some depth of the file."""

    values: dict[str, str] = field(default_factory=dict)

    def within(self, element: ET.Element) -> _Notes:
        """These, overruled by the element's own."""
        own = {a.get("type", ""): (a.text or "").strip() for a in element if _tag(a) == "annotation"}
        return replace(self, values={**self.values, **own})


def _tag(element: ET.Element) -> str:
    return element.tag.rsplit("}", 1)[-1] if isinstance(element.tag, str) else ""


def _id(element: ET.Element) -> str | None:
    return element.get("{http://www.w3.org/XML/1998/namespace}id") or element.get("id")


def read_inkml(data: bytes | str) -> list[InkGroup]:
    """Read all groups of an InkML file.

    Returns
    -------
    list of InkGroup
        In file order; traces outside a group make one unlabelled group, at the place of the first.

    Raises
    ------
    InkMLError
        Not XML, an entity, no traces, no ruling, an unknown unit, a number that is not finite, or
        more than 2,000,000 points.
    """
    root = _parse(data)
    formats = _Formats(root)
    groups: list[tuple[_Notes, list[InkStroke]]] = []
    _collect(root, _Notes(), formats, groups)
    groups = [(notes, strokes) for notes, strokes in groups if strokes]
    if not groups:
        raise InkMLError("the file has no traces")
    return [_group(notes, strokes) for notes, strokes in groups]


def _parse(data: bytes | str) -> ET.Element:
    try:
        root: ET.Element = fromstring(data, forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException:
        raise InkMLError("the file defines an XML entity, which is not allowed") from None
    except (ET.ParseError, ValueError, LookupError) as error:
        raise InkMLError(f"the file is not XML: {error}") from None
    if _tag(root) != "ink":
        raise InkMLError(f"the file is not InkML: its root element is <{_tag(root)}>, not <ink>")
    count = sum((trace.text or "").count(",") + 1 for trace in root.iter() if _tag(trace) == "trace")
    if count > POINTS_MAX:
        raise InkMLError(f"the file has {count:,} points; at most {POINTS_MAX:,} are read")
    return root


class _Formats:
    """Channels by the id of whatever defines them; the first one found is the file's default."""

    def __init__(self, root: ET.Element) -> None:
        self.by_id: dict[str, tuple[_Channel, ...]] = {}
        self.default: tuple[_Channel, ...] = _DEFAULT_CHANNELS
        refs: list[tuple[str, str]] = []
        seen = False
        for holder in root.iter():
            if _tag(holder) not in ("inkSource", "context", "definitions", "ink", "traceFormat"):
                continue
            form = (
                holder
                if _tag(holder) == "traceFormat"
                else next((c for c in holder if _tag(c) == "traceFormat"), None)
            )
            name = _id(holder)
            if form is None:
                ref = holder.get("inkSourceRef") or holder.get("traceFormatRef")
                if name and ref:
                    refs.append((name, ref.lstrip("#")))
                continue
            if _tag(holder) == "traceFormat" and seen and not name:
                continue
            channels = _channels(form, _resolutions(holder))
            if not seen:
                self.default, seen = channels, True
            if name:
                self.by_id[name] = channels
        for name, ref in refs:
            if ref in self.by_id:
                self.by_id[name] = self.by_id[ref]

    def of(self, element: ET.Element, inherited: tuple[_Channel, ...] | None) -> tuple[_Channel, ...]:
        """Channels of a trace or group."""
        ref = (element.get("contextRef") or "").lstrip("#")
        return self.by_id.get(ref, inherited or self.default)


def _resolutions(holder: ET.Element) -> dict[str, float]:
    """Dots in a millimetre, by channel."""
    found = {}
    for item in holder.iter():
        if _tag(item) == "channelProperty" and item.get("name") == "resolution":
            unit = (item.get("units") or "1/mm").replace(" ", "").removeprefix("1/")
            unit = unit.removeprefix("dev/").removeprefix("px/").removesuffix("^-1")
            if unit not in MM_IN:
                raise InkMLError(f"unknown unit {item.get('units')!r} of a resolution")
            found[item.get("channel", "")] = _number(item.get("value", "")) / MM_IN[unit]
    return found


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        raise InkMLError(f"{text!r} is not a number") from None
    if not np.isfinite(value):
        raise InkMLError(f"{text!r} is not a finite number")
    return value


def _channels(form: ET.Element, resolutions: dict[str, float]) -> tuple[_Channel, ...]:
    channels = []
    for channel in form:
        if _tag(channel) != "channel":
            continue
        name, unit = channel.get("name", ""), channel.get("units")
        factor = 1.0
        if name in ("X", "Y"):
            factor = _length_factor(name, unit, resolutions)
        elif name == "T":
            if unit is not None and unit not in MS_IN:
                raise InkMLError(f"unknown unit {unit!r} of channel T")
            factor = MS_IN[unit or "ms"]
        elif name == "F" and channel.get("max"):
            factor = 1.0 / max(_number(channel.get("max", "1")), 1e-9)
        channels.append(_Channel(name, factor))
    names = [channel.name for channel in channels]
    if "X" not in names or "Y" not in names:
        raise InkMLError("the trace format has no X and Y channel")
    return tuple(channels)


def _length_factor(name: str, unit: str | None, resolutions: dict[str, float]) -> float:
    if unit is None:
        return 1.0 / resolutions[name] if resolutions.get(name) else 1.0
    if unit in MM_IN:
        return MM_IN[unit]
    if unit in _BY_RESOLUTION:
        if not resolutions.get(name):
            raise InkMLError(f"unit {unit!r} of channel {name} needs a resolution")
        return 1.0 / resolutions[name]
    raise InkMLError(f"unknown unit {unit!r} of channel {name}")


def _collect(
    element: ET.Element,
    notes: _Notes,
    formats: _Formats,
    groups: list[tuple[_Notes, list[InkStroke]]],
    channels: tuple[_Channel, ...] | None = None,
    depth: int = 0,
) -> None:
    """Walk the file; the traces directly in an element make one group."""
    if depth > DEEPEST:
        raise InkMLError(f"the file has groups more than {DEEPEST} deep in one another")
    notes = notes.within(element)
    own: list[InkStroke] = []
    groups.append((notes, own))
    channels = formats.of(element, channels)
    for child in element:
        if _tag(child) == "trace":
            own.append(_stroke(child.text or "", formats.of(child, channels)))
        elif _tag(child) == "traceGroup":
            _collect(child, notes, formats, groups, channels, depth + 1)


def _stroke(text: str, channels: tuple[_Channel, ...]) -> InkStroke:
    rows = _plain_rows(text, len(channels))
    if rows is None:
        rows = _coded_rows(text, len(channels))
    if not np.isfinite(rows[:, :2]).all() or not np.isfinite(rows).all():
        raise InkMLError("a trace has a point that is not a finite number")
    column = {channel.name: rows[:, i] * channel.factor for i, channel in enumerate(channels)}
    force = np.clip(column["F"], 0.0, 1.0) if "F" in column else None
    return InkStroke(np.column_stack([column["X"], column["Y"]]), column.get("T"), force)


def _plain_rows(text: str, width: int) -> FloatArray | None:
    """Rows of a trace that only has plain numbers, the quick way; None if it needs decoding."""
    if not _PLAIN.fullmatch(text):
        return None
    points = text.strip().strip(",").split(",")
    values = [point.split() for point in points]
    if any(len(value) != width for value in values):
        return None
    try:
        return np.array(values, dtype=np.float64)
    except ValueError:
        return None


def _coded_rows(text: str, width: int) -> FloatArray:
    """Decode differences (``'`` first, ``"`` second), repeats (``*``) and explicit values (``!``)."""
    state = [["!", 0.0, 0.0] for _ in range(width)]
    rows = []
    for point in text.strip().strip(",").split(","):
        tokens, at = [], 0
        stripped = point.strip()
        while at < len(stripped):
            match = _TOKEN.match(stripped, at)
            if match is None:
                raise InkMLError(f"a trace has {stripped[at : at + 12]!r}, which is not a finite number")
            tokens.append(match.groups())
            at = match.end()
            while at < len(stripped) and stripped[at].isspace():
                at += 1
        if len(tokens) < width:
            raise InkMLError(f"a trace has a point with {len(tokens)} values where {width} are needed")
        rows.append(
            [
                _decoded(channel, prefix, value)
                for channel, (prefix, value) in zip(state, tokens, strict=False)
            ]
        )
    return np.array(rows, dtype=np.float64).reshape(-1, width)


def _decoded(channel: list[object], prefix: str, token: str) -> float:
    """Next value of a channel whose state is [mode, value, velocity]."""
    if prefix:
        channel[0] = prefix
    mode, value, speed = str(channel[0]), float(channel[1]), float(channel[2])  # type: ignore[arg-type]
    if token in ("*", "?"):
        new = value + (speed if mode != "!" and token == "*" else 0.0)
    else:
        number = float(int(token[1:], 16)) if token.startswith("#") else {"T": 1.0, "F": 0.0}.get(token)
        number = float(token) if number is None else number
        new = {"!": number, "'": value + number, '"': value + speed + number}[mode]
    channel[1], channel[2] = new, new - value
    return new


def _group(notes: _Notes, strokes: list[InkStroke]) -> InkGroup:
    lines = {}
    for line in ("rise", "mid", "base", "drop"):
        text = notes.values.get(f"ruling.{line}")
        lines[line] = None if not text else _number(text)
    if lines["mid"] is None or lines["base"] is None:
        raise InkMLError("the file has no ruling: ruling.mid and ruling.base are needed")
    try:
        ruling = Ruling(lines["mid"], lines["base"], lines["rise"], lines["drop"])
    except RulingError as error:
        raise InkMLError(str(error)) from None
    truth = notes.values.get("truth", "")
    if len(truth) > TRUTH_LONGEST:
        raise InkMLError(f"a truth has {len(truth):,} characters; a line has at most {TRUTH_LONGEST}")
    return InkGroup(
        tuple(strokes),
        ruling,
        truth=truth,
        script=notes.values.get("script", "print"),
        hand=notes.values.get("hand", "right"),
        evidence=_evidence(notes.values.get("evidence", "")),
    )


def _evidence(text: str) -> Evidence:
    if text and text not in set(Evidence):
        raise InkMLError(f"“{text[:40]}” is no evidence: it is {' or '.join(Evidence)}")
    return Evidence(text or Evidence.INK)


def model_ink(letter: Letter, xh_mm: float = 10.0) -> InkGroup:
    """The timed model of a letter or word as ink on four lines, as if a hand had written it."""
    left = letter.bounds[0]
    ruling = Ruling(2.5 * xh_mm, 3.5 * xh_mm, 1.5 * xh_mm, 4.5 * xh_mm)
    strokes = [
        InkStroke(ruling.to_page(one.points[::2], (1 - left) * xh_mm), np.round(one.t_ms[::2], 1))
        for one in timed(letter)
    ]
    return InkGroup(tuple(strokes), ruling, letter.char)


def write_inkml(groups: Iterable[InkGroup], notes: Iterable[Mapping[str, str]] = ()) -> bytes:
    """Write groups as one InkML file, in millimetres, each with its own ruling.

    Parameters
    ----------
    notes : iterable of mapping, optional
        More annotations of each group, by their type.

    Times and force are written only when every stroke of every group has them, since the channels
    of a file are declared once.
    """
    groups = list(groups)
    strokes = [stroke for group in groups for stroke in group.strokes]
    timed = all(stroke.t_ms is not None for stroke in strokes)
    pressed = all(stroke.force is not None for stroke in strokes)
    ink = ET.Element("ink", {"xmlns": NAMESPACE})
    source = ET.SubElement(ET.SubElement(ink, "definitions"), "inkSource", {"xml:id": "pen"})
    form = ET.SubElement(source, "traceFormat")
    for name, kind, unit in (("X", "decimal", "mm"), ("Y", "decimal", "mm")):
        ET.SubElement(form, "channel", {"name": name, "type": kind, "units": unit})
    if timed:
        ET.SubElement(form, "channel", {"name": "T", "type": "decimal", "units": "ms"})
    if pressed:
        ET.SubElement(form, "channel", {"name": "F", "type": "decimal"})
    more = [*notes] or [{}] * len(groups)
    for group, own in zip(groups, more, strict=True):
        _write_group(ink, group, timed, pressed, own)
    ET.indent(ink)
    text = ET.tostring(ink, encoding="unicode")
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{text}\n'.encode()


def _write_group(
    ink: ET.Element, group: InkGroup, timed: bool, pressed: bool, more: Mapping[str, str]
) -> None:
    element = ET.SubElement(ink, "traceGroup")
    notes = {
        **{
            f"ruling.{name}": None if value is None else f"{value:.6g}"
            for name, value in (
                ("rise", group.ruling.rise_mm),
                ("mid", group.ruling.mid_mm),
                ("base", group.ruling.base_mm),
                ("drop", group.ruling.drop_mm),
            )
        },
        "truth": group.truth or None,
        "script": group.script,
        "hand": group.hand,
        "evidence": None if group.evidence is Evidence.INK else str(group.evidence),
    }
    for key, value in (notes | dict(more)).items():
        if value is not None:
            ET.SubElement(element, "annotation", {"type": key}).text = value
    for stroke in group.strokes:
        columns = [stroke.points_mm]
        if timed and stroke.t_ms is not None:
            columns.append(stroke.t_ms[:, None])
        if pressed and stroke.force is not None:
            columns.append(stroke.force[:, None])
        rows = np.hstack(columns).round(4)
        each = ", ".join([" ".join(["%.10g"] * rows.shape[1])] * len(rows))
        ET.SubElement(element, "trace").text = each % tuple(rows.ravel().tolist())
