"""A house style as plain values, for records and for files."""

from __future__ import annotations

from typing import Any

from firstloop.core.letterforms.choices import CHOICES
from firstloop.core.letterforms.style import (
    Adjustment,
    Ascenders,
    Correction,
    Dots,
    HouseStyle,
    Script,
    StyleError,
    Tails,
    Width,
)

FORMAT = "first-loop-style/1"
_NAME_MOST = 80


def style_document(style: HouseStyle) -> dict[str, Any]:
    """All choices of a style; those for letters only where they are not the usual one."""
    return {
        "format": FORMAT,
        "name": style.name,
        "script": str(style.script),
        "slant_deg": style.slant_deg,
        "width": str(style.width),
        "entry": style.entry,
        "ascenders": str(style.ascenders),
        "tails": str(style.tails),
        "dots": str(style.dots),
        "correction": str(style.correction),
        "breaks": style.breaks,
        "choices": dict(style.choices),
        "adjustments": [
            {"letter": a.letter, "measure": a.measure, "value": a.value} for a in style.adjustments
        ],
    }


def style_from(document: dict[str, Any]) -> HouseStyle:
    """Read a style; what is missing takes its usual value, what is unknown is left aside.

    Raises
    ------
    StyleError
        A choice the house does not have, or a value of the wrong kind.
    """
    plain = HouseStyle()
    try:
        choices = {str(k): str(v) for k, v in dict(document.get("choices") or {}).items()}
        return HouseStyle(
            name=str(document.get("name", plain.name))[:_NAME_MOST],
            script=Script(document.get("script", plain.script)),
            slant_deg=float(document.get("slant_deg", plain.slant_deg)),
            width=Width(document.get("width", plain.width)),
            entry=bool(document.get("entry", plain.entry)),
            ascenders=Ascenders(document.get("ascenders", plain.ascenders)),
            tails=Tails(document.get("tails", plain.tails)),
            dots=Dots(document.get("dots", plain.dots)),
            correction=Correction(document.get("correction", plain.correction)),
            breaks="".join(sorted(set(str(document.get("breaks", ""))))),
            choices=tuple(
                sorted((k, v) for k, v in choices.items() if k not in CHOICES or v != CHOICES[k].usual)
            ),
            adjustments=tuple(_adjustment(one) for one in document.get("adjustments") or ()),
        )
    except StyleError:
        raise
    except (ValueError, TypeError, AttributeError, KeyError) as error:
        raise StyleError(f"the style has a choice the house does not know: {error}") from None


def _adjustment(one: dict[str, Any]) -> Adjustment:
    return Adjustment(str(one.get("letter", "")), str(one["measure"]), float(one["value"]))
