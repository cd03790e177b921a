"""A bank: volts, Ah, Wh, what may be taken out of it and what current it may give."""

from dataclasses import dataclass, replace
from functools import lru_cache

from graveljar.core.errors import OutOfRange
from graveljar.core.kernel.formulas import peukert_cost
from graveljar.core.model import Bank, Battery
from graveljar.core.tables.chemistry import (
    CHEMISTRIES,
    LARGE_AH,
    LARGE_CELLS_OHM_AH,
    POSTS_OHM,
    POSTS_OHM_AH,
    POWER_CELLS_OHM_AH,
    TOOL_PACK_AH,
    TOOL_PACK_V,
    USUAL_CELLS,
    Chemistry,
)
from graveljar.core.tables.interpolate import between


def chemistry_of(battery: Battery) -> Chemistry:
    """The chemistry that a battery names, with the battery's own curve where it was measured.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    Cell volts, curves and limits of that chemistry.

    Examples
    --------
    >>> chemistry_of(Battery(chemistry="lfp")).nominal_v
    3.2
    """
    kind = CHEMISTRIES[battery.chemistry]
    if battery.curve is None:
        return kind
    return _with_curve(kind, tuple((x.charge, x.volts) for x in battery.curve), _cells(battery)[0])


@lru_cache(maxsize=64)
def _with_curve(kind: Chemistry, points: tuple[tuple[float, float], ...], cells: int) -> Chemistry:
    curve = tuple((charge, volts / cells) for charge, volts in points)
    return replace(kind, ocv=curve, ocv_source="ocv-measured")


def cells_in_series(battery: Battery) -> int:
    """Cells in series: as stated, else the fewest that make the label volts, and at least one.

    Parameters
    ----------
    battery : As on its label; its `cells` may be unstated.

    Returns
    -------
    Cells in series in one battery, >= 1.

    Notes
    -----
    Common packs of 48, 60 or 80 V have a stated pair of counts; common practice.

    Examples
    --------
    >>> cells_in_series(Battery(chemistry="nmc", volts=18))
    5
    """
    return _cells(battery)[0]


def most_cells_in_series(battery: Battery) -> int:
    """Cells in series: as stated, else the most that packs of its label volts have.

    A full pack's highest volts are judged by them.

    Parameters
    ----------
    battery : As on its label; its `cells` may be unstated.

    Returns
    -------
    Cells in series in one battery, >= `cells_in_series(battery)`.

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> most_cells_in_series(Battery(chemistry="nmc", volts=48))
    14
    """
    return _cells(battery)[1]


def _cells(battery: Battery) -> tuple[int, int]:
    if battery.cells is not None:
        return battery.cells, battery.cells
    cells = max(round(battery.volts / CHEMISTRIES[battery.chemistry].nominal_v), 1)
    return USUAL_CELLS.get((battery.chemistry, battery.volts), (cells, cells))


@dataclass(frozen=True)
class BankLabel:
    """A bank by its label: volts empty, nominal, full [V]; charge [Ah]; energy [Wh].

    `cells` in series; `most_cells` where the label leaves it open, and by these it is full.

    `resistance_ohm` is for sag, `short_ohm` for a short circuit of the full bank at `rested_v`.
    `give_a` continuously and `peak_a` for a start are what its protection passes; None without
    one. `low_v` is where it disconnects, 0 if it never does. [A], [V]
    """

    cells: int
    most_cells: int
    empty_v: float
    nominal_v: float
    full_v: float
    ah: float
    wh: float
    give_a: float | None
    peak_a: float | None
    low_v: float
    resistance_ohm: float
    rested_v: float
    short_ohm: float


