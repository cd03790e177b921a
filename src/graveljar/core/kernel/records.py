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
Bytes = NDArray[np.uint8]
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
# fuse or lead, the source, all inputs together, the store's want (slower near full; full), volts
# that would collapse, and frost.
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
BY_FROST: Final = 10


def _record(whole: str, real: str) -> np.dtype[Any]:
    """A record of whole numbers and real ones, by their names."""
    fields: list[tuple[str, type]] = [(name, np.int64) for name in whole.split()]
    fields += [(name, np.float64) for name in real.split()]
    # Records whose fields are attributes, for the compiler and without it.
    return np.dtype((np.record, fields))


# A limit counts as exceeded from this share above it on: rounding is no overload. [1]
LIMIT_TOLERANCE: Final = 1e-6

# What stays: `parent` (-1 for a store); `zone`, the rail whose source feeds it without a
# converter between; its loads are those from `first` up to `last`; `with_loads`: off while none
# of its loads runs; `blocked`: its volts do not fit. `ohm` is the joint to its parent. A stage
# gives `set_v` less `droop_ohm` and draws p0 + k1 P + k2 P²; it works from `cut_v`, restarts
# at `restart_v`, and asleep takes `sleep_w`, below `sleep_at_w` asked (0: never).
# What changes: `latch` (see `ledger`), `why` it went out, at `out_h`, with `why_v` and charge
# `why_x`, through the start of load `why_by` (-1: none), `outs` times; from `from_h` on what is OUT
# may restart; it last did at `back_h`. `taken` from the rail (amps, or watts on AC; `va`
# apparent) and its `slope` belong to a sweep, `mid_*` to the middle of a step. Counted, in Wh:
# `cable`, `idle`, `conversion`.
# Limits, infinite where there is none: `limit_a` of what a converter or port gives or a link takes
# continuously, `limit_w` an inverter [VA]; `peak_a` and `peak_w` for a start; `fuse_a` of the joint
# before, of `fuse_kind` (see `fuses`), worn by `wear`. What was overloaded `returns` by itself or
# waits for a person. A link gives the share `give` of at most `most_w` to store `to`;
# at present it may take `want_w`, for the reason `binds`; `first_binds` that of `limit_a`;
# `bypass`: what the store's AC outlets give comes on top. `got` is counted at the input [Wh].
# An inverter with a transfer switch `passes` on what arrives at row `other`, a mains socket, while
# that is there (-1: it has none); `own_parent` is the rail it inverts from.
# Links whose chargers are in one box share its amps: this one leaves those of row `shares` (-1:
# none).
# One that charges a bank gives at most `charge_a`, up to `hold_v`, which it `holds` at present or
# not, and draws `p0` itself. `before_v` and `before_w` keep volts and `want_w` while a start is
# tried.
RAIL: Final = _record(
    "kind parent zone store first last with_loads blocked latch state runs "
    "to bypass binds first_binds holds why why_by outs returns fuse_kind "
    "other own_parent passes shares",
    "ohm set_v droop_ohm p0 k1 k2 cut_v restart_v sleep_w sleep_at_w "
    "from_h back_h asked volts amps taken va slope mid_volts mid_amps cable idle conversion "
    "limit_a fuse_a most_w give want_w got limit_w peak_w peak_a wear why_v why_x out_h "
    "charge_a hold_v before_v before_w",
)
# `useful` is the share of what is taken from the rail that is not lost in an adapter; `factor`
# is on its demand; `va` apparent power over power. At its start it takes `jump` more watts; one
# whose duty is averaged (`thermostat`) may start at any moment; `started` once it has, with
# `start_room` left to the nearest limit. The first of
# those `counted` that stops decides how long it lasts. Counted:
# where its energy went [Wh], and the hours it was served, wanted, and first not served (`stop_h`):
# why (`stop_why`), what gave up (`stop_part` LOAD_PART, RAIL_PART or STORE_PART, `stop_index`),
# through whose start (`stop_by`), at which volts and charge, the stores having released `stop_wh`.
LOAD: Final = _record(
    "rail draw latch why outs thermostat started starts fails fuse_kind counted "
    "stop_why stop_part stop_index stop_by",
    "nominal_v ohm cut_v restart_v useful factor from_h back_h watts amps mid_amps "
    "used waited adapter cable served_h scheduled_h stop_h "
    "va jump start_room fuse_a wear why_v why_x out_h stop_v stop_x stop_wh",
)
# `floor` is the reserve, `least` the same at the present temperature, `begin` that at the
# start; charge is a share of `ah`, whatever the temperature. `low_v` opens the protection. `ohm`
# is at present `own_ohm`, more in the cold, and that of the cables. `before`, `change`, `rate`
# and `room` belong to a step. Counted: what the cells `released` [Wh], of which `inside` in their
# own resistance and `rate_wh` for the current's sake (Peukert, by the mean current `mean_a` of the
# `seen_h` hours so far, two at most).
# `endless`: a vehicle, on while its engine runs. `only_links`: nothing else draws from it; they are
# held to what it gives. `linked`: something feeds it; then it may come
# back from the share `returns_at` of what may be taken, is fed `fed_w` at present and `mid_fed` in
# the middle of a step, takes at most `most_in_w`, and less from `taper` on; `frozen`: no charge
# goes in at this temperature; `too_cold` to give any. `no_pass`: its outlets are off (`closed`)
# while it is fed. `awake` it draws `idle_w`; asked for less than `sleep_at_w` since `low_since`,
# it switches off for good (`slept`) after `sleep_h`. `limit_a` is what it may give continuously,
# `peak_a` at a start; overloaded it `returns` by itself or waits for a person.
# A bank that is charged keeps the share `ah_give` of the Ah; is full at `full_at`; accepts
# `accepts_per_h` amps for each Ah missing where its chargers hold `usual_v` (0: all it is given).
# While it is charged its volts follow `soft_ohm` up to `SOFT_C` of its Ah, beyond that
# `charge_emf` and `charge_ohm`, unless a charger holds them at `held_v` (0: none does). `at_wrap`
# is its charge when the days last began anew.
BANK: Final = _record(
    "on endless only_links linked no_pass closed awake slept full frozen too_cold returns "
    "why why_by fuse_kind",
    "ohm own_ohm leads_ohm ah floor least low_v peukert rated_a mean_a seen_h begin charge emf "
    "before change rate room released inside rate_wh stop_h from_h "
    "limit_a peak_a fuse_a wear why_v why_x "
    "returns_at fed_w mid_fed most_in_w taper idle_w sleep_at_w sleep_h low_since "
    "ah_give full_at usual_v accepts_per_h soft_ohm charge_emf charge_ohm held_v mid_emf "
    "at_wrap",
)
# What gave up, in a load's stop.
LOAD_PART: Final = 0
RAIL_PART: Final = 1
STORE_PART: Final = 2


