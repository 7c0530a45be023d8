"""Requests generated from the contract: whatever fits it, and whatever does not, is answered as it says."""

import os
import shutil

import pytest
from hypothesis import HealthCheck, given, settings
from starlette.testclient import TestClient

from fair_spindle.api.app import create_app

# More of them by hand: GENERATED_EXAMPLES=200 pytest tests/api/test_generated_requests.py
EXAMPLES = int(os.environ.get("GENERATED_EXAMPLES", "3"))
HEADERS = {"Host": "127.0.0.1"}


@pytest.mark.referee
def test_the_server_keeps_its_contract_for_generated_requests(filled, tmp_path):
    """Referee: schemathesis, over the OpenAPI contract that the interface's types are made from."""
    import schemathesis  # two seconds, which one worker needs to spend
    from schemathesis.checks import CHECKS

    file = tmp_path / "generated.sqlite"
    shutil.copy(filled, file)
    app = create_app(file)
    checks = CHECKS.get_all()
    asked = []
    with TestClient(app):
        schema = schemathesis.openapi.from_dict(app.openapi())
        schema.app = app
        for operation in schema.get_all_operations():
            request = operation.ok()

            @settings(
                max_examples=EXAMPLES,
                deadline=None,
                derandomize=True,
                database=None,
                suppress_health_check=list(HealthCheck),
            )
            @given(case=request.as_strategy())
            def ask(case):
                asked.append(case.path)
                case.call_and_validate(headers=HEADERS, checks=checks)

            ask()
    assert len(asked) > 200
