"""Compiles the kernel ahead of a user's first edit."""

import gc
from typing import Final

from graveljar.core.analysis.week import simulate_week
from graveljar.core.context import Context
from graveljar.core.evaluate import evaluate
from graveljar.core.model import (
    Anytime,
    Bank,
    BatteryFigures,
    ByWatts,
    ChargeInput,
    DcPort,
    Design,
    Fuse,
    Inverter,
    InverterFigures,
    Link,
    Load,
    Mode,
    Station,
    Supply,
)
from graveljar.core.planning.search import SearchAsk, SearchPart, search
from graveljar.core.planning.shelf import BatteryPart, InverterPart
from graveljar.core.views.timeline import course_of

# New objects that may be there before the garbage collector goes through them. Ours.
NEW_OBJECTS: Final = 20_000


def warm() -> None:
    """Evaluate a small design, so that every function of the kernel has been called."""
    lamp = Load(
        id="lamp",
        name="Lamp",
        rail="inverter",
        supply=Supply(kind="ac", volts=230.0),
        demand=ByWatts(watts=5.0),
        when=Anytime(hours=2.0),
    )
    design = Design(stages=(Inverter(),), loads=(lamp,))
    port = ChargeInput(id="in", modes=(Mode(name="One", amps=5.0),))
    fed = Station(inputs=(port,), outlets=(DcPort(id="port"),), starts_at=0.5)
    lead = Link(id="lead", rail="bank", to="station", input="in", fuse=Fuse(amps=4.0))
    for made in (design, design.model_copy(update={"stores": (Bank(), fed), "links": (lead,)})):
        evaluate(made)
        context = Context(made)
        course_of(context)
        simulate_week(context.analysis.lowered, 1)
    pack = BatteryPart(kind="battery", name="Pack", figures=BatteryFigures())
    inverter = InverterPart(kind="inverter", name="Inverter", figures=InverterFigures())
    parts = (SearchPart(id="pack", part=pack), SearchPart(id="inverter", part=inverter))
    list(search(design, SearchAsk(parts=parts)))


def spare_the_lasting() -> None:
    """Take what was loaded for good out of the garbage collector's rounds.

    Some 250 000 objects of libraries stay as long as the process: going through them again and
    again would be a tenth of the time of an evaluation. Rounds begin from here on, where they were
    put off while all of that was loaded, and come seldom: most of what an answer is made of is
    gone with it, and a round for every 700 new objects is a twentieth of its time.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(NEW_OBJECTS)
    gc.enable()


if __name__ == "__main__":
    warm()
