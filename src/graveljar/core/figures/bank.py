"""Workings of the bank at rest and of what may be taken out of it."""

from itertools import pairwise

from graveljar.core.bank import chemistry_of, temperature_range
from graveljar.core.facts import Facts
from graveljar.core.working import Figures, Term


def keep_bank(figures: Figures, facts: Facts) -> None:
    """Keep the bank's figures."""
    bank, battery, rest = facts.bank, facts.bank.battery, facts.system.rest
    kind = chemistry_of(battery)
    volts = Term("battery volts", battery.volts, "V")
    ah = Term("battery charge", battery.ah, "Ah")
    series = Term("batteries in series", bank.series, "")
    parallel = Term("strings in parallel", bank.parallel, "")
    cells = Term("cells in series", rest.cells, "")
    by_definition = ("definition",)
    figures.add(
        "bank.volts",
        "Bank volts",
        rest.nominal_v,
        "V",
        "{volts} × {series}",
        by_definition,
        "Series adds volts and keeps Ah.",
        volts=volts,
        series=series,
    )
    figures.add(
        "bank.ah",
        "Bank charge",
        rest.ah,
        "Ah",
        "{ah} × {parallel}",
        by_definition,
        "Parallel adds Ah and keeps volts.",
        ah=ah,
        parallel=parallel,
    )
    figures.add(
        "bank.wh",
        "Bank energy by its label",
        rest.wh,
        "Wh",
        "{volts} × {ah}",
        by_definition,
        volts=figures.term("bank.volts"),
        ah=figures.term("bank.ah"),
    )
    for key, name, cell_v in (
        ("bank.empty_v", "Bank empty", kind.empty_v),
        ("bank.full_v", "Bank full, on charge", kind.full_v),
    ):
        figures.add(
            key,
            name,
            cell_v * rest.cells,
            "V",
            "{cell} × {cells}",
            ("trade",),
            cell=Term("volts of a cell", cell_v, "V"),
            cells=cells,
        )
    if rest.give_a is not None and battery.bms_a is not None:
        figures.add(
            "bank.give_a",
            "Current the bank may give",
            rest.give_a,
            "A",
            "{bms} × {parallel}",
            ("trade",),
            "Strings in parallel share the current; batteries in series carry all of it.",
            bms=Term("limit of one battery's protection", battery.bms_a, "A"),
            parallel=parallel,
        )
    figures.add(
        "bank.kind_a",
        "Current that is kind for long",
        facts.system.assumed["kind_rate_c"] * rest.ah,
        "A",
        "{rate} × {ah}",
        ("trade-kind",),
        rate=Term("kind rate", facts.system.assumed["kind_rate_c"], "C"),
        ah=figures.term("bank.ah"),
    )
    _keep_usable(figures, facts)


def _keep_usable(figures: Figures, facts: Facts) -> None:
    bank, usable = facts.bank, facts.run.usable
    figures.add(
        "bank.share",
        "Share that may be used",
        usable.share,
        "share",
        "1 − {keep}",
        ("trade",),
        keep=Term("kept back", bank.keep_back, "share"),
    )
    _keep_temperature(figures, facts)
    figures.add(
        "bank.peukert_factor",
        "Share of the label's Ah at these currents",
        usable.peukert,
        "share",
        "{factor}",
        ("peukert",),
        "Peukert's capacity at each current of the day, weighed by the charge drawn. "
        "No gain is counted below the rated current; lithium has next to no loss.",
        factor=Term("weighed over the day", usable.peukert, "share"),
    )
    figures.add(
        "bank.usable",
        "Usable energy",
        usable.wh,
        "Wh",
        "{wh} × {share} × {temperature} × {peukert}",
        ("trade",),
        wh=figures.term("bank.wh"),
        share=figures.term("bank.share"),
        temperature=figures.term("bank.temperature_factor"),
        peukert=figures.term("bank.peukert_factor"),
    )


def _keep_temperature(figures: Figures, facts: Facts) -> None:
    kind = chemistry_of(facts.bank.battery)
    coldest, warmest = temperature_range(facts.bank.battery)
    ambient_c = facts.design.setting.ambient_c
    curve = kind.capacity_by_temperature
    read_c = min(max(ambient_c, coldest), warmest)
    (c0, f0), (c1, f1) = next(
        pair for pair in pairwise(curve) if pair[0][0] <= read_c <= pair[1][0]
    )
    note = ""
    if read_c != ambient_c:
        note = f"The table reaches from {coldest:g} to {warmest:g} °C; its end stands."
    figures.add(
        "bank.temperature_factor",
        "Share of the capacity at this temperature",
        facts.run.usable.temperature,
        "share",
        "{f0} + ({f1} − {f0}) × ({at} − {c0}) ÷ ({c1} − {c0})",
        (kind.capacity_source,),
        note,
        f0=Term(f"share at {c0:g} °C", f0, "share"),
        f1=Term(f"share at {c1:g} °C", f1, "share"),
        at=Term("ambient", read_c, "°C"),
        c0=Term("colder entry", c0, "°C"),
        c1=Term("warmer entry", c1, "°C"),
    )
