"""What a class calls the four lines: the usual names give way to its own, wherever something is said.

The names hold for what is said on behalf of one class, that is for one request; whoever speaks for a class
sets them first with :func:`call_lines`.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from contextvars import ContextVar
from functools import lru_cache, wraps
from typing import ParamSpec, TypeVar

LINES = ("rise", "mid", "base", "drop")

P = ParamSpec("P")
T = TypeVar("T")
Names = tuple[tuple[str, str], ...]

_own: ContextVar[Names] = ContextVar("names of the lines", default=())
_USUAL = re.compile(r"\b(rise|mid|base|drop) line\b", re.IGNORECASE)


def call_lines(names: Mapping[str, str] | None) -> None:
    """From now on call lines so: "mid" to "grass line"; what is not named keeps its usual name."""
    _own.set(tuple(sorted((names or {}).items())))


def called_lines() -> dict[str, str]:
    """What the lines are called now, where that is not as usual."""
    return dict(_own.get())


def renamed(words: str) -> str:
    """Words with the class's own names for the lines.

    Examples
    --------
    >>> call_lines({"mid": "roof line"})
    >>> renamed("Start just under the mid line. Mid line, base line.")
    'Start just under the roof line. Roof line, base line.'
    >>> call_lines(None)
    """
    names = called_lines()
    if not names:
        return words

    def own(found: re.Match[str]) -> str:
        name = names.get(found[1].lower(), found[0])
        return name[0].upper() + name[1:] if found[0][0].isupper() else name

    return _USUAL.sub(own, words)


def cached_by_names(most: int) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Like ``functools.lru_cache``, for what holds sentences: other names are another answer."""

    def cached(work: Callable[P, T]) -> Callable[P, T]:
        @lru_cache(maxsize=most)
        def kept(names: Names, *args: P.args, **given: P.kwargs) -> T:
            return work(*args, **given)

        @wraps(work)
        def called(*args: P.args, **given: P.kwargs) -> T:
            return kept(_own.get(), *args, **given)  # type: ignore[arg-type]  # as hashable as lru_cache needs

        return called

    return cached
