"""Conductors: names, area, resistance, and the amps they carry."""

import math
from dataclasses import dataclass
from functools import cache
from typing import Final

from graveljar.core.errors import OutOfRange
from graveljar.core.tables.conductors import (
    AMPACITIES,
    AWG_NUMBERS,
    CLASS_5_OHM_PER_KM,
    COPPER_OHM_M,
    COPPER_PER_K,
    School,
    Sizes,
)

# Warmest a conductor's surroundings may be for a sum to make sense. [°C]
MAX_AMBIENT_C: Final = 70.0
# The longest run that is sized here, one way. [m]
MAX_LENGTH_M: Final = 200.0


def awg_area_mm2(number: int) -> float:
    """Copper area of an AWG size.

    Parameters
    ----------
    number : 40 to 0 for 1/0, -1 for 2/0, -3 for 4/0. [1]

    Returns
    -------
    Area. [mm2]

    Raises
    ------
    OutOfRange : no such size.

    Notes
    -----
    d = 0.127 mm x 92^((36 - n) / 39). Source: ASTM B258.

    Examples
    --------
    >>> round(awg_area_mm2(10), 2), round(awg_area_mm2(-1), 1)
    (5.26, 67.4)
    """
    if not -3 <= number <= 40:
        raise OutOfRange(f"AWG sizes reach from 40 to 4/0; {number} was given.")
    diameter_mm = 0.127 * 92 ** ((36 - number) / 39)
    return float(math.pi / 4 * diameter_mm**2)


def awg_name(number: int) -> str:
    """The name of an American gauge as people write it.

    Parameters
    ----------
    number : Gauge number; 0, -1, -2, -3 are 1/0 to 4/0.

    Returns
    -------
    The name.

    Examples
    --------
    >>> awg_name(10), awg_name(0), awg_name(-3)
    ('10 AWG', '1/0 AWG', '4/0 AWG')
    """
    return f"{number} AWG" if number > 0 else f"{1 - number}/0 AWG"


@dataclass(frozen=True)
class Size:
    """A conductor size: metric, or AWG by its number. `ohm_per_km` at 20 °C. [mm2], [Ohm/km]"""

    name: str
    mm2: float
    awg: int | None
    ohm_per_km: float


def _sizes() -> tuple[Size, ...]:
    metric = [Size(f"{mm2:g} mm²", mm2, None, ohm) for mm2, ohm in CLASS_5_OHM_PER_KM.items()]
    american = [
        Size(awg_name(n), awg_area_mm2(n), n, COPPER_OHM_M * 1e9 / awg_area_mm2(n))
        for n in AWG_NUMBERS
    ]
    return tuple(sorted([*metric, *american], key=lambda size: size.mm2))


SIZES: Final = _sizes()
BY_NAME: Final = {size.name: size for size in SIZES}
METRIC: Final = tuple(size for size in SIZES if size.awg is None)
AMERICAN: Final = tuple(size for size in SIZES if size.awg is not None)


@cache
def other_name(size: Size) -> str:
    """A size in the words of the other system: a gauge by its area, a metric size by its gauge.

    Parameters
    ----------
    size : Of either system.

    Returns
    -------
    The nearest gauge, or the area. [mm²]

    Examples
    --------
    >>> other_name(size_of("6 mm²")), other_name(size_of("2/0 AWG"))
    ('about 9 AWG', '67.4 mm²')
    """
    if size.awg is not None:
        return f"{size.mm2:.3g} mm²"
    gauge = min(range(-3, 21), key=lambda n: abs(math.log(awg_area_mm2(n) / size.mm2)))
    return f"about {awg_name(gauge)}"


def size_of(name: str) -> Size:
    """A size by its name.

    Parameters
    ----------
    name : As `awg_name` gives it, or "6 mm²".

    Returns
    -------
    The size with its area and resistance.

    Raises
    ------
    OutOfRange : there is no such size.

    Examples
    --------
    >>> size_of("6 mm²").mm2
    6.0
    """
    if name not in BY_NAME:
        raise OutOfRange(f"“{name}” is not a size known here.")
    return BY_NAME[name]


