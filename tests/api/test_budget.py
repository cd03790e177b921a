"""A deadline for every computation, and an end to what nobody waits for."""

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

from graveljar.api.app import create_app
from graveljar.computing import budget
from graveljar.core.evaluate import evaluate
from graveljar.core.model import Design
from graveljar.core.stop import Stopped, stopped_by
from graveljar.demo import demo_designs
from tests.api.asgi import app_over, ask

VAN = demo_designs()["puppet-van"]


def renamed(name: str) -> dict[str, Any]:
    """The van under a name of its own: an answer that is kept would cost nothing."""
    return VAN.model_dump(mode="json") | {"name": name}


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/api/evaluate", renamed("slow")),
        ("/api/course", {"design": renamed("slow")}),
        ("/api/options/sweeps?against=batteries", renamed("slow")),
        ("/api/refill", {"design": renamed("slow"), "fill_from": 0.2}),
        ("/api/readings/figures", renamed("slow")),
    ],
)
def test_what_takes_too_long_is_ended_and_said(
    monkeypatch: pytest.MonkeyPatch, path: str, body: Any
) -> None:
    with TestClient(app_over(), base_url="http://127.0.0.1:8734") as web:
        monkeypatch.setattr(budget, "LIMITS_S", (("/api/", 0.0),))
        late = web.post(path, json=body)
        assert (late.status_code, late.json()["code"]) == (422, "too_long")
        assert "without an end" in late.json()["detail"]
        monkeypatch.undo()
        # Nothing of it is kept: asked anew it is worked out.
        assert web.post(path, json=body).status_code == 200


@pytest.mark.parametrize("kept", [b"", b'"quick": true'])
def test_what_nobody_waits_for_is_not_worked_out(
    monkeypatch: pytest.MonkeyPatch, kept: bytes
) -> None:
    """The connection ends as soon as all is sent: no answer is made."""
    asked: list[int] = []
    once = budget.Budget.__call__

    def counted(self: budget.Budget) -> str:
        asked.append(1)
        return once(self)

    monkeypatch.setattr(budget.Budget, "__call__", counted)
    raw = json.dumps(renamed(f"gone {kept!r}")).encode()
    messages: list[Any] = [
        {"type": "http.request", "body": raw, "more_body": False},
        {"type": "http.disconnect"},
    ]

    async def receive() -> Any:
        return messages.pop(0)

    sent = ask(create_app(), "/api/evaluate", receive, content_type="application/json")
    assert sent == []
    assert len(asked) < 5


@pytest.mark.parametrize("after", [0, 1, 7, 30, 60, 100, 10_000])
def test_an_answer_is_whole_or_there_is_none(after: int) -> None:
    """However late work is ended: no rule and no trial goes on without what was ended."""
    left = [after]

    def asked() -> str:
        left[0] -= 1
        return "enough" if left[0] < 0 else ""

    design = Design.model_validate(VAN.model_dump(mode="json"))
    whole = evaluate(design)
    if after < 10_000:
        with pytest.raises(Stopped, match="enough"), stopped_by(asked):
            evaluate(design)
        return
    with stopped_by(asked):
        found = evaluate(design)
    assert found.findings == whole.findings
    assert found.verdict == whole.verdict
