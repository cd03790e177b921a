"""What a link brings: its operating point, the limit that binds, and what the source gives for it.

The engine's operating point with no load on, the station hungry, the source full or at its
least, in the warmest hour; with all links that may be plugged in then, for they share.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import partial
from typing import Any, Final, Literal

import numpy as np

from graveljar.core.analysis.outflow import Outflow, outflows_of
from graveljar.core.errors import NotSolved
from graveljar.core.kernel import records as n
from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.link_balance import balance, begin_feeding
from graveljar.core.kernel.operating_point import SOLVED, UNSETTLED, input_v
from graveljar.core.kernel.trace import begin, new_trace
from graveljar.core.lazy import cached_property
from graveljar.core.lowering.lower import LoweredDesign
from graveljar.core.lowering.lower_links import limits_of
from graveljar.core.model import Bank, Link, Station, Store
from graveljar.core.network.charge_input import LinkFit, charge_efficiency, fit_link
from graveljar.core.tables.charging import CHARGING

Binds = Literal[
    "its mode",
    "the charger",
    "the input's watts",
    "the converter",
    "a fuse",
    "the source",
    "all inputs together",
    "the volts",
    "the frost",
    "nothing",
]
_BINDS: Final[dict[int, Binds]] = {
    n.BY_MODE: "its mode",
    n.BY_INPUT: "the input's watts",
    n.BY_CONVERTER: "the converter",
    n.BY_FUSE: "a fuse",
    n.BY_SOURCE: "the source",
    n.BY_TOTAL: "all inputs together",
    n.BY_VOLTS: "the volts",
    n.BY_FROST: "the frost",
}


@dataclass(frozen=True)
class LinkPoint:
    """A link at work. At its input [V], [A], [W]; at its source's terminals [V], [A].

    `given_a` flows into its store, at `store_v`.
    `amps_by` are those of each row on its way into it, `given_by` those each rail gives; `taken`
    works out what takes the watts of its source.
    """

    binds: Binds
    volts: float
    amps: float
    watts: float
    given_a: float
    store_v: float
    source_v: float
    source_a: float
    amps_by: dict[str, float]
    given_by: dict[str, float]
    taken: Callable[[], tuple[Outflow, ...]] = field(default=tuple, compare=False)

    @cached_property
    def outflows(self) -> tuple[Outflow, ...]:
        """What takes the watts of its source."""
        return self.taken()


NOTHING: Final = LinkPoint("nothing", 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, {}, {})


@dataclass(frozen=True)
class Limit:
    """One limit on a link's way, and how much of it is used with the source full."""

    binds: Binds
    name: str
    used: float
    limit: float
    unit: Literal["A", "W"]


