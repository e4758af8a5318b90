"""House styles as JSON, for ``first-loop check --style``."""

from __future__ import annotations

import json
from typing import Any

from firstloop.core.letterforms.style import HouseStyle, Script, StyleError, Width


def read_style(data: bytes | str) -> HouseStyle:
    """Read a house style; missing fields take their default.

    Raises
    ------
    StyleError
        Not JSON, not an object, or a choice the house does not have.
    """
    try:
        given: Any = json.loads(data)
    except ValueError as error:
        raise StyleError(f"the style is not JSON: {error}") from None
    if not isinstance(given, dict):
        raise StyleError("the style must be a JSON object")
    plain = HouseStyle()
    try:
        return HouseStyle(
            name=str(given.get("name", plain.name)),
            script=Script(given.get("script", plain.script)),
            slant_deg=float(given.get("slant_deg", plain.slant_deg)),
            width=Width(given.get("width", plain.width)),
        )
    except (ValueError, TypeError) as error:
        raise StyleError(f"the style has a choice the house does not know: {error}") from None


def write_style(style: HouseStyle) -> str:
    """Write a house style as JSON."""
    return json.dumps(
        {
            "name": style.name,
            "script": str(style.script),
            "slant_deg": style.slant_deg,
            "width": str(style.width),
        },
        indent=2,
    )
