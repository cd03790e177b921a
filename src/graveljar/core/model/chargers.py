"""Chargers: what limits the current into a bare battery, follows a profile, and ends."""

from typing import Annotated, Literal

from pydantic import Field

from graveljar.core.model.fields import (
    Amps,
    Id,
    Part,
    Provenance,
    ShelfCopy,
    Volts,
    Watts,
    WattsOrNone,
    Window,
)

ChargerKind = Literal[
    "mains charger",
    "DC-DC charger",
    "MPPT controller",
    "PWM controller",
    "bench supply",
    "alternator",
    "balance charger",
]
Profile = Literal["lithium", "AGM", "gel", "flooded", "set by hand"]


class ChargerFigures(Part):
    """A charger as labelled.

    It gives at most `amps`, and `most_w` where that is printed, at volts up to `hold_v`; without
    these, up to those that are usual for its profile and the cells of its bank. It works from
    `accepts` volts, AC where it is for mains, and draws `idle_w` itself. `cold_cut`: whether it
    stops by itself below 0 °C. Once full it may hold `float_v`; it may shift its volts with the
    temperature, as it `compensates`. [A], [V], [W]

    A `balance charger` fills a pack of at most `most_cells` in series, each cell by itself.

    An `alternator`, or the DC-DC converter of a hybrid, fills the battery that starts its engine:
    it holds its volts as long as it runs and never ends.
    """

    kind: ChargerKind = "DC-DC charger"
    profile: Profile = "lithium"
    amps: Amps = 20.0
    most_w: Watts | None = None
    hold_v: Volts | None = None
    accepts: Window = Window(least_v=11.0, most_v=16.0)
    efficiency: Annotated[float, Field(ge=0.3, le=1)] = 0.9
    idle_w: WattsOrNone = 0.5
    cold_cut: Literal["unknown", "yes", "no"] = "unknown"
    float_v: Volts | None = None
    compensates: Literal["unknown", "yes", "no"] = "unknown"
    most_cells: Annotated[int, Field(ge=1, le=40)] | None = None

    @property
    def from_mains(self) -> bool:
        """Whether it works from AC."""
        return self.kind in ("mains charger", "bench supply")

    @property
    def from_sun(self) -> bool:
        """Whether it is a controller for solar panels."""
        return self.kind in ("MPPT controller", "PWM controller")


class Charger(ChargerFigures):
    """A charger between a rail and the bank that its link leads to.

    `shares_with` is the link of a charger in the same box, such as that of the sun beside that of
    the engine: this one gives what that one leaves of its amps.
    """

    provenance: Provenance = "label"
    shares_with: Id | None = None
    shelf: ShelfCopy | None = None
