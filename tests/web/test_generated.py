"""Requests made from the OpenAPI document: whatever is sent, Lark answers in a way that the document names.

Some of each operation here, with a seed that stays; many in `make soak` (LARK_REQUESTS).
"""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import pytest
import schemathesis
from apiflask import APIFlask
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import content_type_conformance, status_code_conformance

from tests.conftest import NOW
from zealous_lark.store import Database
from zealous_lark.web import create_app

pytestmark = pytest.mark.slow
REQUESTS = int(os.environ.get("LARK_REQUESTS", "1"))
CHECKS = (not_a_server_error, status_code_conformance, content_type_conformance)
SHARES = 4
"""So that as many processes can share the operations."""


@pytest.fixture(scope="module")
def generated_app(tmp_path_factory: pytest.TempPathFactory, kept_data: Path) -> Iterator[APIFlask]:
    """The application on the demo's data, which the requests change as they like."""
    folder = tmp_path_factory.mktemp("generated") / "data"
    shutil.copytree(kept_data / "demo", folder)
    db = Database(folder)
    yield create_app(db, clock=lambda: NOW)
    db.close()


def _answers(operation: object, mode: GenerationMode) -> None:
    @settings(
        max_examples=REQUESTS, deadline=None, derandomize=True, database=None, phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    @given(case=operation.as_strategy(generation_mode=mode))  # type: ignore[attr-defined]
    def sent(case: schemathesis.Case) -> None:
        case.validate_response(case.call(), checks=list(CHECKS))

    # Nothing in it that could be wrong, or an address with but one value: that is no fault.
    with suppress(Unsatisfiable):
        sent()


@pytest.mark.timeout(3600)
@pytest.mark.parametrize("share", range(SHARES))
def test_whatever_is_sent_is_answered_as_the_document_says(generated_app: APIFlask, share: int) -> None:
    schema = schemathesis.openapi.from_wsgi("/api/openapi.json", generated_app)
    operations = [found.ok() for found in schema.get_all_operations()]
    assert len(operations) > 80
    for operation in operations[share::SHARES]:
        for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
            _answers(operation, mode)
    # What they left behind breaks no page.
    client = generated_app.test_client()
    for address in ("/api/sessions", "/api/minimums", "/api/kit", "/api/places", "/api/flights", "/api/learning"):
        assert client.get(address).status_code == 200, address
    for session in client.get("/api/sessions").json["sessions"]:
        for page in ("", "/airborne", "/decisions", "/pocket.html", "/after", "/plan.json"):
            assert client.get(f"/api/sessions/{session['id']}{page}").status_code == 200, (session["id"], page)
