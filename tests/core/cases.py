"""Designs that bring findings up, and what they are built from."""

from typing import Any, NamedTuple

from tests.building import bank, converter, inverter, lead, load, station


class Case(NamedTuple):
    """Keyword arguments of `design`, with the loads under "loads"."""

    code: str
    severity: str
    brings: dict[str, Any]
    spares: dict[str, Any]


def fed(**rest: Any) -> dict[str, Any]:
    """A station fed from a bank through a 28 V boost; `of_*` change its parts."""
    of_boost = {"topology": "boost", "set_v": 28.0, "continuous_a": 30.0}
    boost = converter(rail="outside", **of_boost | rest.pop("of_boost", {}))
    outside = bank(id="outside", ah=300.0, bms_a=300.0)
    return {
        "stores": [station(**rest.pop("of_station", {})), outside],
        "more": [boost],
        "links": [lead("converter", **rest.pop("of_link", {}))],
        **rest,
    }


def by_mains(**of_inverter: Any) -> dict[str, Any]:
    """A station charged by mains from a 600 W inverter, with a load on its sockets."""
    return {
        "loads": [load(250.0, "fridge", ac=True) | {"rail": "sockets"}],
        "stores": [station(mains_w=of_inverter.pop("mains_w", 200.0)), bank(id="outside")],
        "stages": inverter(rail="outside", **{"continuous_w": 600.0, **of_inverter}),
        "links": [lead("inverter", input="mains", mode=None)],
    }


def by_car(watts: float = 50.0, **of_car: Any) -> dict[str, Any]:
    """A load straight on a vehicle."""
    return {
        "loads": [load(watts, rail="vehicle")],
        "stores": [bank(), {"kind": "vehicle", **of_car}],
    }


ALL_DAY: dict[str, Any] = {"hours_per_day": 24.0}


def lead_of(size: str, metres: float = 1.0, **rest: Any) -> dict[str, Any]:
    """A chosen cable, and what else is at the joint."""
    return {"cable": {"length_m": metres, "size": size}, **rest}


def small(size: str = "50 mm²", fuse_a: float = 110.0, **rest: Any) -> dict[str, Any]:
    """An inverter that can be made to draw 800 W / 0.87 / 10.5 V = 87.6 A."""
    fuse = {"amps": fuse_a, "kind": "class-t", **rest.pop("of_fuse", {})}
    return {"stages": inverter(continuous_w=800.0, **lead_of(size, fuse=fuse, **rest))}


def posts(parallel: int = 1, **leads: Any) -> dict[str, Any]:
    """A bank whose leads are described, with a main fuse, and that inverter on it."""
    fused = {"fuse": {"amps": 150.0, "kind": "class-t", "from_post_m": 0.1}, **leads}
    return {**small(), "stores": bank(parallel=parallel, leads=fused)}
