"""Which rails suit an appliance, the best first, and why."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from graveljar.core.model import Design, Load
from graveljar.core.network.load_at_rail import via_adapter
from graveljar.core.network.rails import Rail, rails_of
from graveljar.core.network.windows import RUNS, fit_load
from graveljar.core.text import number, quantity

Suits = Literal["fits", "check its label", "cuts out early", "by its adapter", "does not fit"]
_ORDER: tuple[Suits, ...] = (
    "fits",
    "check its label",
    "cuts out early",
    "by its adapter",
    "does not fit",
)


@dataclass(frozen=True)
class Place:
    """A rail as a place for an appliance. `why` compares what it takes with what arrives."""

    rail: str
    name: str
    suits: Suits
    why: str


def rail_names(rails: dict[str, Rail]) -> dict[str, str]:
    """Rails by their volts, as people say them; with what makes them where two are alike.

    Examples
    --------
    >>> rail_names(rails_of(Design()))
    {'bank': '12.8 V rail'}
    """
    short = {
        rail.id: f"{number(rail.nominal_v)} V rail" + (" (mains)" if rail.kind == "ac" else "")
        for rail in rails.values()
        if not rail.inside and not rail.panels
    }
    short |= {r.id: f"inside {r.source.name}" for r in rails.values() if r.inside}
    short |= {r.id: r.source.name for r in rails.values() if r.panels}
    said = list(short.values())
    return {
        key: name if said.count(name) == 1 else f"{name} of {rails[key].source.name}"
        for key, name in short.items()
    }


def places_of(design: Design, load: Load) -> tuple[Place, ...]:
    """Every rail of a design as a place for a load, those that fit first.

    Of rails that fit alike the one nearest to a store comes first: less is lost on the way.
    """
    rails = rails_of(design)
    names = rail_names(rails)
    found = [
        _place(rails, names, rail, load.model_copy(update={"rail": rail.id}))
        for rail in rails.values()
        if not (rail.inside or rail.panels) and (load.supply.kind == "dc" or rail.kind == "ac")
    ]
    return tuple(sorted(found, key=lambda place: _ORDER.index(place.suits)))


def places_of_all(design: Design, loads: Sequence[Load]) -> tuple[Place, ...]:
    """Rails that could take all of some loads; each told by the one it suits least."""
    worst: dict[str, Place] = {}
    of_each = [{place.rail: place for place in places_of(design, load)} for load in loads]
    for rail in rails_of(design):
        here = [places[rail] for places in of_each if rail in places]
        if here and len(here) == len(loads):
            worst[rail] = max(here, key=lambda place: _ORDER.index(place.suits))
    return tuple(sorted(worst.values(), key=lambda place: _ORDER.index(place.suits)))


def _place(rails: dict[str, Rail], names: dict[str, str], rail: Rail, load: Load) -> Place:
    takes = f"it needs {quantity(load.supply.volts, 'V')} {load.supply.kind.upper()}"
    arrives = f"{_arrives(rail)} arrive"
    window = load.window
    if via_adapter(load, rails):
        return Place(rail.id, names[rail.id], "by its adapter", "through its mains adapter")
    fit = fit_load(rails, load)
    if fit not in RUNS:
        return Place(rail.id, names[rail.id], "does not fit", f"{takes}, {arrives}")
    if window is not None and rail.low_v < window.cut_out_v:
        why = f"it cuts out at {quantity(window.cut_out_v, 'V')}, {arrives}"
        return Place(rail.id, names[rail.id], "cuts out early", why)
    if fit == "check its label":
        return Place(rail.id, names[rail.id], "check its label", f"{takes}, {arrives}")
    return Place(rail.id, names[rail.id], "fits", f"{takes}, {arrives}")


def _arrives(rail: Rail) -> str:
    if rail.low_v == rail.high_v:
        return quantity(rail.nominal_v, "V")
    return f"{number(rail.low_v)} to {quantity(rail.high_v, 'V')}"
