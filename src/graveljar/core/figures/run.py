"""Workings of the day and of the hours it lasts."""

from graveljar.core.day import DAY_H
from graveljar.core.facts import Facts
from graveljar.core.working import Figures, Term, summed


def keep_run(figures: Figures, facts: Facts) -> None:
    """Keep the figures of the day's energy and the run."""
    run, day = facts.run, facts.run.day
    terms = {
        f"l{index}": figures.term(f"load.{load.id}.at_bank", load.name)
        for index, load in enumerate(facts.design.loads)
        if load.id in day.loads
    }
    if facts.system.loss is not None and facts.inverter is not None:
        _keep_idle(figures, facts)
        terms["idle"] = figures.term("day.idle")
    figures.add(
        "day.wh",
        "A day's use at the bank",
        day.wh,
        "Wh",
        summed(terms),
        ("definition",),
        **terms,
    )
    figures.add(
        "day.loss",
        "Lost in conversion",
        day.conversion_wh + day.adapter_wh,
        "Wh",
        "{inverter} + {adapters}",
        ("inverter-loss", "assumption"),
        inverter=Term("in the inverter, idle apart", day.conversion_wh, "Wh"),
        adapters=Term("in plug-in adapters", day.adapter_wh, "Wh"),
    )
    used = sum(x.used_wh + x.standby_wh for x in day.loads.values())
    if day.wh:
        figures.add(
            "day.path_efficiency",
            "Share that reaches the appliances",
            used / day.wh,
            "share",
            "{used} ÷ {drawn}",
            ("definition",),
            used=Term("reaches the appliances", used, "Wh"),
            drawn=figures.term("day.wh"),
        )
        _keep_hours(figures, facts)
    if run.cut_out_charge is not None and facts.inverter is not None:
        _keep_cut_out(figures, facts)


def _keep_idle(figures: Figures, facts: Facts) -> None:
    inverter, day = facts.inverter, facts.run.day
    if inverter is None:
        return
    asleep_h = sum(s.hours for s in day.segments if s.inverter == "asleep")
    terms = {
        "idle": Term("idle watts", inverter.idle_w, "W"),
        "on": Term("hours switched on", day.on_h, "h"),
    }
    expression = "{idle} × {on}"
    if asleep_h and inverter.sleep is not None:
        terms["sleep"] = Term("watts asleep", inverter.sleep.watts, "W")
        terms["asleep"] = Term("hours asleep", asleep_h, "h")
        expression += " + {sleep} × {asleep}"
    figures.add(
        "day.idle", "Inverter idle, a day", day.idle_wh, "Wh", expression, ("definition",), **terms
    )


def _keep_hours(figures: Figures, facts: Facts) -> None:
    run, day = facts.run, facts.run.day
    if not run.hours:
        return
    usable = figures.term("bank.usable")
    a_day = figures.term("day.wh")
    note = "The day's use is taken as even through the day: no times of day are known here."
    if run.cause == "inverter cut-out" and run.cut_out_charge is not None:
        figures.add(
            "run.hours",
            "Until the inverter cuts out",
            run.hours,
            "h",
            "{usable} × (1 − {charge}) ÷ {share} ÷ {day} × 24",
            ("definition",),
            note,
            usable=usable,
            charge=Term("charge at the cut-out", run.cut_out_charge, "share"),
            share=figures.term("bank.share"),
            day=a_day,
        )
        return
    figures.add(
        "run.hours",
        "Until the bank meets its keep-back",
        run.usable.wh / day.wh * DAY_H,
        "h",
        "{usable} ÷ {day} × 24",
        ("definition",),
        note,
        usable=usable,
        day=a_day,
    )


def _keep_cut_out(figures: Figures, facts: Facts) -> None:
    inverter = facts.inverter
    if inverter is None:
        return
    figures.add(
        "run.cut_out_open_v",
        "Open-circuit volts at which it cuts out",
        inverter.accepts.least_v + facts.demand.design_a * facts.system.rest.resistance_ohm,
        "V",
        "{least} + {amps} × {ohm}",
        ("ohm",),
        "What the bank must have inside, to leave the cut-out volts at its terminals.",
        least=Term("cut-out volts", inverter.accepts.least_v, "V"),
        amps=figures.term("bank.running_design_a"),
        ohm=Term("resistance of the bank", facts.system.rest.resistance_ohm, "Ω"),
    )