@dataclass(frozen=True)
class LinkOperation:
    """A link by its labels and at work.

    `full`: source full; `least`: at its least charge, where it gives most amps; `wanted`: as
    `least` with every fuse, lead and battery large enough. `efficiency`: charging, of what
    arrives.
    """

    lowered: LoweredDesign
    link: Link
    fit: LinkFit
    efficiency: float

    @cached_property
    def full(self) -> LinkPoint:
        """With the source full."""
        return self._at(full=True)

    @cached_property
    def least(self) -> LinkPoint:
        """With the source at the end of its charge."""
        return self._at(full=False)

    @cached_property
    def wanted(self) -> LinkPoint:
        """With the source at its least and nothing on the way to hold it back but the converter."""
        return self._at(full=False, held=False)

    @property
    def passes(self) -> float:
        """Share of what arrives at its input or charger that it passes on. [1]"""
        return float(self.lowered.rail_records[self.lowered.place[self.link.id]]["give"])

    @cached_property
    def source(self) -> str:
        """The store it takes from."""
        return self.lowered.rails[self.link.rail].store

    @property
    def way_efficiency(self) -> float:
        """Share of what the source gives for it that arrives at the input. [1]

        A station's own draw is not for the link.
        """
        given_w = self.full.source_v * self._taken_a()
        return self.full.watts / given_w if given_w else 0.0

    def _taken_a(self) -> float:
        """What its source gives for it alone: its share of the current of each stage before. [A]"""
        point, here = self.full, self.link.rail
        rails = self.lowered.rails
        amps = point.amps_by.get(self.link.id, 0.0)
        while rails[here].parent is not None:
            given = point.given_by.get(here, 0.0)
            mine = amps * rails[here].nominal_v if rails[here].kind == "ac" else amps
            amps = point.amps_by.get(here, 0.0) * (mine / given if given else 0.0)
            here = str(rails[here].parent)
        return amps

    def _at(self, *, full: bool, held: bool = True) -> LinkPoint:
        if self.fit != "fits":
            return NOTHING
        rails, loads, stores = self.lowered.fresh_records()
        k = self.lowered.place[self.link.id]
        if not held:
            _let_go(self.lowered, self.link, rails, stores, k)
        begin(rails, loads, stores, new_trace(0, 0, 0, kept=False))
        weather(stores, self.lowered.day, self._stretch(int(rails[k]["to"])))
        loads["watts"] = 0.0
        hungry = 0.99 * np.minimum(stores["taper"], 1.0)
        stores["charge"] = np.where(stores["endless"] == 1, 1.0, stores["least"])
        if full:
            stores["charge"] = 1.0
        to = int(rails[k]["to"])
        stores[to]["charge"] = min(max(float(stores[to]["least"]), 0.5), float(hungry[to]))
        states: list[int] = []
        rows = zip(rails["parent"].tolist(), rails["blocked"].tolist(), strict=True)
        for r, (parent, blocked) in enumerate(rows):
            alive = parent < 0 or states[parent] == n.ON
            on = alive and not blocked and self._together(r, k)
            states.append(n.ON if on else n.OFF)
        rails["state"] = states
        if states[k] == n.OFF:
            return NOTHING
        open_circuit(stores, self.lowered.day)
        stores["awake"] = stores["on"]
        begin_feeding(rails, stores)
        status = balance(rails, loads, stores)
        if status == UNSETTLED:
            raise NotSolved(
                f"No stable voltages were found for this network with {self.link.name} on."
            )
        return self._point(rails, stores, k) if status == SOLVED else NOTHING

    def _stretch(self, to: int) -> int:
        """The stretch of a day it is looked at in: the warmest, of the sun the brightest."""
        day = self.lowered.day
        sun_a = day.most_a[:, self.lowered.place[self.source]]
        return int(np.argmin(day.cold_ohm[:, to]) if np.isinf(sun_a).all() else np.argmax(sun_a))

    def _together(self, r: int, k: int) -> bool:
        """Whether a row may be on while a link is: of the other links those plugged in then."""
        plugged = self.lowered.day.plugged
        is_link = r >= len(self.lowered.rails)
        return r == k or not is_link or bool((plugged[:, r] & plugged[:, k]).any())

    def _point(self, rails: Any, stores: Any, k: int) -> LinkPoint:
        names, source = self.lowered.names, self.lowered.place[self.source]
        amps_by, given_by = rails["amps"].tolist(), rails["taken"].tolist()
        volts, amps, row, rail_v = float(input_v(rails, k)), amps_by[k], rails[k], rails["volts"]
        given_w = float(row["give"]) * max(volts * amps - float(row["p0"]), 0.0)
        store_v = float(rail_v[row["to"]])
        binds = _BINDS.get(int(row["binds"]), "nothing")
        if self.link.charger is not None and binds == "its mode":
            binds = "the charger"
        return LinkPoint(
            binds,
            volts,
            amps,
            volts * amps,
            given_w / store_v,
            store_v,
            float(rail_v[source]),
            amps_by[source],
            dict(zip(names, amps_by, strict=True)),
            dict(zip(names, given_by, strict=True)),
            partial(outflows_of, self.lowered, rails, stores, self.source),
        )

    @cached_property
    def limits(self) -> tuple[Limit, ...]:
        """Every limit on the way, from the input to the source."""
        return tuple(self._limits())

    def limit(self, binds: Binds) -> Limit | None:
        """Of the limits of a kind the one that is nearest to being reached."""
        alike = [limit for limit in self.limits if limit.binds == binds]
        return max(alike, key=lambda limit: limit.used / limit.limit, default=None)

    def _limits(self) -> Iterator[Limit]:
        lowered, link, point = self.lowered, self.link, self.full
        records, stores = lowered.rail_records, lowered.store_records
        into = records[lowered.place[link.id]]
        store = next(x for x in lowered.design.stores if x.id == link.to)
        port = store.input(link.input) if isinstance(store, Station) else None
        for amps, code in limits_of(link, store):
            name = f"{port.mode(link.mode).name} mode" if port else f"charging {store.name}"
            if code == n.BY_FUSE:
                name = f"fuse of {link.name}"
            yield Limit(_BINDS[code], name, point.amps, amps, "A")
        if link.charger is not None:
            name = f"{link.charger.kind} for {store.name}"
            yield Limit("the charger", name, point.given_a, link.charger.amps, "A")
        else:
            name = port.name if port else store.name
            yield Limit("the input's watts", name, point.watts, float(into["most_w"]), "W")
        total_w = float(stores[lowered.place[link.to]]["most_in_w"])
        if isinstance(store, Station) and (len(store.inputs) > 1 or total_w < into["most_w"]):
            yield Limit("all inputs together", f"inputs of {store.name}", point.watts, total_w, "W")
        here: str | None = link.rail
        while here is not None:
            rail, record = lowered.rails[here], records[lowered.place[here]]
            if np.isfinite(record["limit_a"]):
                given = point.given_by.get(here, 0.0)
                limit_a = float(record["limit_a"])
                yield Limit("the converter", rail.source.name, given, limit_a, "A")
            if np.isfinite(record["fuse_a"]) and rail.parent is not None:
                name = f"fuse before {rail.source.name}"
                used = point.amps_by.get(here, 0.0)
                yield Limit("a fuse", name, used, float(record["fuse_a"]), "A")
            here = rail.parent
        source = lowered.place[self.source]
        sun_a = lowered.day.most_a[self._stretch(int(into["to"])), source]
        give_a = min(float(stores[source]["limit_a"]), float(sun_a))
        if 0 < give_a < np.inf:
            name = lowered.rails[self.source].source.name
            yield Limit("the source", name, point.source_a, give_a, "A")


