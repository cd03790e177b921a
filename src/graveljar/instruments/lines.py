"""The line format: an instrument that tells its figures unasked, a line every so often.

`volts=13.31 amps=5.02 ah=12.4`: figures apart by spaces, each with its name; `over` stands where
one is beyond its range. ASCII, ended by a line feed.
"""

from typing import Final

from graveljar.instruments.stand_ins import KINDS, OVERLOAD, Quantity, StandIn

OVER: Final = "over"


def line_of(instrument: StandIn) -> str:
    """The figures of an instrument now, as it tells them.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> line_of(StandIn("display", lamp(), "bank", clock=lambda: 0.0)).split("=")[0]
    'charge'
    """
    told = []
    for quantity in KINDS[instrument.kind]:
        value = instrument.reads(quantity)
        told.append(f"{quantity}={OVER if abs(value) >= OVERLOAD else f'{value:.6g}'}")
    return " ".join(told)


def figures_of(line: str) -> dict[str, str]:
    """The figures of a line by name, as text in SCPI's way: an overload is 9.9E37.

    Examples
    --------
    >>> figures_of("volts=13.31 amps=over")
    {'volts': '13.31', 'amps': '9.9e+37'}
    """
    pairs = (part.partition("=") for part in line.split())
    return {name: str(OVERLOAD) if value == OVER else value for name, _, value in pairs}


def missing(line: str, quantity: Quantity) -> str:
    """What is said where a line has not the figure that is asked for."""
    return f"no {quantity} in “{line.strip()[:40]}”"
