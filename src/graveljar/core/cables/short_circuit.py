"""Prospective short-circuit current: what flows if the two conductors of a run touch."""

from dataclasses import dataclass

from graveljar.core.analysis.analysis import Analysis
from graveljar.core.components.joint import described_ohm
from graveljar.core.components.stage_loss import converter_amps
from graveljar.core.model import Converter, DcPort, Feed

# What electronics pass for a moment, of their continuous amps; common practice.
ELECTRONIC: float = 1.5


@dataclass(frozen=True)
class ShortCircuit:
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


def short_on(analysis: Analysis, rail: str, ohms: dict[str, float]) -> ShortCircuit:
    """At a rail: E / R of its store and of all conductors up to it; `ohms` by run. [A]"""
    network = analysis.network
    here = network.rails[rail]
    match here.source:
        case Converter() as converter:
            amps = converter_amps(converter, network.design, network.assumed)
            most_a = max(amps.peak_a, ELECTRONIC * converter.continuous_a * converter.parallel)
            return ShortCircuit(most_a, None, None)
        case Feed() if here.parent is not None:
            port = _port_of(analysis, rail)
            if port is not None:
                return ShortCircuit(ELECTRONIC * port.amps, None, None)
            before = short_on(analysis, here.parent, ohms)
            if before.volts is None or before.ohm is None:
                return before
            ohm = before.ohm + ohms.get(rail, 0.0)
            return ShortCircuit(before.volts / ohm, before.volts, ohm)
        case _:
            rest = network.bank_labels[here.store]
            # A vehicle's is that of its socket and its cable.
            own_ohm = rest.resistance_ohm if network.is_source(here.store) else rest.short_ohm
            # Nothing has no resistance at all: a millionth of an ohm stands for it.
            ohm = max(own_ohm + ohms.get(here.store, 0.0), 1e-6)
            return ShortCircuit(rest.rested_v / ohm, rest.rested_v, ohm)


def short_at_posts(analysis: Analysis, store: str) -> ShortCircuit:
    """What the main fuse of one string has to break. [A]

    Of a single string its own current. Of several what all the others push through it, by their
    leads and its own, as far as these are described; a short behind the fuses sees no more.
    """
    whole, bank = short_on(analysis, store, {}), analysis.network.banks_by_id[store]
    others = bank.parallel - 1
    if not others or whole.ohm is None or whole.volts is None:
        return whole
    lead_ohm = (described_ohm(bank.leads, analysis.network.assumed) if bank.leads else None) or 0.0
    ohm = (whole.ohm * bank.parallel + lead_ohm) / others + lead_ohm
    return ShortCircuit(whole.volts / ohm, whole.volts, ohm)


def _port_of(analysis: Analysis, rail: str) -> DcPort | None:
    station = analysis.network.station(str(analysis.network.rails[rail].parent))
    outlets = station.outlets if station else ()
    return next((x for x in outlets if x.id == rail and isinstance(x, DcPort)), None)