def bank_label(bank: Bank) -> BankLabel:
    """A bank by its labels: series adds volts and keeps Ah, parallel adds Ah and keeps volts.

    Parameters
    ----------
    bank : Its battery, and how many are in series and parallel.

    Returns
    -------
    Volts, charge, energy, limits and resistance of the bank.

    Notes
    -----
    Definition.

    Examples
    --------
    >>> rest = bank_label(Bank(battery=Battery(volts=12.8, ah=100), parallel=2))
    >>> rest.nominal_v, rest.ah, rest.wh
    (12.8, 200.0, 2560.0)
    """
    return _label(bank.battery, bank.series, bank.parallel)


@lru_cache(maxsize=512)
def _label(battery: Battery, series: int, parallel: int) -> BankLabel:
    kind = chemistry_of(battery)
    cells = cells_in_series(battery) * series
    most_cells = most_cells_in_series(battery) * series
    volts = battery.volts * series
    ah = battery.ah * parallel
    own_ohm = cell_ohm_ah(battery) / battery.ah * cells_in_series(battery)
    if battery.resistance_mohm is not None:
        own_ohm = battery.resistance_mohm / 1000
    return BankLabel(
        cells=cells,
        most_cells=most_cells,
        empty_v=kind.empty_v * cells,
        nominal_v=volts,
        full_v=kind.full_v * most_cells,
        ah=ah,
        wh=volts * ah,
        give_a=None if battery.bms_a is None else battery.bms_a * parallel,
        peak_a=_peak_a(battery, parallel),
        low_v=_low_v(battery, kind.empty_v * cells, series),
        resistance_ohm=own_ohm * series / parallel,
        rested_v=kind.ocv[-1][1] * most_cells,
        short_ohm=min(short_ohm(battery), own_ohm) * series / parallel,
    )


def short_ohm(battery: Battery) -> float:
    """Resistance of one battery in a short circuit: its cells, and what a lithium one adds.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    Resistance, > 0. [Ohm]

    Notes
    -----
    Common practice: cells at the low end of what is known; 1 to 2 mOhm for BMS and posts.

    Examples
    --------
    >>> round(13.4 / short_ohm(Battery(volts=12.8, ah=100)), -2)  # "about 3 kA"
    3400.0
    """
    kind = chemistry_of(battery)
    ohm = kind.short_ohm_ah / battery.ah * cells_in_series(battery)
    if not kind.lithium:
        return ohm
    least, most = POSTS_OHM
    return ohm + min(max(POSTS_OHM_AH / battery.ah, least), most)


def cell_ohm_ah(battery: Battery) -> float:
    """Resistance of a cell times its charge, by the class of cells in a battery.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    Resistance times charge, > 0. [Ohm Ah]

    Notes
    -----
    Common practice: energy cells, power cells of tool packs, large cells.

    Examples
    --------
    >>> tool = Battery(chemistry="nmc", volts=18, ah=5)
    >>> round(1000 * 5 * cell_ohm_ah(tool) / 5)  # 5S2P: 60 to 100 mOhm
    80
    """
    if battery.chemistry == "nmc":
        if battery.ah >= LARGE_AH:
            return LARGE_CELLS_OHM_AH
        if is_tool_pack(battery):
            return POWER_CELLS_OHM_AH
    return chemistry_of(battery).resistance_ohm_ah


def is_tool_pack(battery: Battery) -> bool:
    """Whether a battery is a pack made for a hand tool, by its chemistry, volts and size.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    True for Li-ion of a tool's volts and up to a tool's charge.

    Examples
    --------
    >>> is_tool_pack(Battery(chemistry="nmc", volts=18, ah=5)), is_tool_pack(Battery())
    (True, False)
    """
    small = battery.volts in TOOL_PACK_V and battery.ah <= TOOL_PACK_AH
    return battery.chemistry == "nmc" and small


def _peak_a(battery: Battery, parallel: int) -> float | None:
    if battery.bms_a is None:
        return None
    # Without a stated peak: twice for a moment, common practice.
    one_a = battery.bms_peak_a if battery.bms_peak_a is not None else 2 * battery.bms_a
    return one_a * parallel


