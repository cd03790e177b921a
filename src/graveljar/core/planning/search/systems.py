"""The wirings to try: a battery at a system voltage, and what feeds each group of loads."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import Final, Literal

from graveljar.core.analysis.bank_sizing import MAX_SERIES
from graveljar.core.components.battery import chemistry_of
from graveljar.core.components.stage_loss import Loss, loss_of
from graveljar.core.model import (
    Bank,
    Battery,
    Converter,
    Design,
    Inverter,
    Load,
    Stage,
    Station,
)
from graveljar.core.network.rails import rails_of
from graveljar.core.network.standard_sizes import SYSTEM_VOLTS
from graveljar.core.network.windows import RUNS, fit_load, fit_stage
from graveljar.core.planning.search.ask import SearchAsk, SearchPart
from graveljar.core.planning.search.refilled import Refill, refill_for
from graveljar.core.planning.shelf import BatteryPart, ConverterPart, InverterPart, spread_from

Strategy = Literal["DC first", "AC for all"]
# Different volts of DC loads that are told apart; more would try too much.
MAX_GROUPS: Final = 4


@dataclass(frozen=True)
class StageOption:
    """A part that may stand as a stage, with its loss."""

    source: SearchPart
    stage: Inverter | Converter
    loss: Loss


@dataclass(frozen=True)
class System:
    """A wiring of one battery: `places` hold what may stand at each stage, alike in their volts.

    `design` has the first option at each place. `refill` is what fills its bank.
    """

    system_v: float
    battery: SearchPart
    bank: Bank
    strategy: Strategy
    places: tuple[tuple[StageOption, ...], ...]
    refill: Refill
    design: Design


@dataclass
class Rejected:
    """Parts that came to nothing, by why: rule, example, how many."""

    counts: dict[str, int]
    examples: dict[str, str]

    def note(self, rule: str, example: str, count: int = 1) -> None:
        """Count what falls out."""
        self.counts[rule] = self.counts.get(rule, 0) + count
        self.examples.setdefault(rule, example)


def systems_of(
    design: Design, ask: SearchAsk, left: Rejected, part: tuple[int, int] = (0, 1)
) -> Iterator[System]:
    """Every wiring worth trying, in a fixed order; for a part of them, of each n-th bank."""
    for system_v, battery, bank in list(_banks(design, ask))[part[0] :: part[1]]:
        refill = refill_for(design, bank, ask)
        stores = (bank, *refill.stores)
        bare = design.model_copy(update={"stores": stores, "stages": (), "links": refill.links})
        inverters = _inverters(bare, ask, left)
        for strategy, converters in _wirings(bare, ask, inverters):
            made = _system(system_v, battery, bank, strategy, bare, inverters, converters, refill)
            if made is not None:
                yield made


def _banks(design: Design, ask: SearchAsk) -> Iterator[tuple[float, SearchPart, Bank]]:
    first = design.first
    location = first.location if isinstance(first, Bank | Station) else "living space"
    for part in ask.parts:
        if not isinstance(part.part, BatteryPart):
            continue
        figures = part.part.figures
        battery = Battery.model_validate(
            figures.model_dump() | {"name": part.part.name, "provenance": spread_from(part.part)}
        )
        reserve = ask.reserve
        if reserve is None:
            reserve = chemistry_of(battery).reserve
        for system_v, _ in SYSTEM_VOLTS:
            series = round(system_v / figures.volts)
            # LFP stands a little above its class (12.8 for 12), Li-ion up to a quarter off.
            if 1 <= series <= MAX_SERIES and 0.9 <= series * figures.volts / system_v <= 1.25:
                bank = Bank(battery=battery, series=series, reserve=reserve, location=location)
                yield system_v, part, bank


def _inverters(bare: Design, ask: SearchAsk, left: Rejected) -> tuple[StageOption, ...]:
    """Inverters whose volts fit a bank and whose sockets fit the mains appliances."""
    found = []
    for part in ask.parts:
        if not isinstance(part.part, InverterPart):
            continue
        stage = Inverter.model_validate(
            part.part.figures.model_dump()
            | {"name": part.part.name, "provenance": spread_from(part.part), "rail": "bank"}
        )
        trial = bare.model_copy(update={"stages": (stage,)})
        rails = rails_of(trial)
        if fit_stage(rails, stage) != "fits":
            continue
        ac = [x for x in bare.loads if x.supply.kind == "ac"]
        if all(fit_load(rails, _on(x, "inverter")) in RUNS for x in ac):
            found.append(StageOption(part, stage, loss_of(stage)))
        else:
            left.note("load.other_mains", part.part.name)
    return tuple(found)


def _on(load: Load, rail: str) -> Load:
    return load.model_copy(update={"rail": rail})


def groups_of(loads: Sequence[Load]) -> list[tuple[float, list[Load]]]:
    """DC loads by their volts."""
    groups: dict[float, list[Load]] = {}
    for load in loads:
        if load.supply.kind == "dc":
            groups.setdefault(load.supply.volts, []).append(load)
    return sorted(groups.items())


# What feeds a group: nothing between (None), or alike converters.
Feeding = tuple[StageOption, ...] | None


def _wirings(
    bare: Design, ask: SearchAsk, inverters: tuple[StageOption, ...]
) -> Iterator[tuple[Strategy, dict[float, Feeding]]]:
    groups = groups_of(bare.loads)
    ac = any(load.supply.kind == "ac" for load in bare.loads)
    rails = rails_of(bare)
    choices: list[list[Feeding]] = []
    for _, loads in groups[:MAX_GROUPS]:
        ways: list[Feeding] = []
        if all(fit_load(rails, _on(load, "bank")) in RUNS for load in loads):
            ways.append(None)
        ways += _converters(bare, ask, loads)
        choices.append(ways)
    if len(groups) <= MAX_GROUPS and (inverters or not ac):
        for ways_taken in product(*choices):
            yield "DC first", dict(zip((v for v, _ in groups), ways_taken, strict=True))
    if groups and inverters:
        yield "AC for all", {}


def _converters(bare: Design, ask: SearchAsk, loads: Sequence[Load]) -> list[Feeding]:
    """Converters that feed a group, those of alike volts together."""
    by_volts: dict[tuple[float, float], list[StageOption]] = {}
    for part in ask.parts:
        if not isinstance(part.part, ConverterPart):
            continue
        stage = Converter.model_validate(
            part.part.figures.model_dump()
            | {
                "id": "to", "name": part.part.name, "rail": "bank",
                "provenance": spread_from(part.part), "switched": "on with its loads",
            }
        )  # fmt: skip
        rails = rails_of(bare.model_copy(update={"stages": (stage,)}))
        if fit_stage(rails, stage) != "fits":
            continue
        if all(fit_load(rails, _on(load, "to")) in RUNS for load in loads):
            by_volts.setdefault((stage.set_v, stage.droop_v), []).append(
                StageOption(part, stage, loss_of(stage))
            )
    return [tuple(options) for _, options in sorted(by_volts.items())]


def _system(
    system_v: float,
    battery: SearchPart,
    bank: Bank,
    strategy: Strategy,
    bare: Design,
    inverters: tuple[StageOption, ...],
    converters: dict[float, Feeding],
    refill: Refill,
) -> System | None:
    ac = any(load.supply.kind == "ac" for load in bare.loads)
    places: list[tuple[StageOption, ...]] = []
    rails: dict[float, str] = {}
    if ac or strategy == "AC for all":
        places.append(inverters)
    for volts, options in converters.items():
        rails[volts] = "bank"
        if options is not None:
            rails[volts] = f"rail-{volts:g}".replace(".", "-")
            renamed = tuple(
                replace(x, stage=x.stage.model_copy(update={"id": rails[volts]})) for x in options
            )
            places.append(renamed)
    loads = tuple(
        _on(load, "inverter")
        if load.supply.kind == "ac" or strategy == "AC for all"
        else _on(load, rails[load.supply.volts])
        for load in bare.loads
    )
    if any(not options for options in places):
        return None
    design = bare.model_copy(
        update={"loads": loads, "stages": tuple(options[0].stage for options in places)}
    )
    return System(system_v, battery, bank, strategy, tuple(places), refill, design)


def with_stages(system: System, stages: Sequence[Stage], strings: int) -> Design:
    """The design of a system with other parts at its places."""
    bank = system.bank.model_copy(update={"parallel": strings})
    stores = (bank, *system.design.stores[1:])
    return system.design.model_copy(update={"stores": stores, "stages": tuple(stages)})
