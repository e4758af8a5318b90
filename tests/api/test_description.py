"""Every door of the API, tried with what may be right and what may be wrong: each answers as described."""

from __future__ import annotations

import re
from collections.abc import Callable
from zlib import crc32

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from schemathesis.checks import load_all_checks
from schemathesis.config import SchemathesisConfig
from schemathesis.generation import derive_operation_seed
from schemathesis.generation.hypothesis.builder import HypothesisTestConfig, HypothesisTestMode, create_test
from schemathesis.generation.meta import CoverageScenario
from schemathesis.schemas import APIOperation, BaseSchema
from schemathesis.specs.openapi.checks import allow_header_conformance, positive_data_acceptance

from firstloop.api.app import create_app
from firstloop.api.settings import Settings
from tests.conftest import HERE

SLOW_S = 2.0
SLOW_ON_PURPOSE, SLOW_ON_PURPOSE_S = "/api/records/backup.age", 15.0  # a passphrase is made dear to guess
# What arrives in a room has no end to wait for.
ENDLESS = "/arriving$"
# These take the sheet that a preview or a layout takes: what may be wrong with it is tried there, once.
SAME_SHEET = re.compile("/sheets(/picture|/each|/[^/]+id})?$|/printed$|/sheet/(pdf|png)$")
PARTS = 12  # of the doors, each a test: the workers share them
EXAMPLES, FUZZING, COVERAGE = (
    HypothesisTestMode.EXAMPLES,
    HypothesisTestMode.FUZZING,
    HypothesisTestMode.COVERAGE,
)
TRIED = settings(max_examples=4, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)


@pytest.fixture(scope="module")
def school(tmp_path_factory: pytest.TempPathFactory):
    """An application with a class, a child, a row and a word, so that real records are asked for too."""
    at = Settings(tmp_path_factory.mktemp("described"), listens_on=("testserver",))  # its name for it
    app = create_app(at, web_dir=None)
    with TestClient(app, base_url=HERE) as client:
        client.post("/api/classes", json={"name": "Kittiwake class"})
        client.post("/api/classes/1/children", json={"first_name": "Orla", "initial": "F"})
        client.post("/api/rows", json={"child_id": 1, "letter": "n"})
        client.post("/api/written", json={"child_id": 1, "text": "nun"})
    return app


@pytest.fixture(scope="module")
def described(school) -> BaseSchema:
    """What the application says of itself."""
    load_all_checks()
    # other methods are refused by the framework
    config = SchemathesisConfig.from_dict({"phases": {"coverage": {"unexpected-methods": ["trace"]}}})
    return schemathesis.openapi.from_asgi("/openapi.json", school, config=config).exclude(path_regex=ENDLESS)


@pytest.mark.parametrize("part", range(PARTS))
def test_every_answer_is_what_the_description_promises(described, part, subtests):
    for one in described.get_all_operations():
        door = one.ok()
        if crc32(door.label.encode()) % PARTS == part:
            modes = [EXAMPLES, FUZZING] if SAME_SHEET.search(door.path) else [EXAMPLES, FUZZING, COVERAGE]
            with subtests.test(door.label):
                _trial(door, modes)()


def _trial(door: APIOperation, modes: list[HypothesisTestMode]) -> Callable[[], None]:
    config = HypothesisTestConfig(
        door.schema.config,
        modes,
        settings=door.schema.config.get_hypothesis_settings(operation=door, phase="fuzzing"),
        explicit_settings=TRIED,
        seed=derive_operation_seed(1, door.label),
    )
    return create_test(operation=door, test_func=_is_as_promised, config=config)


# What a model refuses is refused by it wherever it stands in what is sent: once for each door is enough.
REFUSED = frozenset(
    {
        CoverageScenario.INCORRECT_TYPE,
        CoverageScenario.VALUE_BELOW_MINIMUM,
        CoverageScenario.VALUE_ABOVE_MAXIMUM,
        CoverageScenario.STRING_BELOW_MIN_LENGTH,
        CoverageScenario.STRING_ABOVE_MAX_LENGTH,
        CoverageScenario.INVALID_ENUM_VALUE,
    }
)
_refused_before: set[tuple[object, ...]] = set()


def _is_refused_again(case) -> bool:
    """Whether something that is wrong in the same way was sent there before."""
    data = case.meta.phase.data
    scenario = getattr(data, "scenario", None)
    if scenario not in REFUSED:
        return False
    place = (case.method, case.path, data.parameter_location, scenario)
    again = place in _refused_before
    _refused_before.add(place)
    return again


def _is_as_promised(case) -> None:
    if _is_refused_again(case):
        return
    # what a schema cannot say (a class name taken, a file that is no ink) may still be refused; and
    # the Allow header is the framework's, which knows one route of a path at a time
    answer = case.call_and_validate(excluded_checks=[positive_data_acceptance, allow_header_conformance])
    most = SLOW_ON_PURPOSE_S if case.path == SLOW_ON_PURPOSE else SLOW_S
    if answer.elapsed > most:  # once more: a busy machine is slow, not wrong
        answer = case.call()
    assert answer.elapsed < most, f"{case.method} {case.path} took {answer.elapsed:.1f} s"
