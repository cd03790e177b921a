"""Workings of what is needed."""

import math

from graveljar.core.analysis.bank_sizing import MAX_PARALLEL, BankChoice, Needed, usable_with
from graveljar.core.context import Context
from graveljar.core.network.schedule import DAY_H
from graveljar.core.network.standard_sizes import SYSTEM_VOLTS
from graveljar.core.workings.working import Figures, Term, summed


def keep_needed(figures: Figures, context: Context) -> None:
    """Keep the figures of the need, and of each choice of system volts."""
    goal, needed, whole = (
        context.network.design.goal,
        context.analysis.needed,
        context.analysis.whole,
    )
    if needed is None:
        return
    day = figures.term("day.wh")
    if whole is not context.analysis:
        day = figures.put("a day with every load connected", whole.day.wh, "Wh")
    days, rest_h = divmod(goal.hours, DAY_H)
    plain = whole.day.plain
    once: dict[str, Term] = {}
    if plain is not None:
        day = figures.put("a day without what runs once", plain.wh, "Wh")
        once_wh = needed.goal_wh - plain.until(goal.hours)
        once["once"] = figures.put("what runs once a week, on the first day", once_wh, "Wh")
    figures.add(
        "needed.goal_wh",
        "Energy used until the goal",
        needed.goal_wh,
        "Wh",
        "{days} × {day} + {rest} + {once}" if once else "{days} × {day} + {rest}",
        ("definition",),
        "The last part of a day counts what runs in it, from the hour of the start.",
        days=figures.put("whole days", days, ""),
        day=day,
        rest=figures.put(f"use in the last {rest_h:g} h", (plain or whole.day).until(rest_h), "Wh"),
        **once,
    )
    figures.add(
        "needed.wh",
        "Smallest usable energy",
        needed.usable_wh,
        "Wh",
        "{use} × (1 + {guess}) ÷ (1 − {ageing})",
        ("definition",),
        use=figures.term("needed.goal_wh"),
        guess=figures.put("margin for guesses", goal.guess_margin, "share"),
        ageing=figures.put("margin for ageing", goal.ageing_margin, "share"),
    )
    for volts, _ in SYSTEM_VOLTS:
        figures.add(
            f"needed.ah_{volts:g}",
            f"The same as charge at {volts:g} V",
            needed.usable_wh / volts,
            "Ah",
            "{wh} ÷ {volts}",
            ("definition",),
            wh=figures.term("needed.wh"),
            volts=figures.put("nominal volts", volts, "V"),
        )
    carrying = [x for x in whole.network.inverters if whole.demand.asked[x.id].watts]
    if carrying:
        terms = {
            f"i{index}": figures.put(
                inverter.name,
                max(whole.demand.asked[inverter.id].watts,
                    whole.demand.asked[inverter.id].volt_amps),
                "W",
            )
            for index, inverter in enumerate(carrying)
        }  # fmt: skip
        figures.add(
            "needed.inverter_w",
            "Smallest continuous rating of the inverter",
            needed.inverter_w,
            "W",
            f"({summed(terms)}) ÷ {{share}}",
            ("trade-80",),
            (
                "Everything that may run together, in volt-amperes where the power factor is "
                "below 1."
            ),
            **terms,
            share=figures.put(
                "advised share of its rating",
                context.network.assumed["inverter_most_share"],
                "share",
            ),
        )
    for choice in needed.choices:
        _keep_choice(figures, context, needed, choice)


