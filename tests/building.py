"""Designs for tests, from as few words as the case needs."""

from typing import Any

from hypothesis import strategies as st

from graveljar.core.analysis.bank_sizing import Needed
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.core.model import Bank, Design


def bank(chemistry: str = "lfp", volts: float = 12.8, ah: float = 100.0, **rest: Any) -> Any:
    """A bank; what belongs to the battery is told from what belongs to the bank."""
    own = (
        "bms_a", "peukert", "name", "cells", "resistance_mohm", "provenance", "curve", "low_v"
    )  # fmt: skip
    of_battery: dict[str, Any] = {k: rest.pop(k) for k in own if k in rest}
    if chemistry in ("agm", "flooded"):
        rest.setdefault("reserve", 0.5)
        of_battery.setdefault("bms_a", None)
    battery = {"chemistry": chemistry, "volts": volts, "ah": ah, **of_battery}
    return {"battery": battery, **rest}


def load(watts: float = 100.0, name: str = "lamp", **rest: Any) -> Any:
    """A load: AC behind the inverter with `ac=True`, else DC on the bank; an hour a day."""
    ac = rest.pop("ac", False)
    when = {"kind": "hours", "hours": rest.pop("hours_per_day", 1.0)}
    volts = rest.pop("volts", 230.0 if ac else 12.0)
    return {
        "id": name,
        "name": name,
        "rail": "inverter" if ac else "bank",
        "supply": {"kind": "ac" if ac else "dc", "volts": volts},
        "demand": {"kind": "watts", "watts": watts},
        "when": when,
        **rest,
    }


def inverter(**rest: Any) -> Any:
    """The default sine inverter, 1000 W 12 V, but for what is said."""
    return rest


def converter(**rest: Any) -> Any:
    """A buck converter to 5 V, 10 A, from 9 to 36 V, but for what is said."""
    return {"kind": "converter", **rest}


def behind(watts: float, volts: float = 5.0, **rest: Any) -> Any:
    """A DC load behind that converter."""
    return load(watts, rail="converter", volts=volts, **rest)


def design(*loads: Any, stores: Any = None, stages: Any = None, **rest: Any) -> Design:
    """A design of 25 °C, where capacity is as labelled, and without cables.

    An inverter only if one is given; further stages as `more`.
    """
    setting = {"ambient_c": rest.pop("ambient_c", 25.0)} | rest.pop("setting", {})
    more = rest.pop("more", [])
    return Design.model_validate(
        {
            "setting": setting,
            "stores": stores if isinstance(stores, list) else [stores or bank()],
            "stages": [*([] if stages is None else [{"kind": "inverter", **stages}]), *more],
            "loads": list(loads),
            "assumptions": {"joint_drop": 0.0},
            **rest,
        }
    )


def looked_at(made: Design) -> Evaluation:
    """An evaluation without the band and the effects of fixes, in a fraction of the time."""
    return evaluate(made, quick=True)


def evaluated(*loads: Any, whole: bool = False, **rest: Any) -> Evaluation:
    """Build a design as `design` does, and evaluate it: whole, or as `looked_at` does."""
    return evaluate(design(*loads, **rest), quick=not whole)


def figure(evaluation: Evaluation, key: str) -> float:
    """The value of one figure."""
    return evaluation.figures[key].value


def codes(evaluation: Evaluation) -> set[str]:
    """Codes of all findings but the cautions."""
    return {f.code for f in evaluation.findings if f.severity != "note"}


def tidy(least: float, most: float) -> st.SearchStrategy[float]:
    """Numbers as a person writes them: to a thousandth, so that none is vanishingly small."""
    return st.floats(least, most).map(lambda value: round(value, 3))


def the_bank(design: Design) -> Bank:
    """The first store of a design that starts with a bank."""
    assert isinstance(design.first, Bank)
    return design.first


def the_need(evaluation: Evaluation) -> Needed:
    """What is needed, of a design that starts with a bank."""
    assert evaluation.needed is not None
    return evaluation.needed


IDEAL: dict[str, Any] = {"idle_w": 0.0, "usable_share": 1.0, "charge_efficiency": 1.0}


def station(**rest: Any) -> Any:
    """A station of 512 Wh that takes 8 or 15 A at 11 to 65 V, 500 W; a 12 V and an AC outlet.

    What belongs to its DC input is told from what belongs to the station.
    """
    into = {
        "id": "dc-in",
        "accepts": rest.pop("accepts", {"least_v": 11.0, "most_v": 65.0}),
        "modes": rest.pop(
            "modes",
            [
                {"name": "Car", "amps": 8.0, "chosen_by": "connector"},
                {"name": "Solar", "amps": 15.0, "chosen_by": "connector"},
            ],
        ),
        "most_w": rest.pop("most_w", 500.0),
        "steps_down_only": rest.pop("steps_down_only", False),
        "plug": rest.pop("plug", "two-pole connector"),
    }
    mains = {
        "id": "mains", "supply": "ac", "accepts": {"least_v": 200.0, "most_v": 250.0},
        "modes": [{"name": "Mains", "amps": 10.0}], "most_w": rest.pop("mains_w", 300.0),
    }  # fmt: skip
    outlets = [
        {"kind": "ac", "id": "sockets", "continuous_w": 600.0, "idle_w": 0.0},
        {"kind": "dc", "id": "port", "gives": "regulated", "volts": 12.0, "efficiency": 1.0},
    ]
    return {
        "kind": "station", "id": "station", "most_in_w": 1000.0, "outlets": outlets,
        "inputs": [into, mains], **rest,
    }  # fmt: skip


def lead(rail: str, **rest: Any) -> Any:
    """A lead from a rail into the station's DC input in Solar mode, without resistance."""
    return {
        "id": "lead", "rail": rail, "to": "station", "input": "dc-in", "mode": "Solar",
        "cable_mohm": 0.0, **rest,
    }  # fmt: skip


def on_port(watts: float, name: str = "radio", **rest: Any) -> Any:
    """A load on the station's 12 V port."""
    return load(watts, name, rail="port", **rest)
