"""A design at a glance, for the list of all: how long, what stops first, the worst finding."""

from dataclasses import dataclass
from typing import Literal

from graveljar.core.analysis.band import band_of
from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.evaluate import evaluate_short
from graveljar.core.model import Design
from graveljar.core.network.network import Network
from graveljar.core.views.jar import Jar


@dataclass(frozen=True)
class Worst:
    """The worst finding of a design."""

    severity: Literal["stop", "fix", "watch"]
    title: str


@dataclass(frozen=True)
class Glance:
    """One design: its verdict in words, its jar, the order of its loads, what it has in store.

    `jar` is None where it could not be worked out; `then` says why. `p10` to `p90` is the band of
    the hours; None without an end.
    """

    revision: int
    lasts: str
    then: str
    meets_goal: bool
    goal_h: float
    worst: Worst | None
    open_findings: int
    jar: Jar | None
    order: tuple[str, ...]
    stores: tuple[str, ...]
    p10: float | None = None
    p90: float | None = None


def glance_of(design: Design, revision: int) -> Glance:
    """What the list of designs shows of one."""
    stores = tuple(bank.name for bank in Network(design).held)
    try:
        found = evaluate_short(design, quick=True)
        band = band_of(Context(design).analysis.lowered)
    except GravelJarError as error:
        return Glance(
            revision, "Not worked out", str(error), False, design.goal.hours, None, 0, None, (),
            stores,
        )  # fmt: skip
    opened = [x for x in found.findings if x.severity != "note"]
    worst = None
    for severity in ("stop", "fix", "watch"):
        first = next((x for x in opened if x.severity == severity), None)
        if first is not None:
            worst = Worst(severity, first.title)
            break
    verdict = found.verdict
    return Glance(
        revision=revision,
        lasts=verdict.lasts,
        then=verdict.first or verdict.then,
        meets_goal=verdict.meets_goal,
        goal_h=verdict.goal_hours,
        worst=worst,
        open_findings=len(opened),
        jar=found.jar,
        order=tuple(x.id for x in found.loads),
        stores=stores,
        p10=band.p10,
        p90=band.p90,
    )
