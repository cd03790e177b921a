"""The made-up touring puppet theatre and its designs."""

from importlib.resources import files
from typing import Final

from pydantic import TypeAdapter

from graveljar.core.model import Design
from graveljar.core.model.parse import read_design
from graveljar.core.readings import AnyReading, Reading


def demo_designs() -> dict[str, Design]:
    """Every demo design by its file's name without ending, in alphabetical order."""
    folder = files("graveljar.demo")
    found = sorted((p for p in folder.iterdir() if p.name.endswith(".json")), key=lambda p: p.name)
    return {path.name.removesuffix(".json"): read_design(path.read_bytes()) for path in found}


def demo_readings() -> dict[str, list[AnyReading]]:
    """What was measured on the demo designs, by their names."""
    text = (files("graveljar.demo") / "bench/readings.json").read_text(encoding="utf-8")
    return _READINGS.validate_json(text)


def demo_log() -> tuple[str, str, str]:
    """A night's log of the hut: its design, what it is of, and the file's text."""
    file = files("graveljar.demo") / "bench/tide-gauge-hut-night.csv"
    return "tide-gauge-hut", "bank", file.read_text(encoding="utf-8")


_READINGS: Final[TypeAdapter[dict[str, list[AnyReading]]]] = TypeAdapter(dict[str, list[Reading]])
