"""A child's file that went through something on its way."""

from __future__ import annotations

from datetime import date

import pytest

from firstloop.formats.child_zip import ChildFileError, read_child, write_child

RECORDS = {"rows": [], "child": {"first_name": "Edie", "initial": "W"}}
PACKED = write_child(RECORDS, b"<ink/>", b"%PDF", lambda _: date(2026, 5, 12))
DIRECTORY = PACKED.index(b"PK\x01\x02")  # where the list of what is packed begins, after all that is packed


@pytest.mark.parametrize("bit", [0x01, 0x5A, 0x80])
def test_whatever_byte_of_the_list_of_files_changes_the_records_are_the_same_or_refused(bit):
    refused = 0
    for at in range(DIRECTORY, len(PACKED)):
        changed = bytearray(PACKED)
        changed[at] ^= bit
        try:
            assert read_child(bytes(changed))["child"] == RECORDS["child"]
        except ChildFileError:
            refused += 1
    assert refused > 50


@pytest.mark.parametrize("length", range(0, len(PACKED), 97))
def test_a_file_cut_off_is_refused(length):
    with pytest.raises(ChildFileError):
        read_child(PACKED[:length])
