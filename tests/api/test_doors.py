"""A stranger's page, a borrowed name, a body that never ends: what comes to the door and is not let in."""

from __future__ import annotations

import asyncio
import json
import re
from functools import cache
from html.parser import HTMLParser

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from firstloop.api.app import create_app
from firstloop.api.server import openapi, reach
from firstloop.api.server.bodies import USUAL_MOST
from firstloop.api.server.doors import host_name
from firstloop.api.server.gate import ClosedError, Gate
from firstloop.api.settings import Settings
from firstloop.store.classes import counts
from tests.conftest import HERE

CHANGES = {"post", "put", "patch", "delete"}
ELSEWHERE = [
    {"Origin": "http://evil.example"},
    {"Origin": "null"},
    {"Origin": "http://localhost:3000"},  # another site of this machine is another site all the same
    {"Sec-Fetch-Site": "cross-site"},
    {"Sec-Fetch-Site": "same-site"},
]
BODIES = ["application/json", "text/plain", "application/zip", "application/x-www-form-urlencoded"]


@cache
def described() -> dict:
    """What the API says of itself."""
    return json.loads(openapi.document())


@cache
def doors() -> list[tuple[str, str]]:
    """Every door of the API, from its own description, with numbers for what is named in the path."""
    paths = described()["paths"]
    return [
        (method, re.sub(r"\{char\}", "n", re.sub(r"\{\w*id\}", "1", path)))
        for path, methods in paths.items()
        for method in methods
    ]


def records_of(client: TestClient) -> dict[str, int]:
    with client.app.state.sessions() as session:
        return counts(session)


def test_every_changing_door_is_closed_to_a_page_of_another_site(client, edie):
    before = records_of(client)
    tried = 0
    for method, path in doors():
        if method not in CHANGES:
            continue
        for headers in ELSEWHERE:
            told = {**headers, "Content-Type": BODIES[tried % len(BODIES)]}
            answer = client.request(method, path, headers=told, content=b"PK")
            assert (answer.status_code, path) == (403, path), told
            tried += 1
    assert tried > 60 * len(ELSEWHERE)
    assert records_of(client) == before
    for method, path in doors():  # and none of them is closed to our own
        assert client.request(method, path, headers={"Origin": HERE}, content=b"").status_code != 403


def test_every_door_is_closed_to_another_hosts_name(client, edie):
    for method, path in [*doors(), ("get", "/"), ("get", "/docs"), ("get", "/openapi.json")]:
        for host in ("evil.example", "localhost.evil.example", "127.0.0.1.evil.example:8000", "10.1.2.3", ""):
            answer = client.request(method, path, headers={"Host": host})
            assert (answer.status_code, path) == (421, path), host


def test_a_page_of_another_site_reads_nothing_of_the_api_but_may_link_to_a_screen(client):
    for path in (one for method, one in doors() if method == "get"):
        assert client.get(path, headers={"Sec-Fetch-Site": "cross-site"}).status_code == 403
    assert client.get("/docs", headers={"Sec-Fetch-Site": "cross-site"}).status_code == 200


@pytest.mark.parametrize("host", ["localhost", "LOCALHOST:8000", "127.0.0.1:1", "[::1]:8000", "192.0.2.7:80"])
def test_this_machine_is_let_in_by_all_its_names(tmp_path, host):
    app = create_app(Settings(tmp_path, listens_on=("192.0.2.7",)), web_dir=None)
    with TestClient(app, base_url=HERE) as client:
        answer = client.get("/api/about", headers={"Host": host, "Origin": f"http://{host}"})
        assert answer.status_code == 200


@given(st.text(max_size=40))
def test_no_host_header_brings_the_door_down(text):
    name = host_name(text)
    assert name is None or name in text.lower()


def test_every_answer_says_what_a_browser_may_do_with_it(client):
    for path in ("/api/about", "/api/nowhere", "/docs", "/api/rows/999"):
        headers = client.get(path).headers
        policy = headers["content-security-policy"]
        assert "unsafe-inline" not in policy
        assert "frame-ancestors 'none'" in policy
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "no-referrer"
        assert "camera=()" in headers["permissions-policy"]
        assert "server" not in headers


