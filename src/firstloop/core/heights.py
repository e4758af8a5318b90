"""Heights on the lines by name: the rise line, just under the mid line, halfway up the middle band.

A name is a key of the catalogue (``firstloop.text``); in other words it is never spelt here.
"""

from __future__ import annotations

_LINES = ((2.0, "rise"), (1.0, "mid"), (0.0, "base"), (-1.0, "drop"))
_ON_LINE_XH = 0.035  # nearer than this no eye tells it from the line
_JUST_XH = 0.22  # about a fifth of a band: a teacher says "just under", not "halfway"


def height_name(y: float) -> str:
    """Name of a height above the base line, xh.

    Examples
    --------
    >>> height_name(1.0), height_name(0.86), height_name(0.5)
    ('mid', 'under-mid', 'half-middle')
    """
    for line, name in _LINES:
        if abs(y - line) <= _ON_LINE_XH:
            return name
        if line - _JUST_XH <= y < line:
            return f"under-{name}"
    for line, name in _LINES:
        if line < y <= line + _JUST_XH:
            return f"above-{name}"
    if y > 1:
        return "half-rise"
    return "half-middle" if y > 0 else "half-drop"


HEIGHTS = (
    *(f"{how}{name}" for _, name in _LINES for how in ("", "under-", "above-")),
    *("half-rise", "half-middle", "half-drop"),
)
"""Every name there is."""
