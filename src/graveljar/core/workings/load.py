"""Workings of each load: watts, start, energy a day, and what the bank gives for it."""

from graveljar.core.components.load import (
    day_wh,
    one_start_w,
    one_w,
    running_h,
    standby_h,
    start_factor,
)
from graveljar.core.context import Context
from graveljar.core.model import ByAmps, ByWatts, Load
from graveljar.core.network.load_at_rail import via_adapter
from graveljar.core.workings.working import Figures, summed


def keep_loads(figures: Figures, context: Context) -> None:
    """Keep the figures of each load, then what they add up to."""
    for load in context.network.design.loads:
        _keep_watts(figures, load)
        _keep_amps(figures, load)
        _keep_start(figures, context, load)
        _keep_day(figures, load)
        _keep_at_bank(figures, context, load)


def _keep_watts(figures: Figures, load: Load) -> None:
    key, name = f"load.{load.id}.watts", f"{load.name}, one running"
    match load.demand:
        case ByWatts(watts=watts):
            terms = {"watts": figures.put("watts as given", watts, "W")}
            expression = "{watts}"
        case ByAmps(amps=amps):
            terms = {
                "volts": figures.put("volts", load.supply.volts, "V"),
                "amps": figures.put("amps", amps, "A"),
            }
            expression = "{volts} × {amps}"
            if load.supply.kind == "ac":
                terms["factor"] = figures.put("power factor", load.power_factor, "")
                expression += " × {factor}"
        case demand:
            terms = {
                "wh": figures.put("energy a day", demand.wh, "Wh"),
                "hours": figures.put("hours a day", load.hours_per_day, "h"),
                "duty": figures.put("duty", load.duty, "share"),
            }
            expression = "{wh} ÷ ({hours} × {duty})"
    figures.add(key, name, one_w(load), "W", expression, ("definition",), **terms)


def _keep_amps(figures: Figures, load: Load) -> None:
    ac = load.supply.kind == "ac"
    factor = load.power_factor if ac else 1.0
    figures.add(
        f"load.{load.id}.amps",
        f"{load.name}, current of one",
        one_w(load) / (load.supply.volts * factor),
        "A",
        "{watts} ÷ ({volts} × {factor})" if ac else "{watts} ÷ {volts}",
        ("definition",),
        watts=figures.term(f"load.{load.id}.watts"),
        volts=figures.put("volts", load.supply.volts, "V"),
        **({"factor": figures.put("power factor", factor, "")} if ac else {}),
    )


def _keep_start(figures: Figures, context: Context, load: Load) -> None:
    by_rule = load.start.method == "factor" and load.start.factor is None
    figures.add(
        f"load.{load.id}.start",
        f"{load.name}, one starting",
        one_start_w(load, context.network.assumed),
        "W",
        "{watts} × {factor}",
        ("trade-start",) if by_rule else ("design",),
        "A measured start counts as a factor on the running watts.",
        watts=figures.term(f"load.{load.id}.watts"),
        factor=figures.put("starting factor", start_factor(load, context.network.assumed), ""),
    )


def _keep_day(figures: Figures, load: Load) -> None:
    terms = {
        "watts": figures.term(f"load.{load.id}.watts"),
        "hours": figures.put("hours a day", load.hours_per_day, "h"),
        "duty": figures.put("duty", load.duty, "share"),
        "count": figures.put("count", load.count, ""),
    }
    figures.add(
        f"load.{load.id}.one_day",
        f"{load.name}, one, running, a day",
        one_w(load) * running_h(load),
        "Wh",
        "{watts} × {hours} × {duty}",
        ("definition",),
        **{key: term for key, term in terms.items() if key != "count"},
    )
    expression = "{watts} × {hours} × {duty} × {count}"
    if load.standby_w:
        terms["standby"] = figures.put("standby", load.standby_w, "W")
        terms["waiting"] = figures.put("hours waiting", standby_h(load), "h")
        expression = "({watts} × {hours} × {duty} + {standby} × {waiting}) × {count}"
    figures.add(
        f"load.{load.id}.day",
        f"{load.name}, a day",
        day_wh(load),
        "Wh",
        expression,
        ("definition",),
        **terms,
    )


def _keep_at_bank(figures: Figures, context: Context, load: Load) -> None:
    day = context.analysis.day.loads.get(load.id)
    if day is None:
        return
    terms = {"used": figures.put("used", day.used_wh, "Wh")}
    if day.standby_wh:
        terms["standby"] = figures.put("standby", day.standby_wh, "Wh")
    if day.loss_wh:
        through = via_adapter(load, context.network.rails)
        name = "lost in cables, stages and the adapter" if through else "lost in cables and stages"
        terms["loss"] = figures.put(name, day.loss_wh, "Wh")
    figures.add(
        f"load.{load.id}.at_bank",
        f"{load.name}, a day at the bank",
        day.at_bank_wh,
        "Wh",
        summed(terms),
        ("inverter-loss",) if day.loss_wh else ("definition",),
        "Losses of cables and stages; the idle draw of stages is counted separately."
        if day.loss_wh
        else "",
        **terms,
    )
    # Ah say nothing where several stores give them.
    if len(context.network.held) == 1 and not context.network.station(context.network.held[0].id):
        volts = context.network.bank_labels[context.network.held[0].id].nominal_v
        figures.add(
            f"load.{load.id}.ah",
            f"{load.name}, a day in Ah of the bank",
            day.at_bank_wh / volts,
            "Ah",
            "{day} ÷ {volts}",
            ("definition",),
            day=figures.term(f"load.{load.id}.at_bank"),
            volts=figures.put("nominal volts of the bank", volts, "V"),
        )
