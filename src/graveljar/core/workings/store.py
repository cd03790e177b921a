"""Workings of each store: at rest, what may be taken out of it, what it has to give."""

from itertools import pairwise

from graveljar.core.components.battery import chemistry_of, temperature_range
from graveljar.core.context import Context
from graveljar.core.model import Bank, Station
from graveljar.core.workings.station import keep_station
from graveljar.core.workings.working import Figures


def keep_stores(figures: Figures, context: Context) -> None:
    """Keep the figures of every store."""
    for bank, store in zip(context.network.stores, context.network.design.stores, strict=True):
        if isinstance(store, Station):
            keep_station(figures, context, store)
        else:
            _keep_rest(figures, context, bank)
        _keep_usable(figures, context, bank)
        _keep_currents(figures, context, bank)


def _keep_rest(figures: Figures, context: Context, bank: Bank) -> None:
    network = context.network
    key, battery, rest = f"store.{bank.id}", bank.battery, network.bank_labels[bank.id]
    kind = chemistry_of(battery)
    volts = figures.put("battery volts", battery.volts, "V")
    ah = figures.put("battery charge", battery.ah, "Ah")
    series = figures.put("batteries in series", bank.series, "")
    parallel = figures.put("batteries in parallel", bank.parallel, "")
    cells = figures.put("cells in series", rest.cells, "")
    by_definition = ("definition",)
    figures.add(
        f"{key}.volts",
        "Bank volts",
        rest.nominal_v,
        "V",
        "{volts} × {series}",
        by_definition,
        "Series adds volts and keeps Ah.",
        volts=volts,
        series=series,
    )
    figures.add(
        f"{key}.ah",
        "Bank charge",
        rest.ah,
        "Ah",
        "{ah} × {parallel}",
        by_definition,
        "Parallel adds Ah and keeps volts.",
        ah=ah,
        parallel=parallel,
    )
    figures.add(
        f"{key}.wh",
        "Bank energy by its label",
        rest.wh,
        "Wh",
        "{volts} × {ah}",
        by_definition,
        volts=figures.term(f"{key}.volts"),
        ah=figures.term(f"{key}.ah"),
    )
    said = "" if rest.most_cells == rest.cells else ", at most: the label does not say"
    most = figures.put(f"cells in series{said}", rest.most_cells, "")
    for end, name, cell_v, count, put in (
        ("empty_v", "Bank empty", kind.empty_v, rest.cells, cells),
        ("full_v", "Bank full, on charge", kind.full_v, rest.most_cells, most),
    ):
        figures.add(
            f"{key}.{end}",
            name,
            cell_v * count,
            "V",
            "{cell} × {cells}",
            ("trade",),
            cell=figures.put("volts of a cell", cell_v, "V"),
            cells=put,
        )
    if rest.give_a is not None and battery.bms_a is not None:
        figures.add(
            f"{key}.give_a",
            "Rated current of the bank",
            rest.give_a,
            "A",
            "{bms} × {parallel}",
            ("trade",),
            "Batteries in parallel share the current; batteries in series carry all of it.",
            bms=figures.put("limit of one battery's protection", battery.bms_a, "A"),
            parallel=parallel,
        )
    figures.add(
        f"{key}.gentle_a",
        "Gentle continuous current (0.2C)",
        network.assumed["kind_rate_c"] * rest.ah,
        "A",
        "{rate} × {ah}",
        ("trade-kind",),
        rate=figures.put("gentle rate", network.assumed["kind_rate_c"], "C"),
        ah=figures.term(f"{key}.ah"),
    )


