"""Who is in the records when an API test begins."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from tests.api.test_journeys import school


@pytest.fixture
def edie(client: TestClient) -> dict:
    return school(client)["child"]