def _low_v(battery: Battery, empty_v: float, series: int) -> float:
    if battery.low_v is not None:
        return battery.low_v * series
    # Tool packs often leave their cut-off to the tool.
    has_own = battery.bms_a is not None and not is_tool_pack(battery)
    return empty_v if has_own else 0.0


def temperature_range(battery: Battery) -> tuple[float, float]:
    """The ambient temperatures that the capacity table of a chemistry covers.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    Coldest and warmest. [°C]

    Examples
    --------
    >>> temperature_range(Battery())[1]
    25.0
    """
    curve = chemistry_of(battery).capacity_by_temperature
    return curve[0][0], curve[-1][0]


def temperature_factor(battery: Battery, ambient_c: float) -> float:
    """Capacity at a temperature as a share of that at 25 °C.

    Above the table no gain is counted. Below it the coldest entry is used, and the finding
    `bank.colder_than_known` says so.

    Parameters
    ----------
    battery : As on its label.
    ambient_c : Air around the battery. [°C]

    Returns
    -------
    Share, 0 to 1. [1]

    Notes
    -----
    Sources: IEEE 485 for lead-acid, from memory; common practice for lithium.

    Examples
    --------
    >>> round(temperature_factor(Battery(), 8), 3)
    0.936
    """
    coldest, warmest = temperature_range(battery)
    known_c = min(max(ambient_c, coldest), warmest)
    return between(chemistry_of(battery).capacity_by_temperature, known_c)


def resistance_factor(battery: Battery, ambient_c: float) -> float:
    """Resistance at a temperature over that at 25 °C; above 25 °C it is 1.

    Below its table the coldest entry is used, and `bank.colder_than_known` says so.

    Parameters
    ----------
    battery : As on its label.
    ambient_c : Air around the battery. [°C]

    Returns
    -------
    Factor, >= 1. [1]

    Notes
    -----
    Common practice.

    Examples
    --------
    >>> resistance_factor(Battery(), 0.0), resistance_factor(Battery(chemistry="agm"), 25.0)
    (2.0, 1.0)
    """
    curve = chemistry_of(battery).ohm_by_temperature
    known_c = min(max(ambient_c, curve[0][0]), curve[-1][0])
    return between(curve, known_c)


def peukert_exponent(battery: Battery) -> float:
    """The battery's own Peukert exponent, else that of its chemistry.

    Parameters
    ----------
    battery : As on its label.

    Returns
    -------
    Exponent, 1.0 (no effect) to 1.5. [1]

    Examples
    --------
    >>> peukert_exponent(Battery(peukert=1.2))
    1.2
    """
    return battery.peukert if battery.peukert is not None else chemistry_of(battery).peukert


def peukert_capacity(rated_ah: float, rated_h: float, current_a: float, exponent: float) -> float:
    """Charge a lead-acid battery delivers at a steady current.

    Parameters
    ----------
    rated_ah, rated_h : Label capacity and the hours it was rated over, > 0. [Ah, h]
    current_a : Steady current, > 0. [A]
    exponent : Peukert exponent, 1.0 (no effect) to 1.5. [1]

    Returns
    -------
    Charge; more than `rated_ah` below the rated current. [Ah]

    Raises
    ------
    OutOfRange : an argument leaves its range.

    Notes
    -----
    Constant temperature only. Source: Peukert 1897.

    Examples
    --------
    >>> round(peukert_capacity(100, 20, 10, 1.2), 1)
    87.1
    """
    if min(rated_ah, rated_h, current_a) <= 0:
        raise OutOfRange("Capacity, hours and current must be more than 0.")
    if not 1.0 <= exponent <= 1.5:
        raise OutOfRange(f"The Peukert exponent must be 1 to 1.5; {exponent:g} was given.")
    return float(rated_ah / peukert_cost(current_a, rated_ah / rated_h, exponent))
