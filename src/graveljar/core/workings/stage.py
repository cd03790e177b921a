"""Workings of each stage: what runs together on its rail, what starts, what it draws."""

from graveljar.core.analysis.peak_demand import rail_watts
from graveljar.core.components.stage_loss import (
    CHARGED_AFTER,
    MAX_SURGE_FACTOR,
    converter_amps,
    is_large,
    precharge_s,
)
from graveljar.core.context import Context
from graveljar.core.model import Converter, Inverter
from graveljar.core.network.windows import least_input_v
from graveljar.core.workings.working import Figures, Term, summed


def keep_stages(figures: Figures, context: Context) -> None:
    """Keep the figures of every stage, the outermost first: inner ones draw on them."""
    stages = {stage.id: stage for stage in context.network.stages}
    for rail in reversed(tuple(context.network.rails)):
        match stages.get(rail):
            case Inverter() as inverter:
                _keep_inverter_label(figures, context, inverter)
                if is_large(inverter):
                    _keep_precharge(figures, context, inverter)
                if context.analysis.works(inverter):
                    _keep_inverter_running(figures, context, inverter)
                    _keep_input(figures, context, inverter)
            case Converter() as converter:
                _keep_converter_label(figures, context, converter)
                if context.analysis.works(converter):
                    _keep_converter_running(figures, context, converter)
                    _keep_input(figures, context, converter)
            case _:
                pass


def _keep_inverter_label(figures: Figures, context: Context, inverter: Inverter) -> None:
    key = f"stage.{inverter.id}"
    continuous = figures.put("continuous watts", inverter.continuous_w, "W")
    nominal = figures.put("nominal volts", inverter.nominal_v, "V")
    figures.add(
        f"{key}.full_quick_a",
        "Current at full load, at nominal volts",
        inverter.continuous_w / inverter.nominal_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        "This figure ignores losses and sag; do not size by it.",
        watts=continuous,
        volts=nominal,
    )
    figures.add(
        f"{key}.full_design_a",
        "Current at full load, at lowest volts",
        inverter.continuous_w / (inverter.full_load.efficiency * inverter.accepts.least_v),
        "A",
        "{watts} ÷ ({efficiency} × {volts})",
        ("trade",),
        (
            "At the cut-out voltage and full-load efficiency: a constant-power load draws "
            "most there."
        ),
        watts=continuous,
        efficiency=figures.put("full-load efficiency", inverter.full_load.efficiency, "share"),
        volts=figures.put("cut-out volts", inverter.accepts.least_v, "V"),
    )
    figures.add(
        f"{key}.idle_a",
        "Current while idle",
        inverter.idle_w / inverter.nominal_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        watts=figures.put("idle watts", inverter.idle_w, "W"),
        volts=nominal,
    )
    stated = inverter.surge_s is not None
    factor = MAX_SURGE_FACTOR if stated else context.network.assumed["trusted_surge_factor"]
    figures.add(
        f"{key}.trusted_surge_w",
        "Surge it is trusted with",
        context.network.surge_w(inverter),
        "W",
        "min({printed}, {factor} × {watts})",
        ("trade-surge",),
        printed=figures.put("printed surge", inverter.surge_w, "W"),
        factor=figures.put("trusted multiple", factor, ""),
        watts=continuous,
    )


def _keep_precharge(figures: Figures, context: Context, inverter: Inverter) -> None:
    network = context.network
    figures.add(
        f"stage.{inverter.id}.precharge_s",
        f"{inverter.name}: seconds to pre-charge it",
        precharge_s(network.assumed),
        "s",
        "{times} × {ohm} × {mf} ÷ {thousand}",
        ("definition", "trade"),
        "After five time constants (R C) less than 1 % of the voltage is missing.",
        times=figures.put("time constants", CHARGED_AFTER, ""),
        ohm=figures.put("resistor", network.assumed["precharge_ohm"], "Ω"),
        mf=figures.put("capacitors at its input", network.assumed["inverter_mf"], "mF"),
        thousand=figures.put("milli", 1000, ""),
    )


