"""What the cables and fuses of a design cost, by the prices of the shelf."""

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import chain

from graveljar.core.cables.cut_list import cut_lengths, fuses_at
from graveljar.core.cables.plan import PlannedRun
from graveljar.core.components.cable import Size, size_of
from graveljar.core.planning.shelf.part import AnyPart, CablePart, FusePart, to_pay
from graveljar.core.text import number


@dataclass(frozen=True)
class PricedItem:
    """A part, cable of a size or fuses of a kind. Price and mass of all; None where unsaid.

    `owned`: all of it is there already. `count` of a part; a cable's name says its metres.
    """

    name: str
    price: float | None
    mass_kg: float | None
    owned: bool
    count: int = 1


class WiringPrices:
    """The cables and fuses of a shelf, the cheapest of each size and kind."""

    def __init__(self, parts: Iterable[AnyPart]) -> None:
        self._cables: dict[Size, CablePart] = {}
        self._fuses: dict[str, list[FusePart]] = defaultdict(list)
        # By price; what is there already goes before all others.
        for part in sorted(parts, key=lambda x: (not x.owned, _price(x), x.name)):
            if isinstance(part, CablePart):
                self._cables.setdefault(size_of(part.figures.size), part)
            elif isinstance(part, FusePart):
                self._fuses[part.figures.kind].append(part)

    def priced(self, planned: Iterable[PlannedRun]) -> tuple[PricedItem, ...]:
        """Every cable and fuse of a design's runs, chosen or else proposed.

        Cable is bought by whole metres, of the next larger size where the shelf has not its own.
        Where the shelf has neither cables nor fuses, one item stands for all, without a price.
        """
        metres: dict[Size, float] = defaultdict(float)
        fuses: dict[tuple[str, str, float], int] = defaultdict(int)
        for one in planned:
            if one.choice is None:
                continue
            lengths = cut_lengths(one)
            # Out and back, each of the cables side by side.
            metres[one.choice.size] += 2 * one.choice.leads * sum(lengths)
            for fuse in fuses_at(one):
                kind = ("", "fuse") if fuse.kind is None else (fuse.kind.key, fuse.kind.name)
                fuses[*kind, fuse.amps] += len(lengths) * one.choice.leads
        if metres and not self._cables and not self._fuses:
            return (PricedItem("cables and fuses", None, None, owned=False),)
        return tuple(
            PricedItem(
                name,
                None if part is None else to_pay(part, count),
                None if part is None or part.mass_kg is None else round(part.mass_kg * count, 6),
                owned=part is not None and part.owned >= count,
            )
            for part, name, count in chain(self._lengths(metres), self._holders(fuses))
        )

    def _lengths(self, metres: dict[Size, float]) -> Iterator[tuple[CablePart | None, str, int]]:
        for size, length_m in metres.items():
            whole_m = math.ceil(length_m - 1e-9)
            able = [
                x for x in self._cables
                if x.mm2 >= size.mm2 and (x.awg is None) == (size.awg is None)
            ]  # fmt: skip
            sold = min(able, key=lambda x: x.mm2, default=size)
            yield self._cables.get(sold), f"{sold.name} cable, {whole_m} m", whole_m

    def _holders(
        self, fuses: dict[tuple[str, str, float], int]
    ) -> Iterator[tuple[FusePart | None, str, int]]:
        for (kind, name, amps), count in fuses.items():
            able = [x for x in self._fuses.get(kind, ()) if x.figures.amps >= amps]
            times = f"{count} × " if count > 1 else ""
            yield (able[0] if able else None), f"{times}{name} {number(amps)} A with holder", count


def _price(part: AnyPart) -> float:
    return math.inf if part.price is None else part.price
