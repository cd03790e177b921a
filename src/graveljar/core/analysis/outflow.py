"""Where the watts that a store gives go, at one operating point without loads."""

from collections.abc import Iterator
from dataclasses import dataclass

from graveljar.core.kernel import records as n
from graveljar.core.kernel.branch import drawn
from graveljar.core.kernel.operating_point import input_v
from graveljar.core.kernel.records import Records
from graveljar.core.lowering.lower import LoweredDesign


@dataclass(frozen=True)
class Outflow:
    """What one part takes of what a store gives. [W]"""

    name: str
    watts: float


def outflows_of(
    lowered: LoweredDesign, rails: Records, stores: Records, source: str
) -> tuple[Outflow, ...]:
    """Every part that draws from a store: inputs, cables, stages, the store itself.

    Each from its current and volts: resistance, losses by the label, own draw.

    Parameters
    ----------
    lowered : The design as arrays.
    rails, stores : Records of the network. Shapes (R,), (S,)
    source : Id of the store.

    Returns
    -------
    Parts with their watts. [W]

    Examples
    --------
    >>> from graveljar.core.lowering.example import lowered
    >>> made = lowered()
    >>> made.store_records[0].awake, made.store_records[0].on = 1, 1
    >>> made.store_records[0].idle_w = 3.0
    >>> outflows_of(made, made.rail_records, made.store_records, "bank")
    (Outflow(name='its own draw', watts=3.0),)
    """
    return tuple(x for x in _outflows(lowered, rails, stores, source) if x.watts)


def _outflows(
    lowered: LoweredDesign, rails: Records, stores: Records, source: str
) -> Iterator[Outflow]:
    s = lowered.place[source]
    links = {link.id: link.name for link in lowered.design.links}
    kinds, states = rails["kind"].tolist(), rails["state"].tolist()
    parents, owners = rails["parent"].tolist(), rails["store"].tolist()
    for r, name in enumerate(lowered.names):
        if kinds[r] == n.STORE or states[r] == n.OFF or owners[_root(parents, r)] != s:
            continue
        rail = rails[r]
        amps, before = float(rail["amps"]), rails[rail["parent"]]
        said = links[name] if name in links else lowered.rails[name].source.name
        if before["kind"] != n.INVERTER:
            yield Outflow(f"cable before {said}", amps**2 * float(rail["ohm"]))
        if rail["kind"] == n.LINK:
            yield Outflow(f"into the input from {said}", amps * float(input_v(rails, r)))
        elif rail["state"] == n.ASLEEP:
            yield Outflow(f"{said}, asleep", float(rail["sleep_w"]))
        elif rail["kind"] == n.LINEAR:
            across = float(input_v(rails, r)) - float(rail["volts"])
            own_w = float(rail["p0"] / before["volts"] * input_v(rails, r))
            yield Outflow(f"{said}, its loss", across * float(rail["taken"]) + own_w)
        elif rail["kind"] != n.FEED:
            taken = float(rail["taken"])
            given_w = taken * float(rail["volts"]) if rail["kind"] == n.CONVERTER else taken
            yield Outflow(f"{said}, its loss", drawn(rail, given_w) - given_w)
    if stores[s]["awake"]:
        own_w = float(stores[s]["idle_w"])
        fed_w = float(stores[s]["fed_w"])
        yield Outflow("its own draw", own_w if stores[s]["on"] else min(own_w, fed_w))
        yield Outflow("less what it receives", -fed_w)


def _root(parents: list[int], r: int) -> int:
    """The row at the root of a row's tree."""
    while parents[r] >= 0:
        r = parents[r]
    return r
