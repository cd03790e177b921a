"""From here on: what is left by what the meter or the display says now."""

from dataclasses import dataclass, replace
from typing import Annotated, Final

from pydantic import Field

from graveljar.core.analysis.band import band_of
from graveljar.core.analysis.charging_time import FULL
from graveljar.core.analysis.simulation import every_point
from graveljar.core.components.battery import bank_label
from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Anytime, Bank, Design, Station
from graveljar.core.model.design import MAX_LOADS
from graveljar.core.model.fields import Id, Part, Volts
from graveljar.core.readings.of_banks import rested
from graveljar.core.readings.reading import RestedReading
from graveljar.core.text import duration, quantity
from graveljar.core.views.timeline import DAWN_H
from graveljar.core.views.verdict import verdict_of

# Looked at for the time until full. Ours. [h]
LOOKS_H: Final = 168.0
DAY_H: Final = 24.0


class Now(Part):
    """What is known of a store now: its charge in per cent, rested volts or Ah used since full.

    `clock_h` is the time of day [h]. `on` are the loads that are on from now on, day and night;
    without it they run as the design has them.
    """

    store: Id
    percent: Annotated[float, Field(gt=0, le=100)] | None = None
    volts: Volts | None = None
    rested_h: Annotated[float, Field(ge=0, le=10_000)] = 0.0
    used_ah: Annotated[float, Field(ge=0, le=100_000)] | None = None
    clock_h: Annotated[float, Field(ge=0, lt=24)] = 0.0
    on: Annotated[tuple[Id, ...], Field(max_length=MAX_LOADS, strict=False)] | None = None


@dataclass(frozen=True)
class Outlook:
    """Hours left from now, and what the charge comes from. [1], [h]

    `hours` and the tenths `p10`, `p90` are None where there is no end up to the horizon. `full_h`
    is None where it does not get full in a week. `says`, `night` and `full` are sentences.
    """

    charge: float
    source: str
    hours: float | None
    p10: float | None
    p90: float | None
    says: str
    first: str
    lasts_the_night: bool
    night: str
    full_h: float | None
    full: str


def outlook_of(context: Context, now: Now) -> Outlook:
    """What is left of a design from now on.

    Raises
    ------
    InvalidDocument : no such store or load, or what is given does not tell the charge.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> found = outlook_of(Context(lamp()), Now(store="bank", percent=50.0))
    >>> round(found.hours, 1)  # 50 of 100 Ah at 5 A
    10.0
    """
    share, source = _charge(context, now)
    whole = _from_now(context.network.design, now, share)
    on = whole.loads if now.on is None else tuple(x for x in whole.loads if x.id in set(now.on))
    later = Context(whole.model_copy(update={"loads": on}))
    verdict, run = verdict_of(later), later.analysis.run
    band = band_of(later.analysis.lowered)
    full_h = _full_h(Context(whole), now.store, {x.id for x in on})
    night_h = (DAWN_H - now.clock_h) % DAY_H
    survives = run.hours is None or run.hours >= night_h
    stops = _clock(now.clock_h + (run.hours or 0.0))
    return Outlook(
        charge=share,
        source=source,
        hours=run.hours,
        p10=band.p10,
        p90=band.p90,
        says=_says(run.hours, now.clock_h),
        first=verdict.first or verdict.then,
        lasts_the_night=survives,
        night=(
            f"It lasts until {_clock(DAWN_H)}." if survives
            else f"It does not last until {_clock(DAWN_H)}: it stops at {stops}."
        ),
        full_h=full_h,
        full=(
            "It does not get full within a week, with what charges it and these loads."
            if full_h is None
            else "It is full now." if full_h == 0
            else f"Full in {duration(full_h)}, at {_clock(now.clock_h + full_h)}."
        ),
    )  # fmt: skip


