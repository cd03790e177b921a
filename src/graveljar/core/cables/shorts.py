"""Prospective short-circuit current: what flows if the two conductors of a run touch."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from graveljar.core.document import Converter, DcPort, Feed
from graveljar.core.inverter import converter_amps

if TYPE_CHECKING:
    from graveljar.core.facts import Facts

# What electronics let through for a moment, of their continuous amps; common practice.
ELECTRONIC: float = 1.5


@dataclass(frozen=True)
class Short:
    """A short circuit of the two conductors where a run begins. [A], [V], [Ohm]

    Behind electronics `volts` and `ohm` are None: they limit it to `amps`.
    """

    amps: float
    volts: float | None
    ohm: float | None

    def through_a(self, ohm: float) -> float:
        """At the end of a run of so much resistance, out and back. [A]"""
        if self.volts is None or self.ohm is None:
            return self.amps
        return self.volts / (self.ohm + ohm)


def short_on(facts: "Facts", rail: str, ohms: dict[str, float]) -> Short:
    """At a rail: E / R of its store and of all conductors up to it; `ohms` by run. [A]"""
    here = facts.rails[rail]
    match here.source:
        case Converter() as converter:
            amps = converter_amps(converter, facts.design, facts.assumed)
            most_a = max(amps.peak_a, ELECTRONIC * converter.continuous_a * converter.parallel)
            return Short(most_a, None, None)
        case Feed() if here.parent is not None:
            port = _port_of(facts, rail)
            if port is not None:
                return Short(ELECTRONIC * port.amps, None, None)
            before = short_on(facts, here.parent, ohms)
            if before.volts is None or before.ohm is None:
                return before
            ohm = before.ohm + ohms.get(rail, 0.0)
            return Short(before.volts / ohm, before.volts, ohm)
        case _:
            rest = facts.rests[here.store]
            # Nothing has no resistance at all: a millionth of an ohm stands for it.
            # A vehicle's is that of its socket and its cable.
            own_ohm = rest.resistance_ohm if facts.is_vehicle(here.store) else rest.short_ohm
            ohm = max(own_ohm + ohms.get(here.store, 0.0), 1e-6)
            return Short(rest.full_v / ohm, rest.full_v, ohm)


def short_at_posts(facts: "Facts", store: str) -> Short:
    """What the main fuse of one string has to break: what all the others push through it. [A]

    Of a single string its own current; a short behind the fuses sees no more than that in each.
    """
    whole = short_on(facts, store, {})
    strings = facts.banks_by_id[store].parallel
    share = max(strings - 1, 1) / strings
    if whole.ohm is None:
        return whole
    return Short(whole.amps * share, whole.volts, whole.ohm / share)


def _port_of(facts: "Facts", rail: str) -> DcPort | None:
    station = facts.station(str(facts.rails[rail].parent))
    outlets = station.outlets if station else ()
    return next((x for x in outlets if x.id == rail and isinstance(x, DcPort)), None)
