"""Starting parts for 120 V 60 Hz, made from those for 230 V, so that both regions stay alike."""

from typing import Any, Final

from graveljar.core.planning.shelf import AnyPart, ChargerPart, InverterPart, StationPart

AC_VOLTS: Final = 120.0
AC_HZ: Final = 60
# What an input for 230 V that does not take 120 V too becomes. Common practice. [V]
ACCEPTS: Final = {"least_v": 100.0, "most_v": 130.0}
SUFFIX: Final = ", 120 V 60 Hz"


def twin_for_120_v(part: AnyPart) -> AnyPart | None:
    """The same part for 120 V mains; None for one that has no mains side or takes both.

    Examples
    --------
    >>> from graveljar.core.model import InverterFigures
    >>> part = InverterPart(kind="inverter", name="Inverter", figures=InverterFigures())
    >>> getattr(twin_for_120_v(part), "name", None)
    'Inverter, 120 V 60 Hz'
    """
    document = part.model_dump(mode="json")
    figures: dict[str, Any] = document["figures"]
    match part:
        case InverterPart():
            figures |= {"output_v": AC_VOLTS, "output_hz": AC_HZ}
        case StationPart() if any(x.kind == "ac" for x in part.figures.outlets):
            for outlet in figures["outlets"]:
                if outlet["kind"] == "ac":
                    outlet |= {"volts": AC_VOLTS, "hz": AC_HZ}
            for port in figures["inputs"]:
                if port["supply"] == "ac":
                    _take_120_v(port)
                    for mode in port["modes"]:
                        # The same watts at half the volts.
                        mode["amps"] = max(mode["amps"], port["most_w"] / AC_VOLTS)
        case ChargerPart() if part.figures.accepts.least_v > AC_VOLTS:
            _take_120_v(figures)
        case _:
            return None
    return type(part).model_validate(document | {"name": part.name + SUFFIX})


def _take_120_v(input_: dict[str, Any]) -> None:
    if input_["accepts"]["least_v"] > AC_VOLTS:
        input_["accepts"] = ACCEPTS
