"""The teacher's door, where First Loop is reached over a network: passphrase, sessions, recovery words.

The passphrase is hashed with Argon2id and judged by how long it would take to guess, not by rules of
composition. The recovery words open the door once; a new passphrase is set with them, and new words made.
"""

from __future__ import annotations

import hashlib
import secrets
import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from zxcvbn import zxcvbn

from firstloop.formats.authority import Authority, AuthorityError, MachineCertificate, certify, make_authority
from firstloop.formats.word_bank import shipped_bank
from firstloop.store.door_keys import DoorKeys, door_folder, read_keys, write_keys, write_own

SESSION_HOURS = 8
PASSPHRASE_MOST = 200  # characters
RECOVERY_WORDS = 6  # of some 1,900: 65 bits
_WORD_LETTERS = range(3, 9)
_STRONG_ENOUGH = 3  # of zxcvbn's 0 to 4: not guessed online, nor offline within months
_SESSIONS_MOST = 20
_FREE_TRIES = 3
_JUDGED_MOST = 72  # characters that zxcvbn looks at; more make it no weaker
_WAIT_MOST_S = 300.0
_KNOWN_MOST = 1000  # addresses that guessed wrong


class DoorError(Exception):
    """The door stays shut; the message says why."""


class WeakError(DoorError):
    """A passphrase that is guessed too easily."""


class SlowDownError(DoorError):
    """Too many wrong tries; `wait_s` says for how long nothing is tried."""

    def __init__(self, wait_s: float) -> None:
        super().__init__("That was wrong too often. Wait a little, then try once more.")
        self.wait_s = wait_s


@dataclass(frozen=True)
class Strength:
    """How hard a passphrase is to guess: ``score`` from 0 to 4, whether that is enough, what would help."""

    score: int
    enough: bool
    advice: list[str]


def strength(passphrase: str) -> Strength:
    """How hard a passphrase is to guess, by zxcvbn's estimate."""
    if not passphrase:
        return Strength(0, False, [])
    found = zxcvbn(passphrase[:_JUDGED_MOST])
    told = [found["feedback"]["warning"], *found["feedback"]["suggestions"]]
    return Strength(found["score"], found["score"] >= _STRONG_ENOUGH, [one for one in told if one])


class Slowing:
    """Makes whoever guesses wrong wait: after three tries twice as long with each, up to five minutes."""

    def __init__(self) -> None:
        self._wrong: OrderedDict[str, tuple[int, float]] = OrderedDict()
        self._lock = threading.Lock()

    def check(self, who: str, at_s: float) -> None:
        """Refuse who has to wait.

        Raises
        ------
        SlowDownError
        """
        with self._lock:
            count, last = self._wrong.get(who, (0, 0.0))
        wait_s = min(_WAIT_MOST_S, 2.0 ** (count - _FREE_TRIES)) if count > _FREE_TRIES else 0.0
        if at_s < last + wait_s:
            raise SlowDownError(last + wait_s - at_s)

    def wrong(self, who: str, at_s: float) -> None:
        """Somebody guessed wrong."""
        with self._lock:
            count = self._wrong.pop(who, (0, 0.0))[0]
            self._wrong[who] = (count + 1, at_s)
            while len(self._wrong) > _KNOWN_MOST:
                self._wrong.popitem(last=False)

    def right(self, who: str) -> None:
        """Somebody knew it."""
        with self._lock:
            self._wrong.pop(who, None)


def hashed(token: str) -> str:
    """What is kept of a token that was given out: it is long and random, so a plain hash keeps it safe."""
    return hashlib.sha256(token.encode()).hexdigest()


