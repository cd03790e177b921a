"""Rules about single loads: volts that do not fit their rail, and devices lives depend on."""

from collections.abc import Iterator
from functools import partial
from typing import Final

from graveljar.core.components.load import depends_on
from graveljar.core.context import Context
from graveljar.core.model import Anytime, Design, Inverter, Load
from graveljar.core.model.patch import Edit, free_id
from graveljar.core.network.schedule import DAY_H
from graveljar.core.network.standard_sizes import regulator_for
from graveljar.core.network.windows import RUNS, LoadFit, fit_load
from graveljar.core.rules.finding import Finding, Remedy, Rule, Severity
from graveljar.core.rules.port import setting_that_fits
from graveljar.core.text import beyond, listed, number, quantity
from graveljar.core.views.outage import passed_on

_WORDS: Final[dict[LoadFit, tuple[str, Severity, str]]] = {
    "not joined": ("load.not_joined", "fix", "It is not connected."),
    "above its maximum": ("load.above_maximum", "stop", "The full store damages it."),
    "too many volts": (
        "load.too_many_volts",
        "stop",
        "That is more than such appliances accept, and may damage it.",
    ),
    "check its label": (
        "load.check_label",
        "watch",
        (
            "Nothing says that it accepts so much. Look for a range such as 9 to 16 V on "
            "its label and enter it; without one, put a regulator before it."
        ),
    ),
    "too few volts": ("load.too_few_volts", "fix", "It does not start at so low a voltage."),
    "no such volts": (
        "load.other_mains",
        "stop",
        "The wrong mains voltage damages it, or it does not run.",
    ),
}


def rail_differs(context: Context) -> Iterator[Finding]:
    """An appliance and its rail do not fit.

    `load.not_joined`, `.needs_ac`, `.above_maximum`, `.too_many_volts`, `.check_label`,
    `.too_few_volts`, `.other_mains`. Without a stated window the usual ones decide.
    """
    network = context.network
    for load in network.design.loads:
        fit = network.fit_of_load(load)
        if fit == "fits":
            continue
        code, severity, what = _WORDS[fit]
        if fit == "not joined" and load.supply.kind == "ac":
            code, what = "load.needs_ac", "There is no AC rail for it."
        wants = f"needs {quantity(load.supply.volts, 'V')} {load.supply.kind.upper()}"
        rail = network.rails.get(load.rail or "")
        gives = "it is not connected"
        if rail is not None:
            arrives = quantity(rail.high_v, "V")
            if rail.low_v != rail.high_v:
                arrives = f"{quantity(rail.low_v, 'V')} to {arrives}"
            gives = f"its rail has {arrives} {rail.kind.upper()}"
            if load.window is not None and fit in ("above its maximum", "too few volts"):
                over = fit == "above its maximum"
                limit_v = load.window.most_v if over else load.window.cut_out_v
                arrives, bound = beyond(rail.high_v, limit_v, "V")
                wants = f"accepts at {'most' if over else 'least'} {bound}"
                gives = f"{arrives} {'' if over else 'at most '}arrive"
        store = rail.store if rail is not None else network.bank.id
        yield Finding(
            code,
            severity,
            load.id,
            f"{load.name} {wants}; {gives}",
            what if fit in RUNS else f"{what} The hours do not include it.",
            (f"store.{store}.empty_v", f"store.{store}.full_v"),
            partial(_rail_remedies, context, load, fit),
            ("iso-16750-2", "trade") if load.window is None else ("trade",),
        )


def _rail_remedies(context: Context, load: Load, fit: LoadFit) -> tuple[Remedy, ...]:
    network = context.network
    at, inverter = network.load_path(load), network.design.inverter
    if fit == "no such volts":
        if not 90 <= load.supply.volts <= 260:
            return (Remedy("Check its label; no mains supply has this voltage."),)
        source = next(x for x in network.inverters if x.id == load.rail)
        edit = Edit("replace", f"{network.stage_path(source)}/output_v", load.supply.volts)
        return (Remedy(f"Use an inverter that gives {number(load.supply.volts)} V.", (edit,)),)
    fitting = [
        rail
        for rail in network.rails.values()
        if rail.id != load.rail
        and rail.kind == load.supply.kind
        and fit_load(network.rails, load.model_copy(update={"rail": rail.id})) == "fits"
    ]
    switched = setting_that_fits(context, load)
    remedies = [switched] if switched is not None else []
    if fit in ("check its label", "too many volts"):
        remedies.append(_regulator(context, load, str(load.rail)))
    elif load.supply.kind == "dc" and network.banks:
        # From DC to DC less is lost than through mains.
        remedies.append(_regulator(context, load, network.banks[0].id))
    remedies += [
        Remedy(
            f"Connect it to the {quantity(rail.nominal_v, 'V')} rail.",
            (Edit("replace", f"{at}/rail", rail.id),),
        )
        for rail in fitting
        if rail.kind == "dc"
    ]
    if fit == "check its label":
        return tuple(remedies)
    remedies.sort(key=lambda remedy: len(remedy.edits))
    if inverter is not None:
        edit = Edit("replace", f"{at}/rail", inverter.id)
        through = " through its mains adapter" if load.supply.kind == "dc" else ""
        remedies.append(Remedy(f"Connect it to the inverter{through}.", (edit,)))
    elif network.banks:
        remedies.append(_new_inverter(context, load))
    return tuple(remedies) or (
        Remedy(f"Use an outlet or a station that gives {quantity(load.supply.volts, 'V')}."),
    )


