"""Routes side by side: each worked out whole, on the user's own station and loads."""

from collections.abc import Iterator, Sequence
from typing import Any

from graveljar.core.context import Context
from graveljar.core.errors import InvalidDocument, Problem
from graveljar.core.model import Bank, Design, Station
from graveljar.core.model.patch import Edit, as_sent
from graveljar.core.planning.shelf import Candidate
from graveljar.core.planning.station_growth.figures import (
    gained,
    price_a_wh,
    refill_by_charger,
    refill_by_input,
    shown,
)
from graveljar.core.planning.station_growth.route import Route, RouteFinding, RoutePart
from graveljar.core.planning.station_growth.ways import (
    GrowthDraft,
    GrowthTask,
    RoutesAsk,
    drafts,
    task_of,
)
from graveljar.core.rules import judge
from graveljar.core.rules.danger import is_danger
from graveljar.core.text import duration, quantity
from graveljar.core.views.joints import joints_of
from graveljar.core.views.links import link_rows
from graveljar.core.views.verdict import lasts
from graveljar.core.workings import keep_all
from graveljar.core.workings.working import WorkedFigures


def routes_of(design: Design, ask: RoutesAsk, shelf: Sequence[Candidate]) -> tuple[Route, ...]:
    """Every route for a station, the present one first if there is one.

    Raises
    ------
    InvalidDocument : there is no such station or battery.
    """
    station = next((x for x in design.stores if x.id == ask.station), None)
    if not isinstance(station, Station):
        raise _refused("/grow/station", f"“{ask.station}” is not a station here.")
    if ask.battery is not None and not any(
        isinstance(x, Bank) and x.id == ask.battery for x in design.stores
    ):
        raise _refused("/grow/battery", f"“{ask.battery}” is not a bank here.")
    task = task_of(design, station, ask, shelf)
    alone = Context(filled(task.design))
    return tuple(
        _work_out(draft, design, alone) for draft in (*_present(design, task), *drafts(task))
    )


def filled(design: Design) -> Design:
    """The design with every store full, so that routes compare like with like."""
    stores = tuple(
        store.model_copy(update={"starts_at": 1.0}) if isinstance(store, Bank | Station) else store
        for store in design.stores
    )
    return design.model_copy(update={"stores": stores})


def _refused(path: str, message: str) -> InvalidDocument:
    return InvalidDocument(message, (Problem(path, "unknown_id", message),))


def _present(design: Design, task: GrowthTask) -> Iterator[GrowthDraft]:
    """The design as it stands, if something is led into the station."""
    link = next((link for link in design.links if link.to == task.station.id), None)
    if link is not None:
        says = "The design as it is at present."
        parts = (RoutePart("all of it", 1, 0.0, have=True),)
        yield GrowthDraft("present", "As it is now", says, design, link.id, parts)


def _work_out(draft: GrowthDraft, design: Design, alone: Context) -> Route:
    context = Context(filled(draft.after), tried=True)
    known = {finding.title for finding in judge(alone)}
    found = [x for x in judge(context) if x.severity != "note" and x.title not in known]
    dangerous = any(is_danger(x) for x in found)
    row = next((x for x in link_rows(context) if x.id == draft.link), None)
    joint = next((x for x in joints_of(context) if x.subject == draft.link), None)
    station = next(x for x in alone.network.stores if alone.network.station(x.id) is not None)
    own = row.to if row is not None else station.id
    figures = keep_all(context)
    gained_wh = gained(context, alone, draft.link, own, figures)
    fits = row is None or row.watts > 0
    to_buy = [part.price for part in draft.parts if not part.have]
    price = None if any(x is None for x in to_buy) else sum(x for x in to_buy if x is not None)
    refill_h, refill = _refill(context, draft, own, figures)
    return Route(
        way=draft.way,
        title=draft.title,
        says=draft.says,
        fits=fits,
        joint=joint,
        link=row,
        gained_wh=gained_wh,
        hours=context.analysis.run.hours,
        alone_h=alone.analysis.run.hours,
        lasts=lasts(context.analysis.run),
        gains=_gains(context, alone),
        refill_h=refill_h,
        refill=refill,
        parts=draft.parts,
        price=price,
        price_a_wh=price_a_wh(price, gained_wh, figures),
        warnings=tuple(RouteFinding(x.severity, x.title) for x in found),
        mind=tuple(_mind(draft)),
        edits=as_sent(
            design,
            [
                Edit("replace", f"/{part}", _dumped(draft.after, part))
                for part in ("links", "loads", "stages", "stores")
                if not dangerous and getattr(draft.after, part) != getattr(design, part)
            ],
        ),
        figures=shown(figures, draft.link),
    )


def _dumped(design: Design, part: str) -> list[Any]:
    return [x.model_dump(mode="json") for x in getattr(design, part)]


def _gains(context: Context, alone: Context) -> str:
    """Hours more than the station has alone, in words."""
    before, after = alone.analysis.run.hours, context.analysis.run.hours
    if before is None:
        return "alone it already lasts beyond the simulated time"
    if after is None:
        return "longer than the simulated time"
    more = after - before
    if abs(more) < 1 / 120:
        return "no extra hours"
    return f"{duration(abs(more))} {'more' if more > 0 else 'less'}"


def _mind(draft: GrowthDraft) -> Iterator[str]:
    if draft.link is None:
        return
    yield "A source the maker has not approved may void the warranty."
    yield "Measure volts and polarity at the plug; do not leave its first hours unattended."
    if draft.way == "boost":
        yield "The converter gets warm: leave air around it, and use thick cables before it."
    if draft.way == "series":
        yield "Charge both full, each on its own charger, before you connect them."


def _refill(
    context: Context, draft: GrowthDraft, station: str, figures: WorkedFigures
) -> tuple[float | None, str]:
    """How long it takes to fill again, and by what.

    An outside battery has a charger of its own, counted at its gentle rate.
    """
    network = context.network
    if draft.link is not None:
        source = context.analysis.link_operations[draft.link].source
        if network.is_source(source):
            return None, "the engine recharges it"
        amps = network.assumed["kind_rate_c"] * network.bank_labels[source].ah
        hours = refill_by_charger(context, source, figures)
        return hours, f"a charger of its own, {quantity(amps, 'A', 2)}"
    found = network.station(station)
    mains = [x.most_w for x in found.inputs if x.supply == "ac"] if found else []
    every = mains or ([x.most_w for x in found.inputs] if found else [])
    if not found or not every:
        return None, "it has no charge input"
    watts = min(max(every), found.most_in_w)
    hours = refill_by_input(context, station, watts, figures)
    return hours, f"its {'mains' if mains else 'DC'} input, {quantity(watts, 'W')}"
