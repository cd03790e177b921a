"""Another system voltage for a whole design: everything on the bank is adapted to it."""

import re
from typing import Any

from graveljar.core.components.load import one_start_w, one_w, running_w
from graveljar.core.model import Bank, Converter, Design, Feed, Inverter, Load
from graveljar.core.model.patch import Edit, free_among, ids_of
from graveljar.core.network.rails import Rail, rails_of
from graveljar.core.network.standard_sizes import (
    KINDS,
    common_amps,
    converter_for,
    converter_window,
    topology_for,
)
from graveljar.core.network.windows import RUNS, fit_load, fit_stage
from graveljar.core.text import number

# A converter for the loads of the old volts carries so many times what they run at. Ours.
ROOM = 1.25


def edits_for_system_volts(
    design: Design, bank: Bank, series: int, system_v: float, assumed: dict[str, float]
) -> tuple[Edit, ...]:
    """Edits that adapt a design to another number of batteries in series.

    Inverters and converters become those of the new class, with names that say so; loads that
    do not suit the new volts get a converter of the old volts; cables and fuses on the bank
    are suggested anew. The edits that connect the batteries are not among them.

    Parameters
    ----------
    design : To adapt.
    bank : Whose batteries are connected otherwise.
    series : Batteries in series, >= 1.
    system_v : The new class: 12, 24 or 48. [V]
    assumed : Assumptions by key.

    Returns
    -------
    Edits in order; none where everything fits.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> edits = edits_for_system_volts(lamp(), lamp().stores[0], 2, 24.0, {})
    >>> [edit.path for edit in edits]
    ['/loads/0/cable_mohm']
    """
    place = design.stores.index(bank)
    joined = bank.model_copy(update={"series": series})
    stores = tuple(joined if x is bank else x for x in design.stores)
    rails = rails_of(design.model_copy(update={"stores": stores}))
    work = _Work(design, rails_of(design), rails, rails[bank.id], assumed)
    if bank.leads is not None:
        work.edits.append(Edit("replace", f"/stores/{place}/leads", None))
    for index, stage in enumerate(design.stages):
        if stage.rail != bank.id:
            continue
        at = f"/stages/{index}"
        if isinstance(stage, Inverter):
            work.inverter(at, stage, system_v)
        elif isinstance(stage, Converter):
            work.converter(at, stage)
        work.unwired(at, stage)
    for index, load in enumerate(design.loads):
        if load.rail == bank.id:
            work.unwired(f"/loads/{index}", load)
    for index, link in enumerate(design.links):
        if link.rail == bank.id:
            work.unwired(f"/links/{index}", link)
    work.loads_of_old_volts()
    return tuple(work.edits)


