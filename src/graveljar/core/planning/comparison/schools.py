"""Where practitioners disagree, as variants of one's own design. Common practice."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, Final, Literal

from graveljar.core.cables.plan import PlannedRun
from graveljar.core.cables.sizing import SizedCable, fuse_for
from graveljar.core.cables.take import take
from graveljar.core.components.battery import chemistry_of
from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.model import Bank, Inverter
from graveljar.core.model.patch import Edit, as_sent
from graveljar.core.network.load_at_rail import via_adapter
from graveljar.core.planning.construction import AddRail, PutRegulator, build
from graveljar.core.planning.improvements.drafts import emptied_off
from graveljar.core.rules import judge
from graveljar.core.rules.danger import offered
from graveljar.core.text import number

Question = Literal[
    "system voltage",
    "AC for all or DC first",
    "before an early cut-out",
    "minimum cable or one up",
    "usable depth",
]
# Depth, and what the schools say of it.
DEPTHS: Final = (
    (0.8, "longest life; a fifth stays as a reserve"),
    (0.9, "usual choice: a tenth as a reserve"),
    (1.0, "no reserve: fewest batteries, shortest life, and no warning before it is empty"),
)


@dataclass(frozen=True)
class Variant:
    """A school's answer to a question on a design: what it is called, its edits, a note."""

    question: Question
    key: str
    title: str
    note: str
    edits: tuple[Edit, ...]


def variants_of(context: Context) -> tuple[Variant, ...]:
    """Every school's answer that differs from what the design does now and brings no danger."""
    known = judge(context)
    return tuple(
        replace(variant, edits=as_sent(context.network.design, variant.edits))
        for variant in (
            *_volts(context),
            *_ac_or_dc(context),
            *_early(context),
            *_cables(context),
            *_depths(context),
        )
        if variant.edits and offered(context, known, variant.edits) is not None
    )


def _volts(context: Context) -> Iterator[Variant]:
    needed = context.analysis.takeable
    for choice in needed.choices if needed else ():
        if choice.present:
            continue
        title = (
            f"{number(choice.system_v)} V: {choice.series} in series, {choice.alike} in parallel"
        )
        note = (
            f"{number(choice.design_a)} A at lowest volts, with as many batteries as now; "
            f"the goal needs {choice.parallel} in parallel."
        )
        key = f"volts-{choice.system_v:g}"
        yield Variant("system voltage", key, title, note, choice.alike_edits)


def _ac_or_dc(context: Context) -> Iterator[Variant]:
    network = context.network
    inverter = next((x for x in network.design.stages if isinstance(x, Inverter)), None)
    dc = [
        (i, load)
        for i, load in enumerate(network.design.loads)
        if load.supply.kind == "dc" and load.rail is not None
    ]
    if inverter is None or not dc:
        return
    on_dc = [(i, load) for i, load in dc if not via_adapter(load, network.rails)]
    yield Variant(
        "AC for all or DC first",
        "ac-for-all",
        "AC for all: every load through the inverter",
        "One kind of socket everywhere; the inverter is always on, and adapters lose more.",
        tuple(Edit("replace", f"/loads/{i}/rail", inverter.id) for i, _ in on_dc),
    )
    by_adapter = [load for _, load in dc if via_adapter(load, network.rails)]
    volts = {load.supply.volts for load in by_adapter}
    bank = next(iter(network.banks), None)
    if len(volts) != 1 or bank is None:
        return
    ask = AddRail(ask="rail", on=bank.id, volts=volts.pop(), loads=tuple(x.id for x in by_adapter))
    try:
        edits = build(network.design, ask).edits
    except GravelJarError:
        return
    edits = (*edits, *emptied_off(context, {load.id for load in by_adapter}))
    yield Variant(
        "AC for all or DC first",
        "dc-first",
        "DC first: small electronics on their own DC rail",
        "Fewer losses, and the inverter can be off; one more converter and its wiring.",
        edits,
    )


def _early(context: Context) -> Iterator[Variant]:
    """The first load that cuts out early: a regulator, or its mains lead."""
    network = context.network
    out = {load.id for load in network.design.loads if context.analysis.run.outs(load.id)}
    found = [(i, x) for i, x in enumerate(network.design.loads) if x.id in out]
    dc = [(i, x) for i, x in found if x.supply.kind == "dc" and not via_adapter(x, network.rails)]
    if not dc:
        return
    place, load = dc[0]
    yield Variant(
        "before an early cut-out",
        "regulator",
        f"A regulator before {load.name}",
        "Costs 4 to 10 % and one more box; the load runs until the bank is empty.",
        build(network.design, PutRegulator(ask="regulator", before=load.id)).edits,
    )
    inverter = next((x for x in network.design.stages if isinstance(x, Inverter)), None)
    if inverter is not None:
        yield Variant(
            "before an early cut-out",
            "mains-lead",
            f"{load.name} by its mains adapter, from the inverter",
            "Costs 10 to 20 %, and the inverter has to stay on for it.",
            (Edit("replace", f"/loads/{place}/rail", inverter.id),),
        )


def _cables(context: Context) -> Iterator[Variant]:
    plans = tuple(context.cables.values())
    if not plans:
        return
    for key, title, note, which in (
        (
            "minimum",
            "Smallest cable everywhere",
            "Enough: warmer, more losses, cheaper.",
            "minimum",
        ),
        ("one-up", "One size up everywhere", "Cooler, fewer losses; the usual choice.", "proposed"),
    ):
        edits = tuple(edit for one in plans for edit in _sized(one, getattr(one.fresh, which)))
        yield Variant("minimum cable or one up", key, title, note, edits)


def _sized(one: PlannedRun, choice: SizedCable | None) -> Iterator[Edit]:
    """A run with a size and a fuse that fits it, the rest of it as it is or as proposed."""
    if choice is None:
        return
    fuse = fuse_for(choice, one.asked) or one.fresh.fuse
    cable: dict[str, Any] = one.cable.model_dump(mode="json") | {
        "size": choice.size.name,
        "leads": choice.leads,
    }
    said = None
    if fuse is not None:
        kind = fuse.kind.key if fuse.kind else None
        near = 0.1 if one.run.kind == "post" else None
        said = {"amps": fuse.amps, "kind": kind, "from_post_m": near}
    if one.run.joined is None:
        (leads,) = take(one)
        yield Edit("add", one.run.path, leads.value | {"cable": cable, "fuse": said})
        return
    yield Edit("add", f"{one.run.path}/cable", cable)
    yield Edit("add", f"{one.run.path}/fuse", said)


def _depths(context: Context) -> Iterator[Variant]:
    lithium = [x for x in context.network.banks if chemistry_of(x.battery).lithium]
    for depth, note in DEPTHS if lithium else ():
        reserve = round(1.0 - depth, 6)
        edits = tuple(
            Edit("replace", f"{context.network.store_path(bank)}/reserve", reserve)
            for bank in lithium
            if _differs(bank, reserve)
        )
        title = f"{depth * 100:.0f} % of the bank used"
        yield Variant("usable depth", f"depth-{depth * 100:.0f}", title, note, edits)


def _differs(bank: Bank, reserve: float) -> bool:
    return abs(bank.reserve - reserve) > 1e-9
