"""The least panel, engine time, charger or mains time with which every week ends as it began."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from graveljar.core.analysis.week import HOURS, keeps_up, simulate_week
from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.model import Between, Design, Generator, Link, Mains, Span, Sun, Vehicle
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.core.rules import judge
from graveljar.core.rules.danger import offered
from graveljar.core.text import duration, quantity
from graveljar.core.views.refill import held_places

# Times as much as there is that is looked at. Ours.
MAX_TIMES: Final = 16.0
TRIES: Final = 7

What = Literal["panel", "engine", "charger", "mains"]


@dataclass(frozen=True)
class Balance:
    """One change that balances the week. `share` of what there is now, more than 1. [1]

    `possible` is false where no sensible amount does; then there are no edits.
    """

    what: What
    subject: str
    label: str
    possible: bool
    share: float
    edits: tuple[Edit, ...]


# The edits that make a source so many times as large, and words for it.
Change = Callable[[float], tuple[tuple[Edit, ...], str] | None]


def balance_of(design: Design) -> tuple[Balance, ...]:
    """Every single change that could balance the week, those that do first.

    Each is found by running two weeks in a row, again and again. Empty where the week balances.
    """
    context = Context(design)
    if balances(context):
        return ()
    known = judge(context)
    found = []
    for what, subject, change in changes_of(design):
        share = _least(context, change)
        done = change(share) if share else None
        allowed = done is not None and offered(context, known, done[0]) is not None
        if share is None or done is None or not allowed:
            name = context.network.names[subject]
            found.append(Balance(what, subject, _not_by(what, name), False, 0.0, ()))
            continue
        edits, label = done
        found.append(Balance(what, subject, label, True, share, as_sent(design, edits)))
    return tuple(sorted(found, key=lambda x: not x.possible))


def balances(context: Context) -> bool:
    """Whether every week ends no emptier than it began, and no load stops for want of energy."""
    week = simulate_week(context.analysis.lowered, 2 * HOURS)
    return keeps_up(week, held_places(context))


def _least(context: Context, change: Change) -> float | None:
    """The least times that balances, within a few per cent; None if none does. [1]"""

    def enough(times: float) -> bool:
        done = change(times)
        if done is None:
            return False
        try:
            return balances(Context(apply(context.network.design, done[0])))
        except GravelJarError:
            return False

    low, high = 1.0, 2.0
    while not enough(high):
        low, high = high, 2.0 * high
        if high > MAX_TIMES:
            return None
    for _ in range(TRIES):
        middle = (low * high) ** 0.5
        if enough(middle):
            high = middle
        else:
            low = middle
    return high


def changes_of(design: Design) -> Iterator[tuple[What, str, Change]]:
    """What could bring more, of each source and charger: its kind, its id and the change."""
    for s, store in enumerate(design.stores):
        if not any(link.rail == store.id for link in design.links):
            continue
        match store:
            case Sun():
                yield "panel", store.id, _panel(store, s, design)
            case Vehicle():
                yield "engine", store.id, _longer(store.runs, f"/stores/{s}/runs", "Drive")
            case Generator():
                yield "mains", store.id, _longer(store.runs, f"/stores/{s}/runs", "Generator")
            case Mains() if store.times is not None:
                yield "mains", store.id, _longer(store.times, f"/stores/{s}/times", "Mains")
            case _:
                pass
    for place, link in enumerate(design.links):
        source = next((x for x in design.stores if x.id == link.rail), None)
        if link.charger is not None and isinstance(source, Vehicle | Mains | Generator):
            yield "charger", link.id, _charger(link, place)


def _panel(sun: Sun, place: int, design: Design) -> Change:
    def change(times: float) -> tuple[tuple[Edit, ...], str] | None:
        strings = sun.series * sun.parallel
        watts = _rounded(sun.panel.watts * strings * times, 10.0)
        scale = watts / (sun.panel.watts * strings)
        panel = sun.panel.model_copy(
            update={
                "watts": watts / strings,
                "isc_a": sun.panel.isc_a * scale,
                "imp_a": sun.panel.imp_a * scale,
            }
        )
        edits = [Edit("replace", f"/stores/{place}/panel", panel.model_dump(mode="json"))]
        for n, link in enumerate(design.links):
            # Its controller grows with it.
            if link.rail == sun.id and link.charger is not None:
                amps = _rounded(link.charger.amps * max(scale, 1.0), 1.0)
                edits.append(Edit("replace", f"/links/{n}/charger/amps", amps))
        now = quantity(sun.panel.watts * strings, "W")
        return tuple(edits), f"Panels of {quantity(watts, 'W')} instead of {now}"

    return change


def _longer(now: Between, path: str, word: str) -> Change:
    def change(times: float) -> tuple[tuple[Edit, ...], str] | None:
        total = sum(span.hours for span in now.windows)
        more = _rounded(total * (times - 1.0), 1 / 12)
        last = now.windows[-1]
        if total + more > 24.0 or last.hours + more >= 24.0:
            return None
        end_h = (last.from_h + last.hours + more) % 24
        windows = (*now.windows[:-1], Span(from_h=last.from_h, to_h=round(end_h, 4)))
        value = Between(windows=windows).model_dump(mode="json")
        verb = f"{word} {duration(more)} more a day"
        return (Edit("replace", path, value),), f"{verb}, {duration(total + more)} in all"

    return change


def _charger(link: Link, place: int) -> Change:
    def change(times: float) -> tuple[tuple[Edit, ...], str] | None:
        if link.charger is None:
            return None
        now, amps = link.charger.amps, _rounded(link.charger.amps * times, 1.0)
        edit = Edit("replace", f"/links/{place}/charger/amps", amps)
        label = f"Charger of {quantity(amps, 'A')} instead of {quantity(now, 'A')}"
        return (edit,), f"{label} on {link.name}"

    return change


def _not_by(what: What, name: str) -> str:
    return {
        "panel": f"{name}: more watts do not balance it alone",
        "engine": f"{name}: driving longer does not balance it alone",
        "charger": f"{name}: more amps do not balance it alone",
        "mains": f"{name}: more hours do not balance it alone",
    }[what]


def _rounded(value: float, step: float) -> float:
    """Up to the next step; so that what is found is still enough."""
    return round(float(np.ceil(value / step - 1e-9) * step), 6)
