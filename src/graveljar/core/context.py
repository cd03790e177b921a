"""A design with all that is worked out about it."""

from graveljar.core.analysis.analysis import Analysis
from graveljar.core.cables.plan import PlannedRun, plan
from graveljar.core.lazy import cached_property
from graveljar.core.model import Design
from graveljar.core.network.network import Network
from graveljar.core.stop import heed


class Context:
    """A design with everything that is worked out about it, each thing when it is first read.

    Of one that is only `tried`, remedies are no matter: they are worked out if somebody asks.
    """

    def __init__(self, design: Design, *, tried: bool = False) -> None:
        heed()
        self.tried = tried
        self.network = Network(design)
        self.analysis = Analysis(self.network)

    @cached_property
    def cables(self) -> dict[str, PlannedRun]:
        """What each DC run is given and what is proposed for it, those nearer to a store first."""
        return {planned.run.subject: planned for planned in plan(self.analysis)}
