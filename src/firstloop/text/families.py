"""Families in words: their names, and why a letter stands where it does."""

from __future__ import annotations

from firstloop.core.families.scheme import Scheme
from firstloop.core.families.splitting import FamilyPart
from firstloop.text import say


def family_names(scheme: Scheme) -> dict[str, str]:
    """What the families of a scheme are called, by key."""
    return {one.key: say(f"family.{scheme.key}.{one.key}") for one in scheme.families}


def about(scheme: Scheme, key: str) -> str:
    """What a family of a scheme is, in plain words."""
    return say(f"family.{scheme.key}.{key}.about")


def part_reason(part: FamilyPart, *, as_wanted: bool = False) -> str:
    """Why some letters of a family are together, or what there is to say of those a teacher put together."""
    alike = "own" if as_wanted else "alike" if len(part.chars) > 1 else "alone"
    said = [say(f"part-of-family.{alike}")]
    for how, pairs in (("apart", part.apart), ("together", part.together)):
        if pairs:
            listed = ", ".join(say(f"part-of-family.{how}-pair", a=a, b=b) for a, b in pairs)
            said.append(say(f"part-of-family.{how}", pairs=listed))
    return " ".join(said)
