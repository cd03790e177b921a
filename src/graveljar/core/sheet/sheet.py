"""Everything of a design that is printed, in parts; each figure is that of the evaluation."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from graveljar.core.analysis.band import Band, band_of
from graveljar.core.cables.colours import Colours, colours_of
from graveljar.core.cables.cut_list import CutItem
from graveljar.core.cautions import CautionRow, warn
from graveljar.core.context import Context
from graveljar.core.planning.shelf import Candidate
from graveljar.core.rules import judge
from graveljar.core.rules.finding import Severity
from graveljar.core.sheet.build_order import BuildStep, build_order
from graveljar.core.sheet.buy import Shopping, shopping_of
from graveljar.core.sheet.card import Card, card_of
from graveljar.core.text import number, quantity
from graveljar.core.views.cables import CableRow, cables_of
from graveljar.core.views.verdict import Verdict, verdict_of

# What the drawing of a sheet shows, as `views.snapshots.worst_of` has it.
DRAWN = (
    "Each line says its amps at the highest start, each rail the lowest volts it may have: not all "
    "at one moment. Cables are sized by the currents of the wiring list."
)


@dataclass(frozen=True)
class SheetFinding:
    """A finding in one line, notes apart."""

    severity: Severity
    title: str
    reason: str


@dataclass(frozen=True)
class WiringRow:
    """One run of the wiring list: from where to where, with what; in brackets what is proposed."""

    name: str
    begins: str
    volts: str
    amps: str
    size: str
    length: str
    fuse: str
    colours: str
    connector: str


@dataclass(frozen=True)
class Sheet:
    """A design as it is printed."""

    name: str
    notes: str
    verdict: Verdict
    band: Band
    findings: tuple[SheetFinding, ...]
    cautions: tuple[CautionRow, ...]
    shopping: Shopping
    cuts: tuple[CutItem, ...]
    wiring: tuple[WiringRow, ...]
    labels: tuple[str, ...]
    steps: tuple[BuildStep, ...]
    card: Card
    custom: str
    drawn: str


def sheet_of(context: Context, shelf: Sequence[Candidate]) -> Sheet:
    """The sheet of a design, with the prices of a shelf.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> sheet_of(Context(lamp()), ()).card.together
    '20 h'
    """
    cables, colours = cables_of(context), colours_of(context.network.design.setting)
    return Sheet(
        name=context.network.design.name,
        notes=context.network.design.notes,
        verdict=verdict_of(context),
        band=band_of(context.analysis.lowered),
        findings=tuple(
            SheetFinding(x.severity, x.title, x.reason)
            for x in judge(context)
            if x.severity != "note"
        ),
        cautions=warn(context),
        shopping=shopping_of(context, shelf),
        cuts=cables.cuts,
        wiring=tuple(_wiring(row, colours) for row in cables.rows),
        labels=tuple(_labels(cables.rows)),
        steps=build_order(context),
        card=card_of(context),
        custom=colours.words,
        drawn=DRAWN,
    )


def _wiring(row: CableRow, colours: Colours) -> WiringRow:
    size = row.chosen or row.proposed
    told = "none fits"
    if size is not None:
        leads = f"{size.leads} × " if size.leads > 1 else ""
        told = f"{leads}{size.name} ({size.other})"
    fuse = row.fuse or row.proposed_fuse
    says = f"{quantity(fuse.amps, 'A')} {fuse.kind_name}" if fuse else ""
    end = row.end_fuse or row.proposed_end_fuse
    if end is not None:
        says += f"{'; ' if says else ''}at the battery {quantity(end.amps, 'A')} {end.kind_name}"
    strings = f"{row.strings} × " if row.strings > 1 else ""
    return WiringRow(
        name=row.name,
        begins=row.before,
        volts=quantity(row.volts, "V"),
        amps=quantity(row.design_a, "A"),
        size=told if row.chosen else f"({told})",
        length=f"{strings}{number(row.length_m)} m",
        fuse=says if row.fuse else f"({says})" if says else "none",
        colours=f"plus {colours.plus}, minus {colours.minus}",
        connector=str(row.connector or f"({row.proposed_connector})"),
    )


def _labels(rows: tuple[CableRow, ...]) -> Iterator[str]:
    """Strips for fuses and switches, one each."""
    for row in rows:
        fuse = row.fuse or row.proposed_fuse
        for n in range(row.strings if fuse is not None else 0):
            number_of = f" {n + 1}" if row.strings > 1 else ""
            amps = quantity(fuse.amps, "A") if fuse else ""
            yield f"{row.name}{number_of} · fuse {amps} · {quantity(row.volts, 'V')} DC"
        end = row.end_fuse or row.proposed_end_fuse
        if end is not None:
            yield f"{row.name}, battery end · fuse {quantity(end.amps, 'A')}"
        if row.kind == "post":
            yield f"{row.name} · MAIN SWITCH"
