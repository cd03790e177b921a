"""Workings of the day and of the hours: the simple sum first, then the stepped run."""

from graveljar.core.document import Station
from graveljar.core.facts import Facts
from graveljar.core.reach import reach_of
from graveljar.core.schedule import DAY_H
from graveljar.core.words import quantity
from graveljar.core.working import Figures, Term, summed


def keep_run(figures: Figures, facts: Facts) -> None:
    """Keep the figures of the day's energy and the run."""
    day = facts.day
    terms = {
        f"l{index}": figures.term(f"load.{load.id}.at_bank", load.name)
        for index, load in enumerate(facts.design.loads)
        if load.id in day.loads
    }
    for index, stage in enumerate(facts.stages):
        if day.idle[stage.id]:
            name = f"{stage.name}, idle"
            figures.add(
                f"stage.{stage.id}.idle_wh",
                f"{name}, a day",
                day.idle[stage.id],
                "Wh",
                "{idle} × {hours} × {cost}",
                ("definition",),
                "Awake or asleep, at the bank.",
                **_idle_terms(facts, stage.id),
            )
            terms[f"s{index}"] = figures.term(f"stage.{stage.id}.idle_wh", name)
    for index, store in enumerate(facts.design.stores):
        own_wh = day.idle_wh(store.id)
        if isinstance(store, Station) and own_wh:
            figures.add(
                f"store.{store.id}.own_wh",
                f"{store.name} itself, a day",
                own_wh,
                "Wh",
                "{idle} × {hours}",
                ("definition",),
                "Its electronics, for as long as it is on.",
                idle=Term("own draw", store.idle_w, "W"),
                hours=Term("hours it is on", own_wh / store.idle_w, "h"),
            )
            terms[f"o{index}"] = figures.term(f"store.{store.id}.own_wh")
    figures.add(
        "day.wh", "A day's use at the bank", day.wh, "Wh", summed(terms), ("definition",), **terms
    )
    _keep_losses(figures, facts)
    _keep_usable(figures, facts)
    if day.wh:
        used = sum(x.used_wh + x.standby_wh for x in day.loads.values())
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


def _idle_terms(facts: Facts, stage: str) -> dict[str, Term]:
    """Idle draw on average while it is on, the hours of that, and what it costs at the bank."""
    hours, own_wh = facts.day.on_h[stage], facts.day.idle_wh(stage)
    return {
        "idle": Term("idle watts, on average", own_wh / hours, "W"),
        "hours": Term("hours it is powered", hours, "h"),
        "cost": Term("at the bank for each Wh", facts.day.idle[stage] / own_wh, ""),
    }


def _keep_losses(figures: Figures, facts: Facts) -> None:
    day = facts.day
    loads, rails = day.load_records, day.rails
    parts = {
        "stages": Term("in inverters and converters", float(rails["conversion"].sum()), "Wh"),
        "cables": Term("in cables", float(rails["cable"].sum() + loads["cable"].sum()), "Wh"),
        "adapters": Term("in plug-in adapters", float(loads["adapter"].sum()), "Wh"),
    }
    figures.add(
        "day.loss",
        "Lost on the way, a day",
        day.lost_wh,
        "Wh",
        summed(parts),
        ("inverter-loss", "ohm", "assumption"),
        **parts,
    )


def _keep_usable(figures: Figures, facts: Facts) -> None:
    """What comes out where the loads are: of a store behind a link, what arrives."""
    terms, parts = {}, []
    for index, reach in enumerate(reach_of(facts)):
        terms[f"u{index}"] = figures.term(f"store.{reach.store}.usable", facts.names[reach.store])
        parts.append(f"{{u{index}}}")
        if reach.link is not None:
            terms[f"s{index}"] = Term("share that arrives and is kept", reach.share, "share")
            parts[-1] += f" × {{s{index}}}"
    figures.add(
        "run.usable",
        "Usable energy where the loads are",
        sum(facts.usable[x.store].wh * x.share for x in reach_of(facts)),
        "Wh",
        " + ".join(parts) or "0",
        ("trade", "trade-growing") if facts.design.links else ("trade",),
        **terms,
    )


def _keep_hours(figures: Figures, facts: Facts) -> None:
    run = facts.run
    figures.add(
        "run.quick_hours",
        "Hours by the simple sum",
        figures.by_key["run.usable"].value / facts.day.wh * DAY_H,
        "h",
        "{usable} ÷ {day} × 24",
        ("definition",),
        "The day's use spread evenly, every cut-out left aside. The run steps through the day.",
        usable=figures.term("run.usable"),
        day=figures.term("day.wh"),
    )
    if run.hours:
        begins_h = facts.design.setting.starts_at_h
        midnights, ends_h = divmod(begins_h + run.hours, DAY_H)
        given = quantity(run.released_until_wh, "Wh")
        figures.add(
            "run.hours",
            "Until it stops, hour by hour",
            run.hours,
            "h",
            "{midnights} × 24 + {ends} − {begins}",
            ("design", "ohm", "inverter-loss"),
            "Read from the run, which goes from event to event through the day: volts under load, "
            "cut-outs and their return, losses at each load, the charge that is left. Until then "
            f"the cells give {given}.",
            midnights=Term("midnights it runs past", midnights, ""),
            ends=Term("time of day at which it stops", ends_h, "h"),
            begins=Term("time of day at which it begins", begins_h, "h"),
        )
    _keep_balance(figures, facts)


def _keep_balance(figures: Figures, facts: Facts) -> None:
    run = facts.run
    rails, loads, stores = run.rails, run.loads, run.stores
    parts = {
        "loads": Term("to the appliances", float((loads["used"] + loads["waited"]).sum()), "Wh"),
        "idle": Term("idle draw", float(rails["idle"].sum()), "Wh"),
        "stages": Term("in inverters and converters", float(rails["conversion"].sum()), "Wh"),
        "adapters": Term("in plug-in adapters", float(loads["adapter"].sum()), "Wh"),
        "cables": Term("in cables", float(rails["cable"].sum() + loads["cable"].sum()), "Wh"),
        "inside": Term("in the batteries' resistance", float(stores["inside"].sum()), "Wh"),
        "rate": Term("for high currents (Peukert)", float(stores["rate_wh"].sum()), "Wh"),
    }
    figures.add(
        "run.released",
        "Given by the cells in the run",
        run.released_wh,
        "Wh",
        summed(parts),
        ("definition",),
        "Energy in is energy out: the parts are counted on their own and add up.",
        **parts,
    )
