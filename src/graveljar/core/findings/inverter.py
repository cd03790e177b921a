"""Rules about the inverter: volts, watts, surge, waveform, idle draw."""

from collections.abc import Iterator
from typing import Final

from graveljar.core.edit import Edit
from graveljar.core.facts import Facts
from graveljar.core.findings.finding import Finding, Remedy, Rule
from graveljar.core.findings.staggering import keep_largest_apart
from graveljar.core.inverter import calibrate
from graveljar.core.load import WANTS_SINE
from graveljar.core.needed import SYSTEM_VOLTS, common_size
from graveljar.core.window import fit_inverter
from graveljar.core.words import listed, number, quantity

# Idle draw below this share of the day is not worth a word. Ours.
IDLE_MATTERS: Final = 0.1


def _set_watts(continuous_w: float) -> tuple[Edit, ...]:
    return (
        Edit("replace", "/stages/0/continuous_w", float(continuous_w)),
        Edit("replace", "/stages/0/surge_w", float(2 * continuous_w)),
    )


def volts_differ(facts: Facts) -> Iterator[Finding]:
    """`inverter.above_maximum`, `.never_starts`, `.other_volts`: the bank does not fit.

    The full-charge volts decide: a "48 V" pack stands at 54.6 V when full.
    """
    inverter, rest = facts.inverter, facts.system.rest
    if inverter is None:
        return
    fit = fit_inverter(rest, inverter)
    if fit == "fits":
        return
    arrives = f"{quantity(rest.empty_v, 'V')} to {quantity(rest.full_v, 'V')}"
    accepts = (
        f"{quantity(inverter.accepts.least_v, 'V')} to {quantity(inverter.accepts.most_v, 'V')}"
    )
    code, severity, what = {
        "above its maximum": ("inverter.above_maximum", "stop", "The full bank will damage it."),
        "never reaches its minimum": (
            "inverter.never_starts",
            "fix",
            "Even a full bank does not reach its least volts: it will not start.",
        ),
        "other nominal volts": (
            "inverter.other_volts",
            "fix",
            "Its nominal volts lie outside what the bank gives.",
        ),
    }[fit]
    yield Finding(
        code,
        "stop" if severity == "stop" else "fix",
        inverter.id,
        f"A {number(inverter.nominal_v)} V inverter on a bank of {quantity(rest.nominal_v, 'V')}",
        f"From empty to full charge the bank gives {arrives}; the inverter accepts {accepts}. "
        f"{what} Its input volts must be the bank's.",
        ("bank.volts", "bank.empty_v", "bank.full_v"),
        _volts_remedies(facts),
        ("trade",),
    )


def _volts_remedies(facts: Facts) -> tuple[Remedy, ...]:
    inverter, rest = facts.inverter, facts.system.rest
    if inverter is None:
        return ()
    remedies = []
    series = max(round(inverter.nominal_v / facts.bank.battery.volts), 1)
    if series <= 16 and series != facts.bank.series:
        word = "battery" if series == 1 else "batteries"
        edit = Edit("replace", "/stores/0/series", series)
        remedies.append(Remedy(f"Put {series} {word} in series.", (edit,)))
    bank_v = min((v for v, _ in SYSTEM_VOLTS), key=lambda v: abs(rest.nominal_v / v - 1.07))
    # A window a tenth wider than the bank at both ends, as makers print for their class.
    window = {"least_v": round(rest.empty_v * 1.05, 1), "most_v": round(rest.full_v * 1.1, 1)}
    edits = (
        Edit("replace", "/stages/0/nominal_v", bank_v),
        Edit("replace", "/stages/0/accepts", window),
    )
    if rest.empty_v <= bank_v <= rest.full_v:
        label = f"Use a {number(bank_v)} V inverter that takes {quantity(rest.full_v, 'V')}."
        remedies.append(Remedy(label, edits))
    return tuple(remedies)


def overloaded(facts: Facts) -> Iterator[Finding]:
    """`inverter.overloaded`: more running together than it can give for long."""
    inverter = facts.inverter
    if inverter is None or facts.system.loss is None:
        return
    carried = max(facts.ac.watts, facts.ac.volt_amps)
    if carried <= inverter.continuous_w:
        return
    unit = "VA" if facts.ac.volt_amps > facts.ac.watts else "W"
    size = common_size(facts.needed.inverter_w)
    yield Finding(
        "inverter.overloaded",
        "fix",
        inverter.id,
        f"{quantity(carried, unit)} together on an inverter of "
        f"{quantity(inverter.continuous_w, 'W')}",
        "It trips when all of it runs: "
        f"{listed([load.name for load in facts.ac.loads])}. An inverter must carry the VA.",
        ("inverter.running_w", "inverter.running_va", "inverter.share"),
        (
            *keep_largest_apart(facts),
            Remedy(f"Use an inverter of {quantity(size, 'W')}.", _set_watts(size)),
        ),
        ("definition", "trade-80"),
    )


