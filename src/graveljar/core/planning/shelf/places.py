"""What a part must give at its place in a design: sockets, watts, ports and plugs."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.context import Context
from graveljar.core.limits import exceeds
from graveljar.core.model import (
    AcOutlet,
    ChargeInput,
    Design,
    Inverter,
    Outlet,
    Plug,
    Station,
    StationFigures,
)
from graveljar.core.network.charge_input import fit_link
from graveljar.core.network.rails import rails_of
from graveljar.core.network.windows import MAINS_TOLERANCE, RUNS, fit_load, fit_stage
from graveljar.core.rules.waveform import hurt_by_steps
from graveljar.core.text import quantity


def other_sockets(context: Context, gives: Inverter | AcOutlet, rail: str) -> str | None:
    """What differs between an AC output and the mains that appliances on a rail are made for."""
    setting = context.network.design.setting
    mains_v, mains_hz = setting.ac_volts, setting.ac_hz
    volts, hz = (
        (gives.output_v, gives.output_hz)
        if isinstance(gives, Inverter)
        else (gives.volts, gives.hz)
    )
    if abs(volts - mains_v) > MAINS_TOLERANCE * mains_v:
        return f"gives {quantity(volts, 'V')}; the mains voltage here is {quantity(mains_v, 'V')}"
    if hz not in (None, mains_hz):
        return f"gives {hz} Hz; the mains frequency here is {mains_hz} Hz"
    hurt = hurt_by_steps(context, rail) if gives.waveform != "pure sine" else []
    if hurt:
        return f"gives a stepped wave; {hurt[0].name} wants a pure sine"
    return None


FITS: Final = "fits"


def carries(running_w: float, start_w: float, most_w: float, peak_w: float) -> str:
    """Whether so many watts are carried and started, in words that begin with "fits" if so."""
    if exceeds(running_w, most_w):
        asked = quantity(running_w, "W", 4)
        return f"carries {quantity(most_w, 'W', 4)} of the {asked} that run together"
    if exceeds(start_w, peak_w):
        asked = quantity(start_w, "W", 4)
        return f"can start {quantity(peak_w, 'W', 4)} of the {asked} that the highest start draws"
    return f"{FITS}; {quantity(running_w / most_w, 'share', 2)} of its rating"


class StationPlace:
    """A station's place in a design: what is plugged into its outlets and led into its inputs."""

    def __init__(self, design: Design, station: Station) -> None:
        self.design, self.station = design, station
        self.context = Context(design)
        fed = {x.rail for x in (*design.loads, *design.stages, *design.links)}
        self.outlets = [x for x in station.outlets if x.id in fed]
        self.links = [x for x in design.links if x.to == station.id]

    def why_not(self, figures: StationFigures) -> str:
        """What another station lacks for what is plugged into this one; "" if nothing."""
        for outlet in self.outlets:
            like = self._like(outlet, figures)
            if like is None:
                return f"it has nothing like {outlet.name}"
            wrong = self._too_little(outlet, like)
            if wrong:
                return f"{like.name}: {wrong}"
        for link in self.links:
            port = self._port(link.input)
            if port is not None and self._entry(link.id, figures) is None:
                return f"none of its inputs takes what goes into {port.name}"
        return ""

    def adapters(self, figures: StationFigures) -> list[str]:
        """Plugs that another station has otherwise: "barrel instead of vehicle socket"."""
        found: list[str] = []
        for outlet in self.outlets:
            like = self._like(outlet, figures)
            found += _other_plug(like.name if like else "", _plug(like), _plug(outlet))
        for link in self.links:
            port, entry = self._port(link.input), self._entry(link.id, figures)
            found += _other_plug(entry.name if entry else "", _plug(entry), _plug(port))
        return list(dict.fromkeys(found))

    def _like(self, outlet: Outlet, figures: StationFigures) -> Outlet | None:
        """The outlet from which all that is plugged in here runs, one of the same plug first."""
        able = [
            x for x in figures.outlets
            if x.kind == outlet.kind and (x.kind == "ac" or self._runs(outlet, x, figures))
        ]  # fmt: skip
        return min(able, key=lambda x: _plug(x) != _plug(outlet), default=None)

    def _runs(self, outlet: Outlet, other: Outlet, figures: StationFigures) -> bool:
        placed = other.model_copy(update={"id": outlet.id})
        station = Station.model_validate(
            figures.model_dump() | {"id": self.station.id, "outlets": [placed.model_dump()]}
        )
        alone = {"stores": (station,), "stages": (), "links": (), "loads": ()}
        rails = rails_of(self.design.model_copy(update=alone))
        loads = (x for x in self.design.loads if x.rail == outlet.id)
        stages = (x for x in self.design.stages if x.rail == outlet.id)
        return all(fit_load(rails, x) in RUNS for x in loads) and all(
            fit_stage(rails, x) == "fits" for x in stages
        )

    def _too_little(self, outlet: Outlet, like: Outlet) -> str:
        """What an outlet does not give of the watts that are drawn here; "" if all."""
        asked = self.context.analysis.demand.asked[outlet.id]
        if like.kind == "ac":
            wrong = other_sockets(self.context, like, outlet.id)
            start_w = asked.start.watts if asked.start else asked.watts
            said = wrong or carries(asked.watts, start_w, like.continuous_w, like.surge_w)
        else:
            most_w = like.amps * (like.volts or self.context.network.rails[outlet.id].nominal_v)
            said = carries(asked.watts, asked.watts, most_w, most_w)
        return "" if said.startswith(FITS) else said

    def _entry(self, link_id: str, figures: StationFigures) -> ChargeInput | None:
        """The input that takes what a link brings here, one of the same plug first."""
        link = next(x for x in self.links if x.id == link_id)
        here = self._port(link.input)
        station = Station.model_validate(figures.model_dump() | {"id": self.station.id})
        inner = rails_of(Design(stores=(station,)))[station.id]
        rails = rails_of(self.design) | {station.id: inner}
        able: list[ChargeInput] = []
        for port in station.inputs:
            trial = link.model_copy(update={"input": port.id, "mode": None})
            if here and port.supply == here.supply and fit_link(rails, station, trial) == "fits":
                able.append(port)
        return min(able, key=lambda x: _plug(x) != _plug(here), default=None)

    def _port(self, name: str | None) -> ChargeInput | None:
        return next((x for x in self.station.inputs if x.id == name), None)


def _plug(thing: Outlet | ChargeInput | None) -> Plug | None:
    if thing is None:
        return None
    return "mains socket" if isinstance(thing, AcOutlet) else thing.plug


def _other_plug(name: str, plug: Plug | None, wanted: Plug | None) -> Iterator[str]:
    if plug and wanted and plug != wanted:
        yield f"{name} has a {plug}, not a {wanted}"
