"""How the stores fill: each link alone, and all together, over the hours."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.analysis.charging_time import Filling, filling_of
from graveljar.core.context import Context
from graveljar.core.kernel.records import Floats
from graveljar.core.model import Generator, Mains, Store, Sun, Vehicle
from graveljar.core.text import duration, quantity
from graveljar.core.views.series import Column

# Charge from which filling is shown where none is asked for. [1]
FILL_FROM: Final = 0.2

SourceKind = Literal["sun", "vehicle", "mains", "generator", "store"]


@dataclass(frozen=True)
class FillCurve:
    """How a link alone fills its store: amps into it and charge over hours. [h], [A], [1]

    Or all links of the store together; then `link` is "together".
    """

    link: str
    name: str
    source: str
    kind: SourceKind
    says: str
    hours: Column
    amps: Column
    charge: Column


def column(values: Floats) -> Column:
    """Values as they are sent: five figures."""
    return tuple(float(f"{x:.5g}") for x in values)


def shown_place(context: Context) -> int:
    """The first store that is charged; without one the first that holds energy."""
    stores = [x.id for x in context.network.stores]
    fed = {link.to for link in context.network.design.links}
    held = [bank.id for bank in context.network.held]
    name = next((x for x in held if x in fed), held[0] if held else stores[0])
    return stores.index(name)


def source_kind(store: Store) -> SourceKind:
    """What kind of source a store is; "store" where it is none."""
    match store:
        case Sun():
            return "sun"
        case Vehicle():
            return "vehicle"
        case Mains():
            return "mains"
        case Generator():
            return "generator"
        case _:
            return "store"


def fills_of(context: Context, begin: float) -> Iterator[FillCurve]:
    """Each link alone; and where a store has several, all of its together."""
    lowered, analysis = context.analysis.lowered, context.analysis
    links = context.network.design.links
    for link in links:
        feeding = analysis.link_operations[link.id]
        alone = filling_of(lowered, feeding, begin, others="off")
        if alone is not None and alone.charging.hours:
            kind = source_kind(context.network.store(feeding.source))
            says = _fill_says(alone, context.network.names[feeding.source])
            yield _fill_curve(link.id, link.name, feeding.source, kind, says, alone)
    shown = context.network.stores[shown_place(context)].id
    mine = [x for x in links if x.to == shown and analysis.link_operations[x.id].fit == "fits"]
    if len(mine) > 1:
        feeding = analysis.link_operations[mine[0].id]
        together = filling_of(lowered, feeding, begin, others="on")
        if together is not None and together.charging.hours:
            says = _fill_says(together, "All together")
            yield _fill_curve("together", "All together", "", "store", says, together)


def _fill_curve(
    link: str, name: str, source: str, kind: SourceKind, says: str, filling: Filling
) -> FillCurve:
    return FillCurve(
        link, name, source, kind, says, column(filling.hours), column(filling.amps),
        column(filling.charge),
    )  # fmt: skip


def _fill_says(filling: Filling, name: str) -> str:
    charging, most_a = filling.charging, float(filling.amps.max())
    took = duration(charging.hours)
    if charging.ends == "full":
        return f"{name}: {took} with up to {quantity(most_a, 'A')}"
    end = quantity(charging.end, "share", 2)
    return f"{name}: to {end} in {took}, no further"
