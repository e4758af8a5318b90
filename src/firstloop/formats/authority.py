"""The certificate by which tablets know this machine, and the small authority that vouches for it.

The authority is made once and kept: a tablet that trusts it trusts this machine under every address that it
will ever have in the school. It can vouch for addresses, this machine's names and names of a local network:
whoever takes its key cannot pass as a site of the internet (RFC 5280, 4.2.1.10: name constraints). What it
signs is made anew at every start, for the addresses of that day.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address

import trustme
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric.ec import EllipticCurvePrivateKey
from cryptography.hazmat.primitives.serialization import Encoding, load_pem_private_key

LOCAL_NAMES = ("localhost", "local")  # and all names that end so (RFC 6761, 6762)
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


def make_authority(names: Sequence[str]) -> Authority:
    """An authority of its own for one machine that may have these names, and any address."""
    made = trustme.CA(organization_name=_NAME, organization_unit_name=_NAME, path_length=0)
    key = made.private_key_pem.bytes()
    plain = x509.load_pem_x509_certificate(made.cert_pem.bytes())
    permitted = [x509.DNSName(name) for name in (*LOCAL_NAMES, *names) if not _is_address(name)]
    builder = (
        x509.CertificateBuilder()
        .subject_name(plain.subject)
        .issuer_name(plain.issuer)
        .public_key(plain.public_key())
        .serial_number(plain.serial_number)
        .not_valid_before(plain.not_valid_before_utc)
        .not_valid_after(plain.not_valid_after_utc)
        .add_extension(x509.NameConstraints(permitted, None), critical=True)
    )
    for extension in plain.extensions:
        builder = builder.add_extension(extension.value, extension.critical)
    signer = load_pem_private_key(key, None)
    assert isinstance(signer, EllipticCurvePrivateKey)
    return Authority(builder.sign(signer, hashes.SHA256()).public_bytes(Encoding.PEM), key)


def certify(authority: Authority, names: Sequence[str], at: datetime) -> MachineCertificate:
    """A certificate for this machine's addresses and names, but names that its authority cannot vouch for.

    Raises
    ------
    AuthorityError
        If the authority cannot be read.
    """
    try:
        signer = trustme.CA.from_pem(authority.certificate, authority.key)
        permitted = _permitted(authority)
    except (ValueError, TypeError) as problem:
        raise AuthorityError("the authority of this machine cannot be read") from problem
    made = signer.issue_cert(
        *(name for name in names if permitted is None or _is_address(name) or _is_within(name, permitted)),
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


def _permitted(authority: Authority) -> list[str] | None:
    """The names under which an authority can vouch; None for one made before it was bound to any."""
    extensions = x509.load_pem_x509_certificate(authority.certificate).extensions
    try:
        bound = extensions.get_extension_for_class(x509.NameConstraints).value
    except x509.ExtensionNotFound:
        return None
    return [one.value for one in bound.permitted_subtrees or () if isinstance(one, x509.DNSName)]


def _is_address(name: str) -> bool:
    try:
        ip_address(name)
    except ValueError:
        return False
    return True


def _is_within(name: str, permitted: Sequence[str]) -> bool:
    """Whether a name is one of those, or ends in one of them."""
    return any(f".{name}".endswith(f".{one}") for one in permitted)
