"""Rules about stores: protection, current, gas, cold. Each looks at every store."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.analysis.bank_sizing import CELL_V, long_power, most_in_series
from graveljar.core.components.battery import (
    cells_in_series,
    chemistry_of,
    most_cells_in_series,
    temperature_range,
)
from graveljar.core.components.touch import touch_v
from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model.patch import Edit
from graveljar.core.network.standard_sizes import COMFORT_W
from graveljar.core.rules.finding import Finding, Remedy, Rule
from graveljar.core.rules.lead_acid import LEAD_ACID_RULES
from graveljar.core.rules.lithium import LITHIUM_RULES
from graveljar.core.rules.remedies import grow_to, keep_largest_apart, soft_start
from graveljar.core.tables.chemistry import USUAL_CELLS
from graveljar.core.tables.touch import DRY_TOUCH_V, EXTRA_LOW_V
from graveljar.core.text import beyond, number, quantity

# Label volts further than this from a whole number of cells are unlikely. Ours.
VOLTS_TOLERANCE: Final = 0.08


def current_above_limit(context: Context) -> Iterator[Finding]:
    """`bank.current_above_limit`: the protection opens and everything goes dark.

    Design current at the lowest volts, against the limit of one battery times the strings.
    """
    for bank in context.network.banks:
        give_a = context.network.bank_labels[bank.id].give_a
        needs_a = context.analysis.bank_demands[bank.id].design_a
        if give_a is None or not exceeds(needs_a, give_a):
            continue
        key = f"store.{bank.id}"
        asked, gives = beyond(needs_a, give_a, "A")
        yield Finding(
            "bank.current_above_limit",
            "fix",
            bank.id,
            f"{bank.name} must supply {asked}; it is rated for {gives}",
            (
                "With everything running, the protection of the batteries opens and everything "
                "stops. Each battery in parallel adds its own limit."
            ),
            (f"{key}.running_design_a", f"{key}.running_quick_a", f"{key}.give_a"),
            (
                *grow_to(context, bank, needs_a / give_a * bank.parallel),
                *keep_largest_apart(context, bank.id),
            ),
            ("trade", "ohm"),
        )


def start_above_peak(context: Context) -> Iterator[Finding]:
    """`bank.start_above_peak`: a start opens the batteries' protection."""
    for bank in context.network.banks:
        peak_a, demand = (
            context.network.bank_labels[bank.id].peak_a,
            context.analysis.bank_demands[bank.id],
        )
        start = context.analysis.demand.asked[bank.id].start
        if peak_a is None or start is None or not exceeds(demand.start_a, peak_a):
            continue
        asked, bears = beyond(demand.start_a, peak_a, "A")
        yield Finding(
            "bank.start_above_peak",
            "fix",
            bank.id,
            (
                f"{start.load.name} draws {asked} from {bank.name} when it starts; its "
                f"protection allows {bears}"
            ),
            (
                "The protection opens during the start, and everything stops. Without a stated "
                "peak, twice the continuous current is trusted."
            ),
            (f"store.{bank.id}.start_a", f"store.{bank.id}.peak_a", f"load.{start.load.id}.start"),
            (
                *grow_to(context, bank, demand.start_a / peak_a * bank.parallel),
                *soft_start(context, start.load),
            ),
            ("trade-start", "trade"),
        )


def above_kind(context: Context) -> Iterator[Finding]:
    """`bank.above_kind`: more than 0.2C continuously shortens the batteries' life."""
    network = context.network
    for place, bank in enumerate(network.stores):
        if bank not in network.banks:
            continue
        rest = network.bank_labels[bank.id]
        long_a = long_power(context.analysis.day, place) / rest.nominal_v
        gentle_a = network.assumed["kind_rate_c"] * rest.ah
        give_a = rest.give_a
        if not exceeds(long_a, gentle_a) or (give_a is not None and exceeds(long_a, give_a)):
            continue
        gives, kind = beyond(long_a, gentle_a, "A")
        yield Finding(
            "bank.above_kind",
            "watch",
            bank.id,
            (
                f"{bank.name} supplies {gives} for an hour or more a day; for a long life {kind} "
                "is the gentle limit (0.2C)"
            ),
            (
                "Higher continuous currents shorten the life of the batteries. With more "
                "batteries each is strained less."
            ),
            (f"store.{bank.id}.gentle_a",),
            grow_to(context, bank, long_a / gentle_a * bank.parallel),
            ("trade-kind",),
        )


