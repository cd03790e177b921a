"""What the cables and fuses of a system cost, by the prices of the shelf."""

import math
from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import chain

from graveljar.core.cables.cut_list import cut_lengths, fuses_at
from graveljar.core.cables.plan import PlannedRun
from graveljar.core.components.cable import Size, size_of
from graveljar.core.planning.search.ask import SearchAsk, SearchPart
from graveljar.core.planning.search.found import Found, UsedPart, total
from graveljar.core.planning.shelf import CablePart, FusePart
from graveljar.core.text import number


class WiringPrices:
    """The cables and fuses of a shelf, the cheapest of each size and kind."""

    def __init__(self, ask: SearchAsk) -> None:
        self.cables: dict[Size, SearchPart] = {}
        self.fuses: dict[str, list[SearchPart]] = defaultdict(list)
        # By price; what is there already goes before all others.
        for part in sorted(ask.parts, key=lambda x: (not x.part.owned, _price(x), x.id)):
            if isinstance(part.part, CablePart):
                self.cables.setdefault(size_of(part.part.figures.size), part)
            elif isinstance(part.part, FusePart):
                self.fuses[part.part.figures.kind].append(part)

    def added(self, found: Found, planned: Iterable[PlannedRun]) -> Found:
        """A system with its cables and fuses in its parts, its price and its mass.

        Cable is bought by whole metres, of the next larger size where the shelf has not its own.
        What the shelf does not have or has no price for is named in `unpriced` and left out of the
        price.
        """
        wiring, missing = self._of(planned)
        used = (*found.used, *wiring)
        if missing and not self.cables and not self.fuses:
            missing = ["cables and fuses"]
        return replace(
            found,
            price=total([x.price for x in used]),
            mass_kg=total([x.mass_kg for x in used]),
            used=used,
            unpriced=tuple(missing),
        )

    def _of(self, planned: Iterable[PlannedRun]) -> tuple[list[UsedPart], list[str]]:
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
        used: list[UsedPart] = []
        missing: list[str] = []
        for part, name, count in chain(self._cables(metres), self._fuses(fuses)):
            cost = None if part is None else part.price_of(count)
            if part is None or cost is None:
                missing.append(name)
                continue
            each_kg = part.part.mass_kg
            mass_kg = None if each_kg is None else round(each_kg * count, 6)
            used.append(UsedPart(name, 1, cost, mass_kg, int(part.part.owned >= count)))
        return used, missing

    def _cables(self, metres: dict[Size, float]) -> Iterator[tuple[SearchPart | None, str, int]]:
        for size, length_m in metres.items():
            whole_m = math.ceil(length_m - 1e-9)
            able = [
                x for x in self.cables
                if x.mm2 >= size.mm2 and (x.awg is None) == (size.awg is None)
            ]  # fmt: skip
            sold = min(able, key=lambda x: x.mm2, default=size)
            yield self.cables.get(sold), f"{sold.name} cable, {whole_m} m", whole_m

    def _fuses(
        self, fuses: dict[tuple[str, str, float], int]
    ) -> Iterator[tuple[SearchPart | None, str, int]]:
        for (kind, name, amps), count in fuses.items():
            able = [
                x for x in self.fuses.get(kind, ())
                if isinstance(x.part, FusePart) and x.part.figures.amps >= amps
            ]  # fmt: skip
            times = f"{count} × " if count > 1 else ""
            yield (able[0] if able else None), f"{times}{name} {number(amps)} A with holder", count


def _price(part: SearchPart) -> float:
    return math.inf if part.part.price is None else part.part.price
