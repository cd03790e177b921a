"""The sheet as one HTML file without scripts: black on white, for A4 and Letter."""

from collections.abc import Collection, Iterable
from datetime import date
from typing import Final, Literal

from jinja2 import Environment, PackageLoader, StrictUndefined

from graveljar.core.sheet import Sheet
from graveljar.core.text import duration, number
from graveljar.formats.drawing import apart

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


def sheet_html(
    sheet: Sheet,
    *,
    parts: Collection[Part] = PARTS,
    paper: Paper = "A4",
    revision: int | None = None,
    day: date | None = None,
    currency: str = "",
    prices: bool = True,
    drawing: str = "",
) -> str:
    """The parts of a sheet that are wanted, as HTML for a paper; the drawing as SVG, or none."""
    said = [sheet.name]
    if revision is not None:
        said.append(f"revision {revision}")
    if day is not None:
        said.append(day.isoformat())

    def money(value: float | None) -> str:
        return "" if value is None else f"{number(value, 4)} {currency}".strip()

    footer = ", ".join(said)
    fonts, picture = apart(drawing)
    return _PAGES.get_template("sheet.html.j2").render(
        sheet=sheet, parts=parts, paper=paper, prices=prices, words=WORDS, money=money,
        # Within a style sheet no quote may end its string.
        footer="".join(x for x in footer if x not in '"\\<>&'), kilos=_kilos, hours=_hours,
        number=number, pieces=_pieces, fonts=fonts, drawing=picture,
    )  # fmt: skip


def _kilos(value: float | None) -> str:
    return "" if value is None else f"{number(value)} kg"


def _hours(value: float | None) -> str:
    return "longer than simulated" if value is None else duration(value)


def _pieces(lengths: Iterable[float]) -> str:
    return " + ".join(f"{number(x)} m" for x in lengths)
