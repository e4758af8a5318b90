"""House styles as JSON files: what a school exports, imports, and gives to ``first-loop check --style``."""

from __future__ import annotations

import json
from typing import Any

from firstloop.core.letterforms.document import style_document, style_from
from firstloop.core.letterforms.style import HouseStyle, StyleError


def read_style(data: bytes | str) -> HouseStyle:
    """Read a house style; missing fields take their usual value.

    Raises
    ------
    StyleError
        Not JSON, not an object, or a choice the house does not have.
    """
    try:
        given: Any = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise StyleError(f"the style is not JSON: {error}") from None
    if not isinstance(given, dict):
        raise StyleError("the style must be a JSON object")
    return style_from(given)


def write_style(style: HouseStyle) -> str:
    """Write a house style as JSON."""
    return json.dumps(style_document(style), indent=2)