def _keep_usable(figures: Figures, context: Context, bank: Bank) -> None:
    key, usable = f"store.{bank.id}", context.analysis.usable[bank.id]
    station = context.network.station(bank.id)
    if station is None:
        figures.add(
            f"{key}.share",
            "Share that may be used",
            usable.share,
            "share",
            "1 − {keep}",
            ("trade",),
            keep=figures.put("reserve", bank.reserve, "share"),
        )
    else:
        figures.add(
            f"{key}.share",
            "Share that may be used",
            usable.share,
            "share",
            "{own} × (1 − {keep})",
            ("trade",),
            "A station keeps a part for itself; your reserve comes on top.",
            own=figures.put("usable share", station.usable_share, "share"),
            keep=figures.put("reserve", station.reserve, "share"),
        )
    _keep_temperature(figures, context, bank)
    figures.add(
        f"{key}.peukert_factor",
        "Share of the label's Ah at these currents",
        usable.peukert,
        "share",
        "{factor}",
        ("peukert",),
        (
            "Peukert's capacity at each current of the day, weighted by the charge drawn. "
            "No gain is counted below the rated current; lithium has almost no loss."
        ),
        factor=figures.put("weighted over the day", usable.peukert, "share"),
    )
    figures.add(
        f"{key}.usable",
        "Usable energy",
        usable.wh,
        "Wh",
        "{wh} × {share} × {temperature} × {peukert}",
        ("trade",),
        wh=figures.term(f"{key}.wh"),
        share=figures.term(f"{key}.share"),
        temperature=figures.term(f"{key}.temperature_factor"),
        peukert=figures.term(f"{key}.peukert_factor"),
    )


def _keep_temperature(figures: Figures, context: Context, bank: Bank) -> None:
    key, kind = f"store.{bank.id}", chemistry_of(bank.battery)
    coldest, warmest = temperature_range(bank.battery)
    ambient_c = context.network.design.setting.mean_c
    curve = kind.capacity_by_temperature
    read_c = min(max(ambient_c, coldest), warmest)
    (c0, f0), (c1, f1) = next(
        pair for pair in pairwise(curve) if pair[0][0] <= read_c <= pair[1][0]
    )
    note = ""
    if read_c != ambient_c:
        note = f"The table covers {coldest:g} to {warmest:g} °C; its end value is used."
    figures.add(
        f"{key}.temperature_factor",
        "Share of the capacity at this temperature",
        context.analysis.usable[bank.id].temperature,
        "share",
        "{f0} + ({f1} − {f0}) × ({at} − {c0}) ÷ ({c1} − {c0})",
        (kind.capacity_source,),
        note,
        f0=figures.put(f"share at {c0:g} °C", f0, "share"),
        f1=figures.put(f"share at {c1:g} °C", f1, "share"),
        at=figures.put("ambient", read_c, "°C"),
        c0=figures.put("colder entry", c0, "°C"),
        c1=figures.put("warmer entry", c1, "°C"),
    )


def _keep_currents(figures: Figures, context: Context, bank: Bank) -> None:
    key, demand, rest = (
        f"store.{bank.id}",
        context.analysis.bank_demands[bank.id],
        context.network.bank_labels[bank.id],
    )
    figures.add(
        f"{key}.running_quick_a",
        "Current with everything running, at nominal volts",
        demand.quick_a,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        "This figure ignores losses and sag; do not size by it.",
        watts=figures.put("watts of the appliances", demand.useful_w, "W"),
        volts=figures.term(f"{key}.volts"),
    )
    lowest = figures.put("lowest volts", demand.lowest_v, "V")
    figures.add(
        f"{key}.running_design_a",
        "Current with everything running, at lowest volts",
        demand.design_a,
        "A",
        "{drawn} ÷ {volts}",
        ("trade",),
        "The watts drawn, with all losses, at the lowest voltage at which everything works.",
        drawn=figures.put("drawn from the bank", demand.drawn_w, "W"),
        volts=lowest,
    )
    figures.add(
        f"{key}.start_a",
        "Current at the highest start",
        demand.start_a,
        "A",
        "{drawn} ÷ {volts}",
        ("trade-start",),
        drawn=figures.put("drawn at the highest start", demand.start_w, "W"),
        volts=lowest,
    )
    own = context.analysis.demand.asked[bank.id].straight_w
    figures.add(
        f"{key}.dc_a",
        "Current of the loads on the bank's own rail",
        own / demand.lowest_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        watts=figures.put("on the bank's rail", own, "W"),
        volts=lowest,
    )
    if rest.peak_a is not None:
        stated = bank.battery.bms_peak_a
        one_a = rest.peak_a / bank.parallel
        figures.add(
            f"{key}.peak_a",
            "Rated current of the bank for a start",
            rest.peak_a,
            "A",
            "{one} × {parallel}",
            ("trade",),
            "" if stated is not None else "Twice the continuous current where no peak is stated.",
            one=figures.put("peak of one battery's protection", one_a, "A"),
            parallel=figures.put("batteries in parallel", bank.parallel, ""),
        )