def low_system_volts(context: Context) -> Iterator[Finding]:
    """`bank.low_system_volts`: so much power wants a higher system voltage."""
    for bank in context.network.banks:
        volts, demand = (
            context.network.bank_labels[bank.id].nominal_v,
            context.analysis.bank_demands[bank.id],
        )
        most_w = next((watts for below_v, watts in COMFORT_W if volts < below_v), None)
        if most_w is None or not exceeds(demand.drawn_w, most_w):
            continue
        yield Finding(
            "bank.low_system_volts",
            "watch",
            bank.id,
            (
                f"{quantity(demand.drawn_w, 'W')} at {quantity(volts, 'V')} is "
                f"{quantity(demand.design_a, 'A')}"
            ),
            (
                "12 V suits up to about 2 kW, 24 V up to about 4 kW: above that cables and "
                "fuses get thick. Twice the voltage halves the current."
            ),
            (f"store.{bank.id}.running_design_a", f"store.{bank.id}.running_quick_a"),
            (Remedy("See Needed for other system voltages."),),
            ("trade-voltage",),
        )


def vented_indoors(context: Context) -> Iterator[Finding]:
    """`bank.vented_indoors`: flooded lead-acid gives off hydrogen when charged."""
    for bank in context.network.banks:
        if not chemistry_of(bank.battery).vented or bank.location != "living space":
            continue
        at = context.network.store_path(bank)
        yield Finding(
            "bank.vented_indoors",
            "stop",
            bank.id,
            "A vented battery in a living space",
            (
                "A flooded lead-acid battery gives off hydrogen when charged; a spark ignites "
                "it, and the acid mist is harmful. It needs a box vented to the outside."
            ),
            (),
            (
                Remedy(
                    "Put it in a box vented to the outside.",
                    (Edit("replace", f"{at}/location", "vented box"),),
                ),
                Remedy(
                    "Use sealed batteries (AGM or gel) of the same size.",
                    (Edit("replace", f"{at}/battery/chemistry", "agm"),),
                ),
            ),
            ("trade",),
        )


def colder_than_known(context: Context) -> Iterator[Finding]:
    """`bank.colder_than_known`: the capacity table ends above this temperature."""
    ambient_c = context.network.design.setting.coldest_c
    for bank in context.network.held:
        coldest, _ = temperature_range(bank.battery)
        if ambient_c >= coldest:
            continue
        yield Finding(
            "bank.colder_than_known",
            "watch",
            bank.id,
            f"No figures are known below {number(coldest)} °C",
            (
                f"The capacity at {number(coldest)} °C is used; at {number(ambient_c)} °C there "
                "is less. The hours shown are too long."
            ),
            (f"store.{bank.id}.temperature_factor",),
            (Remedy(f"Keep it where it stays at {number(coldest)} °C or more."),),
            (chemistry_of(bank.battery).capacity_source,),
        )