def _regulator(context: Context, load: Load, on: str) -> Remedy:
    network = context.network
    rail = network.rails[on]
    new = regulator_for(rail, load, free_id(network.design, "regulator"), network.assumed)
    edits = (
        Edit("add", "/stages/-", new),
        Edit("replace", f"{network.load_path(load)}/rail", new["id"]),
    )
    volts = number(load.supply.volts)
    return Remedy(f"Put a {volts} V regulator (buck-boost) before {load.name}.", edits)


def _new_inverter(context: Context, load: Load) -> Remedy:
    network = context.network
    bank = network.rails[network.banks[0].id]
    new = Inverter().model_dump(mode="json") | {
        "id": free_id(network.design, "inverter"),
        "rail": bank.id,
        "nominal_v": bank.nominal_v,
        "accepts": {
            "least_v": round(bank.low_v * 1.05, 1),
            "most_v": round(bank.high_v * 1.1, 1),
        },
        "output_v": network.design.setting.ac_volts,
        "output_hz": network.design.setting.ac_hz,
    }
    edits = (
        Edit("add", "/stages/-", new),
        Edit("replace", f"{network.load_path(load)}/rail", new["id"]),
    )
    return Remedy("Add an inverter and connect it to that.", edits)


def medical(context: Context) -> Iterator[Finding]:
    """`load.medical`: ask the device's maker and the clinician, have a second plan."""
    devices = [load for load in context.network.design.loads if depends_on(load) == "a person"]
    if devices:
        yield Finding(
            "load.medical",
            "watch",
            devices[0].id,
            f"A person depends on {listed([load.name for load in devices])}",
            "Ask the device's maker and the clinician before it runs from a battery, have a "
            "second plan, and test it for a real night, with its heated parts on and off.",
            tuple(f"load.{load.id}.day" for load in devices),
            (Remedy("Ask them, and write your second plan in the notes."),),
            ("trade",),
        )


def kept_apart_hours(design: Design) -> float:
    """Hours a day that the loads kept apart need; 0 where all of them have their times. [h]"""
    apart = [load for load in design.loads if load.kept_apart]
    if not any(isinstance(load.when, Anytime) for load in apart):
        return 0.0
    return sum(load.hours_per_day for load in apart)


def apart_too_long(context: Context) -> Iterator[Finding]:
    """`load.apart_too_long`: loads kept apart need more than 24 h in turn."""
    network = context.network
    hours = kept_apart_hours(network.design)
    if hours <= DAY_H + 1e-9:
        return
    places = [i for i, load in enumerate(network.design.loads) if load.kept_apart]
    longest = max(places, key=lambda i: network.design.loads[i].hours_per_day)
    yield Finding(
        "load.apart_too_long",
        "watch",
        network.design.loads[longest].id,
        f"The loads kept apart need {number(hours)} h a day in turn",
        "A day has 24 h: those that do not fit in are counted as running with the others.",
        tuple(f"load.{network.design.loads[i].id}.day" for i in places),
        (
            Remedy(
                f"Let {network.design.loads[longest].name} run with the others.",
                (Edit("replace", f"/loads/{longest}/kept_apart", value=False),),
            ),
        ),
        ("design",),
    )


def changeover(context: Context) -> Iterator[Finding]:
    """`load.changeover`: a load that stops at a break, on what has one as it switches over."""
    for box, load in passed_on(context):
        if load.bears_break != "no":
            continue
        known = box.changeover == "break"
        has = "has a break" if known else "may have a break"
        yield Finding(
            "load.changeover",
            "fix" if known else "watch",
            load.id,
            f"{load.name} stops at a break; {box.name} {has} when the mains fails",
            (
                "What passes the mains through switches over to its battery: for a few "
                "hundredths of a second nothing comes. Some devices restart or stop then. Pull the "
                "mains plug once, with everything on, and see."
            ),
            (),
            (
                Remedy("Connect it to a DC port, which the battery feeds in any case."),
                Remedy("Use a supply without a break: one whose inverter always runs."),
            ),
            ("trade",),
        )


LOAD_RULES: Final[tuple[Rule, ...]] = (rail_differs, medical, apart_too_long, changeover)
