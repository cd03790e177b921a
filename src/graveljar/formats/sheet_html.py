"""The sheet as one HTML file without scripts, and as PDF: black on white, for A4 and Letter."""

from collections.abc import Collection, Iterable
from datetime import date
from typing import Any, Final, Literal, NoReturn

from jinja2 import Environment, PackageLoader, StrictUndefined

from graveljar.core.errors import GravelJarError
from graveljar.core.sheet import Sheet
from graveljar.core.text import duration, number

Paper = Literal["A4", "Letter"]
Part = Literal["cover", "shopping", "wiring", "labels", "build", "card"]
PARTS: Final[tuple[Part, ...]] = ("cover", "shopping", "wiring", "labels", "build", "card")
WORDS: Final = {
    "stop": "Stop, danger:", "fix": "Fix, will not work:", "watch": "Watch, thin margin:",
}  # fmt: skip

_PAGES: Final = Environment(
    loader=PackageLoader("graveljar", "formats"),
    autoescape=True,
    undefined=StrictUndefined,
    trim_blocks=True,
    lstrip_blocks=True,
)


class NoPdf(GravelJarError):
    """What makes PDF is missing on this machine."""

    code = "no_pdf"
    title = "No PDF can be made here"


def sheet_html(
    sheet: Sheet,
    *,
    parts: Collection[Part] = PARTS,
    paper: Paper = "A4",
    revision: int | None = None,
    day: date | None = None,
    currency: str = "",
    prices: bool = True,
) -> str:
    """The parts of a sheet that are wanted, as HTML for a paper."""
    said = [sheet.name]
    if revision is not None:
        said.append(f"revision {revision}")
    if day is not None:
        said.append(day.isoformat())

    def money(value: float | None) -> str:
        return "" if value is None else f"{number(value, 4)} {currency}".strip()

    footer = ", ".join(said)
    return _PAGES.get_template("sheet.html.j2").render(
        sheet=sheet, parts=parts, paper=paper, prices=prices, words=WORDS, money=money,
        # Within a style sheet no quote may end its string.
        footer="".join(x for x in footer if x not in '"\\<>&'), kilos=_kilos, hours=_hours,
        number=number, pieces=_pieces,
    )  # fmt: skip


def sheet_pdf(html: str) -> bytes:
    """A sheet as PDF.

    Raises
    ------
    NoPdf : the libraries that set the type are missing.
    """
    try:
        # It needs Debian's pango libraries, and takes a while to load.
        from weasyprint import HTML  # noqa: PLC0415
    except (ImportError, OSError):
        message = "Debian's libpango-1.0-0 and libpangoft2-1.0-0 are missing. Print it as HTML."
        raise NoPdf(message) from None
    made: Any = HTML(string=html, url_fetcher=_nothing).write_pdf()
    return bytes(made)


def _nothing(url: str, *_: Any, **__: Any) -> NoReturn:
    """A sheet holds all it needs: nothing is fetched for it."""
    raise ValueError(url)


def _kilos(value: float | None) -> str:
    return "" if value is None else f"{number(value)} kg"


def _hours(value: float | None) -> str:
    return "longer than simulated" if value is None else duration(value)


def _pieces(lengths: Iterable[float]) -> str:
    return " + ".join(f"{number(x)} m" for x in lengths)
