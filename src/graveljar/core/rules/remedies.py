"""Ways out that several rules offer."""

import math

from graveljar.core.analysis.bank_sizing import MAX_PARALLEL
from graveljar.core.analysis.peak_demand import rail_watts
from graveljar.core.context import Context
from graveljar.core.model import Anytime, Bank, Converter, Inverter, Load
from graveljar.core.model.patch import Edit
from graveljar.core.network.rails import way_to_store
from graveljar.core.rules.finding import Remedy


def keep_largest_apart(context: Context, rail: str) -> tuple[Remedy, ...]:
    """Keep the two largest loads behind a rail apart; no remedy if there are no two.

    A careful user has that for free: not everything at once.
    """
    behind = [
        load
        for load in context.analysis.lowered.loads
        # Keeping apart moves only what does not say when it runs.
        if isinstance(load.when, Anytime)
        and any(x.id == rail for x in way_to_store(context.network.rails, str(load.rail)))
    ]
    order = sorted(behind, key=lambda load: -rail_watts(context.analysis.lowered, load))[:2]
    if len(order) < 2:
        return ()
    edits = tuple(
        Edit("replace", f"{context.network.load_path(load)}/kept_apart", value=True)
        for load in order
        if not load.kept_apart
    )
    if not edits:
        return ()
    return (Remedy(f"Never run {order[0].name} and {order[1].name} together.", edits),)


def grow_to(context: Context, bank: Bank, strings: float) -> tuple[Remedy, ...]:
    """Use so many batteries in parallel; no remedy if there are as many, or it is out of reach."""
    count = math.ceil(strings - 1e-9)
    if bank not in context.network.banks or not bank.parallel < count <= MAX_PARALLEL:
        return ()
    word = "batteries" if bank.series == 1 else f"strings of {bank.series}"
    edit = Edit("replace", f"{context.network.store_path(bank)}/parallel", count)
    return (Remedy(f"Use {count} {word} in parallel.", (edit,)),)


def soft_start(context: Context, load: Load) -> tuple[Remedy, ...]:
    """Give a load a soft start."""
    edit = Edit(
        "replace", f"{context.network.load_path(load)}/start", {"method": "factor", "factor": 2.0}
    )
    return (Remedy(f"Give {load.name} a soft start (about twice its running watts).", (edit,)),)


def switch_off(context: Context) -> tuple[Remedy, ...]:
    """Switch each stage off when none of its loads runs."""
    stages = [
        stage
        for stage in context.network.stages
        if isinstance(stage, Inverter | Converter)
        and context.analysis.works(stage)
        and stage.switched == "always on"
        and context.analysis.day.idle[stage.id] > 0
    ]
    if not stages:
        return ()
    edits = tuple(
        Edit("replace", f"{context.network.stage_path(stage)}/switched", "on with its loads")
        for stage in stages
    )
    what = "the inverter" if len(stages) == 1 and stages[0].kind == "inverter" else stages[0].name
    if len(stages) > 1:
        what = "inverters and converters"
    return (Remedy(f"Switch {what} off when none of its loads is running.", edits),)
