"""Workings of the inverter: what runs together, what starts, what it draws."""

from graveljar.core.demand import System, Together
from graveljar.core.document import Inverter
from graveljar.core.facts import Facts
from graveljar.core.inverter import MOST_SURGE_FACTOR
from graveljar.core.working import Figures, Term, summed


def keep_inverter(figures: Figures, facts: Facts) -> None:
    """Keep the inverter's figures, and the bank's currents with everything running."""
    if facts.inverter is not None:
        _keep_label(figures, facts, facts.inverter)
        if facts.system.loss is not None:
            _keep_running(figures, facts, facts.inverter)
    _keep_currents(figures, facts)


def _keep_label(figures: Figures, facts: Facts, inverter: Inverter) -> None:
    continuous = Term("continuous watts", inverter.continuous_w, "W")
    nominal = Term("nominal volts", inverter.nominal_v, "V")
    figures.add(
        "inverter.full_quick_a",
        "Amps at full load, quick",
        inverter.continuous_w / inverter.nominal_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        "The quick figure leaves losses and sag out; size nothing by it.",
        watts=continuous,
        volts=nominal,
    )
    figures.add(
        "inverter.full_design_a",
        "Amps at full load, for the design",
        inverter.continuous_w / (inverter.full_load.efficiency * inverter.accepts.least_v),
        "A",
        "{watts} ÷ ({efficiency} × {volts})",
        ("trade",),
        "At the cut-out and full-load efficiency: a constant-power load draws most there.",
        watts=continuous,
        efficiency=Term("full-load efficiency", inverter.full_load.efficiency, "share"),
        volts=Term("cut-out volts", inverter.accepts.least_v, "V"),
    )
    figures.add(
        "inverter.idle_a",
        "Amps while idle",
        inverter.idle_w / inverter.nominal_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        watts=Term("idle watts", inverter.idle_w, "W"),
        volts=nominal,
    )
    stated = inverter.surge_s is not None
    factor = MOST_SURGE_FACTOR if stated else facts.system.assumed["trusted_surge_factor"]
    figures.add(
        "inverter.trusted_surge_w",
        "Surge it is trusted with",
        facts.surge_w,
        "W",
        "min({printed}, {factor} × {watts})",
        ("trade-surge",),
        printed=Term("printed surge", inverter.surge_w, "W"),
        factor=Term("trusted multiple", factor, ""),
        watts=continuous,
    )


def _keep_running(figures: Figures, facts: Facts, inverter: Inverter) -> None:
    for key, name, value, unit in (
        ("inverter.running_w", "Running together", facts.ac.watts, "W"),
        ("inverter.running_va", "Apparent power together", facts.ac.volt_amps, "VA"),
    ):
        terms = _terms(facts.system, facts.ac, unit)
        figures.add(
            key,
            name,
            value,
            unit,
            summed(terms),
            ("definition",),
            "Of the loads kept apart, the largest alone.",
            **terms,
        )
    figures.add(
        "inverter.share",
        "Share of its continuous watts",
        max(facts.ac.watts, facts.ac.volt_amps) / inverter.continuous_w,
        "share",
        "max({watts}, {va}) ÷ {continuous}",
        ("trade-80",),
        watts=figures.term("inverter.running_w"),
        va=figures.term("inverter.running_va"),
        continuous=Term("continuous watts", inverter.continuous_w, "W"),
    )
    if facts.system.loss is not None:
        loss = facts.system.loss
        figures.add(
            "inverter.draws_w",
            "Drawn by the inverter with all running",
            loss.dc_w(facts.ac.watts),
            "W",
            "{p0} + {k1} × {watts} + {k2} × {watts}²",
            ("inverter-loss",),
            "k1 and k2 follow from the idle watts and the two efficiencies of the label.",
            p0=Term("idle, p0", loss.p0, "W"),
            k1=Term("k1", loss.k1, ""),
            k2=Term("k2", loss.k2, "1/W"),
            watts=figures.term("inverter.running_w"),
        )
        figures.add(
            "inverter.input_a",
            "Amps into the inverter",
            loss.dc_w(facts.ac.watts) / facts.demand.lowest_v,
            "A",
            "{drawn} ÷ {volts}",
            ("trade",),
            "At the lowest volts it still runs at: a constant-power load draws most there.",
            drawn=figures.term("inverter.draws_w"),
            volts=Term("lowest volts", facts.demand.lowest_v, "V"),
        )
    figures.add(
        "inverter.output_a",
        "Amps out of the inverter",
        facts.ac.volt_amps / inverter.output_v,
        "A",
        "{va} ÷ {volts}",
        ("definition",),
        va=figures.term("inverter.running_va"),
        volts=Term("output volts", inverter.output_v, "V"),
    )
    if facts.start is not None:
        figures.add(
            "inverter.worst_start_w",
            f"Worst start: {facts.start.load.name}",
            facts.start.watts,
            "W",
            "{others} + {start}",
            ("trade-start",),
            "One appliance starts while everything else that may run is running.",
            others=Term("running meanwhile", facts.start.others_w, "W"),
            start=Term("its start", facts.start.one_start_w, "W"),
        )


def _terms(system: System, ac: Together, unit: str) -> dict[str, Term]:
    """What each load adds to the watts, or to the volt-amperes, on the AC rail."""
    return {
        f"l{index}": Term(
            load.name, system.ac_w(load) / (load.power_factor if unit == "VA" else 1.0), unit
        )
        for index, load in enumerate(ac.loads)
    }


def _keep_currents(figures: Figures, facts: Facts) -> None:
    demand = facts.demand
    figures.add(
        "bank.dc_a",
        "Amps straight from the bank",
        demand.dc_w / demand.lowest_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        watts=Term("on the bank's rail", demand.dc_w, "W"),
        volts=Term("lowest volts", demand.lowest_v, "V"),
    )
    figures.add(
        "bank.running_quick_a",
        "Amps with all running, quick",
        demand.quick_a,
        "A",
        "({ac} + {dc}) ÷ {volts}",
        ("definition",),
        "The quick figure leaves losses and sag out; size nothing by it.",
        ac=Term("on the AC rail", demand.ac_w, "W"),
        dc=Term("on the bank's rail", demand.dc_w, "W"),
        volts=figures.term("bank.volts"),
    )
    figures.add(
        "bank.running_design_a",
        "Amps with all running, for the design",
        demand.design_a,
        "A",
        "{drawn} ÷ {volts}",
        ("trade",),
        "Watts drawn, losses and all, at the lowest volts it still runs at.",
        drawn=Term("drawn from the bank", demand.drawn_w, "W"),
        volts=Term("lowest volts", demand.lowest_v, "V"),
    )
