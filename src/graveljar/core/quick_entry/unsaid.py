"""What a line leaves unsaid: usual watts, mean power by what a battery gave, the share of a day."""

from typing import Any

from graveljar.core.model import Design, Supply
from graveljar.core.network.schedule import DAY_H
from graveljar.core.quick_entry.gather import LineContents
from graveljar.core.quick_entry.ran import Ran
from graveljar.core.quick_entry.tokens import MAINS_FROM_V, Token
from graveljar.core.tables.usual_use import UsualUse
from graveljar.core.text import a_day, quantity

# What draws more from mains is another appliance where it is made for a battery. Ours. [W]
MAX_SMALL_W = 200.0


def of_same_kind(said: LineContents, usual: UsualUse) -> bool:
    """Whether an appliance of the volts said is of the size that is usual for its mains kind."""
    volts = said.quantities.get("V")
    on_mains = volts is None or volts.wave == "ac" or volts.value >= MAINS_FROM_V
    return on_mains or usual.volts is not None or usual.watts <= MAX_SMALL_W


def put_usual(said: LineContents, usual: UsualUse) -> None:
    """Put what such an appliance usually draws into a line without any power."""
    watts = usual.watts
    said.quantities["W"] = Token("quantity", 0, 0, "", watts, "W", watts)
    if "V" not in said.quantities and usual.volts is not None:
        said.quantities["V"] = Token("quantity", 0, 0, "", usual.volts, "V", usual.volts, "dc")
    said.notes.append(
        f"No watts given: {quantity(watts, 'W')} is usual while it runs. Read its label, or "
        "measure it."
    )
    if said.provenance == "label":
        said.provenance = "rule of thumb"


def by_battery(
    said: LineContents, ran: Ran, supply: Supply, design: Design
) -> dict[str, Any] | None:
    """Mean watts of a load that ran so long on a part of the design's battery."""
    watts = ran.mean_w(design, supply)
    if watts is None:
        said.problems.append(
            "How long it ran says nothing here: the first store holds no energy of its own, or "
            "the inverter's idle draw alone takes more."
        )
        return None
    through = " behind the inverter" if supply.kind == "ac" else ""
    said.notes.append(
        f"{quantity(ran.share, 'share')} of {design.first.name} in {a_day(ran.hours)}: "
        f"{quantity(watts, 'W')} on average{through}."
    )
    if said.provenance == "label":
        said.provenance = "rule of thumb"
    return {"kind": "watts", "watts": round(watts, 1)}


def duty_of(said: LineContents, demand: dict[str, Any] | None) -> float:
    """Share of the day a load runs, by its energy a day and its watts. [1]"""
    watts = float(demand["watts"]) if demand else 0.0
    share = (said.a_day_wh or 0.0) / (watts * DAY_H) if watts else 1.0
    if share > 1:
        said.problems.append(
            f"{quantity(watts, 'W')} all day make {quantity(watts * DAY_H, 'Wh')}, less than the "
            f"{quantity(said.a_day_wh or 0.0, 'Wh')} a day: which one is right?"
        )
        return 1.0
    said.notes.append(f"By its energy a day it runs {quantity(share, 'share')} of the time.")
    return share
