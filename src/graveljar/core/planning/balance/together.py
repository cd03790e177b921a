"""The fewest panels for each number of batteries with which every week ends as it began."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import ceil
from typing import Final

from graveljar.core.components.battery import bank_label
from graveljar.core.components.charging import usual_volts
from graveljar.core.components.sunlight import array_watts
from graveljar.core.context import Context
from graveljar.core.errors import GravelJarError
from graveljar.core.model import Bank, Design, Link, Sun
from graveljar.core.model.patch import Edit, apply, as_sent
from graveljar.core.planning.balance.balance import balances
from graveljar.core.planning.shelf import Candidate
from graveljar.core.rules import judge
from graveljar.core.rules.danger import offered
from graveljar.core.text import quantity

# Strings of batteries and of panels that are looked at. Ours; a document allows 32 and 20.
MAX_STRINGS: Final = 6
MAX_PANEL_STRINGS: Final = 20


@dataclass(frozen=True)
class Pair:
    """So many batteries with so many panels. [Wh], [W]

    `price` of both on the shelf; None where one of them is not there or has none. `now`: this is
    what there is. `edits` are empty where they cannot be offered.
    """

    batteries: int
    panels: int
    bank_wh: float
    sun_w: float
    price: float | None
    now: bool
    label: str
    edits: tuple[Edit, ...]


@dataclass(frozen=True)
class _Place:
    """The first bank that is charged by the sun, with its panels and the link between."""

    bank: Bank
    sun: Sun
    link: Link


def pairs_of(design: Design, shelf: Sequence[Candidate], *, poor: bool) -> tuple[Pair, ...]:
    """Numbers of batteries and panels that balance, each found by running two weeks.

    None of them is beaten in both. `poor`: with a poor sun on every day of the week. Empty where
    the sun fills no bank, or no number is enough.
    """
    place = _place_of(design)
    if place is None:
        return ()
    context = Context(design)
    known = judge(context)
    found: list[Pair] = []
    for batteries in range(1, MAX_STRINGS + 1):
        most = found[-1].panels // place.sun.series - 1 if found else MAX_PANEL_STRINGS
        panels = _fewest(design, place, batteries, most, poor=poor)
        if panels is None:
            continue
        edits = tuple(_edits(design, place, batteries, panels))
        allowed = not edits or offered(context, known, edits) is not None
        found.append(_pair(design, place, batteries, panels, edits if allowed else (), shelf))
        if panels == 1:
            break
    return tuple(found)


def _place_of(design: Design) -> _Place | None:
    stores = {store.id: store for store in design.stores}
    for link in design.links:
        bank, sun = stores.get(link.to), stores.get(link.rail)
        if isinstance(bank, Bank) and isinstance(sun, Sun) and link.charger is not None:
            return _Place(bank, sun, link)
    return None


def _fewest(design: Design, place: _Place, batteries: int, most: int, *, poor: bool) -> int | None:
    """The fewest strings of panels, at most so many, that balance with so many batteries."""

    def enough(panels: int) -> bool:
        try:
            made = apply(design, tuple(_edits(design, place, batteries, panels)))
            if poor:
                days = tuple(x.model_copy(update={"sun": "poor"}) for x in made.week.days)
                week = made.week.model_copy(update={"days": days})
                made = made.model_copy(update={"week": week})
            return balances(Context(made))
        except GravelJarError:
            return False

    if most < 1 or not enough(most):
        return None
    low, high = 0, most
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    return high


def _edits(design: Design, place: _Place, batteries: int, panels: int) -> Iterator[Edit]:
    """From what there is to so many strings of each; the controller grows with its panels."""
    stores = [store.id for store in design.stores]
    if batteries != place.bank.parallel:
        at = f"/stores/{stores.index(place.bank.id)}/parallel"
        yield Edit("replace", at, batteries)
    yield from panel_edits(design, place.sun, panels)


def panel_edits(design: Design, sun: Sun, strings: int) -> Iterator[Edit]:
    """Edits to so many strings of panels; their controllers grow with them.

    Parameters
    ----------
    design : As it is planned.
    sun : Its panels.
    strings : In parallel, 1 to `MAX_PANEL_STRINGS`.

    Returns
    -------
    Edits; none where there are so many.
    """
    if strings == sun.parallel:
        return
    stores = {store.id: store for store in design.stores}
    yield Edit("replace", f"/stores/{list(stores).index(sun.id)}/parallel", strings)
    more = sun.model_copy(update={"parallel": strings})
    for k, link in enumerate(design.links):
        bank = stores.get(link.to)
        if link.rail != sun.id or link.charger is None or not isinstance(bank, Bank):
            continue
        amps = float(ceil(array_watts(more) / usual_volts(bank)))
        if amps > link.charger.amps:
            yield Edit("replace", f"/links/{k}/charger/amps", amps)


def _pair(
    design: Design,
    place: _Place,
    batteries: int,
    panels: int,
    edits: tuple[Edit, ...],
    shelf: Sequence[Candidate],
) -> Pair:
    bank = place.bank.model_copy(update={"parallel": batteries})
    sun = place.sun.model_copy(update={"parallel": panels})
    counts = (bank.series * batteries, sun.series * panels)
    names = {x.part.name: x.part for x in shelf} | {x.id: x.part for x in shelf}
    battery = names.get(bank.battery.name)
    panel = names.get("" if sun.shelf is None else sun.shelf.part)
    each = [None if part is None else part.price for part in (battery, panel)]
    price = None
    if each[0] is not None and each[1] is not None:
        price = counts[0] * each[0] + counts[1] * each[1]
    wh, watts = bank_label(bank).wh, array_watts(sun)
    many = "battery" if counts[0] == 1 else "batteries"
    panels_word = "panel" if counts[1] == 1 else "panels"
    return Pair(
        batteries=counts[0],
        panels=counts[1],
        bank_wh=wh,
        sun_w=watts,
        price=price,
        now=(batteries, panels) == (place.bank.parallel, place.sun.parallel),
        label=(
            f"{counts[0]} {many} ({quantity(wh, 'Wh')}) and "
            f"{counts[1]} {panels_word} ({quantity(watts, 'W')})"
        ),
        edits=as_sent(design, edits) if edits else (),
    )
