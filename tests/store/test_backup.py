"""A backup that went through something on its way."""

from __future__ import annotations

from datetime import UTC, datetime
from io import BytesIO

from firstloop.store.backup import BackupError, backup, check


def test_whatever_byte_of_the_list_of_files_changes_a_backup_is_whole_or_refused(empty, tmp_path):
    out = BytesIO()
    backup(empty, out, datetime(2026, 11, 27, tzinfo=UTC))
    made = out.getvalue()
    refused = 0
    for at in range(made.rindex(b"PK\x05\x06") - 60, len(made)):  # the last of the list, and its end
        changed = bytearray(made)
        changed[at] ^= 0x80
        try:
            assert check(BytesIO(changed), tmp_path).classes == 0
        except BackupError:
            refused += 1
    assert refused > 20
