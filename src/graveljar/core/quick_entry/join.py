"""The inverter or converter without which a load that was read has nowhere to run."""

from graveljar.core.errors import GravelJarError
from graveljar.core.model import Bank, Design, Load, Vehicle
from graveljar.core.model.patch import Edit, apply
from graveljar.core.network.rails import rails_of
from graveljar.core.network.windows import RUNS, fit_load
from graveljar.core.planning.construction import AddInverter, AddRail, Ask, build
from graveljar.core.quick_entry.reading import JoinedStage


def joined(design: Design, load: Load) -> JoinedStage | None:
    """What lets a load run that is not connected: the stage that suits it, and both as edits.

    Parameters
    ----------
    design : The design it is for.
    load : As read, not connected to a rail.

    Returns
    -------
    None where it is connected, or no bank or vehicle could feed it.
    """
    on = next((x.id for x in design.stores if isinstance(x, Bank | Vehicle)), None)
    if load.rail is not None or on is None:
        return None
    ask: Ask = (
        AddInverter(ask="inverter", on=on, loads=(load.id,))
        if load.supply.kind == "ac"
        else AddRail(ask="rail", on=on, volts=load.supply.volts, loads=(load.id,))
    )
    add = Edit("add", "/loads/-", load.model_dump(mode="json"))
    try:
        trial = apply(design, (add,))
        edits = build(trial, ask).edits
        after = apply(trial, edits)
    except GravelJarError:
        return None
    mine = next(x for x in after.loads if x.id == load.id)
    if mine.rail is None or fit_load(rails_of(after), mine) not in RUNS:
        return None
    stage = next(x for x in after.stages if x.id == mine.rail)
    return JoinedStage(stage.name, (add, *edits))
