"""The order of sounds of the demo school, worked out from its own harbour words and from nothing else.

At every step the word comes next that needs the fewest sounds that are still new, and of several the one
whose new sounds are needed most by the words to come. Its sounds go into the set that is being filled;
one that looks or sounds like a sound of that set waits for the next.
"""

from __future__ import annotations

from collections import Counter
from itertools import combinations

HARBOUR = (
    "m-a-s-t", "r-a-f-t", "d-o-ck", "c-r-a-b", "g-u-ll", "s-a-n-d", "sh-e-ll", "f-i-sh", "ch-ar-t",
    "l-a-m-p", "d-r-i-f-t", "b-u-n-k", "h-u-ll", "r-o-p-e-s", "c-a-b-i-n", "n-e-t", "g-u-s-t",
)  # fmt: skip
SET_MOST = 4
_LOOK_ALIKE = ("bdpq", "nhr", "un", "gq", "ft", "il", "ij", "vw", "kh")
_SOUND_ALIKE = (
    "m n", "b p", "d t", "c k ck g", "f v", "s sh ch", "i e", "a u", "o u", "l ll", "ar a",
)  # fmt: skip
_APART = {frozenset(pair) for group in _LOOK_ALIKE for pair in combinations(group, 2)} | {
    frozenset(pair) for group in _SOUND_ALIKE for pair in combinations(group.split(), 2)
}


def sound_order(words: tuple[str, ...] = HARBOUR) -> str:
    """One set a line, sounds with spaces between them."""
    left = [tuple(word.split("-")) for word in words]
    sets: list[list[str]] = [[]]
    while left:
        known = {unit for one in sets for unit in one}
        needed = Counter(unit for word in left for unit in set(word) - known)
        following = min(
            left,
            key=lambda word: (
                len(set(word) - known),
                -sum(needed[unit] for unit in set(word) - known),
                left.index(word),
            ),
        )
        left.remove(following)
        waiting = [unit for unit in dict.fromkeys(following) if unit not in known]
        while waiting:
            if len(sets[-1]) == SET_MOST or not (fits := [u for u in waiting if _fits(u, sets[-1])]):
                sets.append([])
                continue
            sets[-1].append(fits[0])
            waiting.remove(fits[0])
    return "\n".join(" ".join(one) for one in sets)


def _fits(unit: str, beside: list[str]) -> bool:
    return not any(frozenset((unit, other)) in _APART for other in beside)
