"""The smallest design as arrays, for the examples in docstrings: sums that are done by hand."""

from graveljar.core.kernel.conditions import open_circuit, weather
from graveljar.core.kernel.link_balance import balance
from graveljar.core.kernel.records import DayProfile, Records
from graveljar.core.kernel.states import arrange
from graveljar.core.kernel.trace import Trace, begin, new_trace
from graveljar.core.lowering.lower import LoweredDesign, lower
from graveljar.core.model import Design
from graveljar.core.network.network import Network


def lamp() -> Design:
    """A lamp of 60 W at 12 V that takes 5 A at any volts, on 12.8 V 100 Ah of 1 mOhm."""
    battery = {"volts": 12.8, "ah": 100.0, "resistance_mohm": 1.0, "bms_a": None}
    lit = {
        "id": "lamp", "name": "Lamp", "rail": "bank", "supply": {"kind": "dc", "volts": 12.0},
        "demand": {"kind": "watts", "watts": 60.0}, "when": {"kind": "hours", "hours": 24.0},
        "draw": "constant current", "cable_mohm": 0.0,
    }  # fmt: skip
    return Design.model_validate(
        {
            "setting": {"ambient_c": 25.0},
            "stores": [{"battery": battery, "reserve": 0.0}],
            "loads": [lit],
        }
    )


def lowered(design: Design | None = None) -> LoweredDesign:
    """The lamp, or another design, as arrays."""
    return lower(Network(design or lamp()))


def arrays(design: Design | None = None) -> tuple[Records, Records, Records, DayProfile, Trace]:
    """Rails, loads, stores, day and trace of it, settled at the start of a run."""
    made = lowered(design)
    rails, loads, stores = made.rail_records, made.load_records, made.store_records
    trace = new_trace(len(rails), len(loads), len(stores))
    begin(rails, loads, stores, trace)
    weather(stores, made.day, 0)
    open_circuit(stores, made.day)
    arrange(rails, loads, stores, made.day, 0, False)
    balance(rails, loads, stores)
    return rails, loads, stores, made.day, trace
