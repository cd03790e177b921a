"""Workings of a station by its label: what its cells hold, and at which volts."""

from graveljar.core.context import Context
from graveljar.core.model import Station
from graveljar.core.tables.chemistry import CHEMISTRIES
from graveljar.core.workings.working import Figures


def keep_station(figures: Figures, context: Context, station: Station) -> None:
    """Keep what a station's cells hold, and their volts."""
    key, rest = f"store.{station.id}", context.network.bank_labels[station.id]
    kind = CHEMISTRIES[station.chemistry]
    module = figures.put("expansion modules", station.module_wh, "Wh")
    if station.measured_wh is None:
        expression, own = "{own} + {module}", figures.put("printed", station.label_wh, "Wh")
        terms = {"own": own, "module": module}
    else:
        expression = "{own} ÷ {share} + {module}"
        own = figures.put("measured in a capacity test", station.measured_wh, "Wh")
        share = figures.put("usable share", station.usable_share, "share")
        terms = {"own": own, "share": share, "module": module}
    figures.add(
        f"{key}.wh", "Energy of its cells", rest.wh, "Wh", expression, ("definition",), **terms
    )
    cells = figures.put("cells in series", station.cells, "")
    for end, name, cell_v in (
        ("volts", "Inner volts", kind.nominal_v),
        ("empty_v", "Inner volts, empty", kind.empty_v),
        ("full_v", "Inner volts, full", kind.full_v),
    ):
        figures.add(
            f"{key}.{end}",
            name,
            cell_v * station.cells,
            "V",
            "{cell} × {cells}",
            ("trade",),
            cell=figures.put("volts of a cell", cell_v, "V"),
            cells=cells,
        )
    figures.add(
        f"{key}.ah",
        "Inner charge",
        rest.ah,
        "Ah",
        "{wh} ÷ {volts}",
        ("definition",),
        wh=figures.term(f"{key}.wh"),
        volts=figures.term(f"{key}.volts"),
    )
