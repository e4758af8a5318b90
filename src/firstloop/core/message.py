"""What is to be said, before it is said in any language: a key of the catalogue, and what fills its places.

The core knows no sentence. Where something has to be said of a letter (why it stands in a family, what
the pen does, what another letter has that this one lacks), it gives a message; ``firstloop.text`` puts
it into words.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

Value: TypeAlias = "str | int | float | Message"


@dataclass(frozen=True)
class Message:
    """A key of the catalogue, and the values of its named places, other messages among them."""

    key: str
    values: tuple[tuple[str, Value], ...] = ()

    def __str__(self) -> str:
        """For error texts and debugging; it is not what a person reads."""
        return f"{self.key}({', '.join(f'{name}={value}' for name, value in self.values)})"


def message(key: str, **values: Value) -> Message:
    """A message with its places filled.

    Examples
    --------
    >>> str(message("reason.slopes", char="v", count=2))
    'reason.slopes(char=v, count=2)'
    """
    return Message(key, tuple(values.items()))
