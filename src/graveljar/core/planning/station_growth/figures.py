"""Workings of a route: what it gains, what a Wh of that costs, how long it takes to fill again."""

from collections.abc import Mapping
from typing import Final

from graveljar.core.context import Context
from graveljar.core.workings.working import Figure, Term, WorkedFigures

# Lithium's taper on top of the plain time, common practice. [1]
TAPER: Final = 1.1


def gained(
    context: Context, alone: Context, link: str | None, station: str, figures: WorkedFigures
) -> float:
    """What comes out of the station beyond its own, after converter and charging. [Wh]"""
    analysis = context.analysis
    if link is None:
        before_wh, after_wh = alone.analysis.usable[station].wh, analysis.usable[station].wh
        return figures.add(
            "route.gained",
            "Gain over the station alone",
            after_wh - before_wh,
            "Wh",
            "{after} − {before}",
            ("definition",),
            after=figures.term(f"store.{station}.usable", "usable then"),
            before=Term("usable now", before_wh, "Wh"),
        )
    feeding = analysis.link_operations[link]
    if not feeding.full.watts or context.network.is_source(feeding.source):
        return 0.0
    return figures.add(
        "route.gained",
        "Energy from the station beyond its own",
        analysis.usable[feeding.source].wh * feeding.way_efficiency * feeding.efficiency,
        "Wh",
        "{outside} × {way} × {charge}",
        ("trade-growing",),
        outside=figures.term(f"store.{feeding.source}.usable"),
        way=Term("share that arrives at the input", feeding.way_efficiency, "share"),
        charge=Term("charging efficiency", feeding.efficiency, "share"),
    )


def price_a_wh(price: float | None, gained_wh: float, figures: WorkedFigures) -> float | None:
    """What a delivered Wh costs; None where nothing is bought, or nothing gained."""
    if not price or gained_wh <= 0:
        return None
    return figures.add(
        "route.price_a_wh",
        "Price per delivered Wh",
        price / gained_wh,
        "",
        "{price} ÷ {gained}",
        ("definition",),
        price=Term("to buy", price, ""),
        gained=figures.term("route.gained"),
    )


def refill_by_charger(context: Context, bank: str, figures: WorkedFigures) -> float:
    """Hours to fill an outside battery at its gentle rate. [h]"""
    keep = next(x.reserve for x in context.network.stores if x.id == bank)
    rate_c = context.network.assumed["kind_rate_c"]
    return figures.add(
        "route.refill_h",
        "Hours to recharge the battery",
        (1 - keep) / rate_c * TAPER,
        "h",
        "(1 − {keep}) ÷ {rate} × {taper}",
        ("trade-kind", "trade"),
        keep=Term("reserve", keep, "share"),
        rate=Term("rate of its charger", rate_c, "C"),
        taper=Term("factor for the taper", TAPER, ""),
    )


def refill_by_input(context: Context, station: str, watts: float, figures: WorkedFigures) -> float:
    """Hours to fill a station through its own input. [h]"""
    found = context.network.station(station)
    share = found.charge_efficiency if found is not None else 1.0
    return figures.add(
        "route.refill_h",
        "Hours to recharge the station",
        context.analysis.usable[station].wh / (watts * share) * TAPER,
        "h",
        "{wh} ÷ ({watts} × {share}) × {taper}",
        ("definition", "trade"),
        wh=figures.term(f"store.{station}.usable"),
        watts=Term("watts of its input", watts, "W"),
        share=Term("charging efficiency", share, "share"),
        taper=Term("factor for the taper", TAPER, ""),
    )


def shown(figures: WorkedFigures, link: str | None) -> Mapping[str, Figure]:
    """The figures a route shows, and all that they build on."""
    wanted = [key for key in figures.by_key if key.startswith(("route.", "run.hours"))]
    wanted += [f"link.{link}.watts", f"link.{link}.source_a"] if link is not None else []
    found: dict[str, Figure] = {}
    while wanted:
        key = wanted.pop()
        figure = figures.by_key.get(key)
        if figure is None or key in found:
            continue
        found[key] = figure
        wanted += [term.figure for term in figure.terms.values() if term.figure]
    return found
