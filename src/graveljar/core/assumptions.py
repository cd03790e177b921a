"""What is taken for granted unless a design says otherwise: data, with help and source."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final


@dataclass(frozen=True)
class Assumption:
    """A default a user may change within `least` and `most`."""

    key: str
    name: str
    value: float
    least: float
    most: float
    unit: str
    help: str
    source: str


_ALL: Final = (
    *(
        Assumption(
            f"spread_{key}",
            f"Spread of a figure that is {words}",
            spread,
            0,
            1,
            "share",
            "Up or down, for the band around the hours.",
            "assumption",
        )
        for key, words, spread in (
            ("measured", "measured", 0.03),
            ("label", "from a label", 0.1),
            ("rule", "a rule of thumb", 0.25),
            ("guess", "a guess", 0.4),
        )
    ),
    Assumption(
        "start_factor_compressor",
        "Start of a compressor",
        6,
        1,
        12,
        "x",
        "A fridge or air compressor takes about six times its running watts for a moment. "
        "Schools say 3 to 7; measure yours if the inverter is tight.",
        "trade-start",
    ),
    Assumption(
        "start_factor_motor",
        "Start of a motor",
        6,
        1,
        12,
        "x",
        "Induction motors and pumps take 3 to 7 times their running watts.",
        "trade-start",
    ),
    Assumption(
        "start_factor_tool",
        "Start of a hand tool",
        3,
        1,
        12,
        "x",
        "Brushed hand-tool motors take 2 to 3 times their running watts.",
        "trade-start",
    ),
    Assumption(
        "trusted_surge_factor",
        "Surge an inverter is trusted with",
        2,
        1,
        3,
        "x",
        "Times its continuous watts, unless its datasheet says for how many seconds.",
        "trade-surge",
    ),
    Assumption(
        "inverter_most_share",
        "Most an inverter should carry",
        0.8,
        0.5,
        1,
        "share",
        "Of its continuous watts, for long runs.",
        "trade-80",
    ),
    Assumption(
        "adapter_efficiency",
        "Efficiency of a plug-in adapter",
        0.87,
        0.4,
        1,
        "share",
        "For DC appliances that run through their mains adapter behind the inverter.",
        "assumption",
    ),
    Assumption(
        "kind_rate_c",
        "Rate that is kind to batteries",
        0.2,
        0.05,
        1,
        "C",
        "Taking more for long shortens their life; 0.2C is a 100 Ah battery giving 20 A.",
        "trade-kind",
    ),
    Assumption(
        "microwave_input_factor",
        "Input of a microwave",
        1.5,
        1,
        2,
        "x",
        "The printed watts are cooking watts.",
        "trade",
    ),
    Assumption(
        "joint_drop",
        "Volts lost in a joint nobody described",
        0.01,
        0,
        0.1,
        "share",
        "At the full current of what hangs on it, of the rail's nominal volts, both conductors.",
        "assumption",
    ),
    Assumption(
        "restart_rise",
        "Restart above the cut-out",
        0.05,
        0,
        0.3,
        "share",
        "Where a device does not say at which volts it comes back: 10.5 V out, 11 V back.",
        "trade",
    ),
    Assumption(
        "converter_most_share",
        "Most a converter should carry",
        0.75,
        0.5,
        1,
        "share",
        "Of its continuous amps: leave a quarter for heat and hopeful labels.",
        "trade",
    ),
    Assumption(
        "undocumented_share",
        "Trust in an undocumented converter",
        0.5,
        0.3,
        1,
        "share",
        "Of the printed amps, where no ambient temperature stands beside them.",
        "trade",
    ),
    Assumption(
        "station_returns",
        "Charge at which a fed station's outlets come back",
        0.05,
        0,
        0.5,
        "share",
        "After it ran empty, of what may be taken out of it.",
        "assumption",
    ),
    Assumption(
        "bank_charge_c",
        "Most current a bare battery is charged with",
        0.5,
        0.05,
        1,
        "C",
        "0.5C is 50 A into 100 Ah: the most for lithium. Lead-acid wants 0.1 to 0.3C.",
        "trade",
    ),
    Assumption(
        "bank_charge_efficiency",
        "Share of the charging power a bare battery keeps",
        0.95,
        0.5,
        1,
        "share",
        "Lithium keeps nearly all of it, lead-acid about 85 %.",
        "assumption",
    ),
    Assumption(
        "bank_taper",
        "Charge from which a bare battery takes less",
        0.9,
        0.5,
        0.99,
        "share",
        "Lithium the last tenth, lead-acid the last fifth.",
        "trade",
    ),
    Assumption(
        "run_length_m",
        "Length of a cable run nobody measured",
        2,
        0.1,
        50,
        "m",
        "One way, where a size is proposed before the run has a length of its own.",
        "assumption",
    ),
    Assumption(
        "post_length_m",
        "Length from a battery's posts to the bus bar",
        0.5,
        0.1,
        10,
        "m",
        "One way, where nobody measured it.",
        "assumption",
    ),
    Assumption(
        "copper_c",
        "Temperature of the copper",
        40,
        -20,
        105,
        "°C",
        "For its resistance: loaded copper is warmer than the air. 20 °C more add 8 %.",
        "iec-60228",
    ),
    Assumption(
        "drop_critical",
        "Volts that may be lost to what matters",
        0.03,
        0.01,
        0.1,
        "share",
        "From the store to inverters, converters, electronics, motors.",
        "abyc-e-11",
    ),
    Assumption(
        "drop_lighting",
        "Volts that may be lost to lights",
        0.1,
        0.01,
        0.15,
        "share",
        "From the store to lamps.",
        "abyc-e-11",
    ),
    Assumption(
        "drop_start",
        "Volts that may be lost in a lead at a start",
        0.1,
        0.02,
        0.3,
        "share",
        "For the moment in which a motor starts.",
        "trade-start",
    ),
    Assumption(
        "drop_feed",
        "Volts that may be lost before the first branch",
        0.01,
        0.002,
        0.05,
        "share",
        "In the leads of a bank and in a feed, of what the whole way may lose.",
        "assumption",
    ),
    Assumption(
        "unsaid_hours",
        "Hours a day when none are given",
        1,
        0.1,
        24,
        "h",
        "Used by quick entry for a load that gives no time.",
        "assumption",
    ),
    Assumption(
        "charge_hours",
        "Hours a small device charges",
        2,
        0.5,
        12,
        "h",
        "Used by quick entry for a device given by its battery (5000 mAh 3.7 V).",
        "assumption",
    ),
)

ASSUMPTIONS: Final[Mapping[str, Assumption]] = MappingProxyType({a.key: a for a in _ALL})


def resolve(overrides: Mapping[str, float]) -> dict[str, float]:
    """Every assumption's value, a design's own in the place of the default."""
    return {key: overrides.get(key, a.value) for key, a in ASSUMPTIONS.items()}
