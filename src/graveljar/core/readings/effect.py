"""What other figures do to a design: hours, their band, findings, before and after."""

from dataclasses import dataclass

from graveljar.core.analysis.band import band_of
from graveljar.core.context import Context
from graveljar.core.rules import judge
from graveljar.core.rules.finding import identity
from graveljar.core.views.verdict import lasts


@dataclass(frozen=True)
class HoursAndBand:
    """How long a design lasts, in words, and the hours that a tenth and nine tenths fall short of.

    None: no end was in sight. [h]
    """

    lasts: str
    p10: float | None
    p90: float | None


@dataclass(frozen=True)
class FiguresEffect:
    """A design before and after a change of its figures; titles of findings that go and come."""

    before: HoursAndBand
    after: HoursAndBand
    solves: tuple[str, ...]
    adds: tuple[str, ...]


def effect_of_figures(before: Context, after: Context) -> FiguresEffect:
    """Compare a design with itself after a change, by its run, its band and its findings.

    Examples
    --------
    >>> from graveljar.core.lowering.example import lamp
    >>> found = effect_of_figures(Context(lamp()), Context(lamp()))
    >>> found.before == found.after, found.solves, found.adds
    (True, (), ())
    """
    was, now = judge(before), judge(after)
    known, still = {identity(f) for f in was}, {identity(f) for f in now}
    return FiguresEffect(
        before=_of(before),
        after=_of(after),
        solves=tuple(f.title for f in was if identity(f) not in still),
        adds=tuple(f.title for f in now if identity(f) not in known),
    )


def _of(context: Context) -> HoursAndBand:
    band = band_of(context.analysis.lowered)
    return HoursAndBand(lasts(context.analysis.run), band.p10, band.p90)
