"""Designs for tests, from as few words as the case needs."""

from typing import Any

from hypothesis import strategies as st

from graveljar.core.document import Design
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation


def bank(chemistry: str = "lfp", volts: float = 12.8, ah: float = 100.0, **rest: Any) -> Any:
    """A bank; what belongs to the battery is told from what belongs to the bank."""
    of_battery: dict[str, Any] = {k: rest.pop(k) for k in ("bms_a", "peukert", "name") if k in rest}
    if chemistry in ("agm", "flooded"):
        rest.setdefault("keep_back", 0.5)
        of_battery.setdefault("bms_a", None)
    battery = {"chemistry": chemistry, "volts": volts, "ah": ah, **of_battery}
    return {"battery": battery, **rest}


def load(watts: float = 100.0, name: str = "lamp", **rest: Any) -> Any:
    """A load: AC behind the inverter with `ac=True`, else DC on the bank."""
    ac = rest.pop("ac", False)
    volts = rest.pop("volts", 230.0 if ac else 12.0)
    return {
        "id": name,
        "name": name,
        "rail": "inverter" if ac else "bank",
        "supply": {"kind": "ac" if ac else "dc", "volts": volts},
        "demand": {"kind": "watts", "watts": watts},
        "hours_per_day": 1.0,
        **rest,
    }


def inverter(**rest: Any) -> Any:
    """The default sine inverter, 1000 W 12 V, but for what is said."""
    return rest


def design(*loads: Any, stores: Any = None, stages: Any = None, **rest: Any) -> Design:
    """A design of 25 °C, where capacity is as labelled; an inverter only if one is given."""
    setting = {"ambient_c": rest.pop("ambient_c", 25.0)}
    return Design.model_validate(
        {
            "setting": setting,
            "stores": [stores or bank()],
            "stages": [] if stages is None else [stages],
            "loads": list(loads),
            **rest,
        }
    )


def evaluated(*loads: Any, **rest: Any) -> Evaluation:
    """The evaluation of such a design."""
    return evaluate(design(*loads, **rest))


def figure(evaluation: Evaluation, key: str) -> float:
    """The value of one figure."""
    return evaluation.figures[key].value


def codes(evaluation: Evaluation) -> set[str]:
    """Codes of all findings but the cautions."""
    return {f.code for f in evaluation.findings if f.severity != "note"}


def tidy(least: float, most: float) -> st.SearchStrategy[float]:
    """Numbers as a person writes them: to a thousandth, so that none is vanishingly small."""
    return st.floats(least, most).map(lambda value: round(value, 3))