def resistance_ohm(size: Size, length_m: float, conductor_c: float = 20.0) -> float:
    """Resistance of one conductor.

    Parameters
    ----------
    size : Of the conductor.
    length_m : One way, 0 to 200. [m]
    conductor_c : Temperature of the copper. [°C]

    Returns
    -------
    Resistance. [Ohm]

    Raises
    ------
    OutOfRange : the length leaves its range.

    Notes
    -----
    Copper gains 0.393 % for each kelvin above 20 °C. Source: IACS.

    Examples
    --------
    >>> six = next(size for size in METRIC if size.mm2 == 6)
    >>> round(resistance_ohm(six, 5) * 2 * 30, 2)  # 30 A, 5 m out and back: volts lost
    0.99
    """
    if not 0 <= length_m <= MAX_LENGTH_M:
        raise OutOfRange(f"A run may be 0 to {MAX_LENGTH_M:g} m long; {length_m:g} was given.")
    return size.ohm_per_km / 1000 * length_m * (1 + COPPER_PER_K * (conductor_c - 20.0))


def marked(school: School, insulation_c: float | None) -> float:
    """The insulation temperature for which a table is read.

    The marked temperature, up to the highest of the table; its usual one where nothing is marked.

    Parameters
    ----------
    school : Whose table.
    insulation_c : Marked on the cable; None where nothing is. [°C]

    Returns
    -------
    Insulation temperature. [°C]

    Examples
    --------
    >>> marked("boat and vehicle", None), marked("building wire", 105)
    (70.0, 75.0)
    """
    table = AMPACITIES[school]
    return min(table.usual_c if insulation_c is None else float(insulation_c), table.best_c)


def ambient_factor(school: School, ambient_c: float, insulation_c: float | None = None) -> float:
    """Share of the table's amps that remains at an ambient temperature.

    Parameters
    ----------
    school : Whose table.
    ambient_c : Around the conductor, up to 70. [°C]
    insulation_c : What the insulation is marked for, as in `marked`. [°C]

    Returns
    -------
    sqrt((Ti - Ta) / (Ti - Tt)), 0 where it is as hot as the rating of the insulation. [1]

    Raises
    ------
    OutOfRange : hotter than 70 °C.

    Notes
    -----
    Heat given off rises with the difference of temperatures, heat made with the square of the
    current. Source: NEC 310.15(B), from memory.

    Examples
    --------
    >>> round(ambient_factor("building wire", 40), 2)
    0.88
    """
    if ambient_c > MAX_AMBIENT_C:
        raise OutOfRange(f"The tables end at {MAX_AMBIENT_C:g} °C; {ambient_c:g} was given.")
    return _cooled(marked(school, insulation_c), ambient_c, AMPACITIES[school].ambient_c)


def _cooled(insulation_c: float, ambient_c: float, table_c: float) -> float:
    return math.sqrt(max(insulation_c - ambient_c, 0.0) / (insulation_c - table_c))


def bundle_factor(school: School, conductors: int) -> float:
    """Share of the table's amps where so many current-carrying conductors lie together.

    Parameters
    ----------
    school : Whose table.
    conductors : That carry current together, >= 2.

    Returns
    -------
    Share, 0 to 1. [1]

    Raises
    ------
    OutOfRange : more conductors than the table of the school lists.

    Notes
    -----
    Sources: NEC table 310.15(C)(1), ISO 13297, from memory.

    Examples
    --------
    >>> bundle_factor("building wire", 5), bundle_factor("boat and vehicle", 5)
    (0.8, 0.6)
    """
    for most, factor in AMPACITIES[school].bundled:
        if conductors <= most:
            return factor
    raise OutOfRange(f"{conductors} conductors in a bundle are more than the table covers.")


