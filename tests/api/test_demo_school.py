"""The demo school beside the records: begun when asked for, told when it can be reached, ended with them."""

from __future__ import annotations

import sys
import time
import urllib.request

import pytest

from firstloop.api.server.demo_school import DemoSchool, DemoState

SERVES = """
import http.server, pathlib, sys, time
given = dict(zip(sys.argv[1::2], sys.argv[2::2]))
time.sleep(1.0)
pathlib.Path(given["--data"]).write_text("made")
serves = http.server.HTTPServer(("127.0.0.1", int(given["--port"])), http.server.SimpleHTTPRequestHandler)
serves.serve_forever()
"""


def wait_for(school: DemoSchool, state: DemoState) -> None:
    for _ in range(100):
        if school.state is state:
            return
        time.sleep(0.1)
    pytest.fail(f"it is {school.state} and not {state}")


def test_it_is_made_served_and_ended(tmp_path):
    school = DemoSchool(tmp_path / "demo", [sys.executable, "-c", SERVES])
    assert (school.state, school.url) == (DemoState.OFF, "")
    school.start()
    assert (school.state, school.url) == (DemoState.MAKING, "")
    wait_for(school, DemoState.READY)
    url = school.url
    school.start()  # asked for twice it is one
    assert school.url == url
    assert urllib.request.urlopen(url, timeout=5).status == 200
    assert (tmp_path / "demo").read_text() == "made"
    school.stop()
    with pytest.raises(OSError, match="refused"):
        urllib.request.urlopen(url, timeout=5)


def test_one_that_cannot_be_made_is_told_and_tried_again(tmp_path):
    school = DemoSchool(tmp_path / "demo", [sys.executable, "-c", "raise SystemExit(1)"])
    school.start()
    wait_for(school, DemoState.FAILED)
    school.start()
    wait_for(school, DemoState.FAILED)
    school.stop()


def test_it_is_not_begun_for_whoever_is_not_at_this_computer(client):
    assert client.get("/api/demo-school").json() == {"state": "off", "url": ""}
    assert client.get("/api/about").json()["offers_demo"] is False
    refused = client.post("/api/demo-school")
    assert refused.status_code == 409
    assert "on the computer that First Loop was started on" in refused.json()["detail"]