def little_margin(facts: Facts) -> Iterator[Finding]:
    """`inverter.little_margin`: above 80 % of its continuous watts."""
    inverter = facts.inverter
    if inverter is None or facts.system.loss is None:
        return
    most = facts.system.assumed["inverter_most_share"]
    share = max(facts.ac.watts, facts.ac.volt_amps) / inverter.continuous_w
    if not most < share <= 1.0:
        return
    size = common_size(facts.needed.inverter_w)
    yield Finding(
        "inverter.little_margin",
        "watch",
        inverter.id,
        f"The inverter carries {quantity(share, 'share', 2)} of its continuous watts",
        f"Aim at {quantity(most, 'share')} or less: labels are hopeful, and heat takes "
        "some of the rest.",
        ("inverter.share", "inverter.running_w", "needed.inverter_w"),
        (
            *keep_largest_apart(facts),
            Remedy(f"Use an inverter of {quantity(size, 'W')}.", _set_watts(size)),
        ),
        ("trade-80",),
    )


def start_above_surge(facts: Facts) -> Iterator[Finding]:
    """`inverter.start_above_surge`: the worst start is more than the surge to count on."""
    inverter, start = facts.inverter, facts.start
    if inverter is None or start is None or start.watts <= facts.surge_w:
        return
    factor = facts.system.assumed["trusted_surge_factor"]
    size = common_size(max(start.watts / factor, facts.needed.inverter_w))
    place = facts.design.loads.index(start.load)
    name = start.load.name
    yield Finding(
        "inverter.start_above_surge",
        "fix",
        inverter.id,
        f"{name} starting takes {quantity(start.watts, 'W')}; "
        f"trust the inverter with {quantity(facts.surge_w, 'W')}",
        f"It starts at {quantity(start.one_start_w, 'W')} while {quantity(start.others_w, 'W')} "
        "runs. Printed surge is trusted to twice the continuous watts, unless the "
        "datasheet states the seconds.",
        ("inverter.worst_start_w", f"load.{start.load.id}.start", "inverter.trusted_surge_w"),
        (
            Remedy(f"Use an inverter of {quantity(size, 'W')}.", _set_watts(size)),
            Remedy(
                f"Give {name} a soft start (about twice its running watts).",
                (Edit("replace", f"/loads/{place}/start", {"method": "factor", "factor": 2.0}),),
            ),
        ),
        ("trade-start", "trade-surge"),
    )


def stepped_wave(facts: Facts) -> Iterator[Finding]:
    """`inverter.stepped_wave`: motors heat, sound hums, medical devices may fail."""
    inverter = facts.inverter
    if inverter is None or inverter.waveform == "pure sine":
        return
    hurt = [load for load in facts.system.ac_loads if load.nature in WANTS_SINE]
    if not hurt:
        return
    yield Finding(
        "inverter.stepped_wave",
        "fix",
        inverter.id,
        f"Modified sine feeds {listed([load.name for load in hurt])}",
        "A stepped wave heats motors and shortens their life, hums in audio, and must not "
        "feed medical devices. It wastes energy too.",
        tuple(f"load.{load.id}.watts" for load in hurt),
        (
            Remedy(
                "Use a pure sine inverter.", (Edit("replace", "/stages/0/waveform", "pure sine"),)
            ),
        ),
        ("trade",),
    )


def idle_above_loads(facts: Facts) -> Iterator[Finding]:
    """`inverter.idle_above_loads`: it draws more to be on than its loads use."""
    inverter, day = facts.inverter, facts.run.day
    if inverter is None or facts.system.loss is None:
        return
    ac_ids = [load.id for load in facts.system.ac_loads]
    used_wh = sum(day.loads[i].used_wh + day.loads[i].standby_wh for i in ac_ids)
    if day.idle_wh <= max(used_wh, IDLE_MATTERS * day.wh):
        return
    remedies = []
    if inverter.switched == "always on":
        label = "Switch it off when none of its loads runs."
        edit = Edit("replace", "/stages/0/switched", "on with its loads")
        remedies.append(Remedy(label, (edit,)))
    remedies.append(Remedy("Feed small loads from DC without an inverter."))
    yield Finding(
        "inverter.idle_above_loads",
        "watch",
        inverter.id,
        f"Idle draw takes {quantity(day.idle_wh, 'Wh')} a day, its loads {quantity(used_wh, 'Wh')}",
        f"The inverter is on for {number(day.on_h)} h a day at {quantity(inverter.idle_w, 'W')} "
        "before anything is plugged in.",
        ("day.idle", "inverter.idle_a"),
        tuple(remedies),
        ("trade",),
    )


def figures_disagree(facts: Facts) -> Iterator[Finding]:
    """`inverter.figures_disagree`: idle and efficiencies that cannot all be true."""
    inverter = facts.inverter
    if inverter is None or calibrate(inverter).agreed:
        return
    yield Finding(
        "inverter.figures_disagree",
        "watch",
        inverter.id,
        "The inverter's idle watts and efficiencies contradict one another",
        "Taken together it would give more than it draws at some load. The worse "
        "efficiency is used for all loads, with the idle watts on top. Measure two of the three.",
        (),
        (
            Remedy(
                "Take common figures: 91 % at 30 % load, 87 % at full.",
                (
                    Edit(
                        "replace",
                        "/stages/0/part_load",
                        {"load_share": 0.3, "efficiency": 0.91},
                    ),
                    Edit("replace", "/stages/0/full_load", {"load_share": 1.0, "efficiency": 0.87}),
                    Edit("replace", "/stages/0/idle_w", inverter.continuous_w / 100),
                ),
            ),
        ),
        ("inverter-loss",),
    )


INVERTER_RULES: Final[tuple[Rule, ...]] = (
    volts_differ,
    overloaded,
    start_above_surge,
    stepped_wave,
    little_margin,
    idle_above_loads,
    figures_disagree,
)
