"""What an evaluation holds: everything the screen shows, and nothing it has to compute."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from graveljar.core.band import Band
from graveljar.core.cables.rows import Cables
from graveljar.core.cautions import CautionRow
from graveljar.core.edit import Edit
from graveljar.core.findings.finding import Severity
from graveljar.core.growing import LinkRow
from graveljar.core.joints import Joint
from graveljar.core.moments import Moment, Worst
from graveljar.core.needed import Needed
from graveljar.core.run import Cause
from graveljar.core.window import LoadFit
from graveljar.core.working import Figure


@dataclass(frozen=True)
class Effect:
    """What taking a fix would do. Hours until the first stop, None without end. [h]

    `brings` are titles of findings, notes apart, that it would bring up.
    """

    hours_before: float | None
    hours_after: float | None
    clears: bool
    brings: tuple[str, ...]
    text: str


@dataclass(frozen=True)
class Fix:
    """A way out of a finding, with its effect.

    Without edits it happens off the screen and has none here; a quick evaluation leaves it out.
    """

    label: str
    edits: tuple[Edit, ...]
    effect: Effect | None


@dataclass(frozen=True)
class Judgement:
    """A finding as shown: see `findings.finding.Finding`; `fixes` carry their effect."""

    code: str
    severity: Severity
    subject: str
    title: str
    reason: str
    figures: tuple[str, ...]
    fixes: tuple[Fix, ...]
    sources: tuple[str, ...]


@dataclass(frozen=True)
class Verdict:
    """How long, and what ends it. `hours` None: no end up to `horizon_hours`. [h]

    Hours are until a must-load stops, 0 where one can never run; until any load that can run does
    if none is a must. `first` says what stops before that; `not_together` which loads would trip
    each other and are run one after the other; `never` which loads can never run, and why.
    """

    hours: float | None
    lasts: str
    cause: Cause
    then: str
    first: str
    not_together: tuple[str, ...]
    never: tuple[str, ...]
    horizon_hours: float
    goal_hours: float
    meets_goal: bool


@dataclass(frozen=True)
class Happening:
    """Something that happened in the run, in words. [h], [1]"""

    hours: float
    subject: str
    text: str
    charge: float


@dataclass(frozen=True)
class StoreRow:
    """A store after the run. [Wh], [1], [h]

    `left_wh` is above the charge kept back, `charge` what is left with it.
    """

    id: str
    stops_h: float | None
    charge: float
    left_wh: float
    released_wh: float


@dataclass(frozen=True)
class Destination:
    """Where the run's energy went. [Wh]"""

    kind: Literal["load", "standby", "idle", "stage", "adapter", "cable", "battery"]
    subject: str
    name: str
    wh: float


@dataclass(frozen=True)
class Hours:
    """The run: what happened, what is left, where the energy went; the network at moments.

    `worst` by store, stage and load.
    """

    ends_h: float
    happenings: tuple[Happening, ...]
    happenings_beyond: int
    stores: tuple[StoreRow, ...]
    destinations: tuple[Destination, ...]
    moments: tuple[Moment, ...]
    worst: Mapping[str, Worst]


@dataclass(frozen=True)
class Layer:
    """One layer of the jar, [Wh] a day at the bank; `missed` share of it is not served. [1]"""

    kind: Literal["stone", "standby", "idle", "loss"]
    subject: str
    name: str
    wh: float
    missed: float = 0.0


@dataclass(frozen=True)
class Jar:
    """The bank as a jar. [Wh]

    `label_wh` fills it to the rim; `kept_back_wh` lies at the bottom, the usable on it; what
    the cold and the current take away is missing at the top. Layers are a day's use.
    """

    label_wh: float
    kept_back_wh: float
    usable_wh: float
    day_wh: float
    layers: tuple[Layer, ...]


@dataclass(frozen=True)
class LoadRow:
    """A load as it fares. Watts of one; energy of all of them. [W], [Wh], [h]

    `at_bank_wh` is None for a load that cannot run; `served_h`, until it first is not, None
    without end; `missed_share` of the hours it should have run until the run ends.
    """

    id: str
    one_w: float
    start_w: float
    day_wh: float
    at_bank_wh: float | None
    served_h: float | None
    missed_share: float | None
    meets_goal: bool
    via_adapter: bool
    fit: LoadFit


@dataclass(frozen=True)
class BankWiring:
    """How the bank is joined, and which strings, from 0, its two leads come off."""

    store: str
    series: int
    parallel: int
    positive_string: int
    negative_string: int
    text: str


@dataclass(frozen=True)
class Evaluation:
    """A design, worked out. A `quick` one has no band, and its fixes no effects."""

    format: Literal["gravel-jar/evaluation"]
    version: Literal[6]
    verdict: Verdict
    band: Band
    run: Hours
    jar: Jar
    loads: tuple[LoadRow, ...]
    joints: tuple[Joint, ...]
    links: tuple[LinkRow, ...]
    cables: Cables
    wirings: tuple[BankWiring, ...]
    needed: Needed | None
    findings: tuple[Judgement, ...]
    cautions: tuple[CautionRow, ...]
    figures: Mapping[str, Figure]
    quick: bool
