"""Where figures come from. Stored once; findings, workings and the screen refer to the keys."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Final, Literal

Mark = Literal["published", "common practice", "published, quoted from memory"]


@dataclass(frozen=True)
class Source:
    """A citation and how firmly it stands."""

    text: str
    mark: Mark


SOURCES: Final[Mapping[str, Source]] = MappingProxyType(
    {
        "definition": Source("Definition of the quantity.", "published"),
        "ohm": Source("Ohm's law.", "published"),
        "peukert": Source(
            "W. Peukert, on how the capacity of lead accumulators depends on the "
            "discharge current, 1897.",
            "published",
        ),
        "inverter-loss": Source(
            "Quadratic inverter loss, after King et al., SAND2007-5036.", "published"
        ),
        "ocv-lfp": Source(
            "Open-circuit voltage from Afshar et al. 2017 and Ecker et al. 2015; "
            "below 20 % charge anchored on trade figures.",
            "published",
        ),
        "ocv-measured": Source("Rested volts of this battery, as measured.", "common practice"),
        "ocv-nmc": Source("Open-circuit voltage from Chen et al. 2020.", "published"),
        "ocv-lead": Source(
            "Open-circuit voltage from Sulzer et al. 2019, through the rested volts of common "
            "charts: flooded 12.7, 12.2, 11.7 V at full, half and empty, AGM 12.9, 12.35, 11.8.",
            "published, quoted from memory",
        ),
        "trade-freezing": Source(
            "Lead-acid freezes at about -7 °C when flat, -25 °C at half charge.",
            "published, quoted from memory",
        ),
        "ieee-485": Source(
            "IEEE 485, temperature factors for sizing lead-acid batteries.",
            "published, quoted from memory",
        ),
        "trade": Source("Common practice in the trade.", "common practice"),
        "trade-lfp-cold": Source(
            "Capacity of LFP in the cold, common practice.", "common practice"
        ),
        "trade-start": Source(
            "Starting power: six times the running watts when nothing better is known.",
            "common practice",
        ),
        "trade-surge": Source(
            "Printed surge is often fantasy: trust twice the continuous watts unless a "
            "datasheet states seconds.",
            "common practice",
        ),
        "trade-80": Source("Load an inverter to 80 % or less for long runs.", "common practice"),
        "trade-kind": Source(
            "Discharge at 0.2C or less for long: less strain, longer life.", "common practice"
        ),
        "trade-voltage": Source(
            "12 V is comfortable to about 2 kW, 24 V to about 4 kW, then 48 V.",
            "common practice",
        ),
        "trade-bench": Source(
            "Bench work: volts within 5 %, rests before volts tell charge, an hour before heat "
            "counts, starts only from a meter that holds peaks.",
            "common practice",
        ),
        "trade-growing": Source(
            "Growing a station: P = min(volts × amps of the mode, watts of the input, "
            "converter, source, cable).",
            "common practice",
        ),
        "nec-690": Source(
            "NEC article 690, solar photovoltaic systems.", "published, quoted from memory"
        ),
        "nec-310-16": Source(
            "NEC table 310.16: copper, 60 and 75 °C, in conduit.", "published, quoted from memory"
        ),
        "cfr-183-425": Source(
            "33 CFR 183.425 table 5: by insulation, outside of engine spaces.",
            "published, quoted from memory",
        ),
        "iso-10133": Source(
            "ISO 10133 and ISO 13297, cable of small craft: one conductor, 70 and 105 °C.",
            "published, quoted from memory",
        ),
        "iec-60228": Source(
            "IEC 60228, resistance of class 5 copper at 20 °C.", "published, quoted from memory"
        ),
        "astm-b258": Source("ASTM B258, sizes of American wire gauge.", "published"),
        "abyc-e-11": Source(
            "ABYC E-11: volts lost, 3 % and 10 %; main fuse within 18 cm of the post.",
            "published, quoted from memory",
        ),
        "nec-240-6": Source(
            "NEC 240.6(A), standard fuse sizes; blade fuses after ISO 8820-3.",
            "published, quoted from memory",
        ),
        "fuse-kinds": Source(
            "Typical volts and breaking amps of fuse kinds; a datasheet goes before them.",
            "published, quoted from memory",
        ),
        "nec-310-10": Source(
            "NEC 310.10(G): conductors in parallel from 1/0 AWG on, alike in length and kind.",
            "published, quoted from memory",
        ),
        "abyc-e-13": Source(
            "ABYC E-13: the main fuse of a lithium bank interrupts what the bank can give.",
            "published, quoted from memory",
        ),
        "trade-fuse": Source(
            "A fuse carries at least 125 % of the load and no more than its cable; it, its "
            "holder and connectors run at 80 % or less.",
            "common practice",
        ),
        "trade-cable": Source(
            "The minimum works; one size up runs cooler and loses less.", "common practice"
        ),
        "design": Source("Follows from the figures of this design.", "published"),
        "iso-16750-2": Source(
            "ISO 16750-2, supply ranges of vehicle equipment: 9 to 16 V and 16 to 32 V.",
            "published, quoted from memory",
        ),
        "iso-8820-3": Source(
            "ISO 8820-3, opening times of blade fuses.", "published, quoted from memory"
        ),
        "iec-61140": Source(
            "IEC 61140 and 60364-4-41: touch protection above 60 V DC (30 V where it is wet); "
            "above 120 V DC it is not extra-low voltage any more.",
            "published, quoted from memory",
        ),
        "assumption": Source("An assumption of this design; it can be changed.", "common practice"),
    }
)
