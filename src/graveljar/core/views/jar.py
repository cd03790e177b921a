"""The jar: what a store holds, and a day's use in layers."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from graveljar.core.analysis.delivery import deliveries_of
from graveljar.core.context import Context
from graveljar.core.views.loads import missed_share


@dataclass(frozen=True)
class Layer:
    """One layer of the jar, [Wh] a day at the bank; `missed` share of it is not served. [1]"""

    kind: Literal["stone", "standby", "idle", "loss"]
    subject: str
    name: str
    wh: float
    missed: float = 0.0


@dataclass(frozen=True)
class Jar:
    """The bank as a jar. [Wh]

    `label_wh` fills it to the rim; `reserve_wh` lies at the bottom, the usable on it; what
    the cold and the current take away is missing at the top. Layers are a day's use;
    `once_wh` of it is of loads that run once.
    """

    label_wh: float
    reserve_wh: float
    usable_wh: float
    day_wh: float
    once_wh: float
    layers: tuple[Layer, ...]


def jar_of(context: Context) -> Jar:
    """Fill the jar."""
    network = context.network
    reach = {x.store: x.share for x in deliveries_of(context.analysis)}
    banks = [(bank, reach[bank.id]) for bank in network.stores if bank.id in reach]
    return Jar(
        label_wh=sum(network.bank_labels[bank.id].wh * share for bank, share in banks),
        reserve_wh=sum(
            network.bank_labels[bank.id].wh * bank.reserve * share for bank, share in banks
        ),
        usable_wh=sum(context.analysis.usable[bank.id].wh * share for bank, share in banks),
        day_wh=context.analysis.day.wh,
        once_wh=context.analysis.day.once_wh,
        layers=tuple(layer for layer in _layers(context) if layer.wh > 0),
    )


def _layers(context: Context) -> Iterator[Layer]:
    network = context.network
    day = context.analysis.day
    yield Layer("loss", "design", "Conversion loss", day.lost_wh)
    for stage in network.stages:
        yield Layer("idle", stage.id, f"{stage.name}, idle", day.idle_wh(stage.id))
    for store in network.design.stores:
        yield Layer("idle", store.id, f"{store.name}, own draw", day.idle_wh(store.id))
    for load in network.design.loads:
        part = day.loads.get(load.id)
        if part is not None:
            yield Layer("standby", load.id, f"{load.name}, standby", part.standby_wh)
            missed = missed_share(context, load.id) or 0.0
            yield Layer("stone", load.id, load.name, part.used_wh, missed)
