"""Pages that come back: what is said of those that could not be read as they should."""

from __future__ import annotations

from firstloop.text.catalogue import Entry, Plural

SCANS: dict[str, Entry] = {
    "scan.why.other-sheet": "The code {code} is of another sheet.",
    "scan.why.repeated": "This copy and page was read before.",
    "scan.why.unnamed": "Both codes are lost.",
    "scan.why.unnamed-read": "Both codes are lost; read as the only page it can be.",
    "scan.why.not-a-sheet": "There is no page of a sheet in this picture.",
    "scan.why.unreadable": "There is a page, but too little of it is seen to read it.",
    "pages.why.other-sheet": "Sheet {code} was not printed from these records.",
    "pages.why.copy-gone": "Sheet {code} is known, this copy is not: its child was erased since.",
    "pages.why.repeated": "This page came in before.",
    "pages.why.unnamed": "Both codes on the page are lost. Say which sheet it is.",
    "pages.why.not-a-sheet": "No sheet of First Loop is seen in this picture.",
    "pages.why.unreadable": "Too little of the page is seen. Say which sheet it is and where it lies.",
    "pages.why.whose": "Whose page is this?",
    "pages.why.unclear": Plural(
        on="count", forms={"one": "1 place is unclear.", "other": "{count} places are unclear."}
    ),
}
