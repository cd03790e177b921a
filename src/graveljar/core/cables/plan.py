"""Every run of a design with what it is given and what is proposed for it."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Final

from graveljar.core.analysis.analysis import Analysis
from graveljar.core.cables.runs import CableRun, RunCurrents, string_a
from graveljar.core.cables.short_circuit import (
    ELECTRONIC,
    ShortCircuit,
    short_at_posts,
    short_on,
)
from graveljar.core.cables.sizing import (
    CableDuty,
    Conditions,
    FuseChoice,
    Proposal,
    SizedCable,
    choose,
    fuse_for,
    propose,
    sizes_of,
)
from graveljar.core.components.battery import chemistry_of
from graveljar.core.components.cable import Size, size_of
from graveljar.core.components.fuse import MIN_FACTOR
from graveljar.core.components.joint import described_ohm, string_ohms
from graveljar.core.lazy import cached_property
from graveljar.core.model import BankLeads, Cable, Feed, Fuse, Link
from graveljar.core.tables.conductors import AMPACITIES, School
from graveljar.core.tables.connectors import BUS_BARS_A, CONNECTORS, SHUNTS_A, Connector
from graveljar.core.tables.fuses import FUSE_KINDS, UNSAID, FuseKind

# Ambient of the ampacity tables: cooler surroundings count only where somebody states them.
TABLE_C: Final = 30.0
# Around cables by an engine; common practice. [°C]
ENGINE_C: Final = 50.0
# A shunt carries two thirds of its amps continuously; common practice.
SHUNT_FACTOR: Final = 1.5
# At least this share of the volts that may be lost is left to the last run of a way. Ours.
LEFT_TO_LAST: Final = 0.25


@dataclass(frozen=True)
class PlannedRun:
    """A run, what it asks, what it has and what is proposed. Amps of one string and lead. [A]

    asked : Of one string; `asked.amps` over its cables is that of one cable.
    end : Of the fuse at its other end, where that is at a battery.
    before_v : Lost on the way to it from where its volts are made. [V]
    chosen : By the size in the document; None without one.
    """

    run: CableRun
    asked: CableDuty
    conditions: Conditions
    cable: Cable
    length_given: bool
    before_v: float
    chosen: SizedCable | None
    sizes: tuple[Size, ...]
    end: CableDuty | None

    @cached_property
    def fresh(self) -> Proposal:
        """What is proposed as if nothing were chosen."""
        return propose(self.asked, self.conditions, self.sizes)

    @cached_property
    def proposal(self) -> Proposal:
        """What is proposed; its fuse such as fits the cable chosen, None where none does."""
        if self.run.limited:
            return replace(self.fresh, fuse=None)
        if self.chosen is None:
            return self.fresh
        return replace(self.fresh, fuse=fuse_for(self.chosen, self.asked))

    @property
    def choice(self) -> SizedCable | None:
        """What is chosen, else what is proposed."""
        return self.chosen or self.proposal.proposed

    @property
    def leads(self) -> int:
        """Leads side by side: as described, if anything is; else as proposed."""
        joined = self.run.joined
        if self.chosen or (joined and (joined.fuse or joined.connector)):
            return self.cable.leads
        return self.choice.leads if self.choice else 1

    @property
    def end_fuse(self) -> Fuse | None:
        """The fuse at the battery's end, as described."""
        return self.run.joined.end_fuse if isinstance(self.run.joined, Link) else None

    @property
    def end_proposal(self) -> FuseChoice | None:
        """A fuse for the battery's end of the cable chosen, else proposed."""
        if self.end is None or self.choice is None:
            return None
        return fuse_for(self.choice, self.end)

    @property
    def must_break_a(self) -> float:
        """What its fuse has to break. [A]"""
        choice = self.choice
        return self.asked.must_break_a(choice.ohm * choice.leads if choice else 0.0)

    @property
    def lead_a(self) -> float:
        """What one cable carries continuously. [A]"""
        return self.asked.amps / self.leads

    @property
    def fuse(self) -> Fuse | None:
        """The fuse as described."""
        return self.run.joined.fuse if self.run.joined else None

    @property
    def way_v(self) -> float:
        """Lost on the whole way from where the volts are made. [V]"""
        return self.before_v + (self.choice.drop_v if self.choice else 0.0)


def kind_of(fuse: Fuse) -> FuseKind:
    """The kind a fuse is of; where nobody says, the weakest of the common ones."""
    return next((kind for kind in FUSE_KINDS if kind.key == fuse.kind), UNSAID)


def connector_of(planned: PlannedRun) -> Connector | None:
    """The connector as described."""
    key = planned.run.joined.connector if planned.run.joined else None
    return next((x for x in CONNECTORS if x.key == key), None)


def next_size(sizes: tuple[float, ...], amps: float, times: float = MIN_FACTOR) -> float | None:
    """The first size for 125 % of so many amps, or more; None where there is none. [A]"""
    return next((a for a in sizes if a >= times * amps * (1 - 1e-9)), None)


def bus_bar_for(amps: float) -> float | None:
    """A bus bar for so many amps. [A]"""
    return next_size(BUS_BARS_A, amps)


def shunt_for(amps: float) -> float | None:
    """A shunt for so many amps, which are two thirds of it or less. [A]"""
    return next_size(SHUNTS_A, amps, SHUNT_FACTOR)


