"""What refills a bank while a search runs it: the sources of the design, with chargers that fit."""

from dataclasses import dataclass
from typing import Final

from graveljar.core.components.battery import chemistry_of
from graveljar.core.components.charging import hold_volts, usual_volts
from graveljar.core.model import (
    Bank,
    Charger,
    Design,
    Generator,
    Link,
    Mains,
    Store,
    Sun,
    Vehicle,
)
from graveljar.core.network.charge_input import fit_link
from graveljar.core.network.rails import rails_of
from graveljar.core.planning.search.ask import SearchAsk, SearchPart
from graveljar.core.planning.shelf import ChargerPart, spread_from

# A charger fits a bank if it holds volts within this share of what is usual. Ours. [1]
FITS_WITHIN: Final = 0.02


@dataclass(frozen=True)
class Refill:
    """Sources and links that fill a bank, and the chargers that have to be bought for it.

    `left_out` are names of sources for which no charger fits.
    """

    stores: tuple[Store, ...]
    links: tuple[Link, ...]
    bought: tuple[SearchPart, ...]
    left_out: tuple[str, ...]


NONE: Final = Refill((), (), (), ())


def refill_for(design: Design, bank: Bank, ask: SearchAsk) -> Refill:
    """What fills another bank than that of a design.

    Each source that fills the first bank through a charger stays. So does its charger where that
    fits; else the charger of the shelf that fits and gives about as many watts takes its place;
    where there is none, the source is left out.
    """
    if not ask.refill:
        return NONE
    stores: list[Store] = []
    links: list[Link] = []
    bought: list[SearchPart] = []
    left_out: list[str] = []
    for store, link, present in refilled_by(design):
        charger = link.charger
        trial = link.model_copy(update={"to": bank.id})
        if charger is None or store.id == bank.id:
            continue
        if not _fits(store, trial, bank):
            part = _instead(store, trial, charger.amps * hold_volts(present, charger), bank, ask)
            if part is None or not isinstance(part.part, ChargerPart):
                left_out.append(store.name)
                continue
            figures = part.part.figures.model_dump()
            charger = Charger.model_validate(figures | {"provenance": spread_from(part.part)})
            trial = trial.model_copy(update={"charger": charger})
            bought.append(part)
        if store not in stores:
            stores.append(store)
        links.append(trial)
    return Refill(tuple(stores), tuple(links), tuple(bought), tuple(left_out))


def refilled_by(design: Design) -> list[tuple[Store, Link, Bank]]:
    """Sources that fill the first bank of a design straight through a charger, their links, it."""
    banks = [x for x in design.stores if isinstance(x, Bank) and x.use == "house"]
    sources = {x.id: x for x in design.stores if isinstance(x, Mains | Generator | Sun | Vehicle)}
    return [
        (sources[link.rail], link, banks[0])
        for link in design.links
        if banks and link.to == banks[0].id and link.charger is not None and link.rail in sources
    ]


def _fits(store: Store, link: Link, bank: Bank) -> bool:
    """Whether a charger holds a bank's volts by its chemistry, and its input what arrives."""
    charger, kind = link.charger, chemistry_of(bank.battery)
    if charger is None:
        return False
    of_kind = charger.profile == "set by hand" or (charger.profile == "lithium") == kind.lithium
    off = abs(hold_volts(bank, charger) / usual_volts(bank) - 1)
    trial = Design(stores=(bank, store), links=(link,))
    fits = fit_link(rails_of(trial), bank, link) == "fits"
    return of_kind and off <= FITS_WITHIN and fits


def _instead(
    store: Store, link: Link, watts: float, bank: Bank, ask: SearchAsk
) -> SearchPart | None:
    """The charger on the shelf that fits and gives about as many watts; the cheaper of alike."""
    kind, found = link.charger.kind if link.charger else "", []
    for part in ask.parts:
        if not isinstance(part.part, ChargerPart) or part.part.figures.kind != kind:
            continue
        figures = part.part.figures
        charger = Charger.model_validate(figures.model_dump())
        if _fits(store, link.model_copy(update={"charger": charger}), bank):
            gives_w = figures.amps * hold_volts(bank, charger)
            price = part.price_of(1) or 0.0
            found.append((abs(gives_w / watts - 1), price, part.part.name, part))
    return min(found, key=lambda x: x[:3])[3] if found else None
