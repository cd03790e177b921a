"""Cables as CSV: every run with its figures, its conductors end to end, what is bought and cut."""

from collections.abc import Iterator

from graveljar.core.cables.colours import Colours
from graveljar.core.views.cables import CableRow, Cables, FuseRow, SizeRow
from graveljar.formats.cells import written

RUN_COLUMNS = (
    "run", "from", "kind", "strings", "leads", "length one way [m]", "length measured",
    "quick [A]", "design [A]", "start [A]", "one cable [A]", "size", "other name", "chosen",
    "ampacity [A]", "drop [V]", "drop [1]", "whole way [1]", "may lose [1]", "heat [W]",
    "minimum size", "proposed size", "fuse [A]", "fuse kind", "fuse chosen", "must break [A]",
    "connector", "bus bar [A]", "shunt [A]", "ampacity table",
)  # fmt: skip
CUT_COLUMNS = ("kind", "item", "count", "metres in all [m]", "pieces [m]", "for", "proposed")

JOINT_COLUMNS = (
    "conductor", "from", "terminal", "to", "terminal there", "colour", "nominal [V]", "size",
    "leads", "one way [m]", "fuse [A]", "fuse kind", "fuse at the battery [A]",
)  # fmt: skip


def write_joints(cables: Cables, colours: Colours) -> str:
    """Two rows a run, plus and minus, each from a terminal to a terminal; fuses are in plus."""
    return written(
        [JOINT_COLUMNS, *(line for row in cables.rows for line in _joints(row, colours))]
    )


def _joints(row: CableRow, colours: Colours) -> Iterator[list[str | float | None]]:
    size, fuse = row.chosen or row.proposed, row.fuse or row.proposed_fuse
    end = row.end_fuse or row.proposed_end_fuse
    post = row.kind == "post"
    begins, ends = (row.name, f"{row.name}, bus bar") if post else (row.before, row.name)
    for name, colour in (("plus", colours.plus), ("minus", colours.minus)):
        plus = name == "plus"
        yield [
            f"{row.name}, {name}", begins, name, ends, name, colour, row.volts,
            size.name if size else None, size.leads if size else None, row.length_m,
            fuse.amps if fuse and plus else None, fuse.kind_name if fuse and plus else None,
            end.amps if end and plus else None,
        ]  # fmt: skip


def write_runs(cables: Cables) -> str:
    """One row a run, from the posts to the loads; what is not chosen as proposed."""
    return written([RUN_COLUMNS, *(_run(row) for row in cables.rows)])


def _run(row: CableRow) -> list[str | float | None]:
    size: SizeRow | None = row.chosen or row.proposed
    fuse: FuseRow | None = row.fuse or row.proposed_fuse
    return [
        row.name, row.before, row.kind, row.strings, size.leads if size else None, row.length_m,
        _yes(row.length_given), row.quick_a, row.design_a, row.start_a, row.lead_a,
        size.name if size else None, size.other if size else None, _yes(row.chosen is not None),
        size.ampacity_a if size else None, size.drop_v if size else None,
        size.drop_share if size else None, row.way_share, row.may_lose,
        size.heat_w if size else None, row.minimum.name if row.minimum else None,
        row.proposed.name if row.proposed else None, fuse.amps if fuse else None,
        fuse.kind_name if fuse else None, _yes(row.fuse is not None), row.must_break_a,
        row.connector or row.proposed_connector, row.bus_bar_a, row.shunt_a, row.school,
    ]  # fmt: skip


def write_cuts(cables: Cables) -> str:
    """One row a thing to buy or cut, with the pieces it is cut into."""
    rows: list[list[str | float | None]] = [
        [
            cut.kind, cut.item, cut.count, cut.metres, "; ".join(f"{x:g}" for x in cut.pieces),
            "; ".join(cut.runs), _yes(cut.proposed),
        ]
        for cut in cables.cuts
    ]  # fmt: skip
    return written([CUT_COLUMNS, *rows])


def _yes(value: bool) -> str:
    return "yes" if value else "no"
