"""The certificate by which tablets know this machine, and the page that shows the way to it."""

from __future__ import annotations

import socket
import ssl
import threading
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
import trustme
from cryptography import x509
from starlette.testclient import TestClient

from firstloop.api.server.way_in import CERTIFICATE, way_in
from firstloop.formats.authority import (
    MACHINE_DAYS,
    Authority,
    AuthorityError,
    MachineCertificate,
    certify,
    fingerprint,
)
from firstloop.services.door import machine_certificate

AT = datetime(2026, 11, 30, 9, tzinfo=UTC)
NAMES = ["192.0.2.7", "schoolbox.local", "localhost"]


def greeted(folder: Path, authority: Authority, shown, name: str) -> bool:
    """Whether a client that trusts the authority greets a server that shows the certificate, by a name."""
    for file, content in (
        ("chain.pem", shown.chain),
        ("key.pem", shown.key),
        ("ca.pem", authority.certificate),
    ):
        (folder / file).write_bytes(content)
    server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    server.load_cert_chain(folder / "chain.pem", folder / "key.pem")
    a, b = socket.socketpair()

    def serve() -> None:
        try:
            server.wrap_socket(a, server_side=True).close()
        except ssl.SSLError:
            a.close()

    threading.Thread(target=serve, daemon=True).start()
    try:
        ssl.create_default_context(cafile=folder / "ca.pem").wrap_socket(b, server_hostname=name).close()
    except ssl.SSLCertVerificationError:
        return False
    return True


def test_whoever_trusts_the_authority_trusts_this_machine_by_its_names_and_no_other(tmp_path):
    authority, shown = machine_certificate(tmp_path, NAMES, datetime.now(UTC))
    for name in NAMES:
        assert greeted(tmp_path, authority, shown, name)
    assert not greeted(tmp_path, authority, shown, "192.0.2.8")


def test_the_authority_is_made_once_and_signs_anew_for_other_addresses(tmp_path):
    first, _ = machine_certificate(tmp_path, NAMES, AT)
    again, shown = machine_certificate(tmp_path, ["192.0.2.99"], datetime.now(UTC))
    assert again == first
    assert greeted(tmp_path, first, shown, "192.0.2.99")
    assert (tmp_path / "door" / "authority-key.pem").stat().st_mode & 0o077 == 0
    other, _ = machine_certificate(tmp_path / "elsewhere", NAMES, AT)
    assert not greeted(tmp_path, other, shown, "192.0.2.99")


def test_who_takes_the_authoritys_key_cannot_pass_as_a_site_of_the_internet(tmp_path):
    authority, _ = machine_certificate(tmp_path, ["schoolbox", "192.0.2.7"], AT)
    thief = trustme.CA.from_pem(authority.certificate, authority.key)
    for name, passes in {"bank.example": False, "schoolbox": True, "192.0.2.66": True}.items():
        forged = thief.issue_cert(name, "localhost")
        chain = b"".join(one.bytes() for one in forged.cert_chain_pems)
        shown = MachineCertificate(chain, forged.private_key_pem.bytes())
        assert greeted(tmp_path, authority, shown, name) is passes, name


def test_a_machine_with_a_new_name_is_still_known_by_its_other_names(tmp_path):
    authority, _ = machine_certificate(tmp_path, ["schoolbox", "localhost"], AT)
    names = ["renamed", "renamed.local", "localhost", "192.0.2.7"]
    _, shown = machine_certificate(tmp_path, names, datetime.now(UTC))
    assert [greeted(tmp_path, authority, shown, name) for name in names] == [False, True, True, True]


def test_an_authority_from_before_it_was_bound_to_names_goes_on(tmp_path):
    made = trustme.CA()
    old = Authority(made.cert_pem.bytes(), made.private_key_pem.bytes())
    shown = certify(old, ["renamed"], datetime.now(UTC))
    assert greeted(tmp_path, old, shown, "renamed")


def test_a_certificate_holds_no_longer_than_browsers_accept(tmp_path):
    _, shown = machine_certificate(tmp_path, NAMES, AT)
    found = x509.load_pem_x509_certificate(shown.chain)
    assert found.not_valid_after_utc - AT <= timedelta(days=MACHINE_DAYS)


def test_an_authority_that_cannot_be_read_is_said_and_not_replaced(tmp_path):
    authority, _ = machine_certificate(tmp_path, NAMES, AT)
    (tmp_path / "door" / "authority.pem").write_bytes(b"-----BEGIN nothing")
    with pytest.raises(AuthorityError, match="trust anew"):
        machine_certificate(tmp_path, NAMES, AT)
    with pytest.raises(AuthorityError):
        certify(Authority(b"", authority.key), NAMES, AT)


def test_http_shows_the_way_and_nothing_else(tmp_path):
    authority, _ = machine_certificate(tmp_path, NAMES, AT)
    client = TestClient(way_in(authority, 8443, NAMES), base_url="http://192.0.2.7:8000")
    for path in ("/", "/api/classes", "/tablet?code=ABC123"):
        page = client.get(path)
        assert f'href="https://192.0.2.7:8443{path}"' in page.text
        assert fingerprint(authority) in page.text
        assert "default-src 'none'" in page.headers["content-security-policy"]
    assert client.get(CERTIFICATE).content == authority.certificate
    assert authority.key not in client.get(CERTIFICATE).content
    assert client.get("/", headers={"Host": "evil.example"}).status_code == 421
    told = client.get('/"><script>alert(1)</script>').text
    assert "<script>" not in told
