"""A run's course as CSV: one row a point, one column a quantity with its unit."""

from collections.abc import Iterable, Iterator

from graveljar.core.model import Design
from graveljar.core.network.station_expansion import stages_of
from graveljar.core.views.series import Series
from graveljar.formats.cells import written


def write_series(design: Design, parts: Iterable[Series]) -> Iterator[str]:
    """All columns of a run over time, a part of its rows at a time."""
    things = (*design.stores, *stages_of(design), *design.loads)
    names = {x.id: x.name for x in things}
    for place, series in enumerate(parts):
        columns = list(_columns(names, series))
        rows = zip(*(values for _, values in columns), strict=True)
        heads = [[name for name, _ in columns]] if not place else []
        yield written([*heads, *rows])


def _columns(names: dict[str, str], series: Series) -> Iterator[tuple[str, tuple[float, ...]]]:
    yield "hours [h]", series.hours
    for what, unit, by_id in (
        ("charge", "1", series.charge),
        ("volts", "V", series.volts),
        ("amps", "A", series.amps),
        ("gives", "W", series.given),
        ("watts", "W", series.watts),
    ):
        for key, values in by_id.items():
            yield f"{names[key]} {what} [{unit}]", values
    yield "idle watts [W]", series.idle
    yield "lost watts [W]", series.lost
