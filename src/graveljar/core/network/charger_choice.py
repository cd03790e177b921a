"""A charger that suits a bank and what it is charged from."""

from bisect import bisect_right
from typing import Final

from graveljar.core.components.battery import bank_label, chemistry_of
from graveljar.core.components.charging import usual_volts
from graveljar.core.components.sunlight import array_watts
from graveljar.core.model import Bank, Charger, Generator, Mains, Store, Sun, Window
from graveljar.core.network.rails import Rail
from graveljar.core.network.standard_sizes import COMMON_AMPS

# Gentle charging current of lithium, times its Ah; common practice. [1/h]
GENTLE_C: Final = 0.2
# Input of mains chargers. Common practice. [V]
MAINS_WINDOW: Final = Window(least_v=90.0, most_v=265.0)
_EFFICIENCY: Final = 0.9
# Of charge controllers; common practice. [1]
_MPPT_EFFICIENCY: Final = 0.96


def charger_for(rail: Rail, source: Store, bank: Bank, assumed: dict[str, float]) -> Charger:
    """A charger from a rail into a bank: for its chemistry, and no more than either side bears.

    Parameters
    ----------
    rail : What it is fed from.
    source : The store of that rail.
    bank : What is charged.
    assumed : Every assumption's value.

    Returns
    -------
    The charger. [A], [V]

    Examples
    --------
    >>> from graveljar.core.model import Battery, Design
    >>> from graveljar.core.network.rails import rails_of
    >>> from graveljar.core.tables.assumptions import resolve
    >>> bank = Bank(battery=Battery(volts=12.8, ah=100))
    >>> made = Design(stores=(bank, Mains()))
    >>> charger = charger_for(rails_of(made)["mains"], Mains(), bank, resolve({}))
    >>> charger.kind, charger.amps, charger.profile
    ('mains charger', 20.0, 'lithium')
    """
    kind = chemistry_of(bank.battery)
    amps = (GENTLE_C if kind.lithium else assumed[kind.charge_c]) * bank_label(bank).ah
    efficiency, window = _EFFICIENCY, _window(rail)
    match source:
        case Mains() | Generator():
            name, window = "mains charger", MAINS_WINDOW
        case Sun():
            # What its panels can bring, not what the bank would like; it limits itself.
            name, efficiency = "MPPT controller", _MPPT_EFFICIENCY
            amps = max(array_watts(source) / usual_volts(bank), 1.0)
            window = Window(least_v=round(usual_volts(bank), 1), most_v=_round_up(rail.high_v))
        case _:
            name = "DC-DC charger"
            limit_a = getattr(source, "limit_a", None) if rail.parent is None else None
            if limit_a is not None:
                given_w = efficiency * limit_a * rail.nominal_v
                amps = min(amps, given_w / usual_volts(bank))
    return Charger.model_validate(
        {
            "kind": name,
            "profile": "lithium" if kind.lithium else ("flooded" if kind.vented else "AGM"),
            "amps": _size(amps, up=isinstance(source, Sun)),
            "accepts": window,
            "efficiency": efficiency,
            "idle_w": 1.0,
            "provenance": "rule of thumb",
        }
    )


def _size(amps: float, *, up: bool) -> float:
    """The common size at or below some amps, or the next above; 1 A at least. [A]"""
    place = bisect_right(COMMON_AMPS, amps)
    if up and place < len(COMMON_AMPS):
        return float(COMMON_AMPS[place])
    return float(COMMON_AMPS[max(place - 1, 0)])


def _window(rail: Rail) -> Window:
    """As wide as makers print for what arrives. [V]"""
    return Window(least_v=round(rail.low_v * 0.9, 1), most_v=round(rail.high_v * 1.1, 1))


def _round_up(volts: float) -> float:
    """The next common most volts of a controller, with room. [V]"""
    common = (25.0, 30.0, 50.0, 75.0, 100.0, 150.0, 250.0, 450.0, 600.0, 1000.0)
    return next((v for v in common if v >= volts * 1.1), 1000.0)
