"""The sheet through the API and the command line."""

import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader

from graveljar.api.app import create_app
from graveljar.cli import main
from graveljar.demo import demo_designs
from graveljar.formats import sheet_html
from graveljar.formats.parts_csv import starting_id, starting_shelf
from graveljar.store.database import Pool
from graveljar.store.parts import Parts

HUT = demo_designs()["tide-gauge-hut"].model_dump(mode="json")
FILE = Path(__file__).parents[2] / "src/graveljar/demo/tide-gauge-hut.json"


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    parts = Parts(pool)
    parts.start({starting_id(x): x for x in starting_shelf()})
    with TestClient(create_app(parts=parts), base_url="http://127.0.0.1:8734") as client:
        yield client


def test_a_sheet_is_made_for_the_screen_and_to_print(web: TestClient) -> None:
    lasts = web.post("/api/evaluate", json=HUT).json()["verdict"]["lasts"]
    sheet = web.post("/api/sheet", json=HUT).json()
    assert (sheet["verdict"]["lasts"], sheet["card"]["together"]) == (lasts, lasts)
    assert sheet["shopping"]["price"] > 0
    asked: dict[str, Any] = {"design": HUT, "parts": ["card"], "paper": "Letter", "revision": 4}
    page = web.post("/api/sheet/print", json=asked | {"prints": "html"})
    assert page.headers["content-type"] == "text/html; charset=utf-8"
    assert 'filename="tide-gauge-hut-sheet.html"' in page.headers["content-disposition"]
    assert lasts in page.text
    assert "To buy" not in page.text
    pdf = web.post("/api/sheet/print", json=asked)
    assert pdf.headers["content-type"] == "application/pdf"
    text = PdfReader(io.BytesIO(pdf.content)).pages[0].extract_text()
    assert "revision 4" in text


@pytest.mark.parametrize(
    "wrong",
    [{"parts": []}, {"parts": ["everything"]}, {"paper": "A0"}, {"prints": "docx"},
     {"revision": 0}, {"currency": "a" * 9}, {"currency": "\n"}],
)  # fmt: skip
def test_what_cannot_be_printed_is_refused(web: TestClient, wrong: dict[str, Any]) -> None:
    answer = web.post("/api/sheet/print", json={"design": HUT} | wrong)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["path"].startswith(f"/{next(iter(wrong))}")


def test_without_the_libraries_it_is_said_and_html_still_works(
    web: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    def missing(_: str) -> bytes:
        raise sheet_html.NoPdf("Debian's libpango is missing.")

    monkeypatch.setattr("graveljar.api.sheet.sheet_pdf", missing)
    answer = web.post("/api/sheet/print", json={"design": HUT})
    assert (answer.status_code, answer.json()["code"]) == (424, "no_pdf")
    html = web.post("/api/sheet/print", json={"design": HUT, "prints": "html"})
    assert html.status_code == 200


def test_the_command_writes_a_sheet(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    page, pdf = tmp_path / "hut.html", tmp_path / "hut.pdf"
    assert main(["sheet", str(FILE), "--html", "--out", str(page), "--parts", "card", "build"]) == 0
    assert "Build order" in page.read_text()
    assert "To buy" not in page.read_text()
    assert main(["sheet", str(FILE), "--pdf", "--no-prices", "--out", str(pdf)]) == 0
    assert len(PdfReader(pdf).pages) > 2
    assert main(["sheet", str(tmp_path / "none.json"), "--pdf"]) == 2
    assert "No such file" in capsys.readouterr().err
