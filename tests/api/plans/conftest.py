"""A clock that a test sets, and a class with a plan."""

from __future__ import annotations

from datetime import timedelta

import pytest

from tests.api.plans.planner import NOW, Planner
from tests.api.test_journeys import school


@pytest.fixture
def clock(client):
    def set_to(days: int = 0, hours: int = 0) -> None:
        client.app.state.clock = lambda: NOW + timedelta(days=days, hours=hours)

    set_to()
    return set_to


@pytest.fixture
def planner(client, clock):
    return Planner(client, school(client)["child"])