def _keep_inverter_running(figures: Figures, context: Context, inverter: Inverter) -> None:
    key, asked = f"stage.{inverter.id}", context.analysis.demand.asked[inverter.id]
    for end, name, value, unit in (
        ("running_w", "Running together", asked.watts, "W"),
        ("running_va", "Apparent power together", asked.volt_amps, "VA"),
    ):
        terms = {
            f"l{index}": figures.put(
                load.name,
                rail_watts(context.analysis.lowered, load)
                / (load.power_factor if unit == "VA" else 1.0),
                unit,
            )
            for index, load in enumerate(asked.loads)
        }
        terms |= _links(figures, context, inverter.id)
        figures.add(
            f"{key}.{end}",
            name,
            value,
            unit,
            summed(terms),
            ("definition",),
            "The highest sum that runs at one time; of the loads kept apart, only the largest.",
            **terms,
        )
    figures.add(
        f"{key}.share",
        "Share of its continuous watts",
        max(asked.watts, asked.volt_amps) / inverter.continuous_w,
        "share",
        "max({watts}, {va}) ÷ {continuous}",
        ("trade-80",),
        watts=figures.term(f"{key}.running_w"),
        va=figures.term(f"{key}.running_va"),
        continuous=figures.put("continuous watts", inverter.continuous_w, "W"),
    )
    figures.add(
        f"{key}.output_a",
        "Output current of the inverter",
        asked.volt_amps / inverter.output_v,
        "A",
        "{va} ÷ {volts}",
        ("definition",),
        va=figures.term(f"{key}.running_va"),
        volts=figures.put("output volts", inverter.output_v, "V"),
    )
    if asked.start is not None:
        figures.add(
            f"{key}.worst_start_w",
            f"Highest start: {asked.start.load.name}",
            asked.start.watts,
            "W",
            "{others} + {start}",
            ("trade-start",),
            "One appliance starts while everything else that may run is running.",
            others=figures.put("running meanwhile", asked.start.others_w, "W"),
            start=figures.put("its starting power", asked.start.one_start_w, "W"),
        )


def _keep_converter_label(figures: Figures, context: Context, converter: Converter) -> None:
    key, amps = (
        f"stage.{converter.id}",
        converter_amps(converter, context.network.design, context.network.assumed),
    )
    terms = {
        "printed": figures.put("printed amps", converter.continuous_a, "A"),
        "count": figures.put("in parallel", converter.parallel, ""),
        "trust": figures.put("trust in the label", amps.trust, "share"),
        "heat": figures.put("factor for heat", amps.derated, "share"),
    }
    figures.add(
        f"{key}.good_a",
        "Advised continuous current at this temperature",
        amps.good_a,
        "A",
        "{printed} × {count} × {trust} × {heat}",
        ("trade",),
        (
            "Undocumented units are trusted with half their printed current; above the knee "
            "temperature the rating falls."
        ),
        **terms,
    )
    measured = converter.measured_a is not None
    figures.add(
        f"{key}.limit_a",
        "Current limit at this temperature",
        amps.limit_a,
        "A",
        "{limit} × {count} × {heat}",
        ("trade",),
        "Its own current limit, from its label or as measured.",
        limit=figures.put(
            "measured limit" if measured else "printed amps",
            converter.measured_a or converter.continuous_a,
            "A",
        ),
        count=terms["count"],
        heat=terms["heat"],
    )


