"""Pages that come back: what is said of those that could not be read as they should."""

from __future__ import annotations

from firstloop.text.catalogue import Entry

SCANS: dict[str, Entry] = {
    "scan.why.other-sheet": "The code {code} is of another sheet.",
    "scan.why.repeated": "This copy and page was read before.",
    "scan.why.unnamed": "Both codes are lost.",
    "scan.why.unnamed-read": "Both codes are lost; read as the only page it can be.",
    "scan.why.not-a-sheet": "There is no page of a sheet in this picture.",
    "scan.why.unreadable": "There is a page, but too little of it is seen to read it.",
}
