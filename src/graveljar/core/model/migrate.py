"""Older documents, brought up to the present version as they are read."""

from typing import Any, Final

_NO_LONGER_ASSUMED: Final = (
    "bank_charge_efficiency", "lead_charge_efficiency", "bank_taper", "lead_taper"
)  # fmt: skip


def upgraded(document: dict[str, Any], version: int) -> dict[str, Any]:
    """A document as one of version 15; what is wrong in it stays wrong, and is said.

    From version 1: hours a day became one way of saying when; a mains appliance straight on a
    bank, which it let stand, is not joined to anything. Version 2 knew no parts on the shelf,
    version 3 no stations, vehicles and links: nothing changes for it. From version 4: the amps
    of a fuse became those of a fuse that says more. Version 5 knew no cold cut-offs and resets;
    up to version 6 the building wire table counted where none was chosen. Up to version 8 the
    reserve of a store was called `keep_back`. Up to version 9 a bank was charged by energy: what
    was assumed of that is of no use now; and a station was taken to taper from 90 % on. Version 10
    knew no alternators and no starter batteries, version 11 no transfer switches, version 12 no
    loads that run once, version 13 no measured figures beside those of labels, version 14 no
    curves of one's own and no switchable ports: nothing changes.
    """
    changed = document | {"version": 15}
    if version < 10:
        changed |= _charged_by_energy(document)
    if version > 6:
        return changed
    setting = document.get("setting", {})
    if isinstance(setting, dict):
        changed["setting"] = {"school": "building wire"} | setting
    if version == 4:
        for part in ("stages", "links"):
            if isinstance(document.get(part), list):
                changed[part] = [_fused(thing) for thing in document[part]]
    if version > 1:
        return changed
    loads, stores = document.get("loads"), document.get("stores")
    if not isinstance(loads, list):
        return changed
    banks = {store.get("id", "bank") for store in stores or [{}] if isinstance(store, dict)}
    return changed | {"loads": [_load(load, banks) for load in loads]}


def _charged_by_energy(document: dict[str, Any]) -> dict[str, Any]:
    """Stores and assumptions of a document up to version 9."""
    changed: dict[str, Any] = {}
    if isinstance(document.get("stores"), list):
        changed["stores"] = [
            _tapering(_renamed(store, "keep_back", "reserve")) for store in document["stores"]
        ]
    assumed = document.get("assumptions")
    if isinstance(assumed, dict):
        changed["assumptions"] = {
            key: value for key, value in assumed.items() if key not in _NO_LONGER_ASSUMED
        }
    return changed


def _renamed(thing: Any, old: str, new: str) -> Any:
    """A part of a document with another name for one of its fields."""
    if not isinstance(thing, dict) or old not in thing:
        return thing
    return {new if key == old else key: value for key, value in thing.items()}


def _tapering(store: Any) -> Any:
    """A station that did not say where it tapers, as it was then taken to do."""
    if not isinstance(store, dict) or store.get("kind") != "station":
        return store
    return {"taper_from": 0.9} | store


def _fused(thing: Any) -> Any:
    if not isinstance(thing, dict) or "fuse_a" not in thing:
        return thing
    new = {key: value for key, value in thing.items() if key != "fuse_a"}
    amps = thing["fuse_a"]
    return new if amps is None else new | {"fuse": {"amps": amps}}


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
