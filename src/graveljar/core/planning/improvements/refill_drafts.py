"""Single changes that bring more into the stores: a panel, a larger charger, an hour of engine."""

from bisect import bisect_right
from collections.abc import Iterator, Sequence

from graveljar.core.model import Design, Sun
from graveljar.core.network.standard_sizes import COMMON_AMPS
from graveljar.core.planning.balance import changes_of, panel_edits
from graveljar.core.planning.balance.together import MAX_PANEL_STRINGS
from graveljar.core.planning.improvements.draft import Draft
from graveljar.core.planning.shelf import Candidate


def refill_drafts(design: Design, shelf: Sequence[Candidate]) -> Iterator[Draft]:
    """Every source brought up by one step, where it fills something."""
    for what, subject, change in changes_of(design):
        match what:
            case "panel":
                yield from _one_more_string(design, subject, shelf)
            case "charger":
                charger = next(x.charger for x in design.links if x.id == subject)
                place = bisect_right(COMMON_AMPS, charger.amps) if charger else len(COMMON_AMPS)
                if charger is None or place == len(COMMON_AMPS):
                    continue
                larger = change(COMMON_AMPS[place] / charger.amps)
                if larger is not None:
                    yield Draft("charger", subject, larger[1], larger[0], "something to buy")
            case _:
                store = next(x for x in design.stores if x.id == subject)
                times = getattr(store, "runs", None) or getattr(store, "times", None)
                hours = sum(span.hours for span in times.windows) if times else 0.0
                longer = change((hours + 1.0) / hours) if hours else None
                if longer is not None:
                    yield Draft("engine", subject, longer[1], longer[0], "a habit")


def _one_more_string(design: Design, subject: str, shelf: Sequence[Candidate]) -> Iterator[Draft]:
    sun = next(x for x in design.stores if x.id == subject)
    if not isinstance(sun, Sun) or sun.parallel >= MAX_PANEL_STRINGS:
        return
    part = next((x.part for x in shelf if sun.shelf is not None and x.id == sun.shelf.part), None)
    what = "One more panel" if sun.series == 1 else f"{sun.series} more panels"
    yield Draft(
        "panel",
        sun.id,
        f"{what} beside {sun.name}",
        tuple(panel_edits(design, sun, sun.parallel + 1)),
        "something to buy",
        None if part is None or part.price is None else part.price * sun.series,
        None if part is None or part.mass_kg is None else part.mass_kg * sun.series,
    )
