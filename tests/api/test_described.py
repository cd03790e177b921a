"""Requests made of the API's own description: what it allows is answered as it says."""

from typing import TYPE_CHECKING, Any

from hypothesis import HealthCheck, Phase, given, settings

from graveljar.api.app import create_app
from graveljar.store.database import Pool
from graveljar.store.designs import Designs
from graveljar.store.logs import Logs
from graveljar.store.parts import Parts
from graveljar.store.readings import Readings

if TYPE_CHECKING:
    import schemathesis

# A search ends only with whoever reads it; instruments and backups are files of the machine.
APART = ("/api/options/search", "/api/instruments", "/api/backup")
HOST = {"Host": "127.0.0.1"}
# On a busy machine the first answer waits for libraries to be read from disk.
PATIENCE_S = 60.0


def test_what_the_description_allows_is_answered_as_it_says(pool: Pool) -> None:
    # Here alone: to load them takes longer than most tests, and each process loads every file.
    from schemathesis import openapi  # noqa: PLC0415
    from schemathesis.checks import not_a_server_error  # noqa: PLC0415
    from schemathesis.core.result import Ok  # noqa: PLC0415
    from schemathesis.specs.openapi import checks  # noqa: PLC0415

    app = create_app(
        designs=Designs(pool), parts=Parts(pool), readings=Readings(pool), logs=Logs(pool)
    )
    described = openapi.from_asgi("/api/openapi.json", app, headers=HOST)
    asked = set()
    for found in described.get_all_operations():
        assert isinstance(found, Ok), found
        operation = found.ok()
        if operation.path.startswith(APART):
            continue

        @settings(
            max_examples=2, deadline=None, phases=[Phase.generate], derandomize=True,
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        @given(case=operation.as_strategy())
        def ask(case: "schemathesis.Case[Any]") -> None:
            answer = case.call(headers=HOST, timeout=PATIENCE_S)
            case.validate_response(
                answer,
                checks=[
                    not_a_server_error,
                    checks.status_code_conformance,
                    checks.content_type_conformance,
                    checks.response_schema_conformance,
                ],
            )

        ask()
        asked.add(operation.path)
    assert len(asked) > 60
