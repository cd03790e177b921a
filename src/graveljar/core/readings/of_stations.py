"""Readings of stations: what they give from full to empty, take by mode, and where they taper."""

from typing import Any, Final

from graveljar.core.components.stage_loss import loss_of
from graveljar.core.context import Context
from graveljar.core.model import Converter, Inverter, Station
from graveljar.core.readings.judged import Adoption, Judged, Verdict, result
from graveljar.core.readings.places import adoption, part_of, refused
from graveljar.core.readings.reading import InputReading, OutReading, TaperReading
from graveljar.core.text import number, quantity

# A station's input rises over several seconds: a reading is taken after so long. Common
# practice. [s]
SETTLES_S: Final = 30.0
# A station that holds less of its label is weak, and worn out. Common practice. [1]
WEAK: Final = 0.9
WORN: Final = 0.75
# Readings this near are the same. Ours. [1]
NEAR: Final = 0.03


def given_out(context: Context, reading: OutReading) -> Judged:
    """Energy out of a station's outlet, brought back to its battery, against its label."""
    station, index = _station_of_outlet(context, reading)
    outlet = station.outlets[index]
    stage = next(x for x in context.network.stages if x.id == outlet.id)
    watts = reading.wh / reading.hours
    drawn_w = loss_of(stage).dc_w(watts) if isinstance(stage, Inverter | Converter) else watts
    inner_wh = (drawn_w + station.idle_w) * reading.hours
    expected = f"{quantity(station.label_wh * station.usable_share, 'Wh', 4)} at its battery"
    found = (
        result("Mean watts", watts, "W",
               f"{quantity(reading.wh, 'Wh', 4)} ÷ {quantity(reading.hours, 'h')}"),
        result("At its battery", inner_wh, "Wh",
               f"({quantity(drawn_w, 'W')} drawn for it + {quantity(station.idle_w, 'W')} of its "
               f"own) × {quantity(reading.hours, 'h')}"),
        result("Share of the label", inner_wh / station.label_wh, "share",
               f"{quantity(inner_wh, 'Wh', 4)} ÷ {quantity(station.label_wh, 'Wh', 4)}"),
    )  # fmt: skip
    if inner_wh > 1.2 * station.label_wh:
        return Judged(
            "bad", f"{quantity(reading.wh, 'Wh', 4)} out of {quantity(station.label_wh, 'Wh', 4)} "
            "cannot be: one of them is wrong, or it was charged meanwhile.", expected,
            "Read the meter again, with nothing plugged into its inputs.", found,
            sources=("definition",),
        )  # fmt: skip
    share = inner_wh / station.label_wh
    verdict: Verdict = "good" if share >= WEAK else "watch" if share >= WORN else "bad"
    before = (
        f"{quantity(station.label_wh, 'Wh', 4)} × {quantity(station.usable_share, 'share')}"
        if station.measured_wh is None
        else quantity(station.measured_wh, "Wh", 4)
    )
    adopt = adoption(
        context, reading.model_copy(update={"subject": station.id}), "Energy at its battery",
        before, quantity(inner_wh, "Wh", 4), decides=True, measured_wh=round(inner_wh, 1),
    )  # fmt: skip
    says = (
        f"{quantity(reading.wh, 'Wh', 4)} came out: {quantity(share, 'share', 2)} of its label at "
        "its battery."
    )
    do = "" if verdict == "good" else "Test it once more in warm air, from full, at a small load."
    return Judged(verdict, says, expected, do, found, (adopt,), ("trade-bench", "inverter-loss"))


def _station_of_outlet(context: Context, reading: OutReading) -> tuple[Station, int]:
    for store in context.network.design.stores:
        for n, outlet in enumerate(getattr(store, "outlets", ())):
            if outlet.id == reading.subject and isinstance(store, Station):
                return store, n
    raise refused(context, reading.subject, "is not an outlet of a station")