def ampacity_a(
    size: Size,
    school: School,
    ambient_c: float = 30.0,
    conductors: int = 2,
    insulation_c: float | None = None,
) -> float | None:
    """Rated continuous current of a conductor where it lies.

    A size that is not in the table counts as the next smaller one that is.

    Parameters
    ----------
    size : Of the conductor.
    school : Whose table.
    ambient_c : Around the conductor, up to 70. [°C]
    conductors : Current-carrying ones that lie together, >= 2.
    insulation_c : Marked on the cable; None where nothing is. [°C]

    Returns
    -------
    Current; None where the table has nothing so thin. [A]

    Raises
    ------
    OutOfRange : too hot, or too many in the bundle.

    Examples
    --------
    >>> ampacity_a(next(size for size in METRIC if size.mm2 == 25), "building wire")
    85.0
    """
    most_a = table_a(size, school, insulation_c)
    if most_a is None:
        return None
    factor = ambient_factor(school, ambient_c, insulation_c) * bundle_factor(school, conductors)
    return most_a * factor


def most_fuse_a(size: Size, school: School, bears_a: float) -> float:
    """The largest fuse on a conductor: its rating, and less for small sizes by some tables.

    Parameters
    ----------
    size : Of the conductor.
    school : Whose table.
    bears_a : Rated current of the conductor where it lies, > 0. [A]

    Returns
    -------
    Largest fuse. [A]

    Notes
    -----
    Source: NEC 240.4(D), from memory.

    Examples
    --------
    >>> most_fuse_a(size_of("14 AWG"), "building wire", 20.0)
    15.0
    """
    for gauge, most_a in AMPACITIES[school].small:
        # Smaller than the next gauge, whose number is two less.
        if size.mm2 < awg_area_mm2(gauge - 2) * (1 - 1e-9):
            return min(bears_a, most_a)
    return bears_a


@cache
def table_a(size: Size, school: School, insulation_c: float | None = None) -> float | None:
    """Rated amps of a size by a school's table at 30 °C ambient.

    Between two insulation columns: those of the lower one, or of the upper less what the lower
    temperature takes away, whichever is more.

    Parameters
    ----------
    size : Of the conductor.
    school : Whose table.
    insulation_c : Marked on the cable; None where nothing is. [°C]

    Returns
    -------
    Rated current; None for a size that is too thin for the table. [A]

    Notes
    -----
    Sources: NEC table 310.16, ISO 10133 and 13297, ABYC E-11, from memory.

    Examples
    --------
    >>> table_a(size_of("6 AWG"), "building wire")
    65
    """
    table, bears_c = AMPACITIES[school], marked(school, insulation_c)
    upper = min(x for x in table.columns if x >= bears_c)
    above = _of_column(size, table.columns[upper], metric=table.metric)
    if above is None or upper == bears_c:
        return above
    # Room for heat against that of the column, both in the table's surroundings.
    scaled = above * math.sqrt((bears_c - table.ambient_c) / (upper - table.ambient_c))
    lower = max((x for x in table.columns if x <= bears_c), default=None)
    below = _of_column(size, table.columns[lower], metric=table.metric) if lower else None
    return max(scaled, below or 0.0)


def _of_column(size: Size, column: Sizes, *, metric: bool) -> float | None:
    # A hair of rounding: an AWG size is no larger than itself.
    most_mm2 = size.mm2 * (1 + 1e-9)
    fits = (a for n, a in column.items() if (n if metric else awg_area_mm2(int(n))) <= most_mm2)
    return max(fits, default=None)


def one_up(size: Size, sizes: tuple[Size, ...] = METRIC) -> Size:
    """The next larger size: less heat, less loss. The largest one stays.

    Parameters
    ----------
    size : One of `sizes`.
    sizes : From thin to thick, at least one.

    Returns
    -------
    The next one.

    Examples
    --------
    >>> one_up(METRIC[0], METRIC).name
    '0.75 mm²'
    """
    place = sizes.index(size)
    return sizes[min(place + 1, len(sizes) - 1)]