class DayProfile(NamedTuple):
    """What a day, or a week of days, holds. L loads, S stores, M stretches, K points of a curve.

    `curve` : Open-circuit curve of each store, charge and volts. [1], [V], shape (S, K, 2)
    `charging` : The same while it is charged.
    `edges` : Of the stretches, from 0 to the whole days after which it repeats. [h], shape (M + 1,)
    `plugged` : Whether each row of rails may be on: links at their times, a vehicle while its
        engine runs. Shape (M, R)
    `warmth` : Share of its capacity that can be had of a store in each stretch. [1], (M, S)
    `cold_ohm` : Times its own resistance at 25 °C. [1], shape (M, S)
    `frozen`, `too_cold` : Whether no charge goes into it, or comes out of it. Shape (M, S)
    `full_at` : Charge at which a charger ends. [1], shape (M, S)
    `most_a` : What a store can give continuously: the sun's current by the hour. [A], shape (M, S)
    `demand` : Watts taken from the rail, running and standing by. [W], shape (M, L, 2)
    `start_h` : Time of day at which the run begins. [h]
    """

    curve: Floats
    charging: Floats
    edges: Floats
    warmth: Floats
    cold_ohm: Floats
    frozen: Flags
    too_cold: Flags
    full_at: Floats
    most_a: Floats
    demand: Floats
    plugged: Flags
    start_h: float