def taken_in(context: Context, reading: InputReading) -> Judged:
    """Watts into a station, against what the plan expects and what its input is labelled for."""
    link = next((x for x in context.network.design.links if x.id == reading.subject), None)
    station = context.network.station(link.to) if link is not None else None
    port = station.input(link.input) if station is not None and link is not None else None
    if link is None or station is None or port is None:
        raise refused(context, reading.subject, "does not lead into a station")
    planned = context.analysis.link_operations[link.id].full
    mode = port.mode(link.mode)
    watts = reading.volts * reading.amps
    expected = (
        f"{quantity(planned.watts, 'W')}: {quantity(planned.volts, 'V')}, "
        f"{quantity(planned.amps, 'A')}"
    )
    found = (
        result("Taken", watts, "W",
               f"{quantity(reading.volts, 'V')} × {quantity(reading.amps, 'A')}"),
    )  # fmt: skip
    if reading.after_s < SETTLES_S:
        return Judged(
            "says nothing", f"After {quantity(reading.after_s, 's')} it still rises.", expected,
            f"Read it after {quantity(SETTLES_S, 's')} or later.", found, sources=("trade-bench",),
        )  # fmt: skip
    adopt = _input_figures(station, port.id, mode.name, reading, context)
    says = f"{quantity(watts, 'W')} go in; "
    if planned.watts:
        says += f"{quantity(watts / planned.watts, 'share', 2)} of the plan."
    else:
        says += "by the plan nothing does."
    if planned.watts and watts < (1 - NEAR) * planned.watts:
        do = (
            "Look at what holds it back: the mode that its plug chooses "
            f"({mode.name}, {quantity(mode.amps, 'A')}), the volts at the plug under load, the "
            "converter before it."
        )
        return Judged("watch", says, expected, do, found, adopt, ("trade-growing",))
    return Judged("good", says, expected, "", found, adopt, ("trade-growing",))


def _input_figures(
    station: Station, port_id: str, mode: str, reading: InputReading, context: Context
) -> tuple[Adoption, ...]:
    """The figure that held the input, as measured: the amps of its mode, or its most watts."""
    n = next(n for n, x in enumerate(station.inputs) if x.id == port_id)
    port = station.inputs[n]
    m = next(m for m, x in enumerate(port.modes) if x.name == mode)
    amps, watts = port.modes[m].amps, reading.volts * reading.amps
    taken = reading.model_copy(update={"subject": station.id})
    at = f"{port.name}, {mode}"
    # By its label it takes all the amps of its mode unless its watts are reached before.
    if reading.volts * amps <= port.most_w * (1 + NEAR):
        if abs(reading.amps / amps - 1) <= NEAR:
            return ()
        amps_measured: dict[str, Any] = {f"inputs__{n}__modes__{m}__amps": round(reading.amps, 2)}
        return (
            adoption(
                context, taken, f"Amps of {at}", quantity(amps, "A"),
                quantity(reading.amps, "A"),
                **amps_measured,
            ),
        )  # fmt: skip
    if abs(watts / port.most_w - 1) <= NEAR:
        return ()
    watts_measured: dict[str, Any] = {f"inputs__{n}__most_w": round(watts, 1)}
    return (
        adoption(
            context, taken, f"Most watts of {port.name}", quantity(port.most_w, "W"),
            quantity(watts, "W"), **watts_measured,
        ),
    )  # fmt: skip


def taper(context: Context, reading: TaperReading) -> Judged:
    """The charge from which on a station takes less."""
    station: Station = part_of(context, reading.subject, Station)
    before, after = (quantity(x, "share") for x in (station.taper_from, reading.charge))
    adopt = adoption(
        context, reading, "Slower from", before, after, taper_from=round(reading.charge, 4)
    )
    says = f"It charges slower from {number(100 * reading.charge)} % on."
    return Judged(
        "good", says, f"from {before} on", "", (),
        () if before == after else (adopt,), ("trade-bench",),
    )  # fmt: skip
