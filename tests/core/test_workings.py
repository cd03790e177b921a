"""Every figure's working is true: its expression, worked out here, gives its value."""

import ast
import math
import operator
from collections.abc import Callable
from itertools import product
from typing import Any, Final

import pytest

from graveljar.core.evaluation import Evaluation
from graveljar.core.tables.sources import SOURCES
from graveljar.core.workings.working import Figure
from graveljar.demo import demo_designs
from tests.building import (
    bank,
    converter,
    design,
    inverter,
    lead,
    load,
    looked_at,
    on_port,
    station,
)

OPERATORS: Final[dict[type[ast.AST], Callable[..., float]]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
    ast.Pow: operator.pow,
}
FUNCTIONS: Final[dict[str, Callable[..., float]]] = {"min": min, "max": max, "up": math.ceil}


def by_hand(figure: Figure) -> float:
    """Work an expression out, with a calculator that knows nothing of the program."""
    text = figure.expression.format(**{key: f"({t.value!r})" for key, t in figure.terms.items()})
    for sign, plain in (("×", "*"), ("÷", "/"), ("−", "-"), ("²", "**2")):
        text = text.replace(sign, plain)
    return _worked(ast.parse(text, mode="eval").body)


def _worked(node: Any) -> float:
    match node:
        case ast.Constant(value=float() | int() as value):
            return float(value)
        case ast.BinOp(left=left, op=op, right=right):
            return OPERATORS[type(op)](_worked(left), _worked(right))
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            return -_worked(operand)
        case ast.Call(func=ast.Name(id=name), args=arguments):
            return FUNCTIONS[name](*(_worked(a) for a in arguments))
    raise AssertionError(f"not arithmetic: {ast.dump(node)}")


DESIGNS = {
    **demo_designs(),
    "empty": design(),
    "asleep": design(
        load(40, ac=True, hours_per_day=2.0, standby_w=1.0),
        stages=inverter(sleep={"watts": 2.0, "threshold_w": 15.0}),
        ambient_c=-20.0,
    ),
    "cut out": design(
        load(1000, ac=True, hours_per_day=5.0),
        load(2, "modem", hours_per_day=24.0),
        stages=inverter(accepts={"least_v": 11.5, "most_v": 15.0}, continuous_w=1500.0),
        stores=bank("flooded", 12.0, 220.0, reserve=0.2),
    ),
    "grown through a fuse": design(
        on_port(40.0, hours_per_day=24.0),
        stores=[
            station(measured_wh=480.0, module_wh=500.0, reserve=0.1),
            bank(id="outside", parallel=2),
        ],
        more=[
            converter(
                rail="outside",
                set_v=30.0,
                topology="boost",
                fuse={"amps": 12.0},
                droop_v=0.4,
                accepts={"least_v": 9.0, "most_v": 20.0},
            )
        ],
        links=[lead("converter", fuse={"amps": 14.0})],
    ),
    "from a car, and by mains": design(
        on_port(10.0),
        load(60.0, "warmer", ac=True) | {"rail": "sockets"},
        stores=[station(), {"kind": "vehicle", "limit_a": 9.0}, bank(id="outside")],
        stages=inverter(rail="outside"),
        links=[lead("vehicle"), lead("inverter", id="mains", input="mains", mode=None)],
    ),
    "energy and amps": design(
        load(name="phone", demand={"kind": "energy", "wh": 18.5}, hours_per_day=2.0),
        load(
            name="saw",
            ac=True,
            demand={"kind": "amps", "amps": 2.0},
            power_factor=0.7,
            nature="tool",
            start={"method": "factor"},
        ),
        stages=inverter(surge_s=5.0, surge_w=2500.0),
    ),
}


@pytest.mark.parametrize("name", DESIGNS)
def test_every_working_gives_its_figure(name: str) -> None:
    evaluation = looked_at(DESIGNS[name])
    assert len(evaluation.figures) > 15
    for key, figure in evaluation.figures.items():
        assert by_hand(figure) == pytest.approx(figure.value, rel=1e-9, abs=1e-12), key


@pytest.mark.parametrize("name", DESIGNS)
def test_terms_lead_on_to_the_figures_they_come_from(name: str) -> None:
    figures = looked_at(DESIGNS[name]).figures
    for key, figure in figures.items():
        assert set(figure.sources) <= set(SOURCES), key
        assert figure.sources
        for term in figure.terms.values():
            if term.figure is not None:
                assert figures[term.figure].value == term.value
                assert figures[term.figure].unit == term.unit


def _energy_by_destination(evaluation: Evaluation) -> float:
    return sum(layer.wh for layer in evaluation.jar.layers)


@pytest.mark.parametrize("name", DESIGNS)
def test_energy_in_equals_energy_out(name: str) -> None:
    evaluation = looked_at(DESIGNS[name])
    assert _energy_by_destination(evaluation) == pytest.approx(evaluation.jar.day_wh, rel=1e-9)
    drawn = [row.at_bank_wh or 0.0 for row in evaluation.loads]
    # Idle draw at the bank: what passes another stage on its way costs more there.
    idle = sum(
        f.value for key, f in evaluation.figures.items() if key.endswith((".idle_wh", ".own_wh"))
    )
    assert sum(drawn) + idle == pytest.approx(evaluation.jar.day_wh, rel=1e-9)


@pytest.mark.parametrize(
    ("switched", "sleeps"), list(product(["always on", "on with its loads"], [False, True]))
)
def test_energy_balances_however_the_inverter_is_switched(switched: str, sleeps: bool) -> None:
    stage = inverter(
        switched=switched, sleep={"watts": 2.0, "threshold_w": 20.0} if sleeps else None
    )
    made = design(
        load(300, "a", ac=True, hours_per_day=3.0, kept_apart=True),
        load(200, "b", ac=True, hours_per_day=2.0, kept_apart=True, standby_w=3.0),
        load(24, "c", rail="inverter", volts=24.0, count=4, hours_per_day=5.0),
        load(10, "d", hours_per_day=20.0, standby_w=0.5),
        stages=stage,
        stores=bank(parallel=3),
    )
    evaluation = looked_at(made)
    assert _energy_by_destination(evaluation) == pytest.approx(evaluation.jar.day_wh, rel=1e-9)
    # Running energy is what the loads need, however they are laid out over the day.
    stones = {layer.subject: layer.wh for layer in evaluation.jar.layers if layer.kind == "stone"}
    assert stones == pytest.approx({"a": 900, "b": 400, "c": 480, "d": 200})
