"""Workings of the day and of the hours: the simple sum first, then the stepped run."""

import math

from graveljar.core.analysis.delivery import deliveries_of
from graveljar.core.context import Context
from graveljar.core.model import Stage, Station
from graveljar.core.network.schedule import DAY_H
from graveljar.core.text import quantity
from graveljar.core.workings.working import Figures, Term, summed


def keep_run(figures: Figures, context: Context) -> None:
    """Keep the figures of the day's energy and the run."""
    network = context.network
    day = context.analysis.day
    terms = {
        f"l{index}": figures.term(f"load.{load.id}.at_bank", load.name)
        for index, load in enumerate(network.design.loads)
        if load.id in day.loads
    }
    for index, stage in enumerate(network.stages):
        if day.idle[stage.id]:
            _keep_idle(figures, context, stage)
            terms[f"s{index}"] = figures.term(f"stage.{stage.id}.idle_wh", f"{stage.name}, idle")
    for index, store in enumerate(network.design.stores):
        own_wh = day.idle_wh(store.id)
        if isinstance(store, Station) and own_wh:
            hours = day.on_h[store.id]
            steady = math.isclose(own_wh, store.idle_w * hours, rel_tol=1e-9)
            own, parts = _own_terms(figures, own_wh, hours, store.idle_w if steady else None)
            key, name = f"store.{store.id}.own_wh", f"{store.name}, own draw a day"
            note = "Its electronics, while it is on."
            figures.add(key, name, own_wh, "Wh", own, ("definition",), note, **parts)
            terms[f"o{index}"] = figures.term(f"store.{store.id}.own_wh")
    figures.add(
        "day.wh", "A day's use at the bank", day.wh, "Wh", summed(terms), ("definition",), **terms
    )
    if len(network.held) == 1 and not network.station(network.held[0].id):
        volts = network.bank_labels[network.held[0].id].nominal_v
        figures.add(
            "day.ah",
            "A day's use in Ah of the bank",
            day.wh / volts,
            "Ah",
            "{day} ÷ {volts}",
            ("definition",),
            "Of one bank only: Ah of different volts do not add up.",
            day=figures.term("day.wh"),
            volts=figures.put("nominal volts of the bank", volts, "V"),
        )
    _keep_losses(figures, context)
    _keep_usable(figures, context)
    if day.wh:
        used = sum(x.used_wh + x.standby_wh for x in day.loads.values())
        figures.add(
            "day.path_efficiency",
            "Share that reaches the appliances",
            used / day.wh,
            "share",
            "{used} ÷ {drawn}",
            ("definition",),
            used=figures.put("reaches the appliances", used, "Wh"),
            drawn=figures.term("day.wh"),
        )
        _keep_hours(figures, context)


def _keep_idle(figures: Figures, context: Context, stage: Stage) -> None:
    """Idle draw in a day, and what it costs at the bank."""
    day, rail = context.analysis.day, context.network.rails[stage.id]
    own_wh, hours, label_w = (
        day.idle_wh(stage.id),
        day.on_h[stage.id],
        context.network.losses[stage.id].p0,
    )
    steady = math.isclose(own_wh, label_w * hours, rel_tol=1e-9)
    own, terms = _own_terms(figures, own_wh, hours, label_w if steady else None)
    if not day.given[stage.id]:
        cable_wh = float(day.rails[context.analysis.lowered.place[stage.id]]["cable"])
        terms["cable"] = figures.put("lost in its cable", cable_wh, "Wh")
        own = f"({own} + {{cable}})"
    terms["cost"] = figures.put("at the bank for each Wh", day.cost[str(rail.parent)], "")
    name = f"{stage.name}, idle, a day"
    key, note = f"stage.{stage.id}.idle_wh", "Awake or asleep, at the bank."
    at_bank_wh, sources = day.idle[stage.id], ("definition",)
    figures.add(key, name, at_bank_wh, "Wh", f"{own} × {{cost}}", sources, note, **terms)


def _own_terms(
    figures: Figures, own_wh: float, hours: float, watts: float | None
) -> tuple[str, dict[str, Term]]:
    """What a part draws itself: its label's watts, if it draws those all the time, or counted."""
    if watts is None:
        named = f"its own draw, counted over the {quantity(hours, 'h')} it is powered"
        return "{own}", {"own": figures.put(named, own_wh, "Wh")}
    powered = figures.put("hours it is powered", hours, "h")
    return "{idle} × {hours}", {"idle": figures.put("idle watts", watts, "W"), "hours": powered}


