"""A design with its loads where they could run: what would carry those that have no place yet."""

from pydantic import ValidationError

from graveljar.core.model import Bank, Converter, Design, Inverter, Load, Stage
from graveljar.core.model.patch import free_id
from graveljar.core.network.rail_choice import places_of
from graveljar.core.network.rails import rails_of
from graveljar.core.network.standard_sizes import inverter_window, regulator_for


def connect_all_loads(design: Design, able: frozenset[str], assumed: dict[str, float]) -> Design:
    """The design with every load that cannot run put where it can.

    On a rail that suits it; else behind a new inverter or converter on the first bank. The stages
    that are there keep their places; the same design where nothing has to be moved.

    Parameters
    ----------
    able : Ids of the loads that can run as they are.
    """
    homeless = [load for load in design.loads if load.id not in able]
    bank = next((store for store in design.stores if isinstance(store, Bank)), None)
    if not homeless or bank is None:
        return design
    stages: list[Stage] = list(design.stages)
    moved: dict[str, str] = {}
    for load in homeless:
        now = design.model_copy(update={"stages": tuple(stages)})
        place = next(iter(places_of(now, load)), None)
        if place is not None and place.suits in ("fits", "check its label"):
            moved[load.id] = place.rail
            continue
        new = _inverter(now, bank, load) if load.supply.kind == "ac" else None
        try:
            stage = new or _converter(now, bank, load, assumed)
        except ValidationError:
            continue
        stages.append(stage)
        moved[load.id] = stage.id
    loads = tuple(
        load.model_copy(update={"rail": moved[load.id]}) if load.id in moved else load
        for load in design.loads
    )
    return design.model_copy(update={"loads": loads, "stages": tuple(stages)})


def _inverter(design: Design, bank: Bank, load: Load) -> Inverter | None:
    if not 90 <= load.supply.volts <= 260:
        return None
    rail = rails_of(design)[bank.id]
    return Inverter.model_validate(
        {
            "id": free_id(design, "inverter"),
            "rail": bank.id,
            "nominal_v": rail.nominal_v,
            "accepts": inverter_window(rail),
            "output_v": load.supply.volts,
            "switched": "on with its loads",
            "continuous_w": 10_000.0,
            "surge_w": 20_000.0,
            "idle_w": 0.0,
        }
    )


def _converter(design: Design, bank: Bank, load: Load, assumed: dict[str, float]) -> Converter:
    rail = rails_of(design)[bank.id]
    name = free_id(design, "regulator")
    return Converter.model_validate(regulator_for(rail, load, name, assumed))
