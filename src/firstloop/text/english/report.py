"""The report for a parent and for the file, and the page to practise at home."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

_CAUTION = (
    "Sit well, hold the pen loosely, take breaks, and stop when writing hurts. This page measures "
    "letters; it is no diagnosis. If a difficulty lasts, ask the school which qualified professionals "
    "can help."
)

REPORT: dict[str, Entry] = {
    "report.document": "{name}: letters, {day}",
    "report.title": "How {first}'s letters are coming on",
    "report.since": "{class_name}, {day}. From {since} until now.",
    "report.secure": "{first} writes these letters well alone:",
    "report.learning": "These are being learnt:",
    "report.slipping": "These were secure and need another look:",
    "report.changed": "What has changed",
    "report.next": "What comes next",
    "report.pairs": "First and latest, as written alone",
    "report.caution": _CAUTION,
    "report.figures": "{name}: figures",
    "report.day": "{class_name}, {day}",
    "report.shares": "How many of the letters written alone were secure, by four weeks",
    "report.head.weeks": "Weeks from",
    "report.head.all": "All together",
    "report.head.direction": "Direction",
    "report.head.shape": "Shape",
    "report.head.size": "Size",
    "report.letters": "Letter by letter",
    "report.head.letter": "Letter",
    "report.head.stands": "How it stands",
    "report.head.due": "Due again",
    "report.due": "due",
    "report.file-care": "Kept under the school's own data-protection and safeguarding rules.",
    "report.change": "{name}, {day}: {words}.",
    "report.share": "{share} of {letters}",
    "practice.title": "For {first} to practise",
    "practice.of-a-letter": "{letter} to practise",
    "practice.day": "{day}. A few minutes are enough; stop while it goes well.",
}
