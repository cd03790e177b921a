"""A design as three arrays of records: rails from the stores outward, loads grouped by rail.

A record holds what stays the same, what is so at present, and what has been counted. Store s
makes rail s. Links stand behind all rails as rows of their own: what they take from their rail
they give to a store.
"""

from typing import Any, Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]
# Arrays of records; their fields stand with their types below.
Records = NDArray[Any]

# Kinds of rail, by what makes them.
STORE: Final = 0
INVERTER: Final = 1
CONVERTER: Final = 2
LINEAR: Final = 3
FEED: Final = 4
LINK: Final = 5
# How a load's current answers to its volts.
POWER: Final = 0
CURRENT: Final = 1
RESISTIVE: Final = 2
# States of a rail.
OFF: Final = 0
ON: Final = 1
ASLEEP: Final = 2
# What binds a link: nothing yet, its mode's amps, the input's watts, the converter before it, a
# fuse or lead, the source, all inputs together, the store's want (slower near full; full), and
# volts that would collapse.
FREE: Final = 0
BY_MODE: Final = 1
BY_INPUT: Final = 2
BY_CONVERTER: Final = 3
BY_FUSE: Final = 4
BY_SOURCE: Final = 5
BY_TOTAL: Final = 6
BY_TAPER: Final = 7
BY_FULL: Final = 8
BY_VOLTS: Final = 9


def _record(whole: str, real: str) -> np.dtype[Any]:
    """A record of whole numbers and real ones, by their names."""
    fields: list[tuple[str, type]] = [(name, np.int64) for name in whole.split()]
    fields += [(name, np.float64) for name in real.split()]
    # Records whose fields are attributes, for the compiler and without it.
    return np.dtype((np.record, fields))


# What stays: `parent` (-1 for a store); `zone`, the rail whose source feeds it without a
# converter between; its loads are those from `first` up to `last`; `with_loads`: off while none
# of its loads runs; `blocked`: its volts do not fit. `ohm` is the joint to its parent. A stage
# gives `set_v` less `droop_ohm` and draws p0 + k1 P + k2 P²; it works from `cut_v`, comes back
# at `restart_v`, and asleep takes `sleep_w`, below `sleep_at_w` asked (0: never).
# What changes: `latch` is IN, OUT or LOCKED; from `from_h` on what is OUT may come back; it last
# did at `back_h`. `taken` from the rail (amps, or watts on AC) and its `slope` belong to a sweep,
# `mid_*` to the middle of a step. What is counted, in Wh: `cable`, `idle`, `conversion`.
# Limits, infinite where there is none: `limit_a` of what a converter gives or a link takes,
# `fuse_a` of the joint before. A link gives the share `give` of at most `most_w` to store `to`;
# at present it may take `want_w`, for the reason `binds`; `first_binds` that of `limit_a`;
# `bypass`: what the store's AC outlets give comes on top. `got` is counted at the input [Wh].
RAIL: Final = _record(
    "kind parent zone store first last with_loads blocked latch state runs "
    "to bypass binds first_binds",
    "ohm set_v droop_ohm p0 k1 k2 cut_v restart_v sleep_w sleep_at_w "
    "from_h back_h asked volts amps taken slope mid_volts mid_amps cable idle conversion "
    "limit_a fuse_a most_w give want_w got",
)
# `useful` is the share of what is taken from the rail that is not lost in an adapter; `factor`
# is on its demand. Counted: where its energy went [Wh], and the hours it was served, wanted,
# and first not served (`stop_h`).
LOAD: Final = _record(
    "rail draw latch",
    "nominal_v ohm cut_v restart_v useful factor from_h back_h watts amps mid_amps "
    "used waited adapter cable served_h wanted_h stop_h",
)
# `floor` is the charge kept back, `begin` that at the start; `low_v` opens the protection.
# `before`, `change` and `rate` belong to a step. Counted: what the cells `released` [Wh], of
# which `inside` in their own resistance and `rate_wh` for the current's sake (Peukert).
# `endless`: a vehicle, on while its engine runs. `linked`: something feeds it; then it may come
# back from `back_at` charge on, is fed `fed_w` at present and `mid_fed` in the middle of a step,
# takes at most `most_in_w`, and less from `taper` on. `no_pass`: its outlets are off (`closed`)
# while it is fed. `awake` it draws `idle_w`; asked for less than `sleep_at_w` since `low_since`,
# it switches off for good (`slept`) after `sleep_h`. `limit_a` is what it may give.
BANK: Final = _record(
    "on endless linked no_pass closed awake slept full",
    "ohm ah floor low_v peukert rated_a begin charge emf before change rate "
    "released inside rate_wh stop_h "
    "limit_a back_at fed_w mid_fed most_in_w taper idle_w sleep_at_w sleep_h low_since",
)


class Day(NamedTuple):
    """What a day holds. L loads, S stores, M stretches, K points of a curve.

    `curve` : Open-circuit curve of each store, charge and volts. [1], [V], shape (S, K, 2)
    `edges` : Of the stretches, from 0 to 24. [h], shape (M + 1,)
    `plugged` : Whether each row of rails may be on: links at their times, a vehicle while its
        engine runs. Shape (M, R)
    `warmth` : Share of its capacity a store has in each stretch. [1], shape (M, S)
    `demand` : Watts taken from the rail, running and standing by. [W], shape (M, L, 2)
    `start_h` : Time of day at which the run begins. [h]
    """

    curve: Floats
    edges: Floats
    warmth: Floats
    demand: Floats
    plugged: Flags
    start_h: float
