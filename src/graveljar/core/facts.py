"""All that is worked out about a design, each thing once and only if it is asked for."""

from functools import cached_property

from graveljar.core.assumptions import resolve
from graveljar.core.bank import Rest, at_rest
from graveljar.core.cables.plan import Planned, plan
from graveljar.core.carried import carried
from graveljar.core.charging import Charging, charging_of
from graveljar.core.day import Day, live
from graveljar.core.demand import BankDemand, Demand, bank_demand, demand_of
from graveljar.core.document import (
    Bank,
    Converter,
    Design,
    Feed,
    Inverter,
    Load,
    Stage,
    Station,
    Vehicle,
)
from graveljar.core.engine.lower import Lowered, lower
from graveljar.core.feeding import Feeding, feedings_of
from graveljar.core.inverter import Loss, loss_of, trusted_surge_w
from graveljar.core.needed import Needed, work_out
from graveljar.core.run import Run, simulate
from graveljar.core.starts import Dip, dip_of
from graveljar.core.tree import Rail
from graveljar.core.usable import Usable, usable_of
from graveljar.core.window import Fit, LoadFit, fit_load, fit_stage


class Facts:
    """A design, its day, its run and what follows from them."""

    def __init__(self, design: Design) -> None:
        self.design = design

    @cached_property
    def assumed(self) -> dict[str, float]:
        """Every assumption's value."""
        return resolve(self.design.assumptions)

    @cached_property
    def lowered(self) -> Lowered:
        """The design as the engine takes it."""
        return lower(self.design, self.assumed)

    @property
    def rails(self) -> dict[str, Rail]:
        """Every rail by id."""
        return self.lowered.rails

    @property
    def stores(self) -> tuple[Bank, ...]:
        """Every store as a bank."""
        return self.lowered.banks

    @cached_property
    def held(self) -> tuple[Bank, ...]:
        """The stores that hold energy, as banks: all but vehicles."""
        return tuple(bank for bank in self.stores if not self.is_vehicle(bank.id))

    @cached_property
    def banks(self) -> tuple[Bank, ...]:
        """The stores that are banks: stations and vehicles see to themselves."""
        return tuple(store for store in self.design.stores if isinstance(store, Bank))

    @cached_property
    def banks_by_id(self) -> dict[str, Bank]:
        """The banks of the document by id."""
        return {bank.id: bank for bank in self.banks}

    def document_of(self, bank: Bank) -> Bank | Station | Vehicle:
        """A store as it stands in the document."""
        return self.design.stores[self.stores.index(bank)]

    def is_vehicle(self, store: str) -> bool:
        """Whether the store of an id is a vehicle."""
        return any(x.id == store and isinstance(x, Vehicle) for x in self.design.stores)

    def station(self, store: str) -> Station | None:
        """The station of an id, if the store is one."""
        found = next((x for x in self.design.stores if x.id == store), None)
        return found if isinstance(found, Station) else None

    @cached_property
    def stages(self) -> tuple[Stage, ...]:
        """Every stage, those built into stations too."""
        return tuple(
            rail.source for rail in self.rails.values() if not isinstance(rail.source, Bank)
        )

    @cached_property
    def names(self) -> dict[str, str]:
        """The name of every store, stage, link and load by its id."""
        things = (*self.design.stores, *self.stages, *self.design.links, *self.design.loads)
        return {thing.id: thing.name for thing in things}

    @cached_property
    def rests(self) -> dict[str, Rest]:
        """Each store by its label."""
        return {bank.id: at_rest(bank) for bank in self.stores}

    @cached_property
    def losses(self) -> dict[str, Loss]:
        """The loss of each stage; a feed has none."""
        return {stage.id: self._loss(stage) for stage in self.stages}

    def _loss(self, stage: Stage) -> Loss:
        if isinstance(stage, Feed):
            return Loss(0.0, 1.0, 0.0)
        loss = loss_of(stage)
        if isinstance(stage, Converter) and stage.topology == "linear":
            # The amps it gives at the volts before it; the rest is heat.
            return Loss(loss.p0, self.rails[stage.rail].nominal_v / stage.set_v, 0.0)
        return loss

    @cached_property
    def day(self) -> Day:
        """A day of use."""
        return live(self.lowered)

    @cached_property
    def run(self) -> Run:
        """The hours."""
        return simulate(self.lowered)

    @cached_property
    def demand(self) -> Demand:
        """The most asked of each rail."""
        return demand_of(self.lowered, self.losses, self.link_w)

    @cached_property
    def link_w(self) -> dict[str, float]:
        """The most each link takes of its rail; what an AC input passes through is on top. [W]"""
        if not self.design.links:
            return {}
        found = {}
        alone = demand_of(self.lowered, self.losses, {})
        for link in self.design.links:
            record = self.lowered.rail_records[self.lowered.place[link.id]]
            point = self.feedings[link.id].full
            found[link.id] = point.watts + point.amps**2 * float(record["ohm"])
            if record["bypass"] and point.watts:
                found[link.id] += sum(
                    alone.asked[stage.id].watts
                    for stage in self.stages
                    if stage.rail == link.to and isinstance(stage, Inverter)
                )
        return found

    @cached_property
    def feedings(self) -> dict[str, Feeding]:
        """What each link brings."""
        return feedings_of(self.lowered)

    @cached_property
    def charging(self) -> dict[str, Charging | None]:
        """How long each link takes to fill its store from its charge at the start."""
        return {link: charging_of(self.lowered, x) for link, x in self.feedings.items()}

    @cached_property
    def charging_from_empty(self) -> dict[str, Charging | None]:
        """How long each link takes to fill its store from its reserve."""
        floors = {bank.id: bank.keep_back for bank in self.stores}
        return {
            link: charging_of(self.lowered, x, floors[x.link.to])
            for link, x in self.feedings.items()
        }

    @cached_property
    def cables(self) -> dict[str, Planned]:
        """What each DC run is given and what is proposed for it, those nearer to a store first."""
        return {planned.run.subject: planned for planned in plan(self)}

    @cached_property
    def bank_demands(self) -> dict[str, BankDemand]:
        """The currents each store has to give."""
        return {store: bank_demand(self.demand, store, rest) for store, rest in self.rests.items()}

    @cached_property
    def dips(self) -> dict[str, Dip | None]:
        """The voltage dip of each store's worst start, where something starts hard."""
        return {store.id: dip_of(self.demand, store.id) for store in self.stores}

    @cached_property
    def usable(self) -> dict[str, Usable]:
        """What may be taken out of each store."""
        return {
            bank.id: usable_of(
                bank, self.design.setting.mean_c, self.day.given_w[:, s], self.day.hours
            )
            for s, bank in enumerate(self.stores)
        }

    @cached_property
    def whole(self) -> "Facts":
        """The same with the loads that cannot run yet where they could; itself if all can."""
        able = frozenset(load.id for load in self.lowered.loads)
        design = carried(self.design, able, self.assumed)
        return self if design is self.design else Facts(design)

    @cached_property
    def needed(self) -> Needed | None:
        """What all loads need of the first store, if it is a bank."""
        first, whole = self.design.first, self.whole
        if not isinstance(first, Bank):
            return None
        return work_out(self.design, first, whole.day, whole.demand, whole.bank_demands[first.id])

    @property
    def bank(self) -> Bank:
        """The first store, as a bank."""
        return self.stores[0]

    @property
    def inverters(self) -> tuple[Inverter, ...]:
        """All inverters."""
        return tuple(x for x in self.stages if isinstance(x, Inverter))

    @property
    def converters(self) -> tuple[Converter, ...]:
        """All converters."""
        return tuple(x for x in self.stages if isinstance(x, Converter))

    def works(self, stage: Stage) -> bool:
        """Whether a stage and all before it fit what arrives."""
        here: str | None = stage.id
        blocked = self.lowered.rail_records["blocked"]
        while here is not None:
            if blocked[self.lowered.place[here]]:
                return False
            here = self.rails[here].parent
        return True

    def fit_of_stage(self, stage: Stage) -> Fit:
        """Whether the volts fit."""
        return fit_stage(self.rails, stage)

    def fit_of_load(self, load: Load) -> LoadFit:
        """Whether the volts fit."""
        return fit_load(self.rails, load)

    def surge_w(self, inverter: Inverter) -> float:
        """Surge an inverter is trusted with. [W]"""
        return trusted_surge_w(inverter, self.assumed["trusted_surge_factor"])

    def stage_path(self, stage: Stage) -> str:
        """Where a stage, or a station's outlet, stands in the document, as a JSON Pointer."""
        for s, store in enumerate(self.design.stores):
            if isinstance(store, Station) and store.id == stage.rail:
                places = [outlet.id for outlet in store.outlets]
                return f"/stores/{s}/outlets/{places.index(stage.id)}"
        return f"/stages/{self.design.stages.index(stage)}"

    def store_path(self, bank: Bank) -> str:
        """Where a store stands in the document, as a JSON Pointer."""
        return f"/stores/{[store.id for store in self.design.stores].index(bank.id)}"

    def load_path(self, load: Load) -> str:
        """Where a load stands in the document, as a JSON Pointer."""
        return f"/loads/{self.design.loads.index(load)}"


def gather(design: Design) -> Facts:
    """Facts of a design."""
    return Facts(design)
