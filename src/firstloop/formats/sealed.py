"""A file closed with a passphrase, in the age format (age-encryption.org/v1): any age tool opens it too."""

from __future__ import annotations

from typing import IO

from pyrage import DecryptError, passphrase

_HEAD = b"age-encryption.org/v1"
MOST = 1_000_000_000  # bytes: it is closed and opened in memory


class SealedError(ValueError):
    """A file that cannot be closed or opened; the message says why."""


def is_sealed(file: IO[bytes]) -> bool:
    """Whether a file is closed with a passphrase; it is left at its start."""
    head = file.read(len(_HEAD))
    file.seek(0)
    return head == _HEAD


def seal(source: IO[bytes], target: IO[bytes], said: str) -> None:
    """Write what is in `source` to `target`, closed with a passphrase.

    Raises
    ------
    SealedError
        If it is larger than 1 GB.
    """
    content = source.read(MOST + 1)
    if len(content) > MOST:
        raise SealedError("A backup of more than 1 GB cannot be closed with a passphrase here.")
    target.write(passphrase.encrypt(content, said))


def unseal(source: IO[bytes], target: IO[bytes], said: str) -> None:
    """Write what is in a closed file to `target`, which is then at its start.

    Raises
    ------
    SealedError
        If the passphrase is another, or the file is damaged.
    """
    try:
        target.write(passphrase.decrypt(source.read(), said))
    except DecryptError:
        raise SealedError(
            "That passphrase does not open this file, or the file is damaged. Nothing was changed."
        ) from None
    target.seek(0)