def _says(hours: float | None, clock_h: float) -> str:
    if hours is None:
        return "Longer than simulated."
    if not hours:
        return "Nothing is left."
    return f"{duration(hours)} left, until {_clock(clock_h + hours)}."


def _charge(context: Context, now: Now) -> tuple[float, str]:
    """The charge now, and where it comes from. [1]"""
    stores = {x.id: x for x in context.network.design.stores}
    store = stores.get(now.store)
    if not isinstance(store, Bank | Station):
        raise _refused("/now/store", f"“{now.store}” is no battery or station of this design.")
    given = [x for x in ("percent", "volts", "used_ah") if getattr(now, x) is not None]
    if len(given) != 1:
        raise _refused("/now", "Say one of per cent, rested volts or Ah used since full.")
    if now.percent is not None:
        return now.percent / 100, f"{quantity(now.percent / 100, 'share')} on its meter or display"
    if isinstance(store, Station):
        raise _refused("/now", f"{store.name} shows its charge on its display: give the per cent.")
    if now.used_ah is not None:
        ah = bank_label(store).ah
        if now.used_ah >= ah:
            raise _refused(
                "/now/used_ah",
                f"{quantity(now.used_ah, 'Ah')} used is all of the {quantity(ah, 'Ah')} it holds.",
            )
        return 1 - now.used_ah / ah, f"{quantity(now.used_ah, 'Ah')} used of {quantity(ah, 'Ah')}"
    reading = RestedReading(subject=store.id, volts=now.volts or 0.0, rested_h=now.rested_h)
    judged = rested(context, reading)
    share = next((x.value for x in judged.results if x.name == "Charge"), None)
    if share is None or share <= 0:
        raise _refused("/now/volts", f"{judged.says} {judged.do}".strip())
    return share, f"{quantity(now.volts or 0.0, 'V', 4)} at rest"


def _from_now(design: Design, now: Now, share: float) -> Design:
    """The design as it stands now: its charge and the time of day; loads that are on stay on."""
    stores = tuple(
        x.model_copy(update={"starts_at": share}) if x.id == now.store else x for x in design.stores
    )
    changed: dict[str, object] = {
        "stores": stores,
        "setting": design.setting.model_copy(update={"starts_at_h": now.clock_h}),
    }
    if now.on is not None:
        known = {x.id for x in design.loads}
        unknown = [x for x in now.on if x not in known]
        if unknown:
            raise _refused("/now/on", f"“{unknown[0]}” is no load of this design.")
        always = {"when": Anytime(hours=DAY_H), "once": False}
        changed["loads"] = tuple(
            x.model_copy(update=always) if x.id in set(now.on) else x for x in design.loads
        )
    return design.model_copy(update=changed)


def _full_h(context: Context, store: str, on: set[str]) -> float | None:
    """Hours until a store is full, with some loads on; None where it is not within a week. [h]"""
    lowered = context.analysis.lowered
    if not lowered.links:
        return None
    place = lowered.place[store]
    full = min(float(lowered.store_records[place]["full_at"]), 1.0) - FULL
    # Loads that are off are there and draw nothing: the run goes on without them.
    demand = lowered.week.demand.copy()
    demand[:, [load.id not in on for load in lowered.loads]] = 0.0
    running = replace(lowered, week=lowered.week._replace(demand=demand))
    for hours, charge, *_ in every_point(running, LOOKS_H):
        there = charge[:, place] >= full
        if there.any():
            return float(hours[there.argmax()])
    return None


def _clock(hour: float) -> str:
    """Time of day, with the days that have passed: "04:40", "07:00 in 2 days"."""
    minutes = round(hour * 60)
    days, rest = divmod(minutes, 24 * 60)
    said = f"{rest // 60:02}:{rest % 60:02}"
    if not days:
        return said
    return f"{said} tomorrow" if days == 1 else f"{said} in {days} days"


def _refused(path: str, message: str) -> InvalidDocument:
    return InvalidDocument(message, (Problem(path, "outlook", message),))
