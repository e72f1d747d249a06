"""Every operation against its own description, with requests that schemathesis makes up of it.

More of them: LUCID_RIDGE_CONTRACT_CALLS=20000.
"""

import os
import threading

import pytest
from every_operation import OPERATIONS
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

CHECKS = (not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance)
CALLS_EACH = -(-int(os.environ.get("LUCID_RIDGE_CONTRACT_CALLS", "1500")) // len(OPERATIONS))
KNOWN: dict[str, list[int | str]] = {}
# Two thirds of the made-up numbers and names are exchanged for one that is there, so that not all is answered by 404.
ADDRESSES = {
    "shot_id": "/notebook shots",
    "location_id": "/locations locations",
    "body_id": "/kit bodies",
    "lens_id": "/kit lenses",
    "filter_id": "/kit filters",
    "support_id": "/kit supports",
    "attachment_id": "/kit attachments",
}


@pytest.fixture
def served(request, operation):
    """The demo; with a database of its own where the work goes on in another thread."""
    return request.getfixturevalue("own_api" if operation.path.endswith("/skyline/compute") else "api")


@pytest.fixture
def numbers(served):
    """Numbers of things in the demo by the name of the parameter that holds them; every copy of it has the same."""
    if KNOWN:
        return KNOWN
    locations, kit = served.get("/locations")["locations"], served.get("/kit")
    viewpoints = [item for row in locations for item in row["viewpoints"]]
    for kind in ("bodies", "lenses", "filters", "supports"):
        KNOWN[kind] = [row["id"] for row in kit[kind]]
    KNOWN["shot_id"] = [row["id"] for row in served.get("/notebook")["shots"]]
    KNOWN["location_id"] = [row["id"] for row in locations]
    KNOWN["viewpoint_id"] = [item["id"] for item in viewpoints]
    KNOWN["element_id"] = [item["id"] for row in viewpoints for item in row["elements"]]
    for name in ("card_id", "hazard_id", "reading_id", "note_id", "track_id", "framing_id"):
        KNOWN[name] = [1, 2, 3]
    KNOWN["ending"] = ["gpx", "kml", "geojson", "csv"]
    KNOWN["key"] = [row["key"] for row in served.get("/kit/presets")["presets"]]
    return KNOWN


def named(operation) -> str:
    return f"{operation.method.upper()} {operation.path}"


@pytest.mark.parametrize("operation", OPERATIONS, ids=named)
def test_operation(served, numbers, operation):
    statuses = []

    @settings(
        max_examples=CALLS_EACH,
        deadline=None,
        database=None,
        derandomize=True,
        phases=[Phase.explicit, Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def run(case):
        for name, value in (case.path_parameters or {}).items():
            there = numbers.get(operation.path.split("/")[2] if name == "piece_id" else name)
            lot = value if isinstance(value, int) else len(value)
            if there and lot % 3:
                case.path_parameters[name] = there[lot % len(there)]
        answer = case.call(app=served.client.application)
        statuses.append(answer.status_code)
        case.validate_response(answer, checks=list(CHECKS))

    run()
    for thread in threading.enumerate():
        if thread.name.startswith("job "):
            thread.join()
    assert statuses
    assert max(statuses) < 500
