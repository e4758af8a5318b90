"""Short words to write, once every letter of them has been begun."""

from __future__ import annotations

from collections.abc import Sequence

WORDS = (
    "it", "lit", "hit", "hill", "hint", "lint", "mint", "mill", "limit", "trim", "thin", "in", "tin",
    "jilt", "bin", "bit", "bib", "bump", "hum", "hump", "hunt", "hut", "jump", "lump", "nib", "nip",
    "nun", "nut", "pin", "pit", "pump", "run", "rub", "thump", "trip", "trunk", "tub", "tumble", "tip",
    "up", "mum", "hub", "hurry", "tummy", "puppy", "cap", "cat", "cot", "crab", "clap", "clip", "coat",
    "hat", "ham", "mat", "mast", "raft", "path", "plan", "lamp", "chat", "dad", "dab", "bad", "bud",
    "hand", "land", "sand", "band", "boat", "dock", "gull", "tide", "shell", "fish", "chart", "rope",
    "drift", "quay", "log", "dog", "goat", "gap", "gum", "van", "vet", "wet", "win", "wind", "wave",
    "walk", "milk", "kit", "kelp", "lake", "sail", "sea", "seal", "nest", "west", "zip", "fox", "box",
)  # fmt: skip


def within_reach(begun: Sequence[str], most: int) -> list[str]:
    """Words that need no letter but those begun, the ones with the letters begun last first.

    Parameters
    ----------
    begun : sequence of str
        Letters in the order in which they were begun.
    """
    place = {char: number for number, char in enumerate(begun)}
    able = [word for word in WORDS if all(char in place for char in word)]
    return sorted(able, key=lambda word: -max(place[char] for char in word))[:most]
