"""What is worked out about a network, each thing once and only if it is asked for."""

from graveljar.core.analysis.bank_sizing import Needed, with_edits, work_out
from graveljar.core.analysis.charging_time import Charging, charging_of
from graveljar.core.analysis.daily_energy import DailyEnergy, simulate_day
from graveljar.core.analysis.link_operation import LinkOperation, link_operations_of
from graveljar.core.analysis.peak_demand import BankDemand, Demand, bank_demand, demand_of
from graveljar.core.analysis.simulation import Run, simulate
from graveljar.core.analysis.start_dip import Dip, dip_of
from graveljar.core.components.usable import Usable, usable_of
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.lower import LoweredDesign, lower
from graveljar.core.model import Bank, Inverter, Stage
from graveljar.core.network.network import Network
from graveljar.core.network.rail_assignment import connect_all_loads


class Analysis:
    """The day, the run, the peak demand and the sizing of a network."""

    def __init__(self, network: Network) -> None:
        self.network = network

    @cached_property
    def lowered(self) -> LoweredDesign:
        """The network as the kernel takes it."""
        return lower(self.network)

    @cached_property
    def day(self) -> DailyEnergy:
        """A day of use."""
        return simulate_day(self.lowered)

    @cached_property
    def load_places(self) -> dict[str, int]:
        """Place of each load that can run among the records of the run."""
        return {load.id: place for place, load in enumerate(self.lowered.loads)}

    @cached_property
    def run(self) -> Run:
        """The simulated hours."""
        return simulate(self.lowered)

    @cached_property
    def demand(self) -> Demand:
        """The highest demand on each rail."""
        return demand_of(self.lowered, self.network.losses, self.link_w)

    @cached_property
    def demand_of_loads(self) -> Demand:
        """The same without what links take."""
        return demand_of(self.lowered, self.network.losses, {})

    @cached_property
    def link_w(self) -> dict[str, float]:
        """The most each link takes of its rail; what an AC input passes through is on top. [W]"""
        network = self.network
        if not network.design.links:
            return {}
        found = {}
        for link in network.design.links:
            record = self.lowered.rail_records[self.lowered.place[link.id]]
            point = self.link_operations[link.id].full
            found[link.id] = point.watts + point.amps**2 * float(record["ohm"])
            if record["bypass"] and point.watts:
                found[link.id] += sum(
                    self.demand_of_loads.asked[stage.id].watts
                    for stage in network.stages
                    if stage.rail == link.to and isinstance(stage, Inverter)
                )
        return found

    @cached_property
    def link_operations(self) -> dict[str, LinkOperation]:
        """What each link brings."""
        return link_operations_of(self.lowered)

    @cached_property
    def charging(self) -> dict[str, Charging | None]:
        """How long each link takes to fill its store from its charge at the start."""
        return {link: charging_of(self.lowered, x) for link, x in self.link_operations.items()}

    @cached_property
    def charging_from_empty(self) -> dict[str, Charging | None]:
        """How long each link takes to fill its store from its reserve."""
        floors = {bank.id: bank.reserve for bank in self.network.stores}
        return {
            link: charging_of(self.lowered, x, floors[x.link.to])
            for link, x in self.link_operations.items()
        }

    @cached_property
    def bank_demands(self) -> dict[str, BankDemand]:
        """The currents each store has to give."""
        rests = self.network.bank_labels
        return {store: bank_demand(self.demand, store, rest) for store, rest in rests.items()}

    @cached_property
    def dips(self) -> dict[str, Dip | None]:
        """The voltage dip of each store's highest start, where something starts hard."""
        return {store.id: dip_of(self.demand, store.id) for store in self.network.stores}

    @cached_property
    def usable(self) -> dict[str, Usable]:
        """What may be taken out of each store."""
        mean_c, day = self.network.design.setting.mean_c, self.day
        return {
            bank.id: usable_of(bank, mean_c, day.given_w[:, s], day.hours)
            for s, bank in enumerate(self.network.stores)
        }

    @property
    def whole(self) -> "Analysis":
        """The same with the loads that cannot run yet where they could; itself if all can."""
        return self._joined or self

    @cached_property
    def _joined(self) -> "Analysis | None":
        network = self.network
        able = frozenset(load.id for load in self.lowered.loads)
        design = connect_all_loads(network.design, able, network.assumed)
        return None if design is network.design else Analysis(Network(design))

    @cached_property
    def needed(self) -> Needed | None:
        """What all loads need of the first store, if it is a bank."""
        design, whole = self.network.design, self.whole
        first = design.first
        if not isinstance(first, Bank) or first.use == "starter":
            return None
        return work_out(design, first, whole.day, whole.demand, whole.bank_demands[first.id])

    @cached_property
    def takeable(self) -> Needed | None:
        """The same with the edits that take each choice."""
        network, first = self.network, self.network.design.first
        if self.needed is None or not isinstance(first, Bank):
            return None
        return with_edits(self.needed, network.design, first, network.assumed)

    def works(self, stage: Stage) -> bool:
        """Whether a stage and all before it fit what arrives."""
        here: str | None = stage.id
        blocked = self.lowered.rail_records["blocked"]
        while here is not None:
            if blocked[self.lowered.place[here]]:
                return False
            here = self.network.rails[here].parent
        return True
