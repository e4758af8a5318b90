"""The term and the lesson: orders and what they cost, what moved, the parts of a lesson."""

from __future__ import annotations

from firstloop.text.catalogue import Entry, Plural

_DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")

PLAN: dict[str, Entry] = {
    **{f"weekday.{number}": name for number, name in enumerate(_DAYS)},
    "day.weekday": "{weekday} {day}",
    "demo.half-term": "Half-term",
    "plan.topic.lower-case": "Small letters",
    "plan.topic.capitals": "Capitals",
    "plan.topic.digits": "Digits",
    "plan.topic.joins": "Joins",
    "plan.term-name": "{season} term",
    "plan.season.autumn": "Autumn",
    "plan.season.spring": "Spring",
    "plan.season.summer": "Summer",
    # kinds of joins
    "plan.join.into-low": "joins along the base line",
    "plan.join.into-tall": "joins into tall letters",
    "plan.join.into-round": "joins into rounds",
    "plan.join.from-mid": "joins from the mid line",
    "plan.join.lifted": "letters that do not join",
    # what an order costs
    "plan.order.scheme": "As the scheme has it",
    "plan.order.movement": "Similar movements together",
    "plan.order.words": "Most words soonest",
    "plan.order.apart": "Look-alikes furthest apart",
    "plan.order.between": "Between the three",
    "plan.order.as-it-is": "As this plan has it",
    "plan.apart.same": "in one lesson",
    "plan.apart.week": "in one week",
    "plan.apart.weeks": Plural("count", {"one": "a week apart", "other": "{count} weeks apart"}),
    "plan.close": "{one} and {other} are new {when}",
    "plan.cost.more-close": Plural(
        "count",
        {"one": "{first}, and 1 pair more is close", "other": "{first}, and {count} pairs more are close"},
    ),
    "plan.cost.nearest": "look-alikes never closer than {one} and {other}, {when}",
    "plan.cost.words": Plural("count", {"one": "1 word by half-way", "other": "{count} words by half-way"}),
    "plan.cost.movement-near": "each letter is made much like the one before",
    "plan.cost.movement-some": "neighbours are made somewhat alike",
    "plan.cost.movement-far": "neighbours are often made quite differently",
    # what moved
    "plan.moved.first": Plural(
        "count", {"one": "{letters} is now on {day}.", "other": "{letters} are now on {day}."}
    ),
    "plan.moved.then": Plural(
        "count", {"one": "{letters} follows on {day}.", "other": "{letters} follow on {day}."}
    ),
    "plan.moved.nowhere": Plural(
        "count",
        {"one": "{letters} has no lesson any more.", "other": "{letters} have no lesson any more."},
    ),
    "plan.moved.more": Plural(
        "count", {"one": "1 letter more moves.", "other": "{count} letters more move."}
    ),
    "plan.missed": "{day} was missed.",
    "plan.cut-short": Plural(
        "count",
        {
            "one": "{day} was cut short: {letters} was not shown.",
            "other": "{day} was cut short: {letters} were not shown.",
        },
    ),
    "plan.not-written": Plural(
        "count",
        {
            "one": "{day}: {letters} has not been written since. Was it shown?",
            "other": "{day}: {letters} have not been written since. Were they shown?",
        },
    ),
    "plan.left": Plural(
        "count",
        {
            "one": "The term has no lesson for {letters}.",
            "other": "The term has no lessons for {letters}.",
        },
    ),
    # steps that were taken, as they are said after them
    "plan.step.made": "The term is planned.",
    "plan.step.dropped": "There is no plan any more.",
    "plan.step.order": "The order is now: {name}.",
    "plan.step.days": "The days of the term are changed.",
    "plan.step.locked": "{day} stays as it is.",
    "plan.step.unlocked": "{day} can move again.",
    "plan.step.held": "{day} was held as planned.",
    "plan.step.page": "The page of {day} is changed.",
    # a lesson
    "plan.lesson.new": "New: {letters}",
    "plan.lesson.recall": "Recall",
    "plan.lesson.recall-break": "Recall before the holidays",
    "plan.lesson.free": "Kept free",
    "plan.lesson.words": "Words",
    "plan.aim.letter": "I can start {letter} {at}.",
    "plan.aim.letters": "I can start {letters} in the right place.",
    "plan.aim.join": "I can write {joins} without lifting.",
    "plan.aim.recall": "I can write {letters} without looking.",
    "plan.aim.words": "I can write words with the letters I know.",
    "plan.part.before": "Before we write",
    "plan.part.date": "The date",
    "plan.part.recall": "Recall",
    "plan.part.show": "Show {letters}",
    "plan.part.air": "In the air",
    "plan.part.row": "Trace {trace}, finish {finish}, alone {alone}",
    "plan.part.words": "Words",
    "plan.part.sentence": "A sentence",
    "plan.part.best": "Best one, tidy away",
    "plan.says.before": "feet on the floor, paper in place, loose grip; stop when it hurts",
    "plan.says.date": "as a warm-up",
    "plan.says.recall": "due again; each letter twice",
    "plan.says.show": "say the movement while you write; then the common slip, crossed out",
    "plan.says.air": "three times, facing the class",
    "plan.says.words": "letters taught by now",
    "plan.says.sentence": "all of its words are taught",
    "plan.says.best": "everyone ticks the best one and says why",
    "plan.says.row": Plural(
        "count",
        {
            "one": "the row takes this class {seconds} seconds",
            "other": "{count} rows take this class {seconds} seconds",
        },
    ),
    "plan.pace.measured": "From how long this class really takes: {seconds} seconds a letter in a row.",
    "plan.pace.usual": (
        "A usual figure for the level, {seconds} seconds a letter in a row, until thirty letters are written."
    ),
    "plan.cut.first": "first {first}",
    "plan.cut.first-then": "first {first}, then {then}",
    "plan.cut.nothing": "nothing can be left out of so short a lesson",
    "plan.cut.alone": "one letter alone fewer",
    "plan.cut.word": "the last word",
    "plan.cut.date": "the date down to its weekday",
    "plan.cut.short-date": "the date",
    "plan.cut.recall": "the last recall letter",
    "plan.cut.sentence": "the sentence",
    "plan.cut.trace": "one tracing",
    "plan.beside": "{slip} in {letters}",
    "plan.beside.words": "{letter} is in {words}.",
    # what came of a lesson
    "plan.came.secure": Plural(
        "of",
        {
            "one": "{letter}: {count} of 1 child who wrote it has most of its letters secure.",
            "other": "{letter}: {count} of {of} children who wrote it have most of its letters secure.",
        },
    ),
    "plan.came.slip": "{children}: {slip} in {letters}.",
    "plan.came.moves": "{letters} was not shown and comes next.",
    # out
    "plan.file.term": "{class_name}: {term}",
    "plan.file.beside": "Stand beside",
    "plan.file.note": "Note",
    "plan.file.short": "If time runs short",
    "plan.minutes": Plural("count", {"one": "1 minute", "other": "{count} minutes"}),
    "plan.column.day": "day",
    "plan.column.weekday": "weekday",
    "plan.column.minutes": "minutes",
    "plan.column.kind": "kind",
    "plan.column.new": "new",
    "plan.column.recall": "recall",
    "plan.column.came": "came",
    "plan.file.recall": "recall",
    "plan.file.missed": "missed",
    "plan.file.gone": "no longer in the plan",
    "plan.file.caution": (
        "Feet on the floor, a loose grip, a pause when the hand tires; stop when it hurts. First Loop does "
        "not diagnose: where a difficulty stays, ask a qualified professional."
    ),
}
