"""Older documents, brought up to the present version as they are read."""

from typing import Any


def upgraded(document: dict[str, Any], version: int) -> dict[str, Any]:
    """A document as one of version 4; what is wrong in it stays wrong, and is said.

    From version 1: hours a day became one way of saying when; a mains appliance straight on a
    bank, which it let stand, is not joined to anything. From version 2: nothing but the number;
    copies of parts on the shelf were not known to it. From version 3: neither; it knew
    no stations, vehicles and links.
    """
    changed = document | {"version": 4}
    if version > 1:
        return changed
    loads, stores = document.get("loads"), document.get("stores")
    if not isinstance(loads, list):
        return changed
    banks = {store.get("id", "bank") for store in stores or [{}] if isinstance(store, dict)}
    return changed | {"loads": [_load(load, banks) for load in loads]}


def _load(load: Any, banks: set[Any]) -> Any:
    if not isinstance(load, dict):
        return load
    new = {key: value for key, value in load.items() if key != "hours_per_day"}
    if "hours_per_day" in load:
        new["when"] = {"kind": "hours", "hours": load["hours_per_day"]}
    supply = load.get("supply")
    if isinstance(supply, dict) and supply.get("kind") == "ac" and load.get("rail") in banks:
        new["rail"] = None
    return new
