"""The cable runs of a design, from the posts outward, and the current of each."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final, Literal

from graveljar.core.analysis.analysis import Analysis
from graveljar.core.components.load import one_start_w, one_w, top_w
from graveljar.core.model import (
    Bank,
    Converter,
    Feed,
    Inverter,
    Joined,
    Link,
    Load,
)
from graveljar.core.network.charge_input import accept_amps
from graveljar.core.network.rails import Rail
from graveljar.core.network.windows import least_input_v

UNDOCUMENTED_GIVES: Final = 2.0
RunKind = Literal["post", "stage", "link", "load"]


@dataclass(frozen=True)
class Amps:
    """What a run carries. [A]

    `quick` by nominal volts without losses; `design` what it can be made to carry continuously, at
    the lowest volts; `start` at the highest start.
    """

    quick: float
    design: float
    start: float


@dataclass(frozen=True)
class CableRun:
    """Two conductors from a rail to what is connected to it, or from a bank's posts to its rail.

    path : JSON Pointer of what describes it.
    strings : Alike runs side by side: one of each string of a bank.
    volts, lowest_v : Nominal of the rail, and the least at which it still works. [V]
    quick_v : Nominal volts by which it is quickly reckoned: an inverter's own class. [V]
    watts, start_w : Drawn continuously and at the highest start; 0 where amps are added up. [W]
    charge_a : Most amps into a bank. [A]
    may_lose : Share of `volts` that may be lost on the whole way. [1]
    limited : It begins at a charger that is fed by AC, which limits its current: no fuse is needed
        there, only at the battery.
    """

    subject: str
    name: str
    kind: RunKind
    path: str
    rail: str
    joined: Joined | None
    strings: int
    volts: float
    quick_v: float
    lowest_v: float
    watts: float
    start_w: float
    amps: Amps
    charge_a: float
    may_lose: float
    limited: bool = False


class RunCurrents:
    """What can be pulled from each rail of a design, and the runs that carry it.

    A stage counts with its rating, not with what is planned: somebody will plug in more.
    What batteries could push does not count.
    """

    def __init__(self, analysis: Analysis) -> None:
        self.analysis = analysis
        self.runs: dict[str, CableRun] = {}
        for rail in reversed(tuple(analysis.network.rails.values())):
            for run in self._on(rail):
                self.runs[run.subject] = run
        for bank in analysis.network.banks:
            self.runs[bank.id] = self._of_bank(bank)

    def in_order(self) -> Iterator[CableRun]:
        """Every run, those nearer to a store first; of one rail together."""
        for store in self.analysis.network.design.stores:
            if store.id in self.runs:
                yield self.runs[store.id]
            yield from self._behind(store.id)

    def _behind(self, rail: str) -> Iterator[CableRun]:
        here = [run for run in self.runs.values() if run.rail == rail and run.kind != "post"]
        for run in here:
            yield run
            if run.kind == "stage":
                yield from self._behind(run.subject)
        station = self.analysis.network.station(rail)
        for outlet in station.outlets if station else ():
            yield from self._behind(outlet.id)

    def _on(self, rail: Rail) -> Iterator[CableRun]:
        analysis = self.analysis
        links = [x for x in analysis.network.design.links if x.rail == rail.id]
        if rail.kind == "ac":
            banks = analysis.network.banks_by_id
            yield from (self._of_charger(link) for link in links if link.to in banks)
            return
        for stage in analysis.network.design.stages:
            if stage.rail == rail.id:
                yield self._of_stage(stage, rail)
        yield from (self._of_link(link, rail) for link in links)
        # What is plugged into a station's port comes with a cable of its own.
        if rail.parent is None or not analysis.network.rails[rail.parent].inside:
            for load in analysis.network.design.loads:
                if load.rail == rail.id:
                    yield self._of_load(load, rail)

    def on_rail(self, rail: str) -> tuple[list[CableRun], Amps, Amps]:
        """Stages and links on a rail, what its loads pull together, and all of it. [A]

        Loads that never run together count as the most of them that do.
        """
        here = [run for run in self.runs.values() if run.rail == rail and run.kind != "post"]
        fixed = [run for run in here if run.kind != "load"]
        able = {load.id for load in self.analysis.lowered.loads}
        loads = [run for run in here if run.kind == "load" and run.subject in able]
        most_w = sum(run.watts for run in loads)
        share = self.analysis.demand.asked[rail].straight_w / most_w if most_w else 0.0
        together = Amps(
            share * sum(run.amps.quick for run in loads),
            share * sum(run.amps.design for run in loads),
            max((run.amps.start - run.amps.design for run in [*fixed, *loads]), default=0.0),
        )
        design = together.design + sum(run.amps.design for run in fixed)
        quick = together.quick + sum(run.amps.quick for run in fixed)
        # The one that starts hardest, on top of the others.
        return fixed, together, Amps(quick, design, design + together.start)

    def _of_bank(self, bank: Bank) -> CableRun:
        analysis, rail = self.analysis, self.analysis.network.rails[bank.id]
        _, _, pulled = self.on_rail(bank.id)
        fed = [
            analysis.link_operations[x.id] for x in analysis.network.design.links if x.to == bank.id
        ]
        charge_a = sum(max(f.full.given_a, f.least.given_a) for f in fed)
        path = f"{analysis.network.store_path(bank)}/leads"
        return CableRun(
            bank.id, bank.name, "post", path, bank.id, bank.leads, bank.parallel, rail.nominal_v,
            rail.nominal_v, analysis.bank_demands[bank.id].lowest_v, 0.0, 0.0,
            Amps(pulled.quick, max(pulled.design, charge_a), max(pulled.start, charge_a)),
            charge_a, analysis.network.assumed["drop_feed"],
        )  # fmt: skip

    def _of_stage(self, stage: Inverter | Converter | Feed, rail: Rail) -> CableRun:
        analysis, path = self.analysis, self.analysis.network.stage_path(stage)
        if isinstance(stage, Feed):
            return CableRun(
                stage.id, stage.name, "stage", path, rail.id, stage, 1, rail.nominal_v,
                rail.nominal_v, rail.low_v,
                0.0, 0.0, self.on_rail(stage.id)[2], 0.0, analysis.network.assumed["drop_feed"],
            )  # fmt: skip
        lowest_v = max(least_input_v(stage), rail.low_v)
        given_w = rated_w(stage)
        watts = max(
            analysis.network.losses[stage.id].dc_w(given_w), analysis.demand.drawn_w(stage.id)
        )
        start_w = max(watts, analysis.demand.start_w(stage.id))
        quick_v = stage.nominal_v if isinstance(stage, Inverter) else rail.nominal_v
        amps = Amps(given_w / quick_v, watts / lowest_v, start_w / lowest_v)
        return CableRun(
            stage.id, stage.name, "stage", path, rail.id, stage, 1, rail.nominal_v, quick_v,
            lowest_v,
            watts, start_w, amps, 0.0, self._may_lose(stage, "drop_critical"),
        )  # fmt: skip

    def _of_link(self, link: Link, rail: Rail) -> CableRun:
        analysis, feeding = self.analysis, self.analysis.link_operations[link.id]
        path = f"/links/{analysis.network.design.links.index(link)}"
        most_a = max(feeding.full.amps, feeding.least.amps)
        if not most_a:
            # It brings nothing as it is joined now: what its input would take.
            store = next(x for x in analysis.network.design.stores if x.id == link.to)
            most_a = accept_amps(store, link.input, link.mode)
        if link.charger is not None:
            # One size before and behind its charger.
            most_a = max(most_a, link.charger.amps)
        return CableRun(
            link.id, link.name, "link", path, rail.id, link, 1, rail.nominal_v, rail.nominal_v,
            rail.low_v, 0.0, 0.0, Amps(feeding.full.amps or most_a, most_a, most_a), 0.0,
            self._may_lose(link, "drop_critical"),
        )  # fmt: skip

    def _of_charger(self, link: Link) -> CableRun:
        """From a charger that is fed by AC to its bank, at the volts of the bank."""
        analysis, rail = self.analysis, self.analysis.network.rails[link.to]
        feeding = analysis.link_operations[link.id]
        most_a = max(feeding.full.given_a, feeding.least.given_a)
        if link.charger is not None:
            most_a = max(most_a, link.charger.amps)
        return CableRun(
            link.id, link.name, "link", f"/links/{analysis.network.design.links.index(link)}",
            link.rail, link, 1, rail.nominal_v, rail.nominal_v, rail.low_v, 0.0, 0.0,
            Amps(feeding.full.given_a or most_a, most_a, most_a), 0.0,
            self._may_lose(link, "drop_critical"), limited=True,
        )  # fmt: skip

    def _of_load(self, load: Load, rail: Rail) -> CableRun:
        analysis, watts = self.analysis, top_w(load)
        path = analysis.network.load_path(load)
        lowest_v = rail.low_v
        if load.window is not None:
            lowest_v = max(lowest_v, load.window.cut_out_v)
        start_w = watts - one_w(load) + one_start_w(load, analysis.network.assumed)
        amps = Amps(watts / rail.nominal_v, watts / lowest_v, start_w / lowest_v)
        rule = "drop_lighting" if load.nature == "lighting" else "drop_critical"
        return CableRun(
            load.id, load.name, "load", path, rail.id, load, 1,
            rail.nominal_v, rail.nominal_v, lowest_v, watts, start_w, amps, 0.0,
            self._may_lose(load, rule),
        )  # fmt: skip

    def _may_lose(self, joined: Joined, rule: str) -> float:
        said = joined.cable.may_lose if joined.cable else None
        return self.analysis.network.assumed[rule] if said is None else said


def rated_w(stage: Inverter | Converter) -> float:
    """What a stage can be made to give continuously. [W]

    An undocumented converter may give twice its label; common practice.
    """
    if isinstance(stage, Inverter):
        return stage.continuous_w
    times = 1.0 if stage.documented else UNDOCUMENTED_GIVES
    amps = max(times * stage.continuous_a, stage.measured_a or 0.0)
    return stage.set_v * amps * stage.parallel


def string_a(amps: float, strings: int, limit_a: float | None) -> float:
    """Amps one string of a bank may have to carry. [A]

    With one of them gone the others carry its share, up to what their protection passes.

    Examples
    --------
    >>> string_a(200.0, 4, 100.0), string_a(200.0, 2, 150.0), string_a(120.0, 1, None)
    (66.6..., 150.0, 120.0)
    """
    fair = amps / strings
    if strings == 1:
        return fair
    without_one = amps / (strings - 1)
    return max(fair, without_one if limit_a is None else min(without_one, limit_a))
