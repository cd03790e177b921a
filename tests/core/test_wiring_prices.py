"""Prices of cables and fuses: metres out and back, sizes that are sold, what is there already."""

import math
from typing import Any

import pytest

from graveljar.core.cables.colours import colours_of
from graveljar.core.cables.cut_list import cut_list
from graveljar.core.context import Context
from graveljar.core.model import Design
from graveljar.core.planning.shelf import (
    CableFigures,
    CablePart,
    FuseFigures,
    FusePart,
    PricedItem,
    WiringPrices,
)
from tests.building import bank, design, inverter, load


def wired(sizes: str = "metric", **run: Any) -> Design:
    """A kettle at an inverter, its cables as proposed or 25 mm² and 3 m to the inverter."""
    return design(
        load(900.0, "kettle", ac=True), stores=bank(ah=200.0),
        stages=inverter(**run), setting={"sizes": sizes},
    )  # fmt: skip


def cable(size: Any, price: float | None, owned: int = 0) -> CablePart:
    """A cable of a size."""
    figures = CableFigures(size=size)
    return CablePart(kind="cable", name=size, figures=figures, price=price, owned=owned)


def fuse(kind: Any, amps: float, price: float, owned: int = 0) -> FusePart:
    """Fuses of a kind."""
    figures = FuseFigures(kind=kind, amps=amps)
    return FusePart(kind="fuse", name=kind, figures=figures, price=price, owned=owned, mass_kg=0.1)


def priced(made: Design, *parts: Any) -> dict[str, PricedItem]:
    """What the wiring of a design costs, by name."""
    runs = Context(made).cables.values()
    return {x.name: x for x in WiringPrices(parts).priced(runs)}


CHOSEN: dict[str, Any] = {"cable": {"length_m": 3.0, "size": "25 mm²"}}


@pytest.mark.parametrize(
    ("shelf", "name", "price", "owned"),
    [
        # 2 x 3 m of 25 mm² at 8 a metre.
        ((cable("25 mm²", 8.0),), "25 mm² cable, 6 m", 48.0, False),
        # Two of six metres are there; then all of them.
        ((cable("25 mm²", 8.0, owned=2),), "25 mm² cable, 6 m", 32.0, False),
        ((cable("25 mm²", 8.0, owned=6),), "25 mm² cable, 6 m", 0.0, True),
        # The next larger that is sold, never a thinner one, and none of the other system.
        ((cable("35 mm²", 10.0), cable("16 mm²", 1.0)), "35 mm² cable, 6 m", 60.0, False),
        ((cable("16 mm²", 1.0), cable("4 AWG", 1.0)), "25 mm² cable, 6 m", None, False),
        ((cable("25 mm²", None),), "25 mm² cable, 6 m", None, False),
        # Of two of a size the cheaper; what is there goes first.
        ((cable("25 mm²", 9.0), cable("25 mm²", 7.0)), "25 mm² cable, 6 m", 42.0, False),
        ((cable("25 mm²", 9.0, owned=6), cable("25 mm²", 7.0)), "25 mm² cable, 6 m", 0.0, True),
    ],
)
def test_cable_is_bought_by_the_metre_out_and_back(
    shelf: Any, name: str, price: float | None, owned: bool
) -> None:
    """By hand. The posts' half metre is of another size: it is priced on its own."""
    found = priced(wired(**CHOSEN), *shelf)[name]
    assert (found.price, found.owned) == (price, owned)


def test_a_fuse_is_priced_by_its_kind_up_to_its_amps() -> None:
    """A fuse of 150 A is none of those up to 100 A."""
    small, large = fuse("stud", 100.0, 20.0), fuse("stud", 300.0, 32.0)
    made = wired(fuse={"amps": 150.0, "kind": "stud"}, **CHOSEN)
    name = "terminal-stud fuse 150 A with holder"
    assert priced(made, small, large)[name].price == 32.0
    assert priced(made, small)[name].price is None
    assert priced(made, small, large)[name].mass_kg == pytest.approx(0.1)
    less = wired(fuse={"amps": 80.0, "kind": "stud"}, **CHOSEN)
    assert priced(less, small, large)["terminal-stud fuse 80 A with holder"].price == 20.0


@pytest.mark.parametrize("sizes", ["metric", "AWG"])
def test_every_metre_of_the_cut_list_is_priced_in_its_own_system(sizes: str) -> None:
    made = wired(sizes)
    shelf = [
        cable("16 mm²", 5.0), cable("120 mm²", 30.0), cable("6 AWG", 5.0), cable("4/0 AWG", 30.0),
    ]  # fmt: skip
    found = [x for x in priced(made, *shelf).values() if "cable" in x.name]
    cuts = cut_list(Context(made).cables.values(), colours_of(made.setting))
    metres: dict[str, float] = {}
    for cut in cuts:
        if cut.kind == "cable":
            size = cut.item.split(" (")[0]
            metres[size] = metres.get(size, 0.0) + (cut.metres or 0.0)
    bought = sum(int(x.name.split(", ")[1].removesuffix(" m")) for x in found)
    assert bought == sum(math.ceil(x - 1e-9) for x in metres.values())
    assert all(("AWG" in x.name) is (sizes == "AWG") for x in found)
