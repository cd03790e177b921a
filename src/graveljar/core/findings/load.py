"""Rules about single loads: volts that do not fit their rail, and devices lives depend on."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.day import DAY_H, kept_apart_hours
from graveljar.core.document import Inverter, Load
from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Remedy, Rule, Severity
from graveljar.core.window import LoadFit, fit_load
from graveljar.core.words import listed, number, quantity

_WORDS: Final[dict[LoadFit, tuple[str, Severity, str]]] = {
    "needs AC": ("load.needs_ac", "fix", "A bank gives DC: it will not run there."),
    "too many volts": ("load.too_many_volts", "stop", "More volts than it takes will damage it."),
    "too few volts": ("load.too_few_volts", "fix", "It will not start on that little."),
    "no such volts": ("load.other_mains", "stop", "The wrong mains volts damage it or starve it."),
}


def rail_differs(facts: Facts) -> Iterator[Finding]:
    """`load.needs_ac`, `.too_many_volts`, `.too_few_volts`, `.other_mains`."""
    rest, inverter = facts.system.rest, facts.inverter
    for place, load in enumerate(facts.design.loads):
        fit = fit_load(facts.design, rest, load)
        if fit == "fits":
            continue
        code, severity, what = _WORDS[fit]
        rail = (
            f"{quantity(inverter.output_v, 'V')} AC"
            if inverter is not None and load.rail == inverter.id
            else f"{quantity(rest.empty_v, 'V')} to {quantity(rest.full_v, 'V')} DC"
        )
        yield Finding(
            code,
            severity,
            load.id,
            f"{load.name} wants {quantity(load.supply.volts, 'V')} {load.supply.kind.upper()}; "
            f"its rail gives {rail}",
            f"{what} It is left out of the hours.",
            ("bank.empty_v", "bank.full_v"),
            _rail_remedies(facts, place, load, fit),
            ("trade",),
        )


def _rail_remedies(facts: Facts, place: int, load: Load, fit: LoadFit) -> tuple[Remedy, ...]:
    inverter = facts.inverter
    if fit == "no such volts" and inverter is not None:
        edit = Edit("replace", "/stages/0/output_v", load.supply.volts)
        if not 90 <= load.supply.volts <= 260:
            return (Remedy("Check its label; no mains has these volts."),)
        return (Remedy(f"Use an inverter that gives {number(load.supply.volts)} V.", (edit,)),)
    if inverter is not None:
        edit = Edit("replace", f"/loads/{place}/rail", inverter.id)
        through = " through its mains adapter" if load.supply.kind == "dc" else ""
        return (Remedy(f"Put it behind the inverter{through}.", (edit,)),)
    new = Inverter(rail=facts.bank.id, output_v=facts.design.setting.ac_volts)
    nominal_v = facts.system.rest.nominal_v
    scaled = new.model_dump(mode="json") | {
        "nominal_v": nominal_v,
        "accepts": {
            "least_v": round(facts.system.rest.empty_v * 1.05, 1),
            "most_v": round(facts.system.rest.full_v * 1.1, 1),
        },
    }
    edits = (
        Edit("add", "/stages/0", scaled),
        Edit("replace", f"/loads/{place}/rail", new.id),
    )
    return (Remedy("Add an inverter and put it behind that.", edits),)


def medical(facts: Facts) -> Iterator[Finding]:
    """`load.medical`: ask the device's maker and the clinician, have a second plan."""
    devices = [load for load in facts.design.loads if load.nature == "medical"]
    if devices:
        yield Finding(
            "load.medical",
            "watch",
            devices[0].id,
            f"Someone depends on {listed([load.name for load in devices])}",
            "Ask the device's maker and the clinician before it runs from a battery, have a "
            "second plan, and test it for a real night, with its heated parts on and off.",
            tuple(f"load.{load.id}.day" for load in devices),
            (Remedy("Ask them, and write down the second plan in the notes."),),
            ("trade",),
        )


def apart_too_long(facts: Facts) -> Iterator[Finding]:
    """`load.apart_too_long`: loads kept apart need more than 24 h in turn."""
    hours = kept_apart_hours(facts.system)
    if hours <= DAY_H + 1e-9:
        return
    places = [i for i, load in enumerate(facts.design.loads) if load.kept_apart]
    longest = max(places, key=lambda i: facts.design.loads[i].hours_per_day)
    yield Finding(
        "load.apart_too_long",
        "watch",
        facts.design.loads[longest].id,
        f"The loads kept apart need {number(hours)} h a day in turn",
        "A day has 24 h: those that find no room are counted as running with the others.",
        tuple(f"load.{facts.design.loads[i].id}.day" for i in places),
        (
            Remedy(
                f"Let {facts.design.loads[longest].name} run with the others.",
                (Edit("replace", f"/loads/{longest}/kept_apart", value=False),),
            ),
        ),
        ("design",),
    )


LOAD_RULES: Final[tuple[Rule, ...]] = (rail_differs, medical, apart_too_long)