class Door:
    """The door of one First Loop. Every change is in its file before it holds.

    Raises
    ------
    KeysError
        If there are keys that cannot be read.
    """

    def __init__(self, data_dir: Path) -> None:
        self._data_dir = data_dir
        self._keys = read_keys(data_dir)
        self._hasher = PasswordHasher()
        self._slowing = Slowing()
        self._lock = threading.RLock()  # one at a time: a hash takes 64 MB on purpose

    @property
    def has_passphrase(self) -> bool:
        """Whether anybody ever set one."""
        return self._keys is not None

    def set_passphrase(self, passphrase: str) -> str:
        """Set a passphrase, end every session, and make recovery words, which are told this once.

        Raises
        ------
        WeakError
        """
        if len(passphrase) > PASSPHRASE_MOST:
            raise WeakError(f"A passphrase has at most {PASSPHRASE_MOST} characters.")
        if not strength(passphrase).enough:
            raise WeakError(
                "That is guessed too easily. Take four or five words that have nothing to do with each other."
            )
        words = _recovery_words()
        with self._lock:
            self._put(DoorKeys(self._hasher.hash(passphrase), self._hasher.hash(words)))
        return words

    def enter(self, passphrase: str, who: str, at: datetime) -> str:
        """A new session's token for whoever knows the passphrase; `who` is the address that asks.

        Raises
        ------
        DoorError
            If it is wrong, or too many were.
        """
        self._try(lambda keys: keys.passphrase, passphrase, who, at)
        token = secrets.token_urlsafe(32)
        with self._lock:
            keys = self._known()
            kept = sorted(_not_ended(keys, at).items(), key=lambda one: one[1])[-_SESSIONS_MOST + 1 :]
            ends = (at + timedelta(hours=SESSION_HOURS)).timestamp()
            self._put(replace(keys, sessions={**dict(kept), hashed(token): ends}))
        return token

    def recover(self, words: str, passphrase: str, who: str, at: datetime) -> str:
        """Set a new passphrase with the recovery words, which are used up; returns new ones.

        Raises
        ------
        DoorError
        """
        if not strength(passphrase).enough:  # before the words are tried: they would not be used for nothing
            raise WeakError("The new passphrase is guessed too easily. Take four or five words.")
        with self._lock:
            self._try(lambda keys: keys.recovery, " ".join(words.lower().split()), who, at)
            return self.set_passphrase(passphrase)

    def change(self, passphrase: str, following: str, who: str, at: datetime) -> str:
        """Set another passphrase in place of the one that holds; returns new recovery words.

        Raises
        ------
        DoorError
        """
        with self._lock:
            self._try(lambda keys: keys.passphrase, passphrase, who, at)
            return self.set_passphrase(following)

    def is_open_to(self, token: str | None, at: datetime) -> bool:
        """Whether a session's token opens the door now."""
        if not token or self._keys is None:
            return False
        ends = self._keys.sessions.get(hashed(token))
        return ends is not None and at.timestamp() < ends

    def leave(self, token: str) -> None:
        """End a session."""
        with self._lock:
            keys = self._known()
            left = {name: ends for name, ends in keys.sessions.items() if name != hashed(token)}
            self._put(replace(keys, sessions=left))

    def leave_all(self) -> None:
        """End every session."""
        with self._lock:
            self._put(replace(self._known(), sessions={}))

    def _try(self, of: Callable[[DoorKeys], str], given: str, who: str, at: datetime) -> None:
        with self._lock:
            self._slowing.check(who, at.timestamp())
            keys = self._known()
            try:
                self._hasher.verify(of(keys), given[:PASSPHRASE_MOST])
            except (VerifyMismatchError, InvalidHashError):
                self._slowing.wrong(who, at.timestamp())
                raise DoorError("That is not it. Nothing was opened.") from None
            self._slowing.right(who)

    def _known(self) -> DoorKeys:
        if self._keys is None:
            raise DoorError("There is no passphrase yet. Set one on the machine: first-loop passphrase")
        return self._keys

    def _put(self, keys: DoorKeys) -> None:
        write_keys(self._data_dir, keys)
        self._keys = keys


def _not_ended(keys: DoorKeys, at: datetime) -> dict[str, float]:
    return {name: ends for name, ends in keys.sessions.items() if at.timestamp() < ends}


def _recovery_words() -> str:
    words = sorted(
        one.text for one in shipped_bank().words if len(one.text) in _WORD_LETTERS and one.text.isalpha()
    )
    return " ".join(secrets.choice(words) for _ in range(RECOVERY_WORDS)).lower()


def machine_certificate(
    data_dir: Path, names: list[str], at: datetime
) -> tuple[Authority, MachineCertificate]:
    """The authority of this machine, made when there is none, and a certificate of today for its addresses.

    Raises
    ------
    AuthorityError
        If there is one that cannot be read.
    OSError
    """
    folder = door_folder(data_dir)
    certificate, key = folder / "authority.pem", folder / "authority-key.pem"
    if certificate.is_file() and key.is_file():
        authority = Authority(certificate.read_bytes(), key.read_bytes())
    else:
        authority = make_authority(names)
        write_own(key, authority.key)
        write_own(certificate, authority.certificate)
    try:
        return authority, certify(authority, names, at)
    except AuthorityError:
        raise AuthorityError(
            f"The authority of this machine cannot be read ({folder}). Take both its files away and start "
            "again: a new one is made, which the tablets have to trust anew."
        ) from None
