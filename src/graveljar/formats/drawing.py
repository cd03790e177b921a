"""The drawing as a picture: laid out by the interface's own code in Node; PNG through PDF."""

import json
import logging
import re
import subprocess
from io import BytesIO
from typing import Any, Final

from PIL import ImageFile
from pydantic import TypeAdapter

from graveljar.core.cables.colours import colours_of
from graveljar.core.errors import GravelJarError
from graveljar.core.evaluate import evaluate_short
from graveljar.core.evaluation import ShortEvaluation
from graveljar.core.model import Design
from graveljar.core.sheet.sheet import DRAWN
from graveljar.settings import drawing_program, node_program

_EVALUATION: Final = TypeAdapter(ShortEvaluation)
_LOG: Final = logging.getLogger(__name__)
# Usual drawings take half a second.
MAX_DRAWING_S: Final = 20.0
PNG_SCALE: Final = 2.0
PX_PER_POINT: Final = 96 / 72
_SENTENCE: Final = re.compile(r"(?<=\.)\s+")
_STYLE: Final = re.compile(r"<style>(.*?)</style>", re.DOTALL)
_SIZE: Final = re.compile(r'<svg [^>]*?width="([\d.]+)" height="([\d.]+)"')


class NoDrawing(GravelJarError):
    """What draws is missing on this machine, or failed."""

    code = "no_drawing"
    title = "No drawing can be made here"


class NoPdf(GravelJarError):
    """What makes PDF is missing on this machine."""

    code = "no_pdf"
    title = "No PDF can be made here"


def drawing_svg(design: Design, revision: int | None = None) -> str:
    """A design's drawing as SVG: its fonts within it, its name and what colours mean below it.

    Raises
    ------
    NoDrawing : Node or the built interface is missing, or drawing failed.
    """
    node, program = node_program(), drawing_program()
    if node is None or not program.is_file():
        raise NoDrawing(
            "The drawing needs Node and the built interface, which bin/start sets up. Start it "
            "once, and try again."
        )
    asked = {
        "design": design.model_dump(mode="json"),
        "evaluation": _EVALUATION.dump_python(evaluate_short(design, quick=True), mode="json"),
        "title": design.name if revision is None else f"{design.name}, revision {revision}",
        "lines": _SENTENCE.split(f"{DRAWN} {colours_of(design.setting).words}"),
    }
    try:
        drawn = subprocess.run(  # noqa: S603
            [node, str(program)],
            input=json.dumps(asked),
            capture_output=True, encoding="utf-8", check=True, timeout=MAX_DRAWING_S,
        )  # fmt: skip
    except (OSError, subprocess.SubprocessError) as error:
        _LOG.warning("no drawing: %s %s", error, getattr(error, "stderr", ""))
        raise NoDrawing("The drawing could not be made; the log of bin/start says why.") from None
    return drawn.stdout


def drawing_or_none(design: Design, revision: int | None = None) -> str:
    """The same, or "" where none can be made: a sheet is worth its paper without it."""
    try:
        return drawing_svg(design, revision)
    except NoDrawing:
        return ""


def drawing_png(svg: str) -> bytes:
    """A drawing of `drawing_svg` as PNG, twice as fine as a screen.

    Raises
    ------
    NoPdf : the libraries that set the type are missing.
    """
    # Only here: it is large, and few want it.
    from pypdfium2 import PdfDocument  # noqa: PLC0415

    width, height = size_of(svg)
    fonts, bare = apart(svg)
    page = (
        f"<style>@page {{ size: {width}px {height}px; margin: 0 }} body {{ margin: 0 }} "
        f"svg {{ display: block }} {fonts}</style>{bare}"
    )
    with PdfDocument(as_pdf(page)) as pages:
        picture = pages[0].render(scale=PX_PER_POINT * PNG_SCALE).to_pil()
    made = BytesIO()
    picture.save(made, "PNG")
    return made.getvalue()


def apart(svg: str) -> tuple[str, str]:
    """The fonts of a drawing as style sheet, and the drawing without them."""
    found = _STYLE.search(svg)
    return (found[1] if found else "", _STYLE.sub("", svg, count=1))


def size_of(svg: str) -> tuple[float, float]:
    """Width and height of a drawing. [px]"""
    found = _SIZE.search(svg)
    if found is None:
        raise NoDrawing("What was drawn has no size.")
    return float(found[1]), float(found[2])


def as_pdf(html: str) -> bytes:
    """A page as PDF.

    Raises
    ------
    NoPdf : the libraries that set the type are missing.
    """
    try:
        # It needs Debian's pango libraries, and takes a while to load.
        from weasyprint import HTML, URLFetcher  # noqa: PLC0415
    except (ImportError, OSError):
        message = "Debian's libpango-1.0-0 and libpangoft2-1.0-0 are missing. Print it as HTML."
        raise NoPdf(message) from None
    # Loading it lets cut-off pictures pass everywhere in the process: the bench book refuses them.
    ImageFile.LOAD_TRUNCATED_IMAGES = False
    # A page holds all that it needs, as its fonts: nothing is fetched for it.
    within = URLFetcher(allowed_protocols=("data",), allow_redirects=False)
    made: Any = HTML(string=html, url_fetcher=within).write_pdf()
    return bytes(made)