class _Work:
    def __init__(
        self,
        design: Design,
        before: dict[str, Rail],
        after: dict[str, Rail],
        bank: Rail,
        assumed: dict[str, float],
    ) -> None:
        self.design, self.before, self.after = design, before, after
        self.bank, self.assumed = bank, assumed
        self.edits: list[Edit] = []

    def unwired(self, at: str, joined: Any) -> None:
        """Leave the length of a cable, and its size and fuse to be proposed anew."""
        if joined.cable is not None and joined.cable.size is not None:
            cable = joined.cable.model_dump(mode="json") | {"size": None, "leads": 1}
            self.edits.append(Edit("replace", f"{at}/cable", cable))
        for field in ("fuse", "end_fuse", "cable_mohm", "connector", "bus_bar_a", "shunt_a"):
            if getattr(joined, field, None) is not None:
                self.edits.append(Edit("replace", f"{at}/{field}", None))

    def inverter(self, at: str, stage: Inverter, system_v: float) -> None:
        """One of the new class: its window in proportion, its name with the new volts."""
        times = system_v / stage.nominal_v
        window = {
            "least_v": round(stage.accepts.least_v * times, 2),
            "most_v": round(max(stage.accepts.most_v * times, self.bank.high_v * 1.02), 2),
        }
        self.edits += [
            Edit("replace", f"{at}/nominal_v", system_v),
            Edit("replace", f"{at}/accepts", window),
            Edit("replace", f"{at}/shelf", None),
        ]
        if stage.restarts_v is not None:
            self.edits.append(Edit("replace", f"{at}/restarts_v", stage.restarts_v * times))
        name = renamed(stage.name, stage.nominal_v, system_v)
        if name != stage.name:
            self.edits.append(Edit("replace", f"{at}/name", name))

    def converter(self, at: str, stage: Converter) -> None:
        """One that makes the same volts of the new ones, where this one does not."""
        if fit_stage(self.after, stage) == "fits":
            return
        kind = topology_for(self.bank, stage.set_v)
        name = f"{KINDS[kind]} {number(stage.set_v)} V {number(stage.continuous_a)} A"
        self.edits += [
            Edit("replace", f"{at}/topology", kind),
            Edit("replace", f"{at}/accepts", converter_window(self.bank)),
            Edit("replace", f"{at}/restarts_v", None),
            Edit("replace", f"{at}/name", name),
            Edit("replace", f"{at}/shelf", None),
        ]

    def loads_of_old_volts(self) -> None:
        """Loads on the bank, and feeds of them, that its new volts do not suit."""
        groups: dict[float, list[Load]] = {}
        for load in self.design.loads:
            rail = self.before.get(str(load.rail))
            if rail is None or not self._straight(rail):
                continue
            ran = fit_load(self.before, load) in RUNS
            if ran and fit_load(self.after, load) not in RUNS:
                groups.setdefault(load.supply.volts, []).append(load)
        taken = ids_of(self.design)
        for volts, loads in sorted(groups.items()):
            name = free_among(taken, f"rail-{number(volts)}-v".replace(".", "-"))
            taken.add(name)
            running = sum(running_w(load) for load in loads)
            start = max(one_start_w(x, self.assumed) - one_w(x) for x in loads)
            amps = common_amps(max(ROOM * running, running + start) / volts)
            new = converter_for(self.bank, volts, amps, name)
            new["set_v"] = self._set_v(volts, loads)
            self.edits.append(Edit("add", "/stages/-", new))
            self._move(loads, name)

    def _straight(self, rail: Rail) -> bool:
        """Whether a rail is the bank's own, or a feed of it."""
        return rail.id == self.bank.id or (
            isinstance(rail.source, Feed) and rail.parent == self.bank.id
        )

    def _set_v(self, volts: float, loads: list[Load]) -> float:
        """A twentieth above the label, and enough for the highest restart. [V]"""
        set_v = volts * 1.05
        for load in loads:
            if load.window is not None:
                back_v = load.window.restarts_v or load.window.cut_out_v * 1.05
                set_v = min(max(set_v, back_v * 1.02), load.window.most_v)
        return round(set_v, 2)

    def _move(self, loads: list[Load], rail: str) -> None:
        feeds = {load.rail for load in loads if load.rail != self.bank.id}
        moved = {load.id for load in loads}
        for index, stage in enumerate(self.design.stages):
            mine = [x for x in self.design.loads if x.rail == stage.id]
            if stage.id in feeds and all(load.id in moved for load in mine):
                self.edits.append(Edit("replace", f"/stages/{index}/rail", rail))
            elif stage.id in feeds:
                feeds.discard(stage.id)
        for index, load in enumerate(self.design.loads):
            if load.id in moved and load.rail not in feeds:
                self.edits.append(Edit("replace", f"/loads/{index}/rail", rail))


def renamed(name: str, old_v: float, new_v: float) -> str:
    """The name of a part with other volts.

    Parameters
    ----------
    name : Of the part.
    old_v, new_v : Nominal volts, > 0. [V]

    Returns
    -------
    The name; unchanged where it does not name the old volts.

    Examples
    --------
    >>> renamed("Sine inverter 1500 W 12 V", 12.0, 24.0)
    'Sine inverter 1500 W 24 V'
    """
    return re.sub(rf"\b{old_v:g}(\s?)V\b", rf"{new_v:g}\1V", name)