def above_extra_low(context: Context) -> Iterator[Finding]:
    """`bank.above_extra_low`: more than extra-low voltage, as in packs of electric vehicles."""
    network = context.network
    for bank in network.banks:
        full_v = network.bank_labels[bank.id].full_v
        if not exceeds(full_v, EXTRA_LOW_V):
            continue
        fewer = int(DRY_TOUCH_V // (full_v / bank.series))
        remedies = []
        if 0 < fewer < bank.series:
            label = f"Put only {fewer} in series."
            edit = Edit("replace", f"{network.store_path(bank)}/series", fewer)
            remedies.append(Remedy(label, (edit,)))
        yield Finding(
            "bank.above_extra_low",
            "stop",
            bank.id,
            f"{bank.name} has {quantity(full_v, 'V')} DC when full",
            (
                f"Direct current above {number(EXTRA_LOW_V)} V kills, and its arcs do not go "
                "out. This is work for people trained for it, not for this program."
            ),
            (f"store.{bank.id}.full_v",),
            tuple(remedies) or (Remedy("Leave it to people trained for such packs."),),
            ("iec-61140",),
        )


def touchable(context: Context) -> Iterator[Finding]:
    """`bank.touchable`: direct current that must not be touched: above 60 V, 30 V where it is wet.

    Of a bank when full, or of what a converter gives; up to 120 V (`bank.above_extra_low`).
    """
    network = context.network
    found = [
        (
            bank.id,
            bank.name,
            network.bank_labels[bank.id].full_v,
            touch_v(network.design.setting, bank),
            "when full",
        )
        for bank in network.banks
    ]
    found += [
        (x.id, x.name, x.set_v, touch_v(network.design.setting, None), "at its output")
        for x in network.converters
    ]
    for subject, name, volts, most_v, when in found:
        if not exceeds(volts, most_v) or exceeds(volts, EXTRA_LOW_V):
            continue
        yield Finding(
            "bank.touchable",
            "watch",
            subject,
            f"{name} has {quantity(volts, 'V')} DC {when}; from {number(most_v)} V on nobody may "
            "touch it",
            (
                "Cover every bare part, and use fuses, switches and connectors rated for this "
                "direct voltage. The limit is 30 V in wet places and 60 V in dry ones. Leave "
                "the work to somebody trained for it."
            ),
            (f"store.{subject}.full_v",) if subject in network.bank_labels else (),
            (Remedy("Cover all terminals, or use a lower voltage."),),
            ("iec-61140",),
        )


def too_many(context: Context) -> Iterator[Finding]:
    """`bank.too_many`: more batteries in series or parallel than their maker allows.

    Protection that opens has to carry the volts of the whole string. Where no maker's limit is
    known, more than four in series are asked about.
    """
    for bank in context.network.banks:
        battery = bank.battery
        if battery.volts < CELL_V:
            # Cells, not batteries with protection of their own.
            continue
        unsaid = battery.most_series is None
        limit = most_in_series(battery)
        for count, most, field, word in (
            (bank.series, limit, "series", "in series"),
            (bank.parallel, battery.most_parallel, "parallel", "in parallel"),
        ):
            if most is None or count <= most:
                continue
            guessed = unsaid and field == "series"
            allowed = "more than four are rarely allowed" if guessed else f"its maker allows {most}"
            edit = Edit("replace", f"{context.network.store_path(bank)}/{field}", most)
            yield Finding(
                "bank.too_many",
                "fix" if guessed or field == "parallel" else "stop",
                bank.id,
                f"{bank.name} has {count} batteries {word}; {allowed}",
                (
                    "When the protection of one battery opens, it must withstand the voltage of "
                    "the whole series string; many in parallel do not share evenly. "
                    "Ask the maker, and enter the limit."
                ),
                (f"store.{bank.id}.volts",),
                (Remedy(f"Put only {most} {word}.", (edit,)),),
                ("trade",),
            )


def unlikely_volts(context: Context) -> Iterator[Finding]:
    """`bank.unlikely_volts`: label volts that the number of cells does not make."""
    for bank in context.network.banks:
        battery, kind = bank.battery, chemistry_of(bank.battery)
        cells = cells_in_series(battery)
        likely_v = cells * kind.nominal_v
        if (battery.chemistry, battery.volts) in USUAL_CELLS:
            continue
        if abs(battery.volts - likely_v) <= VOLTS_TOLERANCE * likely_v:
            continue
        edit = Edit("replace", f"{context.network.store_path(bank)}/battery/volts", likely_v)
        yield Finding(
            "bank.unlikely_volts",
            "watch",
            bank.id,
            f"{quantity(battery.volts, 'V')} is unlikely for {kind.name}",
            f"A cell has {number(kind.nominal_v)} V; {cells} in series make "
            f"{quantity(likely_v, 'V')}. Check the label, the cells and the chemistry.",
            (f"store.{bank.id}.volts",),
            (Remedy(f"Make it {quantity(likely_v, 'V')}.", (edit,)),),
            ("trade",),
        )


def cells_unknown(context: Context) -> Iterator[Finding]:
    """`bank.cells_unknown`: label volts that packs of other counts of cells have too.

    What a full pack may damage is judged by the most.
    """
    for bank in context.network.banks:
        battery, kind = bank.battery, chemistry_of(bank.battery)
        counts = cells_in_series(battery), most_cells_in_series(battery)
        if counts[0] == counts[1]:
            continue
        volts = [quantity(cells * kind.full_v, "V") for cells in counts]
        at = f"{context.network.store_path(bank)}/battery/cells"
        yield Finding(
            "bank.cells_unknown",
            "watch",
            bank.id,
            f"{bank.name} may have {counts[0]} or {counts[1]} cells in series",
            (
                f"Packs labelled {quantity(battery.volts, 'V')} have {counts[0]} cells and "
                f"{volts[0]} when full, or {counts[1]} and {volts[1]}. Until you say which, the "
                "higher voltage is used to judge danger. Check its label or its charger's "
                "voltage."
            ),
            (f"store.{bank.id}.full_v",),
            tuple(
                Remedy(f"Its label says {cells} cells.", (Edit("add", at, cells),))
                for cells in counts
            ),
            ("trade",),
        )


# Danger first, then what stops the work, then habits.
STORE_RULES: Final[tuple[Rule, ...]] = (
    above_extra_low,
    touchable,
    *LITHIUM_RULES,
    vented_indoors,
    current_above_limit,
    start_above_peak,
    *LEAD_ACID_RULES,
    too_many,
    colder_than_known,
    unlikely_volts,
    cells_unknown,
    above_kind,
    low_system_volts,
)