class _Links(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.tags: list[str] = []
        self.targets: list[str] = []

    def handle_starttag(self, tag, attrs):
        self.tags.append(tag)
        self.targets += [value for name, value in attrs if name in ("src", "href")]


def test_the_apis_own_page_names_every_door_and_loads_nothing(client):
    text = client.get("/docs").text
    page = _Links()
    page.feed(text)
    assert not {"script", "link", "img", "style"} & set(page.tags)
    assert page.targets == ["/openapi.json"]
    for path in described()["paths"]:
        assert path in text


def test_no_answer_and_no_error_shows_a_path_of_this_machine(tmp_path):
    app = create_app(Settings(tmp_path, simulated_pen=True), web_dir=None)

    @app.get("/api/broken")
    def broken() -> None:
        raise RuntimeError(f"it broke in {tmp_path}")

    with TestClient(app, base_url=HERE, raise_server_exceptions=False) as client:
        for method, path in doors():
            assert str(tmp_path) not in client.request(method, path, content=b"{}").text
        answer = client.get("/api/broken")
        assert answer.status_code == 500
        assert "What was kept before is safe" in answer.json()["detail"]
        assert answer.headers["x-content-type-options"] == "nosniff"


def test_a_body_too_large_is_refused_by_what_it_says_and_by_what_comes(client, edie):
    row = client.post("/api/rows", json={"child_id": edie["id"], "letter": "n"}).json()
    path, kind = f"/api/rows/{row['id']}/attempts", {"Content-Type": "application/json"}
    said = client.post(path, content=b" " * (USUAL_MOST + 1), headers=kind)
    came = client.post(path, content=(b" " * 100_000 for _ in range(USUAL_MOST // 100_000 + 1)), headers=kind)
    for answer in (said, came):
        assert answer.status_code == 413
        assert "too large" in answer.json()["detail"]
    a_file = client.post("/api/check", content=b" " * (USUAL_MOST + 1))
    assert a_file.status_code == 400  # is let in, and is none


def test_no_more_than_so_many_are_in_at_once_and_none_while_it_is_closed():
    async def story() -> None:
        gate, inside, most = Gate(3), 0, 0

        async def come_in() -> bool:
            nonlocal inside, most
            try:
                async with gate.entered():
                    assert not gate.is_empty
                    inside += 1
                    most = max(most, inside)
                    await asyncio.sleep(0.01)
                    inside -= 1
                return True
            except ClosedError:
                return False

        assert all(await asyncio.gather(*(come_in() for _ in range(20))))
        assert most == 3
        assert gate.is_empty

        early = [asyncio.create_task(come_in()) for _ in range(3)]
        await asyncio.sleep(0)
        async with gate.closed():
            assert inside == 0  # whoever was in has come out
            assert not await come_in()
            with pytest.raises(ClosedError):
                async with gate.closed():
                    pass
        assert all(await asyncio.gather(*early))
        assert await come_in()
        assert gate.is_empty  # whoever was turned away is not there either

    asyncio.run(story())


class _Adapter:
    def __init__(self, *ips):
        self.ips = [type("IP", (), {"ip": ip})() for ip in ips]


def test_the_addresses_named_are_those_that_a_tablet_can_reach(monkeypatch):
    adapters = [
        _Adapter("127.0.0.1", ("::1", 0, 0)),
        _Adapter("169.254.7.7", ("fe80::1", 0, 2), ("2001:db8::7", 0, 0), "192.0.2.40"),
        _Adapter("192.0.2.9"),
    ]
    monkeypatch.setattr(reach.ifaddr, "get_adapters", lambda: adapters)
    everywhere = reach.listening_addresses("0.0.0.0")
    assert everywhere == ("192.0.2.9", "192.0.2.40", "2001:db8::7")
    assert reach.listening_addresses("192.0.2.9") == ("192.0.2.9",)
    assert [reach.is_loopback(host) for host in ("localhost", "127.0.0.1", "::1", "0.0.0.0", "school")] == [
        True, True, True, False, False
    ]  # fmt: skip
