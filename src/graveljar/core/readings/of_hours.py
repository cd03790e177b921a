"""From hours back to watts: what a load took while a store went from one charge to another."""

import math
from dataclasses import replace
from typing import Final

import numpy as np

from graveljar.core.analysis.draws import SPREADS
from graveljar.core.analysis.simulation import every_point
from graveljar.core.context import Context
from graveljar.core.model import Anytime, Bank, ByWatts, Design, Load, StartNone, Station
from graveljar.core.readings.judged import Judged, result
from graveljar.core.readings.of_loads import ENOUGH_H, energy
from graveljar.core.readings.places import part_of, refused
from graveljar.core.readings.reading import EnergyReading, LastedReading
from graveljar.core.text import number, quantity

# A display shows whole per cent. Common practice. [1]
DISPLAY_STEP: Final = 0.01
# Watts beyond which no single load is looked for, and steps of halving. Ours.
MAX_MEAN_W: Final = 50_000.0
HALVINGS: Final = 40
# Watts are found to this share. Ours. [1]
NEAR: Final = 1e-5


def lasted(context: Context, reading: LastedReading) -> Judged:
    """Mean watts of a load: those with which the design, run by the engine, ends at that charge."""
    load: Load = part_of(context, reading.subject, Load)
    place, store = _store_of(context, load)
    expected = f"{quantity(_planned(load), 'W')} on average"
    if _charge_after(context, load, reading, place, 0.0) <= reading.to_charge:
        return Judged(
            "bad", "What else is on takes more than that: the charge falls so far without it.",
            expected, "Check both charges and the hours, and what else was on.",
            sources=("trade-bench",),
        )  # fmt: skip
    mean_w = _watts(context, load, reading, place)
    if mean_w is None:
        return Judged(
            "bad", "No load on this rail takes it down so far in that time.", expected,
            "Check both charges and the hours: it cuts out or trips before.",
            sources=("trade-bench",),
        )  # fmt: skip
    spread = _spread(context, store, reading)
    found = result(
        "Mean power", mean_w, "W",
        f"run by the engine from {quantity(reading.from_charge, 'share')} to "
        f"{quantity(reading.to_charge, 'share')} in {quantity(reading.hours, 'h')}: "
        f"±{number(100 * spread, 2)} % by its capacity and by whole per cent read off",
    )  # fmt: skip
    # What does not go on and off is known in a few hours.
    hours = reading.hours if load.duty < 1 else max(reading.hours, ENOUGH_H)
    counted = EnergyReading(
        subject=load.id, wh=mean_w * hours, hours=hours, air_c=reading.air_c,
        instrument=reading.instrument, taken_on=reading.taken_on,
    )  # fmt: skip
    judged = energy(context, counted)
    low, high = (quantity(mean_w * (1 + x * spread), "W") for x in (-1, 1))
    says = f"{load.name} took {quantity(mean_w, 'W')} on average, {low} to {high}."
    others = tuple(x for x in judged.results if x.name != "Mean power")
    return replace(judged, says=says, results=(found, *others))


def _watts(context: Context, load: Load, reading: LastedReading, place: int) -> float | None:
    """The watts with which the charge ends there; None where it cuts out or trips before. [W]"""
    low_w, low_at = 0.0, 1.0
    high_w = 1.0
    while high_w < MAX_MEAN_W:
        at = _charge_after(context, load, reading, place, high_w)
        # What trips leaves more than what runs.
        if at <= reading.to_charge or at > low_at:
            break
        low_w, low_at, high_w = high_w, at, 2 * high_w
    for _ in range(HALVINGS):
        middle = 0.5 * (low_w + high_w)
        at = _charge_after(context, load, reading, place, middle)
        if reading.to_charge < at <= low_at:
            low_w, low_at = middle, at
        else:
            high_w = middle
        if high_w - low_w < NEAR * high_w:
            break
    return low_w if low_at - reading.to_charge < DISPLAY_STEP else None


def _planned(load: Load) -> float:
    """Mean watts of a load by the plan, over the hours in which it runs. [W]"""
    if isinstance(load.demand, ByWatts):
        return load.demand.watts * load.duty
    return 0.0


def _store_of(context: Context, load: Load) -> tuple[int, Bank | Station]:
    """The store that a load takes from, by its place among the stores."""
    rail = context.network.rails.get(load.rail or "")
    for place, store in enumerate(context.network.design.stores):
        if rail is not None and store.id == rail.store and isinstance(store, Bank | Station):
            return place, store
    raise refused(context, load.id, "takes nothing from a battery: its hours tell no watts")


def _charge_after(
    context: Context, load: Load, reading: LastedReading, place: int, mean_w: float
) -> float:
    """Charge of a store after those hours, with so many watts of the load all the time. [1]"""
    lowered = Context(_design(context.network.design, load, reading, place, mean_w))
    parts = [
        (points[0], points[1][:, place])
        for points in every_point(lowered.analysis.lowered, reading.hours)
    ]
    hours, charge = (np.concatenate([part[n] for part in parts]) for n in (0, 1))
    return float(np.interp(reading.hours, hours, charge)) if len(hours) else reading.from_charge


def _design(
    design: Design, load: Load, reading: LastedReading, place: int, mean_w: float
) -> Design:
    steady = {
        "demand": ByWatts(watts=max(mean_w, 1e-3)), "when": Anytime(hours=24.0), "duty": 1.0,
        "cycle_min": None, "start": StartNone(), "standby_w": 0.0, "kept_apart": False,
        "once": False, "count": 1,
    }  # fmt: skip
    loads = tuple(
        x.model_copy(update=steady) if x.id == load.id else x
        for x in design.loads
        if x.id == load.id or not reading.alone
    )
    store = design.stores[place].model_copy(
        update={"starts_at": reading.from_charge, "reserve": 0.0}
    )
    stores = (*design.stores[:place], store, *design.stores[place + 1 :])
    links = () if reading.alone else design.links
    return design.model_copy(
        update={
            "loads": loads, "stores": stores, "links": links,
            "setting": design.setting.model_copy(update={"horizon_h": reading.hours}),
            "goal": design.goal.model_copy(update={"hours": reading.hours}),
        }
    )  # fmt: skip


def _spread(context: Context, store: Bank | Station, reading: LastedReading) -> float:
    """Half of the likely range of the watts, as a share. [1]"""
    provenance = store.battery.provenance if isinstance(store, Bank) else store.provenance
    capacity = context.network.assumed[SPREADS[provenance]]
    # Each end is off by half a step, even within it: a twelfth of it squared (JCGM 100).
    read = DISPLAY_STEP / math.sqrt(6.0) / (reading.from_charge - reading.to_charge)
    return math.hypot(capacity, read)
