"""The remedy a careful user has for free: not everything at once."""

from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Remedy


def keep_largest_apart(facts: Facts) -> tuple[Remedy, ...]:
    """Keep the two largest AC loads apart; no remedy if there are no two."""
    loads = facts.design.loads
    order = sorted(facts.ac.loads, key=facts.system.ac_w, reverse=True)[:2]
    if len(order) < 2:
        return ()
    places = [loads.index(load) for load in order if not load.kept_apart]
    edits = tuple(Edit("replace", f"/loads/{place}/kept_apart", value=True) for place in places)
    return (Remedy(f"Never run {order[0].name} and {order[1].name} together.", edits),)
