"""The best in each thing that is weighed, and what comes next after it."""

import math
from typing import Final

from graveljar.core.planning.search.found import Best, Found
from graveljar.core.text import duration, quantity

# In the order of what is weighed.
KINDS: Final[tuple[Best, ...]] = ("cheapest", "lightest", "longest", "simplest", "thriftiest")

# A smaller difference is not said. Ours. [Wh]
UNSAID_BELOW: Final = {"Wh": 0.5}


def picks_of(best: tuple[Found, ...]) -> dict[Best, str]:
    """The best in each of what is weighed, by key; ties go to the best in the others."""
    if not best:
        return {}
    return {
        kind: min(best, key=lambda one: (one.weighed[place], one.weighed, one.key)).key
        for place, kind in enumerate(KINDS)
    }


def next_best_of(best: tuple[Found, ...]) -> dict[Best, str]:
    """What comes after each pick in its own measure, and what it costs and gives beside it."""
    found: dict[Best, str] = {}
    keys = picks_of(best)
    for place, kind in enumerate(KINDS):
        pick = next((one for one in best if one.key == keys.get(kind)), None)
        others = [x for x in best if pick and x.weighed[place] > pick.weighed[place]]
        if pick is not None and others:
            after = min(others, key=lambda one: (one.weighed[place], one.weighed, one.key))
            found[kind] = f"Next: {after.title}: {_beside(pick, after)}."
    return found


def _beside(pick: Found, after: Found) -> str:
    """What another costs, weighs, lasts and loses more or less than a pick."""
    said = []
    if pick.price is not None and after.price is not None:
        said.append(_more(after.price - pick.price, "", "more", "less"))
    if pick.mass_kg is not None and after.mass_kg is not None:
        said.append(_more(after.mass_kg - pick.mass_kg, "kg", "heavier", "lighter"))
    if after.hours is None or pick.hours is None:
        if after.hours is None and pick.hours is not None:
            said.append("longer than simulated")
        elif after.hours is not None:
            said.append("shorter")
    elif not math.isclose(after.hours, pick.hours, abs_tol=1 / 60):
        by = duration(abs(after.hours - pick.hours))
        said.append(f"{by} {'longer' if after.hours > pick.hours else 'shorter'}")
    said.append(
        _more(
            after.lost_wh - pick.lost_wh,
            "Wh",
            "more lost and idle a day",
            "less lost and idle a day",
        )
    )
    return ", ".join(part for part in said if part)


def _more(by: float, unit: str, more: str, less: str) -> str:
    if abs(by) < UNSAID_BELOW.get(unit, 0.0):
        return ""
    return f"{quantity(abs(by), unit).strip()} {more if by > 0 else less}" if by else ""
