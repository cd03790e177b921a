"""What may be taken out of a bank, by the simple rule: the answer before the run."""

from dataclasses import dataclass

from graveljar.core.components.battery import (
    bank_label,
    chemistry_of,
    peukert_exponent,
    temperature_factor,
)
from graveljar.core.kernel.formulas import peukert_cost
from graveljar.core.kernel.records import Floats
from graveljar.core.model import Bank


@dataclass(frozen=True)
class Usable:
    """What may be taken out, as factors on the label and as energy. [1], [Wh]"""

    share: float
    temperature: float
    peukert: float
    wh: float


def peukert_factor(bank: Bank, drawn_w: Floats, hours: Floats) -> float:
    """Share of the label's Ah that a lead-acid bank delivers at the day's currents.

    Parameters
    ----------
    bank : Its chemistry and label.
    drawn_w : Power drawn in each stretch of the day, >= 0. [W], shape (M,)
    hours : Length of each stretch, > 0. [h], shape (M,)

    Returns
    -------
    Share, 0 to 1; 1 for lithium. [1]

    Notes
    -----
    Each stretch counts by the charge that it would draw alone. Below the rated current no gain is
    counted. Source: Peukert 1897.

    Examples
    --------
    >>> import numpy as np
    >>> peukert_factor(Bank(), np.array([100.0]), np.array([24.0]))
    1.0
    """
    kind, exponent, rest = (
        chemistry_of(bank.battery),
        peukert_exponent(bank.battery),
        bank_label(bank),
    )
    if exponent == 1.0:
        return 1.0
    drawn_ah = counted_ah = 0.0
    for watts, length in zip(drawn_w, hours, strict=True):
        amps = float(watts) / rest.nominal_v
        costs = 1.0
        if amps * kind.rated_h > rest.ah:
            costs = peukert_cost(amps, rest.ah / kind.rated_h, exponent)
        drawn_ah += amps * float(length)
        counted_ah += amps * float(length) * costs
    return drawn_ah / counted_ah if counted_ah else 1.0


def usable_of(bank: Bank, ambient_c: float, drawn_w: Floats, hours: Floats) -> Usable:
    """Usable energy: nominal Wh x usable share x temperature factor x Peukert factor.

    Parameters
    ----------
    bank : Its label and reserve.
    ambient_c : Mean air temperature around it. [°C]
    drawn_w : Power drawn in each stretch of the day, >= 0. [W], shape (M,)
    hours : Length of each stretch, > 0. [h], shape (M,)

    Returns
    -------
    The energy and its factors. [Wh], [1]

    Notes
    -----
    Common practice; Peukert 1897 for lead-acid.

    Examples
    --------
    >>> import numpy as np
    >>> none = np.zeros(1)
    >>> round(usable_of(Bank(reserve=0.1), 25.0, none, np.array([24.0])).wh)
    1152
    """
    share = 1.0 - bank.reserve
    temperature = temperature_factor(bank.battery, ambient_c)
    peukert = peukert_factor(bank, drawn_w, hours)
    return Usable(share, temperature, peukert, bank_label(bank).wh * share * temperature * peukert)
