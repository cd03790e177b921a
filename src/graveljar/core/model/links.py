"""Links: a rail that feeds a station's charge input, or fills a bank."""

from graveljar.core.model.chargers import Charger
from graveljar.core.model.fields import Id, Name
from graveljar.core.model.loads import Between
from graveljar.core.model.wiring import Fuse, Joined


class Link(Joined):
    """A rail feeding a store.

    `to` is a station, by its `input`, in the `mode` its cable and connector bring about; or a
    bank, without one, through its `charger`. `times` are those at which it is plugged in; always,
    without them. It takes no more than its own fuse passes. `end_fuse` is one at the other end of
    its cable, where that end is at a battery.
    """

    id: Id
    name: Name = "Charging cable"
    rail: Id
    to: Id
    input: Id | None = None
    mode: Name | None = None
    times: Between | None = None
    end_fuse: Fuse | None = None
    charger: Charger | None = None