def _keep_converter_running(figures: Figures, context: Context, converter: Converter) -> None:
    key, asked = f"stage.{converter.id}", context.analysis.demand.asked[converter.id]
    terms = {
        f"l{index}": figures.put(load.name, rail_watts(context.analysis.lowered, load), "W")
        for index, load in enumerate(asked.loads)
    }
    terms |= _links(figures, context, converter.id)
    names = {stage.id: stage.name for stage in context.network.stages}
    for index, (stage, drawn_w) in enumerate(asked.stages):
        working = f"stage.{stage}.draws_w"
        kept = working in figures.values
        terms[f"s{index}"] = figures.put(names[stage], drawn_w, "W", working if kept else None)
    figures.add(
        f"{key}.running_w",
        "Running together",
        asked.watts,
        "W",
        summed(terms),
        ("definition",),
        "The highest sum that runs at one time; of the loads kept apart, only the largest.",
        **terms,
    )
    volts = figures.put("set volts", converter.set_v, "V")
    figures.add(
        f"{key}.output_a",
        "Output current of the converter",
        asked.watts / converter.set_v,
        "A",
        "{watts} ÷ {volts}",
        ("definition",),
        watts=figures.term(f"{key}.running_w"),
        volts=volts,
    )
    good_a = figures.values[f"{key}.good_a"].value
    if good_a:
        figures.add(
            f"{key}.share",
            "Share of the advised continuous current",
            asked.watts / converter.set_v / good_a,
            "share",
            "{amps} ÷ {good}",
            ("trade",),
            amps=figures.term(f"{key}.output_a"),
            good=figures.term(f"{key}.good_a"),
        )
    if asked.start is not None:
        figures.add(
            f"{key}.start_a",
            f"Output current at the highest start: {asked.start.load.name}",
            asked.start.watts / converter.set_v,
            "A",
            "({others} + {start}) ÷ {volts}",
            ("trade-start",),
            others=figures.put("running meanwhile", asked.start.others_w, "W"),
            start=figures.put("its starting power", asked.start.one_start_w, "W"),
            volts=volts,
        )


def _links(figures: Figures, context: Context, rail: str) -> dict[str, Term]:
    """What links on a rail take of it at their most."""
    return {
        f"c{index}": figures.put(link.name, context.analysis.link_w[link.id], "W")
        for index, link in enumerate(context.network.design.links)
        if link.rail == rail
    }


def _keep_input(figures: Figures, context: Context, stage: Inverter | Converter) -> None:
    network = context.network
    key, loss = f"stage.{stage.id}", network.losses[stage.id]
    drawn_w = context.analysis.demand.drawn_w(stage.id)
    figures.add(
        f"{key}.draws_w",
        "Power drawn with everything running",
        drawn_w,
        "W",
        "{p0} + {k1} × {watts} + {k2} × {watts}²",
        ("inverter-loss",),
        "k1 and k2 are calculated from the idle watts and the efficiencies of the label.",
        p0=figures.put("idle, p0", loss.p0, "W"),
        k1=figures.put("k1", loss.k1, ""),
        k2=figures.put("k2", loss.k2, "1/W"),
        watts=figures.term(f"{key}.running_w"),
    )
    lowest_v = max(least_input_v(stage), network.rails[stage.rail].low_v)
    if isinstance(stage, Converter) and stage.topology == "linear":
        figures.add(
            f"{key}.input_a",
            "Input current",
            figures.values[f"{key}.output_a"].value + loss.p0 / network.rails[stage.rail].nominal_v,
            "A",
            "{out} + {own} ÷ {volts}",
            ("definition",),
            (
                "A linear converter draws the current that it supplies; the voltage difference "
                "becomes heat."
            ),
            out=figures.term(f"{key}.output_a"),
            own=figures.put("its own draw", loss.p0, "W"),
            volts=figures.put("volts before it", network.rails[stage.rail].nominal_v, "V"),
        )
        return
    figures.add(
        f"{key}.input_a",
        "Input current",
        drawn_w / lowest_v,
        "A",
        "{drawn} ÷ {volts}",
        ("trade",),
        "At the lowest voltage at which it works: a constant-power load draws most there.",
        drawn=figures.term(f"{key}.draws_w"),
        volts=figures.put("lowest volts", lowest_v, "V"),
    )
