"""What is said of a room full of tablets."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from firstloop.text import say
from firstloop.text.findings import slip_name
from firstloop.text.progress import listed


def handed_out(letter: str, text: str, *, heard: bool = False) -> str:
    """One child's sheet: "a row of n"."""
    if letter:
        return say("room.row", letter=letter)
    return say("room.heard", text=text) if heard else say("room.words", text=text)


def all_of_it(sheets: Sequence[str]) -> str:
    """What is out, in a few words."""
    if not sheets:
        return say("room.nothing")
    return sheets[0] if len(set(sheets)) == 1 else say("room.own")


def just_now(slips: Mapping[str, Sequence[str]]) -> list[str]:
    """Who slipped just now, a sentence a slip: "Bashir and Farah just now: begun at the bottom"."""
    return [say("room.just-now", names=listed(names), slip=slip_name(code)) for code, names in slips.items()]


def audited(who: str, verb: str, what: str, of: str) -> str:
    """A thing that was done: "The teacher took out the record · Edie W"."""
    key = "audit.says" if of else "audit.says-all"
    return say(key, who=say(f"audit.{who}"), verb=say(f"audit.{verb}"), what=say(f"audit.of.{what}"), of=of)


def erased_child(number: int) -> str:
    """Who is no longer in the records."""
    return say("audit.erased-child", number=number)
