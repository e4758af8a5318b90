"""Words: why a line cannot be read, what is amiss with a sentence, and how sounds stand."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

BANK: dict[str, Entry] = {
    "bad-line.empty": "there is no word in it",
    "bad-line.letters": "a word is of the letters a to z only",
    "bad-line.long": "a word has at most 20 letters",
    "bad-line.units": "a unit is one to four letters, with - between units",
    "bad-line.spelling": "its units do not spell the word",
    "bad-line.by-heart": "by heart is yes or nothing",
    "bad-line.twice": "the word stands in the list already",
    "bad-line.name": "it is the first name of a child here, and names stay out of the bank",
    "bad-line.columns": "there are more than three columns",
    "form.capital-start": "A sentence begins with a capital.",
    "form.stop-end": "It ends with a stop, a question mark or an exclamation mark.",
    "form.capital-i": "The word I is a capital.",
    "form.capital-inside": "A capital stands inside a word.",
    "form.spaces": "One space between words is enough.",
    "form.space-before-stop": "No space stands before a stop.",
    # sounds by what was dictated
    "unit.credit": "{right} of {of}{again}",
    "unit.again": ", {count} when written again",
    "unit.why": "{state}: {credit}, on {days}",
    "unit.came-right": "{unit} has been right at once since {day}; before, to mend in {wrong} of {of}.",
    "unit-step.before": "Say {unit} before {before} slowly: it was left out or changed in {wrong} of {of}.",
    "unit-step.slipping": "Bring back {units}: secure before, slipping now.",
    "unit-step.teach": "Dictate words with {unit} again: right in {credit}.",
    "unit-step.longer": "Ready for words of {count} sounds: all of the latest were right at once.",
}
