"""The made-up touring puppet theatre and its designs."""

from importlib.resources import files

from graveljar.core.model import Design
from graveljar.core.model.parse import read_design


def demo_designs() -> dict[str, Design]:
    """Every demo design by its file's name without ending, in alphabetical order."""
    folder = files("graveljar.demo")
    found = sorted((p for p in folder.iterdir() if p.name.endswith(".json")), key=lambda p: p.name)
    return {path.name.removesuffix(".json"): read_design(path.read_bytes()) for path in found}
