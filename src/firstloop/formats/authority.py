"""The certificate by which tablets know this machine, and the small authority that vouches for it.

The authority is made once and kept: a tablet that trusts it trusts this machine under every address that it
will ever have in the school. What it signs is made anew at every start, for the addresses of that day.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import trustme
from cryptography import x509
from cryptography.hazmat.primitives import hashes

MACHINE_DAYS = 397  # browsers refuse certificates that hold for longer
_NAME = "First Loop on this machine"


class AuthorityError(ValueError):
    """An authority that cannot be read."""


@dataclass(frozen=True)
class Authority:
    """Who vouches for this machine, as PEM; `key` is a secret."""

    certificate: bytes
    key: bytes


@dataclass(frozen=True)
class MachineCertificate:
    """What a server shows, as PEM: its certificate with those above it, and its secret key."""

    chain: bytes
    key: bytes


def make_authority() -> Authority:
    """An authority of its own for one machine."""
    made = trustme.CA(organization_name=_NAME, organization_unit_name=_NAME)
    return Authority(made.cert_pem.bytes(), made.private_key_pem.bytes())


def certify(authority: Authority, names: Sequence[str], at: datetime) -> MachineCertificate:
    """A certificate for addresses and names of this machine.

    Raises
    ------
    AuthorityError
        If the authority cannot be read.
    """
    try:
        signer = trustme.CA.from_pem(authority.certificate, authority.key)
    except (ValueError, TypeError) as problem:
        raise AuthorityError("the authority of this machine cannot be read") from problem
    made = signer.issue_cert(
        *names,
        organization_name=_NAME,
        organization_unit_name=_NAME,
        not_after=at.astimezone(UTC) + timedelta(days=MACHINE_DAYS),
    )
    chain = b"".join(one.bytes() for one in made.cert_chain_pems)
    return MachineCertificate(chain, made.private_key_pem.bytes())


def fingerprint(authority: Authority) -> str:
    """The first bytes of the authority's SHA-256, in pairs, to be compared by eye.

    Raises
    ------
    AuthorityError
    """
    try:
        found = x509.load_pem_x509_certificate(authority.certificate).fingerprint(hashes.SHA256())
    except ValueError as problem:
        raise AuthorityError("the authority of this machine cannot be read") from problem
    return " ".join(f"{byte:02X}" for byte in found)