def plan(analysis: Analysis, school: School | None = None) -> tuple[PlannedRun, ...]:
    """Every run, those nearer to a store first; by one school's table for all if it is given."""
    before_v: dict[str, float] = {}
    ohms: dict[str, float] = {}
    found = []
    for run in RunCurrents(analysis).in_order():
        planned = _planned(analysis, run, school, before_v, ohms)
        found.append(planned)
        if run.kind == "post" or isinstance(run.joined, Feed):
            # The drop up to the rail of this run, and the resistance in a short circuit there.
            before_v[run.subject] = planned.way_v
            ohms[run.subject] = _ohm(analysis, planned)
    return tuple(found)


def _ohm(analysis: Analysis, planned: PlannedRun) -> float:
    """Resistance of a run as described, else as proposed; of all strings. [Ohm]"""
    run = planned.run
    if run.joined is not None:
        if isinstance(run.joined, BankLeads):
            ohms = string_ohms(run.joined, run.strings, analysis.network.assumed)
            if min(ohms) > 0:
                return 1 / sum(1 / ohm for ohm in ohms)
        known = described_ohm(run.joined, analysis.network.assumed)
        if known is not None:
            return known / run.strings
    return planned.choice.ohm / run.strings if planned.choice else 0.0


def _planned(
    analysis: Analysis,
    run: CableRun,
    school: School | None,
    before: dict[str, float],
    ohms: dict[str, float],
) -> PlannedRun:
    network = analysis.network
    setting = network.design.setting
    given = run.joined.cable if run.joined else None
    unsaid = "post_length_m" if run.kind == "post" else "run_length_m"
    cable = given or Cable(length_m=network.assumed[unsaid])
    conditions = Conditions(
        school or cable.school or setting.school or setting.usual_table,
        _ambient_c(analysis, run) if cable.ambient_c is None else cable.ambient_c,
        cable.together,
        cable.insulation_c,
        apart=cable.installed == "in free air",
    )
    post = run.kind == "post"
    short, full_v = _source(analysis, run, ohms)
    before_v = 0.0 if post else before.get(run.rail, 0.0)
    may_v = run.may_lose * run.volts
    limit_a = network.banks_by_id[run.subject].battery.bms_a if post else None
    asked = CableDuty(
        amps=string_a(run.amps.design, run.strings, limit_a),
        shared_a=run.amps.design / run.strings,
        start_a=run.amps.start / run.strings,
        length_m=cable.length_m,
        drop_v=max(may_v - before_v, LEFT_TO_LAST * may_v),
        start_drop_v=network.assumed["drop_start"] * run.volts,
        full_v=full_v,
        short=short,
        main=post,
        lithium=post and chemistry_of(network.banks_by_id[run.subject].battery).lithium,
        copper_c=network.assumed["copper_c"],
    )
    chosen = None
    if given is not None and given.size is not None:
        chosen = choose(size_of(given.size), given.leads, asked, conditions)
    sizes = sizes_of(setting.sizes)
    end = _end(analysis, run, asked)
    return PlannedRun(
        run, asked, conditions, cable, given is not None, before_v, chosen, sizes, end
    )


def _source(
    analysis: Analysis, run: CableRun, ohms: dict[str, float]
) -> tuple[ShortCircuit, float]:
    """What a short circuit of a run draws where it begins, and the highest volts there. [V]"""
    network = analysis.network
    if run.limited and isinstance(run.joined, Link):
        electronic = ShortCircuit(ELECTRONIC * run.amps.design, None, None)
        return electronic, network.bank_labels[run.joined.to].full_v
    if run.kind == "post":
        return short_at_posts(analysis, run.subject), network.rails[run.rail].high_v
    return short_on(analysis, run.rail, ohms), network.rails[run.rail].high_v


def _ambient_c(analysis: Analysis, run: CableRun) -> float:
    """What is around a run that does not say; on a vehicle's rail it is by the engine. [°C]"""
    by_engine = analysis.network.is_source(run.rail) and not run.limited
    return max(ENGINE_C if by_engine else TABLE_C, analysis.network.design.setting.hottest_c)


def _end(analysis: Analysis, run: CableRun, asked: CableDuty) -> CableDuty | None:
    """What the fuse where a charging cable ends at a battery has to do; None for others."""
    network = analysis.network
    if not isinstance(run.joined, Link) or run.joined.to not in network.banks_by_id:
        return None
    bank = network.banks_by_id[run.joined.to]
    lithium = chemistry_of(bank.battery).lithium
    full_v, short = network.bank_labels[bank.id].full_v, short_on(analysis, bank.id, {})
    return replace(asked, full_v=full_v, short=short, main=True, lithium=lithium)


def every_school(analysis: Analysis) -> Iterator[tuple[School, tuple[PlannedRun, ...]]]:
    """The whole plan by each school's table."""
    for school in AMPACITIES:
        yield school, plan(analysis, school)


def proposed_connector(planned: PlannedRun) -> Connector:
    """The smallest class that runs at 80 % or less; lugs where there is none."""
    two_pole = [x for x in CONNECTORS if x.key.startswith("two-pole")]
    for connector in two_pole:
        if planned.run.kind != "post" and planned.lead_a * MIN_FACTOR <= (connector.amps or 0):
            return connector
    return CONNECTORS[0]


def uneven_share(analysis: Analysis, one: PlannedRun) -> float:
    """Share of a bank's current that its shortest string takes, the others being longest. [1]"""
    run, choice = one.run, one.choice
    if not isinstance(run.joined, BankLeads) or run.joined.longest_m is None or choice is None:
        return 1 / run.strings
    battery = analysis.network.bank_labels[run.subject].resistance_ohm * run.strings
    short = 1 / (battery + choice.ohm)
    long = 1 / (battery + choice.ohm * run.joined.longest_m / one.cable.length_m)
    return short / (short + long * (run.strings - 1))