def _let_go(lowered: LoweredDesign, link: Link, rails: Any, stores: Any, k: int) -> None:
    """Lift what a person can make larger: leads, fuses, batteries; never converter or input."""
    rails["fuse_a"] = np.inf
    stores["limit_a"] = np.inf
    store = next(x for x in lowered.design.stores if x.id == link.to)
    own = [x for x in limits_of(link, store) if x[1] != n.BY_FUSE]
    rails[k]["limit_a"], rails[k]["first_binds"] = min(own, default=(np.inf, n.BY_INPUT))


def _stays(store: Store) -> float:
    """Share of the charge that goes into a bare bank and stays; of a station it is counted. [1]"""
    return CHARGING[store.battery.chemistry].ah_efficiency if isinstance(store, Bank) else 1.0


def link_operations_of(lowered: LoweredDesign) -> dict[str, LinkOperation]:
    """Every link at its limit, at a full source and at one with its lowest charge.

    Parameters
    ----------
    lowered : The design as arrays.

    Returns
    -------
    Operation by the link's id, in the order of the document.

    Raises
    ------
    NotSolved : no operating point is found.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> from graveljar.demo import demo_designs
    >>> booth = lowered(demo_designs()["ticket-booth"])
    >>> link_operations_of(booth)["lead"].fit
    'above its maximum'
    """
    stores = {store.id: store for store in lowered.design.stores}
    return {
        link.id: LinkOperation(
            lowered,
            link,
            fit_link(lowered.rails, stores[link.to], link),
            charge_efficiency(stores[link.to], link) * _stays(stores[link.to]),
        )
        for link in lowered.design.links
    }
