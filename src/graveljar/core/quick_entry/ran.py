"""What a load takes on average, from how long it ran on a part of the battery."""

import re
from dataclasses import dataclass
from typing import Final

from graveljar.core.components.battery import bank_label
from graveljar.core.components.stage_loss import loss_of
from graveljar.core.model import Bank, Design, Inverter, Station, Supply
from graveljar.core.network.station_expansion import inner_wh

_NUMBER: Final = r"\d+(?:[.,]\d+)?"
RAN: Final = re.compile(
    rf"ran\s+(?P<hours>{_NUMBER})\s*(?:h|hrs?|hours?)\s+(?:on|from|with)\s+"
    rf"(?P<share>half|all|a\s+third|a\s+quarter|{_NUMBER}\s*%)?\s*(?:of\s+)?(?:the|a|one)?\s*"
    r"(?:full\s+|whole\s+)?(?:battery|bank|station)\b",
    re.IGNORECASE,
)
_SHARES: Final = {"half": 1 / 2, "all": 1.0, "a third": 1 / 3, "a quarter": 1 / 4}
# Of what goes into an inverter that is not known; common practice. [1]
INVERTER_EFFICIENCY: Final = 0.85


@dataclass(frozen=True)
class Ran:
    """How long a load ran, and the share of the battery that it took. [h], [1]"""

    hours: float
    share: float

    def mean_w(self, design: Design, supply: Supply) -> float | None:
        """What the load takes on average, by the first store of a design. [W]

        Behind the inverter, or a station's sockets, what they lose is taken off. None where
        nothing is known to hold energy, or nothing is left for the load.

        Examples
        --------
        >>> Ran(7.0, 0.5).mean_w(Design(), Supply(kind="dc", volts=12.0))  # 640 Wh in 7 h
        91.42857142857143
        """
        store = design.first
        if isinstance(store, Bank):
            held_wh = bank_label(store).wh
        elif isinstance(store, Station):
            held_wh = inner_wh(store)
        else:
            return None
        given_w = self.share * held_wh / self.hours
        if supply.kind == "dc":
            return given_w
        inverter = design.inverter
        if inverter is None:
            return given_w * INVERTER_EFFICIENCY
        return _before(inverter, given_w)


def _before(inverter: Inverter, given_w: float) -> float | None:
    """What leaves an inverter while so much goes into it; None if its idle draw is more. [W]"""
    # A part of a second to load, for this alone: a start must not wait for it.
    from scipy.optimize import brentq  # noqa: PLC0415

    loss = loss_of(inverter)
    if given_w <= loss.p0:
        return None
    return float(brentq(lambda out_w: loss.dc_w(out_w) - given_w, 0.0, given_w))


def read_ran(match: re.Match[str]) -> Ran | None:
    """What a match of `RAN` says; None if it cannot be."""
    hours = float(match["hours"].replace(",", "."))
    said = re.sub(r"\s+", " ", (match["share"] or "all").lower())
    share = _SHARES.get(said)
    if share is None:
        share = float(said.rstrip(" %").replace(",", ".")) / 100
    return Ran(hours, share) if hours > 0 and 0 < share <= 1 else None
