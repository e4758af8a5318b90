"""Named faults of known size: which letters each can be made in, and how far it can go.

The size is in the unit of its code (xh, %, lifts), so that an evaluation can ask for "twice the
tolerance".
"""

from __future__ import annotations

from dataclasses import dataclass

from firstloop.core.letterforms.lower import LOWER
from firstloop.core.letterforms.style import Script
from firstloop.core.simulate import detail_makers as detail
from firstloop.core.simulate import makers
from firstloop.core.simulate.makers import FaultMaker


@dataclass(frozen=True)
class Fault:
    """How to make one code, for which letters, and the largest size that still makes sense.

    Parameters
    ----------
    letters : str
        Print letters, lower case.
    others : str
        Capitals and digits.
    joined : str
        Letters of a joined hand.
    """

    code: str
    letters: str
    make: FaultMaker
    largest: float = float("inf")
    others: str = ""
    joined: str = ""

    def letters_in(self, script: Script) -> str:
        """Letters that the fault can be made in."""
        if script.joins:
            return self.joined
        if script.is_bare:
            return self.letters + self.others
        without = _NOT_WITH_EXITS.get(self.code, "")
        return "".join(char for char in self.letters if char not in without)


ALL = "".join(LOWER)
# what cannot be made of a letter with an exit: its last part is the exit, another letter has none
_NOT_WITH_EXITS = {"shape.part-missing": "adhmn", "shape.reads-as": "o"}
_NOT_LANDMARK = "acdegmnopqrsuvwy"
_BODIES = "abcdeghkmnopqrsuvwxyz"
_TALL = "ABCDEFGHJKLMNOPQRSTUVWXYZ0123456789"
_ONE_WAY = "BCDEFGJKLPRS234579"
_JOINED = "abcdefghijklmnopqrstuvwyz"

FAULTS: dict[str, Fault] = {
    fault.code: fault
    for fault in (
        Fault("start.bottom", "abcdhilmnprstuxz", makers.start_bottom, others="LZ1"),
        Fault("start.high", _NOT_LANDMARK, makers.moved_start(0, 1), 0.8),
        Fault("start.low", "gmnpqruy", makers.moved_start(0, -1), 0.48),
        Fault("start.side", "acemnorsuwy", makers.moved_start(1, 0), 0.8),
        Fault("direction.reversed", "ftx", makers.stroke_reversed, others="TXHA"),
        Fault("direction.turn", "abdgopq", makers.turn_reversed, others="O0Q"),
        Fault("order.swapped", "fijktx", makers.order_swapped, others="BDEFHKPRTXY45"),
        Fault("lift.extra", ALL.replace("i", "").replace("l", ""), makers.lift_extra, 3, "CGLMNOSUVWZ02378"),
        Fault("lift.missing", "fktx", makers.lift_missing, others="KTX"),
        Fault("retrace.gap", "bhmnpru", makers.retrace_gap, 0.45, joined="bhmnp"),
        Fault("shape.form", _BODIES, makers.form, 0.3, _TALL.replace("1", ""), _BODIES),
        Fault("shape.mirrored", "abcdefghjkmnpqrstuyz", makers.mirrored, others=_ONE_WAY),
        Fault("shape.reads-as", "".join(makers.LOOK_ALIKES), makers.other_letter),
        Fault("shape.open", "abdgopq", makers.bowl_open, 0.6),
        Fault(
            "shape.part-missing",
            "adefghijkmntxyz",
            makers.part_missing,
            others="ABDEFHKPQRTX",
            joined="fijtx",
        ),
        Fault("shape.part-extra", "abdhmnpu", makers.part_extra),
        Fault("shape.corner", "hmnuvw", detail.corner, others="MNUVW"),
        Fault("shape.slant", "abdhiklmnprtu", detail.leaning, 40, "BDEFHKLMNPRT1", "abdhilmnptu"),
        Fault("shape.reach", "rftjgy", detail.arm, 150, "J"),
        Fault("shape.bars-uneven", "", detail.bars_uneven, 150, "E"),
        Fault("shape.bar-height", "ft", detail.bar_height, 0.45, "AFH", "ft"),
        Fault("shape.bar-detached", "", detail.bar_detached, 0.5, "EFH"),
        Fault("shape.dot-gap", "ij", detail.dot_off, 0.9, joined="ij"),
        Fault("shape.width", "abcdeghkmnopqsuvwxyz", makers.width, others="ABCDEFGHKMNOPQRSTUVXZ02345689"),
        Fault("join.missing", "", detail.join_missing, 2, joined="adhiklmnu"),
        Fault("join.break", "", detail.join_break, 2, joined="adehiklmnostuw"),
        Fault("join.crossing", "", detail.join_crossing, 0.6, joined="gjy"),
        Fault("size.tall", _BODIES, makers.scaled(1), 100, _TALL, _BODIES),
        Fault("size.short", _BODIES, makers.scaled(-1), 62, _TALL, _BODIES),
        Fault("size.rise-short", "bdfhkl", makers.band(1.0, -1), 0.95, joined="bdhkl"),
        Fault("size.rise-tall", "bdfhkl", makers.band(1.0, 1), 1.4, joined="bdhkl"),
        Fault("size.drop-short", "gjpqy", makers.band(-0.02, 1), 0.8, joined="gjpy"),
        Fault("size.drop-long", "gjpqy", makers.band(-0.02, -1), 1.4, joined="gjpy"),
        Fault("position.floating", ALL, makers.moved(1), 0.7, others=_TALL, joined=_JOINED),
        Fault("position.sinking", ALL, makers.moved(-1), others=_TALL, joined=_JOINED),
        Fault("position.tail-on-line", "gjpqy", makers.tail_on_line, joined="gpy"),
        Fault("unreadable", "aglmnos", makers.scribble, others="EMS3", joined="amns"),
    )
}