def _keep_choice(figures: Figures, context: Context, needed: Needed, choice: BankChoice) -> None:
    network = context.network
    key = f"needed.{choice.series}s"
    demand, battery = (
        context.analysis.whole.bank_demands[network.bank.id],
        network.bank.battery,
    )
    figures.add(
        f"{key}.quick_a",
        f"Current at {choice.bank_v:g} V, at nominal volts",
        choice.quick_a,
        "A",
        "{watts} ÷ {volts}",
        ("definition", "trade-voltage"),
        watts=figures.put("watts of the appliances", demand.useful_w, "W"),
        volts=figures.put("bank volts", choice.bank_v, "V"),
    )
    figures.add(
        f"{key}.design_a",
        f"Current at {choice.bank_v:g} V, at lowest volts",
        choice.design_a,
        "A",
        "{drawn} ÷ {volts}",
        ("trade",),
        drawn=figures.put("drawn from the bank", demand.drawn_w, "W"),
        volts=figures.put(
            "lowest volts",
            demand.lowest_v * choice.bank_v / network.bank_labels[network.bank.id].nominal_v,
            "V",
        ),
    )
    _keep_by_energy(figures, context, needed, choice, key)
    if choice.by_current is not None and battery.bms_a is not None:
        figures.add(
            f"{key}.by_current",
            "Batteries in parallel by current",
            choice.by_current,
            "",
            "max(up({amps} ÷ {bms}), 1)",
            ("trade",),
            amps=figures.term(f"{key}.design_a"),
            bms=figures.put("limit of one battery", battery.bms_a, "A"),
        )
    figures.add(
        f"{key}.charger_a",
        "Charger that fills the bank gently",
        choice.parallel * battery.ah * network.assumed["kind_rate_c"],
        "A",
        "{parallel} × {ah} × {rate}",
        ("trade-kind",),
        "Five hours from empty, and the last part slower. Its maker may allow more.",
        parallel=figures.put("batteries in parallel", choice.parallel, ""),
        ah=figures.put("battery charge", battery.ah, "Ah"),
        rate=figures.put("gentle rate", network.assumed["kind_rate_c"], "C"),
    )
    figures.add(
        f"{key}.by_long_life",
        "Batteries in parallel for long life",
        choice.by_long_life,
        "",
        "max(up({watts} ÷ {volts} ÷ ({rate} × {ah})), 1)",
        ("trade-kind",),
        "By the power that is drawn for an hour a day or more.",
        watts=figures.put("power for an hour or more", needed.long_w, "W"),
        volts=figures.put("bank volts", choice.bank_v, "V"),
        rate=figures.put("gentle rate", network.assumed["kind_rate_c"], "C"),
        ah=figures.put("battery charge", battery.ah, "Ah"),
    )


def _keep_by_energy(
    figures: Figures, context: Context, needed: Needed, choice: BankChoice, key: str
) -> None:
    network = context.network
    strings = choice.by_energy
    tried = min(strings, MAX_PARALLEL)
    usable = usable_with(
        network.design,
        network.bank,
        context.analysis.whole.day,
        choice.series,
        tried,
    )
    wh = network.bank_labels[network.bank.id].wh / (network.bank.series * network.bank.parallel)
    figures.add(
        f"{key}.each_wh",
        "Usable energy of one battery",
        choice.each_wh,
        "Wh",
        "{wh} × {share} × {temperature} × {peukert}",
        ("trade", "peukert"),
        "In a bank of as many as the energy needs: more batteries in parallel share the current.",
        wh=figures.put("energy by its label", wh, "Wh"),
        share=figures.term(f"store.{network.bank.id}.share"),
        temperature=figures.term(f"store.{network.bank.id}.temperature_factor"),
        peukert=figures.put("share of the label's Ah at these currents", usable.peukert, "share"),
    )
    terms = {
        "need": figures.term("needed.wh"),
        "series": figures.put("in series", choice.series, ""),
        "each": figures.term(f"{key}.each_wh"),
    }
    expression, note = "max(up({need} ÷ ({series} × {each})), 1)", ""
    if math.ceil(needed.usable_wh / (choice.series * choice.each_wh) - 1e-9) < strings:
        terms["strings"] = figures.put("tried one at a time", strings, "")
        expression = "{strings}"
        note = (
            "With one battery fewer in parallel each carries a current at which it delivers "
            "too little."
        )
    figures.add(
        f"{key}.by_energy",
        "Batteries in parallel by energy",
        strings,
        "",
        expression,
        ("definition",),
        note,
        **terms,
    )
