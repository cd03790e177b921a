"""The runs of a design as the screen shows them."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from graveljar.core.cables.colours import colours_of
from graveljar.core.cables.cut_list import CutItem, cut_list
from graveljar.core.cables.plan import (
    PlannedRun,
    bus_bar_for,
    connector_of,
    every_school,
    kind_of,
    proposed_connector,
    shunt_for,
)
from graveljar.core.cables.runs import RunKind
from graveljar.core.cables.sizing import FuseChoice, SizedCable
from graveljar.core.cables.take import take
from graveljar.core.components.cable import other_name
from graveljar.core.components.fuse import MIN_FACTOR
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import Fuse
from graveljar.core.model.patch import Edit, as_sent
from graveljar.core.network.rails import way_to_store
from graveljar.core.tables.conductors import AMPACITIES, School
from graveljar.core.tables.connectors import ConnectorKey
from graveljar.core.tables.fuses import FuseKindKey


@dataclass(frozen=True)
class SizeRow:
    """A size in a run. `other` names it in the other system. Of one cable [A]; of all [V], [W].

    `ampacity_a` is None where the table has nothing so thin.
    """

    name: str
    other: str
    mm2: float
    leads: int
    ampacity_a: float | None
    drop_v: float
    drop_share: float
    heat_w: float


@dataclass(frozen=True)
class FuseRow:
    """A fuse: as described with what is typical of its kind, or as proposed. [A], [V]"""

    amps: float
    kind: FuseKindKey | None
    kind_name: str
    volts: float | None
    breaks_a: float | None


@dataclass(frozen=True)
class SchoolRow:
    """A run by one school's table, as if nothing were chosen."""

    subject: str
    school: School
    minimum: SizeRow | None
    proposed: SizeRow | None
    fuse: FuseRow | None


@dataclass(frozen=True)
class CableRow:
    """A run: what it carries, what it has, what is proposed.

    `level` is how many rails lie before it; `before` the name of what it comes from. `quick_a`,
    `design_a` and `start_a` are of the whole joint, `lead_a` of one cable of one string [A].
    `way_share` is lost from where its volts are made to its end, of what it `may_lose` [1];
    `loses_too_much` if that is more.
    `start_drop_v` in it at the highest start [V]. A fuse may have `least_fuse_a` to `most_fuse_a`
    and must break `must_break_a` [A]; one that `ends_at_battery` has a fuse there too.
    `fuse_fits`: the one there is does, else the suggested one. `measured`: its milliohms are.
    `limited`: it begins at a charger that limits its current, and needs no fuse there.
    `edits` apply the suggestion.
    """

    subject: str
    name: str
    before: str
    kind: RunKind
    path: str
    level: int
    volts: float
    strings: int
    length_m: float
    length_given: bool
    measured: bool
    school: School
    quick_a: float
    design_a: float
    start_a: float
    lead_a: float
    may_lose: float
    way_share: float
    loses_too_much: bool
    start_drop_v: float
    chosen: SizeRow | None
    minimum: SizeRow | None
    proposed: SizeRow | None
    fuse: FuseRow | None
    proposed_fuse: FuseRow | None
    ends_at_battery: bool
    end_fuse: FuseRow | None
    proposed_end_fuse: FuseRow | None
    least_fuse_a: float
    most_fuse_a: float | None
    limited: bool
    fuse_fits: bool
    must_break_a: float
    connector: ConnectorKey | None
    connector_a: float | None
    proposed_connector: ConnectorKey
    bus_bar_a: float | None
    proposed_bus_bar_a: float | None
    shunt_a: float | None
    proposed_shunt_a: float | None
    edits: tuple[Edit, ...]


@dataclass(frozen=True)
class AcRail:
    """An AC rail: its wiring is left to local code and a licensed electrician. [V], [A]"""

    rail: str
    name: str
    volts: float
    amps: float


@dataclass(frozen=True)
class Cables:
    """Every DC run, what is bought and cut for them, and the edits that apply all suggestions.

    `usual_table` is that of where it is built; `sources` are those of the tables used.
    """

    rows: tuple[CableRow, ...]
    mains: tuple[AcRail, ...]
    cuts: tuple[CutItem, ...]
    edits: tuple[Edit, ...]
    sources: tuple[str, ...]
    sizes: Literal["metric", "AWG"]
    usual_table: School


def cables_of(context: Context) -> Cables:
    """Gather what the screen shows of cables."""
    planned = tuple(context.cables.values())
    rows = tuple(_row(context, one) for one in planned)
    used = sorted({AMPACITIES[row.school].source for row in rows})
    return Cables(
        rows=rows,
        mains=tuple(_mains(context)),
        cuts=cut_list(planned, colours_of(context.network.design.setting)),
        edits=as_sent(context.network.design, [x for one in planned for x in take(one)]),
        sources=(*used, "iec-60228", "astm-b258", "nec-240-6", "fuse-kinds"),
        sizes=context.network.design.setting.sizes,
        usual_table=context.network.design.setting.usual_table,
    )


