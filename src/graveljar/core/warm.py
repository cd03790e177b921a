"""Compiles the engine, or reads what was compiled before: never in a user's first edit."""

from graveljar.core.course import course_of
from graveljar.core.document import Anytime, ByWatts, Design, Inverter, Load, Supply
from graveljar.core.evaluate import evaluate
from graveljar.core.facts import gather


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
    evaluate(design)
    course_of(gather(design))


if __name__ == "__main__":
    warm()
