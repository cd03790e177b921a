"""Compiles the engine, or reads what was compiled before: never in a user's first edit."""

from graveljar.core.document import Anytime, ByWatts, Design, Inverter, Load, Supply
from graveljar.core.evaluate import evaluate


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
    evaluate(Design(stages=(Inverter(),), loads=(lamp,)))


if __name__ == "__main__":
    warm()