def schools_of(context: Context) -> tuple[SchoolRow, ...]:
    """Every run by each school's table, side by side."""
    return tuple(
        SchoolRow(
            one.run.subject,
            school,
            _size(one, one.fresh.minimum),
            _size(one, one.fresh.proposed),
            proposed_fuse(one.fresh.fuse, one.asked.full_v),
        )
        for school, plans in every_school(context.analysis)
        for one in plans
    )


def _row(context: Context, one: PlannedRun) -> CableRow:
    run, joined, choice = one.run, one.run.joined, one.choice
    connector = connector_of(one)
    post = run.kind == "post"
    way = way_to_store(context.network.rails, run.rail)
    return CableRow(
        subject=run.subject,
        name=run.name,
        before=_before(context, one),
        kind=run.kind,
        path=run.path,
        level=0 if post else len(way),
        volts=run.volts,
        strings=run.strings,
        length_m=one.cable.length_m,
        length_given=one.length_given,
        measured=joined is not None and joined.cable_mohm is not None,
        school=one.conditions.school,
        quick_a=run.amps.quick,
        design_a=run.amps.design,
        start_a=run.amps.start,
        lead_a=one.lead_a,
        may_lose=run.may_lose,
        way_share=one.way_v / run.volts,
        loses_too_much=exceeds(one.way_v, run.may_lose * run.volts),
        start_drop_v=choice.ohm * run.amps.start / run.strings if choice else 0.0,
        chosen=_size(one, one.chosen),
        minimum=_size(one, one.proposal.minimum),
        proposed=_size(one, one.proposal.proposed),
        fuse=_fuse(one.fuse, one.asked.full_v),
        proposed_fuse=proposed_fuse(one.proposal.fuse, one.asked.full_v),
        ends_at_battery=one.end is not None,
        end_fuse=_fuse(one.end_fuse, one.end.full_v if one.end else 0.0),
        proposed_end_fuse=proposed_fuse(one.end_proposal, one.end.full_v if one.end else 0.0),
        least_fuse_a=MIN_FACTOR * one.lead_a,
        most_fuse_a=choice.most_fuse_a if choice else None,
        limited=run.limited,
        fuse_fits=_fuse_fits(one, choice.most_fuse_a if choice else None),
        must_break_a=one.must_break_a,
        connector=joined.connector if joined else None,
        connector_a=connector.amps if connector else None,
        proposed_connector=proposed_connector(one).key,
        bus_bar_a=joined.bus_bar_a if joined else None,
        proposed_bus_bar_a=bus_bar_for(run.amps.design),
        shunt_a=joined.shunt_a if joined else None,
        proposed_shunt_a=shunt_for(run.amps.design),
        edits=as_sent(context.network.design, take(one)),
    )


def _before(context: Context, one: PlannedRun) -> str:
    """Where a run begins, in words."""
    if one.run.kind == "post":
        return "its posts"
    return "the charger" if one.run.limited else context.network.names[one.run.rail]


def _fuse_fits(one: PlannedRun, most_a: float | None) -> bool:
    """Whether the fuse there is, else the suggested one, lies between what it may be."""
    if one.run.limited and one.fuse is None:
        return True
    fuse = one.fuse or one.proposal.fuse
    if fuse is None or most_a is None:
        return False
    return not exceeds(MIN_FACTOR * one.lead_a, fuse.amps) and not exceeds(fuse.amps, most_a)


def _size(one: PlannedRun, choice: SizedCable | None) -> SizeRow | None:
    if choice is None:
        return None
    return SizeRow(
        choice.size.name,
        other_name(choice.size),
        choice.size.mm2,
        choice.leads,
        choice.ampacity_a,
        choice.drop_v,
        choice.drop_v / one.run.volts,
        # Of all strings.
        choice.heat_w * one.run.strings,
    )


def _fuse(fuse: Fuse | None, full_v: float) -> FuseRow | None:
    if fuse is None:
        return None
    kind = kind_of(fuse)
    return FuseRow(
        fuse.amps,
        fuse.kind,
        kind.name,
        fuse.volts or kind.volts,
        fuse.breaks_a or kind.breaks_a(full_v),
    )


def proposed_fuse(fuse: FuseChoice | None, full_v: float) -> FuseRow | None:
    """A proposed fuse as a row; it interrupts its amps at the volts of the full store. [V]"""
    if fuse is None:
        return None
    kind = fuse.kind
    if kind is None:
        return FuseRow(fuse.amps, None, "fuse of a kind not listed", None, None)
    return FuseRow(fuse.amps, kind.key, kind.name, kind.volts, kind.breaks_a(full_v))


def _mains(context: Context) -> Iterator[AcRail]:
    for rail in context.network.rails.values():
        if rail.kind == "ac":
            asked = context.analysis.demand.asked[rail.id]
            amps = asked.volt_amps / rail.nominal_v
            yield AcRail(rail.id, context.network.names[rail.id], rail.nominal_v, amps)
