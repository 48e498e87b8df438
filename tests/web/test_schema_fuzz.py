"""Requests drawn from the OpenAPI document: whatever is asked, never a 500, and answers are as the
document says."""

from itertools import count
from typing import Any

import pytest
import schemathesis
from flask import Flask
from flask.testing import FlaskClient
from hypothesis import HealthCheck, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from tests.web.sites import new_design
from yonderstat.demo.quay_street import QUAY_STREET

EXAMPLES = 12
CHECKS = [
    not_a_server_error,
    response_schema_conformance,
    status_code_conformance,
    content_type_conformance,
]
ON_ITS_OWN = {"start_sizing_map"}
"""Asks the queue, which has tests of its own."""


@pytest.fixture
def stored(client: FlaskClient) -> dict[str, str]:
    """What is there to be asked about."""
    design_id = new_design(client, QUAY_STREET)
    site_id = client.get(f"/api/designs/{design_id}").get_json()["site_id"]
    return {"design_id": design_id, "site_id": site_id}


def name_of(operation: Any) -> str:
    return str(operation.definition.raw["operationId"])


def asked(operation: Any, client: FlaskClient, stored: dict[str, str]) -> set[int]:
    """Ask an operation with what its schema allows; the statuses of its answers."""
    statuses: set[int] = set()
    asked_so_far = count(1)

    @settings(
        max_examples=EXAMPLES,
        deadline=None,
        derandomize=True,
        database=None,
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def ask(case: Any) -> None:
        # Ids drawn at random are never there: most requests are about what is.
        if next(asked_so_far) % 4:
            for name in set(case.path_parameters) & set(stored):
                case.path_parameters[name] = stored[name]
        if "If-Match" in (case.headers or {}):
            at = client.get(f"/api/designs/{stored['design_id']}").get_json()
            case.headers["If-Match"] = str(at.get("revision", 1))
        # A write is taken only as JSON, also one without a body; a file only as one.
        headers = {
            "Host": "127.0.0.1",
            "Content-Type": case.media_type or "application/json",
            "Accept-Encoding": "identity",
        }
        statuses.add(case.call_and_validate(checks=CHECKS, headers=headers).status_code)
        client.post(f"/api/sites/{stored['site_id']}/restore", json={})

    ask()
    return statuses


def test_no_request_breaks_it(
    shared_app: Flask, client: FlaskClient, stored: dict[str, str]
) -> None:
    schema = schemathesis.openapi.from_wsgi("/api/openapi.json", shared_app)
    operations = [result.ok() for result in schema.get_all_operations()]
    assert len(operations) > 30
    seen = {
        name_of(item): asked(item, client, stored)
        for item in operations
        if name_of(item) not in ON_ITS_OWN
    }
    # Most operations were not only refused.
    assert (
        sum(any(status < 400 for status in statuses) for statuses in seen.values()) > len(seen) / 2
    )
