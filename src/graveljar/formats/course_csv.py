"""A run's course as CSV: one row a point, one column a quantity with its unit."""

from graveljar.core.course import Series
from graveljar.core.document import Design
from graveljar.core.inside import stages_of
from graveljar.formats.cells import written


def write_series(design: Design, series: Series) -> str:
    """All columns of a run over time."""
    things = (*design.stores, *stages_of(design), *design.loads)
    names = {x.id: x.name for x in things}
    columns: list[tuple[str, tuple[float, ...]]] = [("hours [h]", series.hours)]
    for what, unit, by_id in (
        ("charge", "1", series.charge),
        ("volts", "V", series.volts),
        ("amps", "A", series.amps),
        ("gives", "W", series.given),
        ("watts", "W", series.watts),
    ):
        columns += [(f"{names[key]} {what} [{unit}]", values) for key, values in by_id.items()]
    columns += [("idle watts [W]", series.idle), ("lost watts [W]", series.lost)]
    rows = zip(*(values for _, values in columns), strict=True)
    return written([[name for name, _ in columns], *rows])
