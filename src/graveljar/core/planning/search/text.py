"""A system in words: its parts, what they cost, what decided it, why nothing was found."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Final

import numpy as np

from graveljar.core.model import Design
from graveljar.core.planning.search.ask import USUAL_STRINGS, SearchAsk, SearchPart
from graveljar.core.planning.search.boxes import BoxSystem
from graveljar.core.planning.search.combos import Combo
from graveljar.core.planning.search.found import Found, UsedPart, total
from graveljar.core.planning.search.systems import Rejected, System, with_stages
from graveljar.core.planning.shelf import BatteryPart, InverterPart, PricedItem, StationPart
from graveljar.core.text import listed, quantity

RULES: Final = {
    "bank.current_above_limit": "the current of all loads",
    "bank.start_above_peak": "the current of the highest start",
    "run.must_stops_early": "the hours, with the margins",
    "start.trips_low": "the dip of the highest start",
}


# How far a system got that broke a rule of this kind, the farthest first.
_FAR: Final = ("run", "window", "start", "network", "bank", "converter", "inverter", "load")


def _far(rule: str) -> int:
    kind = rule.split(".", maxsplit=1)[0]
    return _FAR.index(kind) if kind in _FAR else len(_FAR)


def found_of(system: System, combo: Combo, strings: int, served_h: float, lost_wh: float) -> Found:
    """A system as it is shown."""
    used = tuple(_used(system, combo, strings))
    stages = [option.stage for option in combo.options]
    count = strings * system.bank.series
    title = f"{count} × {system.battery.part.name}"
    more = [stage.name for stage in stages] + [x.part.name for x in system.refill.bought]
    if more:
        title += ", " + ", ".join(more)
    return Found(
        key="|".join([system.battery.id, str(system.bank.series), system.strategy]
                     + [f"{o.stage.id}={o.source.id}" for o in combo.options] + [f"{strings:03}"]),
        title=title,
        store="bank",
        system_v=system.system_v,
        strategy=system.strategy,
        strings=strings,
        series=system.bank.series,
        price=total([x.price for x in used]),
        mass_kg=total([x.mass_kg for x in used]),
        hours=served_h if np.isfinite(served_h) else None,
        boxes=count + len(stages) + len(system.refill.bought),
        lost_wh=lost_wh,
        used=used,
        decided=_without(system.refill.left_out, "no charger on the shelf fits"),
        design=with_stages(system, stages, strings),
    )  # fmt: skip


def box_found(box: BoxSystem, strings: int, served_h: float, lost_wh: float) -> Found:
    """A station as it is shown, alone or with what feeds it."""
    used, outside = [_of(box.station, 1)], box.outside
    title, key = box.station.part.name, ["station", box.station.id, box.strategy]
    series = 1
    if outside is not None:
        series = outside.bank.series
        used.append(_of(outside.battery, strings * series))
        title += f", fed by {strings * series} × {outside.battery.part.name}"
        key += [outside.battery.id, str(series)]
        if outside.converter is not None:
            used.append(_of(outside.converter, 1))
            title += f" through {outside.converter.part.name}"
            key.append(outside.converter.id)
    return Found(
        key="|".join([*key, f"{strings:03}"]),
        title=title,
        store="station" if outside is None else "grown station",
        system_v=None,
        strategy=box.strategy,
        strings=strings,
        series=series,
        price=total([x.price for x in used]),
        mass_kg=total([x.mass_kg for x in used]),
        hours=served_h if np.isfinite(served_h) else None,
        boxes=sum(x.count for x in used),
        lost_wh=lost_wh,
        used=tuple(used),
        decided=_without(box.left_out, "no input of it fits"),
        design=box.with_strings(strings),
    )


def with_wiring(found: Found, wires: Sequence[PricedItem]) -> Found:
    """A system with its cables and fuses in its parts, its price and its mass.

    Those without a price on the shelf are named in `unpriced` and left out of the price.
    """
    priced = [UsedPart(x.name, 1, x.price, x.mass_kg, int(x.owned))
              for x in wires if x.price is not None]  # fmt: skip
    used = (*found.used, *priced)
    return replace(
        found,
        price=total([x.price for x in used]),
        mass_kg=total([x.mass_kg for x in used]),
        used=used,
        unpriced=tuple(x.name for x in wires if x.price is None),
    )


def _without(names: tuple[str, ...], why: str) -> str:
    """What does not fill it, though it fills the first store of the design."""
    return f"Without {listed(list(names))}: {why}." if names else ""


def _used(system: System, combo: Combo, strings: int) -> Iterator[UsedPart]:
    yield _of(system.battery, strings * system.bank.series)
    for option in combo.options:
        yield _of(option.source, getattr(option.stage, "parallel", 1))
    for charger in system.refill.bought:
        yield _of(charger, 1)


def _of(source: SearchPart, count: int) -> UsedPart:
    part = source.part
    return UsedPart(
        part.name,
        count,
        source.price_of(count),
        None if part.mass_kg is None else part.mass_kg * count,
        min(part.owned, count),
    )


def decided(found: Found, more: int, why: str) -> Found:
    """What set the number of its strings, and what does not fill it."""
    rule = RULES.get(why)
    if found.store == "station":
        says = "Its own battery is enough for the hours, and its sockets for the current."
    elif more:
        says = f"{found.strings} in parallel, {more} more than the minimum: more hours."
    elif rule is None:
        says = "One in parallel is enough for the hours and the current."
    else:
        fewer = "fewer cannot carry it" if why.startswith("bank.") else "fewer are not enough"
        says = f"{found.strings} in parallel for {rule}: {fewer}."
    return replace(found, decided=f"{says} {found.decided}".strip())


def why_none(design: Design, ask: SearchAsk, left: Rejected) -> str:
    """Why nothing was found, and what to do."""
    batteries = [x for x in ask.parts if isinstance(x.part, BatteryPart)]
    if not design.loads:
        return "There are no loads. Add loads on the Plan first."
    if not batteries and not any(isinstance(x.part, StationPart) for x in ask.parts):
        return "There is no battery on the shelf. Add one, or restore the starting parts."
    inverters = [x.part for x in ask.parts if isinstance(x.part, InverterPart)]
    if any(load.supply.kind == "ac" for load in design.loads) and not inverters:
        return "Some loads need mains, and there is no inverter on the shelf."
    if not left.counts:
        return (
            "No battery on the shelf makes 12, 24 or 48 V with inverters and converters "
            "that can supply these loads."
        )
    # What got farthest tells most: parts that fall out at once always are some.
    ordered = sorted(left.counts, key=lambda rule: (_far(rule), rule))
    rule, count = ordered[0], left.counts[ordered[0]]
    largest = max((x.figures.continuous_w for x in inverters), default=0.0)
    says = {
        "inverter.overloaded": (
            "No inverter on the shelf can carry the loads that run together; the largest "
            f"carries {quantity(largest, 'W', 4)}. Keep loads apart, or add a larger "
            "inverter to the shelf."
        ),
        "inverter.start_above_surge": (
            "No inverter on the shelf can start the load with the highest start. Add a soft "
            "start, or add a larger inverter to the shelf."
        ),
        "run.must_stops_early": (
            f"Even {ask.most_strings or USUAL_STRINGS} in parallel do not last to the goal with "
            "its margins. Shorten the goal, use less, or allow more batteries."
        ),
    }
    return says.get(rule, f"All of them break a rule; most ({count}) {rule}.")
