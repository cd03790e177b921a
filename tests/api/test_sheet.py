"""The sheet through the API and the command line."""

import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image
from pypdf import PdfReader

from graveljar.cli import main
from graveljar.demo import demo_designs
from graveljar.formats.drawing import NoPdf, size_of
from graveljar.formats.parts_csv import starting_id, starting_shelf
from graveljar.store.database import Pool
from graveljar.store.parts import Parts
from tests.api.asgi import app_over

HUT = demo_designs()["tide-gauge-hut"].model_dump(mode="json")
FILE = Path(__file__).parents[2] / "src/graveljar/demo/tide-gauge-hut.json"


@pytest.fixture
def web(pool: Pool) -> Iterator[TestClient]:
    parts = Parts(pool)
    parts.start({starting_id(x): x for x in starting_shelf()})
    with TestClient(app_over(parts=parts), base_url="http://127.0.0.1:8734") as client:
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
        raise NoPdf("Debian's libpango is missing.")

    monkeypatch.setattr("graveljar.computing.works.as_pdf", missing)
    answer = web.post("/api/sheet/print", json={"design": HUT})
    assert (answer.status_code, answer.json()["code"]) == (424, "no_pdf")
    html = web.post("/api/sheet/print", json={"design": HUT, "prints": "html"})
    assert html.status_code == 200


@pytest.mark.parametrize("kind", ["svg", "png"])
def test_a_drawing_is_a_file_of_its_own(web: TestClient, kind: str) -> None:
    asked = {"design": HUT, "picture": kind, "revision": 7}
    answer = web.post("/api/sheet/drawing", json=asked)
    assert f'filename="tide-gauge-hut.{kind}"' in answer.headers["content-disposition"]
    if kind == "svg":
        assert answer.headers["content-type"].startswith("image/svg+xml")
        assert "revision 7" in answer.text
    else:
        width, height = size_of(web.post("/api/sheet/drawing", json={"design": HUT}).text)
        with Image.open(io.BytesIO(answer.content)) as picture:
            assert picture.size == (round(2 * width), round(2 * height))


@pytest.mark.parametrize("missing", ["node_program", "drawing_program"])
def test_without_what_draws_it_is_said_and_the_sheet_is_still_made(
    web: TestClient, monkeypatch: pytest.MonkeyPatch, missing: str, tmp_path: Path
) -> None:
    lacks = {"node_program": None, "drawing_program": tmp_path / "none.mjs"}[missing]
    monkeypatch.setattr(f"graveljar.formats.drawing.{missing}", lambda: lacks)
    answer = web.post("/api/sheet/drawing", json={"design": HUT})
    assert (answer.status_code, answer.json()["code"]) == (424, "no_drawing")
    html = web.post("/api/sheet/print", json={"design": HUT, "prints": "html"}).text
    assert "The drawing could not be made here" in html


def test_what_fails_to_draw_tells_nothing_of_the_inside(
    web: TestClient, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    broken = tmp_path / "broken.mjs"
    broken.write_text("throw new Error('a secret');")
    monkeypatch.setattr("graveljar.formats.drawing.drawing_program", lambda: broken)
    answer = web.post("/api/sheet/drawing", json={"design": HUT})
    assert answer.status_code == 424
    assert "secret" not in answer.text


def test_the_command_draws(tmp_path: Path, capsysbinary: pytest.CaptureFixture[bytes]) -> None:
    png = tmp_path / "hut.png"
    assert main(["drawing", str(FILE), "--png", "--out", str(png)]) == 0
    assert png.read_bytes().startswith(b"\x89PNG")
    assert main(["drawing", str(FILE), "--svg"]) == 0
    assert capsysbinary.readouterr().out.startswith(b"<svg ")


def test_the_command_writes_a_sheet(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    page, pdf = tmp_path / "hut.html", tmp_path / "hut.pdf"
    assert main(["sheet", str(FILE), "--html", "--out", str(page), "--parts", "card", "build"]) == 0
    assert "Build order" in page.read_text()
    assert "To buy" not in page.read_text()
    assert main(["sheet", str(FILE), "--pdf", "--no-prices", "--out", str(pdf)]) == 0
    assert len(PdfReader(pdf).pages) > 2
    assert main(["sheet", str(tmp_path / "none.json"), "--pdf"]) == 2
    assert "No such file" in capsys.readouterr().err
