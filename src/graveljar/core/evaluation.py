"""What an evaluation holds: all that the screen shows."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from graveljar.core.analysis.band import Band
from graveljar.core.analysis.bank_sizing import Needed
from graveljar.core.cautions import CautionRow
from graveljar.core.fixes import Fix
from graveljar.core.rules.finding import Statement
from graveljar.core.views.bank_wiring import BankWiring
from graveljar.core.views.cables import Cables
from graveljar.core.views.jar import Jar
from graveljar.core.views.joints import Joint
from graveljar.core.views.links import LinkRow
from graveljar.core.views.loads import LoadRow
from graveljar.core.views.run_summary import RunSummary
from graveljar.core.views.verdict import Verdict
from graveljar.core.views.wires import Wire
from graveljar.core.workings.working import Figure, FigureValue


@dataclass(frozen=True)
class Judgement(Statement):
    """A finding as it is shown: with fixes that were tried, and their effects."""

    fixes: tuple[Fix, ...]
    sources: tuple[str, ...]


@dataclass(frozen=True)
class ShortEvaluation:
    """A design as it is worked out at each edit. A `quick` one has no band, its fixes no effects.

    `figures` are values without workings; those of a cable run and of what is needed only where a
    finding names them: the rest is in `WorkedCables` and `WorkedNeeded`.
    """

    verdict: Verdict
    band: Band
    run: RunSummary
    jar: Jar
    loads: tuple[LoadRow, ...]
    joints: tuple[Joint, ...]
    links: tuple[LinkRow, ...]
    wires: tuple[Wire, ...]
    wirings: tuple[BankWiring, ...]
    findings: tuple[Judgement, ...]
    cautions: tuple[CautionRow, ...]
    figures: Mapping[str, FigureValue]
    quick: bool


@dataclass(frozen=True)
class _Marked:
    format: Literal["gravel-jar/evaluation"]
    version: Literal[11]


@dataclass(frozen=True)
class Evaluation(ShortEvaluation, _Marked):
    """A design, worked out, with its cables and what is needed, each figure with its working."""

    cables: Cables
    needed: Needed | None
    figures: Mapping[str, Figure]


@dataclass(frozen=True)
class WorkedCables:
    """The cables of a design, and the figures of their runs by key."""

    cables: Cables
    figures: Mapping[str, FigureValue]


@dataclass(frozen=True)
class WorkedNeeded:
    """What the loads need of a bank, and the figures of it by key; None without a bank to size."""

    needed: Needed | None
    figures: Mapping[str, FigureValue]
