"""Where schools differ: the question, both ways, what speaks for each, and why one is taken."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

# key: (question, (one way, what speaks for it), (the other, what speaks for it), why the first is taken)
_DIFFERENCES = {
    "first-move-d": (
        "Where does d begin?",
        ("round first, like a and g", "One movement for a whole family, and d begins where b does not."),
        ("with the stem", "The stem says first that it is a tall letter, and b and d begin alike."),
        "the round first keeps d with a, g and q, and tells it from b by the hand as well as by the eye",
    ),
    "first-move-e": (
        "How is e made?",
        ("across, then round, in one", "One stroke without a lift, and it joins as it is."),
        ("round like c, then a bar", "It begins as c does; the bar is one more thing to place."),
        "one stroke is quicker and goes on into a join",
    ),
    "choice-E": (
        "Are the bars of E equal?",
        ("three equal bars", "Nothing to judge: one length, three times."),
        ("a short middle bar", "Nearer to what children see in books."),
        "equal bars are one thing to remember",
    ),
    "choice-I": (
        "Has I bars?",
        ("bars at top and base", "The word I cannot be taken for l or for 1."),
        ("a plain stem", "One stroke, as children see it on many signs."),
        "a word that is one letter should not read as another",
    ),
    "choice-k": (
        "Is k made in two strokes or one?",
        ("two strokes", "Both slopes are straight, as in v, w and x."),
        ("one stroke with a small loop", "No lift, so it is ready to join."),
        "in print straight slopes are easier than a small loop",
    ),
    "choice-stems": (
        "After a stem, is the pen lifted?",
        ("lifted back to the top", "Every part starts from a place that can be shown."),
        ("back up the stem", "No lift, and the way back is practised in small letters already."),
        "a start that can be pointed at is easier to teach; written the other way is not wrong",
    ),
    "correction": (
        "Cross out, or rub out?",
        ("crossed out and written again", "What went wrong can be looked at, and no time goes in rubbing."),
        ("rubbed out", "The page stays clean, which some children need to go on."),
        "a letter that can still be seen can be learned from",
    ),
    "dots": (
        "When are dots and bars put on?",
        ("with their letter", "Nothing is forgotten at the end of the word."),
        ("when the word is finished", "The pen runs on through the word, as joined writing needs."),
        "in print a letter is finished before the next; joined hands wait by themselves",
    ),
    "entry": (
        "Is a joined word led into from the base line?",
        ("with a lead-in", "Every letter starts on the line, in the same place, in every word."),
        ("without one", "Letters begin as in print, and there is less ink to write."),
        "one place to start is easier in the first year of joining",
    ),
    "breaks": (
        "Is o and s joined on?",
        ("joined", "The word stays one run."),
        ("the pen lifted after them", "Two awkward joins are left out, and nothing is harder to read."),
        "children who can join them need no exception",
    ),
    "families": (
        "Are families made by movement, or by the first move?",
        ("by the whole movement", "Letters that feel alike stand together, so practice carries over."),
        ("by the first move", "The first thing the pen does is the first thing that is taught."),
        "what is practised in one letter should help the next",
    ),
    "capitals": (
        "Do capitals come first, or last?",
        ("small letters first", "They are most of what is read and written, and they join."),
        ("capitals first", "They are all one height and mostly straight."),
        "children write small letters from the first word on",
    ),
    "lines": (
        "Lines, or none?",
        ("on lines", "Size and place can be seen, said and checked."),
        ("without lines", "The first letters are free of one more thing to mind."),
        "height and place are half of being readable",
    ),
}  # fmt: skip

DIFFERENCES: dict[str, Entry] = {
    f"difference.{key}.{name}": words
    for key, (question, (one, for_one), (two, for_two), why) in _DIFFERENCES.items()
    for name, words in (
        ("question", question),
        ("one", one),
        ("one.for", for_one),
        ("two", two),
        ("two.for", for_two),
        ("why", f"When nobody chooses, First Loop takes the first: {why}."),
    )
}