def _keep_losses(figures: Figures, context: Context) -> None:
    day = context.analysis.day
    loads, rails = day.load_records, day.rails
    parts = {
        "stages": figures.put(
            "in inverters and converters", float(rails["conversion"].sum()), "Wh"
        ),
        "cables": figures.put(
            "in cables", float(rails["cable"].sum() + loads["cable"].sum()), "Wh"
        ),
        "adapters": figures.put("in plug-in adapters", float(loads["adapter"].sum()), "Wh"),
    }
    figures.add(
        "day.loss",
        "Lost in conversion and cables, a day",
        day.lost_wh,
        "Wh",
        summed(parts),
        ("inverter-loss", "ohm", "assumption"),
        **parts,
    )


def _keep_usable(figures: Figures, context: Context) -> None:
    """What comes out where the loads are: of a store behind a link, what arrives."""
    terms, parts = {}, []
    for index, reach in enumerate(deliveries_of(context.analysis)):
        terms[f"u{index}"] = figures.term(
            f"store.{reach.store}.usable", context.network.names[reach.store]
        )
        parts.append(f"{{u{index}}}")
        if reach.link is not None:
            terms[f"s{index}"] = figures.put("share that arrives and is kept", reach.share, "share")
            parts[-1] += f" × {{s{index}}}"
    figures.add(
        "run.usable",
        "Usable energy where the loads are",
        sum(context.analysis.usable[x.store].wh * x.share for x in deliveries_of(context.analysis)),
        "Wh",
        " + ".join(parts) or "0",
        ("trade", "trade-growing") if context.network.design.links else ("trade",),
        **terms,
    )


def _keep_hours(figures: Figures, context: Context) -> None:
    run, day = context.analysis.run, context.analysis.day
    usable_wh = figures.values["run.usable"].value
    note = "The day's use spread evenly, without any cut-out. The run steps through the day."
    plain = day.plain
    if plain is not None and plain.wh and usable_wh > day.wh:
        figures.add(
            "run.quick_hours",
            "Hours by the simple sum",
            (usable_wh - day.once_wh) / plain.wh * DAY_H,
            "h",
            "({usable} − {once}) ÷ {day} × 24",
            ("definition",),
            note,
            usable=figures.term("run.usable"),
            once=figures.put("what runs once", day.once_wh, "Wh"),
            day=figures.put("a day without what runs once", plain.wh, "Wh"),
        )
    else:
        figures.add(
            "run.quick_hours",
            "Hours by the simple sum",
            usable_wh / day.wh * DAY_H,
            "h",
            "{usable} ÷ {day} × 24",
            ("definition",),
            note,
            usable=figures.term("run.usable"),
            day=figures.term("day.wh"),
        )
    if run.hours:
        begins_h = context.network.design.setting.starts_at_h
        midnights, ends_h = divmod(begins_h + run.hours, DAY_H)
        given = quantity(run.released_until_wh, "Wh")
        figures.add(
            "run.hours",
            "Until it stops, by simulation",
            run.hours,
            "h",
            "{midnights} × 24 + {ends} − {begins}",
            ("design", "ohm", "inverter-loss"),
            (
                "Read from the simulated run, which goes from event to event through the day: "
                "voltage under load, cut-outs and restarts, losses at each load, the charge "
                f"left. Until then the cells supply {given}."
            ),
            midnights=figures.put("midnights it runs past", midnights, ""),
            ends=figures.put("time of day at which it stops", ends_h, "h"),
            begins=figures.put("time of day at which it begins", begins_h, "h"),
        )
    _keep_balance(figures, context)


def _keep_balance(figures: Figures, context: Context) -> None:
    run = context.analysis.run
    rails, loads, stores = run.rails, run.loads, run.stores
    parts = {
        "loads": figures.put(
            "to the appliances", float((loads["used"] + loads["waited"]).sum()), "Wh"
        ),
        "idle": figures.put("idle draw", float(rails["idle"].sum()), "Wh"),
        "stages": figures.put(
            "in inverters and converters", float(rails["conversion"].sum()), "Wh"
        ),
        "adapters": figures.put("in plug-in adapters", float(loads["adapter"].sum()), "Wh"),
        "cables": figures.put(
            "in cables", float(rails["cable"].sum() + loads["cable"].sum()), "Wh"
        ),
        "inside": figures.put("in the batteries' resistance", float(stores["inside"].sum()), "Wh"),
        "rate": figures.put("for high currents (Peukert)", float(stores["rate_wh"].sum()), "Wh"),
    }
    figures.add(
        "run.released",
        "Supplied by the cells in the run",
        run.released_wh,
        "Wh",
        summed(parts),
        ("definition",),
        "Energy in equals energy out: the parts are counted separately and add up.",
        **parts,
    )
