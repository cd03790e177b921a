"""Links: a rail that feeds a station's charge input, or fills a bank."""

from graveljar.core.document.base import Amps, Id, MilliOhm, Name, Part
from graveljar.core.document.loads import Between


class Link(Part):
    """A rail feeding a store.

    `to` is a station, by its `input`, in the `mode` its lead and connector bring about; or a
    bank, without one. `fuse_a` is what its own lead and fuse may carry for long. [A]
    `times` are those at which it is plugged in; always, without them.
    """

    id: Id
    name: Name = "Charging lead"
    rail: Id
    to: Id
    input: Id | None = None
    mode: Name | None = None
    times: Between | None = None
    fuse_a: Amps | None = None
    cable_mohm: MilliOhm | None = None
