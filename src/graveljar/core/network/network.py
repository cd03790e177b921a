"""A design as a network: its rails, stages, names and paths, and what each part is by its label."""

from graveljar.core.components.battery import BankLabel, bank_label
from graveljar.core.components.stage_loss import Loss, loss_of, trusted_surge_w
from graveljar.core.lazy import cached_property
from graveljar.core.model import (
    Bank,
    Converter,
    Design,
    Feed,
    Inverter,
    Load,
    Stage,
    Station,
    Store,
)
from graveljar.core.network.rails import Rail, rails_of
from graveljar.core.network.station_expansion import banks_of
from graveljar.core.network.windows import Fit, LoadFit, fit_load, fit_stage
from graveljar.core.tables.assumptions import resolve


class Network:
    """A design and how its parts are joined; nothing here needs a run."""

    def __init__(self, design: Design) -> None:
        self.design = design

    @cached_property
    def assumed(self) -> dict[str, float]:
        """Every assumption's value."""
        return resolve(self.design.assumptions)

    @cached_property
    def rails(self) -> dict[str, Rail]:
        """Every rail by id: stores first, then stages, each after the rail it is connected to."""
        return rails_of(self.design)

    @cached_property
    def stores(self) -> tuple[Bank, ...]:
        """Every store as a bank."""
        return banks_of(self.design)

    @cached_property
    def held(self) -> tuple[Bank, ...]:
        """The stores that hold energy, as banks: all but sources."""
        return tuple(bank for bank in self.stores if not self.is_source(bank.id))

    @cached_property
    def banks(self) -> tuple[Bank, ...]:
        """The stores that are banks in the document: neither stations nor sources."""
        return tuple(store for store in self.design.stores if isinstance(store, Bank))

    @cached_property
    def banks_by_id(self) -> dict[str, Bank]:
        """The banks of the document by id."""
        return {bank.id: bank for bank in self.banks}

    @property
    def bank(self) -> Bank:
        """The first store, as a bank."""
        return self.stores[0]

    @cached_property
    def stages(self) -> tuple[Stage, ...]:
        """Every stage, those built into stations too."""
        return tuple(
            rail.source for rail in self.rails.values() if not isinstance(rail.source, Bank)
        )

    @property
    def inverters(self) -> tuple[Inverter, ...]:
        """All inverters."""
        return tuple(x for x in self.stages if isinstance(x, Inverter))

    @property
    def converters(self) -> tuple[Converter, ...]:
        """All converters."""
        return tuple(x for x in self.stages if isinstance(x, Converter))

    @cached_property
    def names(self) -> dict[str, str]:
        """The name of every store, stage, link and load by its id."""
        things = (*self.design.stores, *self.stages, *self.design.links, *self.design.loads)
        return {thing.id: thing.name for thing in things}

    @cached_property
    def bank_labels(self) -> dict[str, BankLabel]:
        """Each store by its label."""
        return {bank.id: bank_label(bank) for bank in self.stores}

    @cached_property
    def losses(self) -> dict[str, Loss]:
        """The loss of each stage; a feed has none."""
        return {stage.id: self._loss(stage) for stage in self.stages}

    def _loss(self, stage: Stage) -> Loss:
        if isinstance(stage, Feed):
            return Loss(0.0, 1.0, 0.0)
        loss = loss_of(stage)
        if isinstance(stage, Converter) and stage.topology == "linear":
            # Its input current is its output current; the volts between become heat.
            return Loss(loss.p0, self.rails[stage.rail].nominal_v / stage.set_v, 0.0)
        return loss

    def document_of(self, bank: Bank) -> Store:
        """A store as it is in the document."""
        return next(store for store in self.design.stores if store.id == bank.id)

    def store(self, name: str) -> Store:
        """The store of an id, as it is in the document."""
        return next(store for store in self.design.stores if store.id == name)

    def is_source(self, store: str) -> bool:
        """Whether the store of an id is a source: a vehicle, mains, the sun."""
        return store in self._sources

    def limits_itself(self, rail: str) -> bool:
        """Whether what a rail gives is limited where it comes from.

        A converter and a port by their electronics, a vehicle or mains by its own fuse.
        """
        here = self.rails[rail]
        inside = self.station(str(here.parent)) is not None
        return here.source.kind == "converter" or inside or self.is_source(rail)

    @cached_property
    def _sources(self) -> frozenset[str]:
        return frozenset(x.id for x in self.design.stores if not isinstance(x, Bank | Station))

    def station(self, store: str) -> Station | None:
        """The station of an id, if the store is one."""
        found = next((x for x in self.design.stores if x.id == store), None)
        return found if isinstance(found, Station) else None

    def fit_of_stage(self, stage: Stage) -> Fit:
        """Whether the volts that arrive fit a stage."""
        return fit_stage(self.rails, stage)

    def fit_of_load(self, load: Load) -> LoadFit:
        """Whether the volts that arrive fit a load."""
        return fit_load(self.rails, load)

    def surge_w(self, inverter: Inverter) -> float:
        """Surge an inverter is trusted with. [W]"""
        return trusted_surge_w(inverter, self.assumed["trusted_surge_factor"])

    def stage_path(self, stage: Stage) -> str:
        """JSON Pointer of a stage, or of a station's outlet, in the document."""
        for s, store in enumerate(self.design.stores):
            if isinstance(store, Station) and store.id == stage.rail:
                places = [outlet.id for outlet in store.outlets]
                return f"/stores/{s}/outlets/{places.index(stage.id)}"
        return f"/stages/{self._places[stage.id]}"

    def store_path(self, bank: Bank) -> str:
        """JSON Pointer of a store in the document."""
        return f"/stores/{[store.id for store in self.design.stores].index(bank.id)}"

    def load_path(self, load: Load) -> str:
        """JSON Pointer of a load in the document."""
        return f"/loads/{self._places[load.id]}"

    @cached_property
    def _places(self) -> dict[str, int]:
        """Place of each stage and load among its kind. Comparing parts would cost far more."""
        parts = (self.design.stages, self.design.loads)
        return {thing.id: place for part in parts for place, thing in enumerate(part)}
