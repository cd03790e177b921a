"""Which stores the loads live on, and how much of those behind a link reaches them."""

from dataclasses import dataclass

from graveljar.core.analysis.analysis import Analysis


@dataclass(frozen=True)
class Delivery:
    """A store, and what of its energy comes out where the loads are. `link` leads it there. [1]"""

    store: str
    share: float
    link: str | None


def deliveries_of(analysis: Analysis) -> tuple[Delivery, ...]:
    """Stores with loads on their rails, then those that feed them, with the share that arrives.

    Without loads every store counts; a vehicle never does.

    Parameters
    ----------
    analysis : Of a network.

    Returns
    -------
    A delivery for each store. [1]

    Examples
    --------
    >>> from graveljar.core.analysis.analysis import Analysis
    >>> from graveljar.core.lowering.example import lamp
    >>> from graveljar.core.network.network import Network
    >>> deliveries_of(Analysis(Network(lamp())))
    (Delivery(store='bank', share=1.0, link=None),)
    """
    held = [store.id for store in analysis.network.held]
    live = {analysis.network.rails[str(load.rail)].store for load in analysis.lowered.loads}
    found = [Delivery(store, 1.0, None) for store in held if not live or store in live]
    shares = {reach.store: reach.share for reach in found}
    # A link into the last store stands before the one that feeds its source.
    for link in analysis.lowered.links:
        feeding = analysis.link_operations[link.id]
        if feeding.source not in held or feeding.source in shares or not feeding.full.watts:
            continue
        if feeding.link.to in shares:
            share = shares[feeding.link.to] * feeding.way_efficiency * feeding.efficiency
            shares[feeding.source] = share
            found.append(Delivery(feeding.source, share, link.id))
    return tuple(found)
