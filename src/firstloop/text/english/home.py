"""What a parent reads of a slip: what has become better, and what to look at next.

Each entry goes on from the child's name: "Edie now begins m at the top." and "In m: begin at the top."
"""

from __future__ import annotations

from firstloop.text.catalogue import Entry

_BETTER_AND_NEXT = {
    "start.bottom": ("begins {letters} at the top", "begin at the top"),
    "start.high": ("begins {letters} at the right height", "begin a little lower"),
    "start.low": ("begins {letters} at the right height", "begin a little higher"),
    "start.side": ("begins {letters} in the right place", "begin in the right place, not to the side"),
    "direction.reversed": ("writes {letters} the right way along", "go the way the arrows go"),
    "direction.turn": ("turns {letters} the right way round", "turn the right way round"),
    "order.swapped": ("writes the parts of {letters} in order", "write the parts in order"),
    "lift.extra": ("writes {letters} without lifting the pen", "keep the pen on the paper"),
    "lift.missing": ("lifts the pen where {letters} needs it", "lift the pen between the parts"),
    "retrace.gap": ("goes back along the same line in {letters}", "go back along the same line"),
    "shape.form": ("writes {letters} nearer to the model", "look at the model first"),
    "shape.mirrored": ("no longer writes {letters} as its mirror image", "see which side comes first"),
    "shape.reads-as": ("writes {letters} so that it reads as itself", "make it plainly itself"),
    "shape.open": ("closes the round of {letters}", "close the round"),
    "shape.part-missing": ("writes all the parts of {letters}", "write every part"),
    "shape.part-extra": ("writes {letters} without extra strokes", "stop when the letter is done"),
    "shape.width": ("writes {letters} in the right width", "look how wide the model is"),
    "shape.corner": ("makes curves round and corners sharp in {letters}", "curves round, corners sharp"),
    "shape.slant": ("stands {letters} up as the model does", "stand the letter up like the model"),
    "shape.reach": ("makes the arm of {letters} the right length", "look how long the arm is"),
    "shape.bars-uneven": ("makes the bars of {letters} equal", "make the bars equal"),
    "shape.bar-height": ("puts the bar of {letters} at the right height", "see where the bar goes"),
    "shape.bar-detached": ("lets the bar of {letters} touch", "let the bar touch"),
    "shape.dot-gap": ("puts the dot of {letters} in place", "put the dot just above"),
    "join.missing": ("leads into and out of {letters}", "lead in and out"),
    "join.break": ("joins {letters} without lifting", "keep the pen down in a join"),
    "join.crossing": ("crosses the tail of {letters} on the line", "cross the tail on the line"),
    "size.tall": ("writes {letters} at the right height", "keep it below its line"),
    "size.short": ("writes {letters} at the right height", "reach up to its line"),
    "size.rise-short": ("makes the tall part of {letters} tall", "reach up to the top line"),
    "size.rise-tall": ("stops {letters} at the top line", "stop at the top line"),
    "size.drop-short": ("lets the tail of {letters} hang", "let the tail hang down"),
    "size.drop-long": ("makes the tail of {letters} the right length", "stop the tail at the lowest line"),
    "position.floating": ("sits {letters} on the line", "sit it on the line"),
    "position.sinking": ("sits {letters} on the line", "stop at the line"),
    "position.tail-on-line": ("lets the tail of {letters} hang below the line", "let the tail hang below"),
    "size.uneven": ("writes letters of one size", "make the letters one size"),
    "spacing.tight": ("leaves room between letters", "leave a little room between letters"),
    "spacing.wide": ("keeps the letters of a word together", "keep the letters of a word together"),
    "spacing.uneven": ("spaces letters evenly", "space the letters evenly"),
    "words.tight": ("leaves a finger between words", "leave a finger between words"),
    "words.wide": ("leaves one finger between words", "leave one finger between words"),
    "line.drift": ("keeps to the line", "keep to the line"),
    "unreadable": ("writes {letters} so that it can be read", "write slowly, one letter at a time"),
    "flow.pauses": ("writes {letters} in one go", "write it in one go"),
    "flow.slow": ("writes {letters} more quickly", "let the pen run"),
}
_MEASURES = {
    "height": "writes letters nearer to the right height",
    "place": "sits letters on the line better",
    "slant": "writes letters that lean less",
    "width": "writes letters nearer to the right width",
    "form": "writes letters nearer to the model",
    "spread": "writes letters more of one size",
    "room": "spaces letters better",
    "fingers": "leaves the room of one finger between words better",
    "speed": "writes more quickly",
}

HOME: dict[str, Entry] = {
    **{f"home.{code}.better": f"{{first}} now {better}." for code, (better, _) in _BETTER_AND_NEXT.items()},
    **{f"home.{code}.next": f"In {{letters}}: {then}." for code, (_, then) in _BETTER_AND_NEXT.items()},
    **{f"home.measure.{key}": f"{{first}} now {better}." for key, better in _MEASURES.items()},
    "home.bring-back": "Write {letters} again: they were secure and need another look.",
    "home.recall": "Write {letters} again, so that they stay.",
}
