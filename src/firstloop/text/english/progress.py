"""Progress: how a letter stands and why, what changed, what to do next, and what a report says."""

from __future__ import annotations

from firstloop.text.catalogue import Entry, Plural, Select

_MEASURES = {  # what it is called, and what more and less of it means
    "height": ("height", "taller than the model", "shorter than the model"),
    "place": ("place on the line", "above the line", "below the line"),
    "slant": ("slant", "more forward", "more backward"),
    "width": ("width", "wider than the model", "narrower than the model"),
    "form": ("distance from the model's form", "further from it", "nearer to it"),
    "spread": ("spread of heights in a row", "more uneven", "more even"),
    "room": ("room between letters", "more than the model", "less than the model"),
    "fingers": ("room between words", "more than a finger", "less than a finger"),
    "speed": ("speed", "quicker", "slower"),
}

PROGRESS: dict[str, Entry] = {
    **{f"measured.{key}": name for key, (name, _, _) in _MEASURES.items()},
    **{f"measured.{key}.more": more for key, (_, more, _) in _MEASURES.items()},
    **{f"measured.{key}.less": less for key, (_, _, less) in _MEASURES.items()},
    "unit.deg": "{value} degrees",
    "unit.mm": "{value} mm",
    "unit.xh/s": "{value} letter heights a second",
    "share.0": "hardly at all",
    "share.5": "a twentieth",
    "share.10": "a tenth",
    "share.20": "a fifth",
    "share.25": "a quarter",
    "share.33": "a third",
    "share.40": "two fifths",
    "share.50": "half",
    "share.67": "two thirds",
    "share.75": "three quarters",
    "share.100": "as much again",
    "share.150": "more than as much again",
    "in-ten": "{count} in 10",
    "measured.right": "as the model",
    "measured.off": "{value} {way}",
    "day": "{day} {month}",
    "day.year": "{day} {month} {year}",
    **{
        f"month.{number}": name
        for number, name in enumerate(
            (
                "January", "February", "March", "April", "May", "June", "July", "August", "September",
                "October", "November", "December",
            ),
            start=1,
        )
    },
    "aspect.all": "All together",
    "aspect.direction": "Direction",
    "aspect.shape": "Shape",
    "aspect.size": "Size",
    # a state and what it rests on
    "state.not-started": "not started",
    "state.learning": "learning",
    "state.secure": "secure",
    "state.slipping": "slipping",
    "sureness.sure": "sure",
    "sureness.fairly-sure": "fairly sure",
    "sureness.not-sure-yet": "not sure yet",
    # the rule of states, told on demand
    "rule.alone": "Letters written alone count; traced and finished ones do not. What was watched on paper "
    "counts for Direction.",
    "rule.words": "A letter inside a word counts a third of one written alone, its Direction whole. Of its "
    "Shape and Size a slip that the letters beside it may have caused does not count. A word begins no "
    "letter: it counts once the letter has a row of its own.",
    "rule.latest": "The latest {window} letters’ worth count, the newest most: {half} letters on, one counts "
    "half. Secure counts whole, near half.",
    "rule.secure": "Secure: {letters} letters’ worth or more on {days} days or more, {share} of it right.",
    "rule.slipping": "Slipping: it was secure, and of the latest {letters} letters’ worth no more than half "
    "is right.",
    "rule.mark": "Your mark always stands in place of the check.",
    "why.not-started": "not started: nothing written yet",
    "why.in-words": "written in words, last on {day}; not yet in a row of its own",
    "why.none-alone": "{state}: nothing written alone yet{words}",
    "why.state": "{state}: {secure} of the last {letters} alone{near}{words}, on {days}{wants}",
    "why.near": ", {near} near",
    "why.words": ", {secure} of {letters} in words",
    "why.wants": Select(
        "what",
        {
            "letters": "; to be sure takes {letters} letters",
            "days": "; to be sure takes {days} days",
            "both": "; to be sure takes {letters} letters on {days} days",
        },
    ),
    "days": Plural("count", {"one": "1 day", "other": "{count} days"}),
    # what changed
    "change.named": "{name}: {how}",
    "change.turn": "{how}, since {since}",
    "change.unsigned": "{way}, {now} now, {then} {when}",
    "change.right-now": "as it should be now, {then} {way} {when}",
    "change.signed": "{now} {way}, {then} {when}",
    "change.was-right": "right",
    "change.other-side": "{then} {way}",
    "when.before": "before",
    "when.at-first": "at first",
    "turn": Select(
        "way",
        {
            "better": "better from this week: {after} secure, {before} before",
            "worse": "less secure from this week: {after} secure, {before} before",
        },
    ),
    # what to do next
    "list.and": "{first} and {last}",
    "step.teach": "Teach again {teach}: {letters} {slip} in {slips} of the last {of}.",
    "step.bring-back": "Bring back {letters}: secure before, slipping now.",
    "step.recall": "Recall {letters}.",
    "seen": "{slip} in {letters}: {slips} of {of} lately",
    "seen.watch": "{slip} in {letters}: {slips} of {of} so far. Too little to say more; watch for it.",
    "habit.steady": "{slip} in {letters}: {now} of {now_of}",
    "habit.changed": "{slip} in {letters}: {was} of {was_of} before {since}, {now} of {now_of} since",
}  # fmt: skip
