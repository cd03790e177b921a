"""Documents that break a rule: each is refused with the place and the limit, in words."""

import json
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonpatch import apply_patch
from pydantic import ValidationError

from graveljar.core.errors import (
    GravelJarError,
    InvalidDocument,
    NewerVersion,
    UnreadableDocument,
)
from graveljar.core.model import VERSION, Bank, Design
from graveljar.core.model.parse import MAX_BYTES, MAX_PROBLEMS, read_design, refusal
from graveljar.core.tables.assumptions import ASSUMPTIONS, resolve
from graveljar.core.tables.sources import SOURCES
from graveljar.demo import demo_designs

VAN = demo_designs()["puppet-van"].model_dump(mode="json")


def _bytes(document: Any) -> bytes:
    return json.dumps(document).encode()


def _changed(path: str, value: Any, op: str = "replace") -> bytes:
    operation: Any = {"op": op, "path": path, "value": value}
    return _bytes(apply_patch(VAN, [operation]))


SHORT = {"length_m": 0.3, "size": "16 mm²"}
OVERLAPPING = [{"from_h": 18.0, "to_h": 21.0}, {"from_h": 20.0, "to_h": 23.0}]


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_a_design_survives_writing_and_reading(name: str) -> None:
    made = demo_designs()[name]
    assert read_design(made.model_dump_json().encode()) == made


@pytest.mark.parametrize(
    ("path", "value", "said"),
    [
        ("/loads/0/demand/watts", -5, "must be more than 0; -5 was given"),
        ("/loads/0/demand/watts", 0, "must be more than 0"),
        ("/loads/0/demand/watts", 1e9, "must be 100000 or less"),
        ("/loads/0/demand/watts", "900", "must be a number; 900 was given"),
        ("/loads/0/demand/watts", None, "must be a number"),
        ("/loads/0/demand", {"kind": "horses", "watts": 1}, "must be one of"),
        ("/loads/0/demand", {"watts": 1}, "must say which kind it is"),
        ("/loads/0/when/hours", 25, "must be 24 or less"),
        ("/loads/1/when", {"kind": "full moon"}, "must be one of"),
        ("/loads/1/when", {"kind": "windows", "windows": OVERLAPPING}, "must not overlap"),
        ("/loads/1/rail", "bank", "is DC; Haze machine needs AC"),
        ("/loads/5/window", {"cut_out_v": 12.0, "most_v": 11.0}, "its cut-out below its most"),
        (
            "/loads/5/window",
            {"cut_out_v": 11.0, "restarts_v": 16.0, "most_v": 15.0},
            "must restart between",
        ),
        ("/setting/horizon_h", 87_600.0, "must be 8760 or less"),
        ("/loads/1/duty", 1.5, "must be 1 or less"),
        ("/loads/1/count", 2.5, "must be a whole number"),
        ("/loads/1/name", "", "must not be empty"),
        ("/loads/1/name", "x" * 81, "at most 80 characters"),
        ("/notes", "so\0so", "must not hold the character U+0000"),
        ("/loads/1/rail", "nowhere", "is not a rail here"),
        ("/loads/1/id", "interval-kettle", "is used twice"),
        ("/loads/1/supply/kind", "steam", "must be one of 'ac' or 'dc'"),
        ("/loads/1/kept_apart", "yes", "must be true or false"),
        ("/stages/0/rail", "inverter", "leads back to itself"),
        ("/stages/0/rail", ["bank"], "must be text"),
        ("/stages/0/rail", "attic", "is not a rail here"),
        ("/stages/0", {"kind": "wind mill"}, "must be one of"),
        ("/stages/0/accepts", {"least_v": 15.0, "most_v": 10.0}, "least volts below"),
        ("/stages/0/full_load/efficiency", 0, "must be more than 0"),
        ("/stages/0/full_load/efficiency", 1.01, "must be 1 or less"),
        ("/stores", [], "must hold at least 1"),
        ("/stores/0/series", 17, "must be 16 or less"),
        ("/stores/0/battery/chemistry", "potato", "must be one of"),
        ("/stages/0/idle_w", 1e-263, "must be 0 or at least 0.000001"),
        ("/goal/hours", 0, "must be more than 0"),
        ("/setting/ambient_c", -300, "must be -40 or more"),
        ("/setting", 3, "must be an object"),
        ("/loads", {}, "must be a list"),
        ("/assumptions", {"moon_phase": 1.0}, "not a known assumption"),
        ("/assumptions", {"trusted_surge_factor": 9.0}, "must be 1 to 3; 9 was given"),
    ],
)
def test_a_wrong_value_is_refused_with_its_place(path: str, value: Any, said: str) -> None:
    with pytest.raises(InvalidDocument) as caught:
        read_design(_changed(path, value))
    problem = caught.value.problems[0]
    assert problem.path == path or problem.path.startswith(f"{path}/")
    assert said in problem.message
    assert problem.path in caught.value.message


@pytest.mark.parametrize(
    ("raw", "said"),
    [
        (b"", "not complete JSON"),
        (_bytes(VAN)[:700], "not complete JSON"),
        (b"[" * 100_000, "recursion"),
        (b'{"format": NaN}', "not complete JSON"),
        (b"\xff\xfe", "not complete JSON"),
        (b" " * (MAX_BYTES + 1), "at most 1000000"),
    ],
)
def test_what_is_no_json_is_refused(raw: bytes, said: str) -> None:
    with pytest.raises(UnreadableDocument, match=said):
        read_design(raw)


@pytest.mark.parametrize(
    "document", [{}, [], 3, "design", {"format": "gravel-jar/run"}, {"format": None}]
)
def test_what_is_no_design_is_refused(document: Any) -> None:
    with pytest.raises(InvalidDocument, match="not a Gravel Jar design"):
        read_design(_bytes(document))


def _chain(*stages: tuple[str, str]) -> bytes:
    """Plain feeds, each by its id and the rail it hangs on."""
    made = [{"kind": "feed", "id": name, "name": name, "rail": rail} for name, rail in stages]
    return _bytes({"format": "gravel-jar/design", "version": VERSION, "stages": made})


@pytest.mark.parametrize(
    ("raw", "path", "said"),
    [
        (_chain(("a", "b"), ("b", "a")), "/stages/0/rail", "to no store: a → b → a"),
        (_chain(("a", "a")), "/stages/0/rail", "a → a"),
        (_chain(("a", "bank"), ("a", "bank")), "/stages/1/id", "used twice"),
        (_chain(("a", "attic")), "/stages/0/rail", "is not a rail here"),
        (
            _chain(("s0", "bank"), *((f"s{n}", f"s{n - 1}") for n in range(1, 9))),
            "/stages/8/rail",
            "more than 8 rails away",
        ),
    ],
    ids=["loop", "its own", "two of one id", "orphan", "too deep"],
)
def test_rails_that_are_no_tree_are_refused(raw: bytes, path: str, said: str) -> None:
    with pytest.raises(InvalidDocument) as caught:
        read_design(raw)
    problem = caught.value.problems[0]
    assert problem.path == path
    assert said in problem.message


def test_a_document_of_version_1_is_brought_up_to_date() -> None:
    """Hours a day became one way of saying when; mains appliances left the bank's rail."""

    def old(name: str, kind: str) -> Any:
        return {
            "id": name, "name": name, "rail": "bank", "supply": {"kind": kind, "volts": 12.0},
            "demand": {"kind": "watts", "watts": 8.0}, "hours_per_day": 3.0,
        }  # fmt: skip

    loads = [old("lamp", "dc"), old("kettle", "ac")]
    design = read_design(
        _bytes({"format": "gravel-jar/design", "version": 1, "stores": [{}], "loads": loads})
    )
    assert design.version == VERSION
    assert [load.hours_per_day for load in design.loads] == [3.0, 3.0]
    assert [load.rail for load in design.loads] == ["bank", None]


def test_an_unknown_field_is_refused_by_name() -> None:
    with pytest.raises(InvalidDocument) as caught:
        read_design(_changed("/loads/0/colour", "red", "add"))
    assert caught.value.problems[0].path == "/loads/0/colour"
    assert "not a known field" in caught.value.problems[0].message


def test_a_fuse_of_version_4_keeps_its_amps() -> None:
    stages = [{"kind": "feed", "fuse_a": 30.0}, {"kind": "feed", "id": "bare", "fuse_a": None}]
    old = {"format": "gravel-jar/design", "version": 4, "stages": stages}
    design = read_design(_bytes(old))
    assert [stage.fuse and stage.fuse.amps for stage in design.stages] == [30.0, None]
    # Then it was a number; now that is not a field any more.
    with pytest.raises(InvalidDocument, match="/stages/0/fuse_a is not a known field"):
        read_design(_bytes(old | {"version": VERSION}))


@pytest.mark.parametrize("version", range(1, 10))
def test_an_older_document_keeps_what_is_held_in_reserve(version: int) -> None:
    """Up to version 8 it was called `keep_back`; up to 6 the building wire table was the usual."""
    stores = [{"kind": "bank", "id": "bank", "keep_back": 0.35}]
    old = {"format": "gravel-jar/design", "version": version, "stores": stores}
    design = read_design(_bytes(old))
    assert isinstance(design.first, Bank)
    assert design.first.reserve == 0.35
    assert design.setting.school == ("building wire" if version < 7 else None)


@pytest.mark.parametrize(
    ("wiring", "place", "code"),
    [
        ({"cable": {"length_m": 0.0}}, "/cable/length_m", "greater_than_equal"),
        ({"cable": {"length_m": 201.0}}, "/cable/length_m", "less_than_equal"),
        ({"cable": {"size": "6 mm²"}}, "/cable/length_m", "missing"),
        ({"cable": {"length_m": 1.0, "size": "7 mm²"}}, "/cable/size", "literal_error"),
        ({"cable": {"length_m": 1.0, "leads": 5}}, "/cable/leads", "less_than_equal"),
        ({"cable": {"length_m": 1.0, "together": 21}}, "/cable/together", "less_than_equal"),
        ({"cable": {"length_m": 1.0, "ambient_c": 71.0}}, "/cable/ambient_c", "less_than_equal"),
        ({"cable": {"length_m": 1.0, "insulation_c": 85}}, "/cable/insulation_c", "literal_error"),
        ({"fuse": {"amps": 0.0}}, "/fuse/amps", "greater_than"),
        ({"fuse": {"amps": 10.0, "kind": "wire"}}, "/fuse/kind", "literal_error"),
        ({"fuse": {"amps": 10.0, "breaks_a": 1e7}}, "/fuse/breaks_a", "less_than_equal"),
        ({"connector": "clip"}, "/connector", "literal_error"),
        ({"shunt_a": float("inf")}, "/shunt_a", "finite_number"),
    ],
)
def test_wiring_out_of_range_is_refused_with_its_place(
    wiring: dict[str, Any], place: str, code: str
) -> None:
    with pytest.raises(ValidationError) as refused:
        Design.model_validate({"stages": [{"kind": "feed", **wiring}]})
    problem = refusal(refused.value.errors(include_url=False)).problems[0]
    assert (problem.path, problem.code) == (f"/stages/0{place}", code)


@pytest.mark.parametrize("leads", [{"longest_m": 2.0}, {"longest_m": 0.2, "cable": SHORT}])
def test_the_longest_lead_is_no_shorter_than_the_others(leads: dict[str, Any]) -> None:
    with pytest.raises(ValidationError, match="no shorter than it"):
        Design.model_validate({"stores": [{"leads": leads}]})


def test_what_was_assumed_of_charging_by_energy_is_let_go() -> None:
    """Version 10 charges by the Ah; stations of older documents taper where they then did."""
    stores = [{"kind": "station", "id": "box"}, {"kind": "bank"}]
    assumed = {"bank_taper": 0.8, "lead_charge_efficiency": 0.7, "joint_drop": 0.02}
    old = {"format": "gravel-jar/design", "stores": stores, "assumptions": assumed}
    design = read_design(_bytes(old | {"version": 9}))
    assert design.assumptions == {"joint_drop": 0.02}
    assert design.stores[0].model_dump()["taper_from"] == 0.9
    with pytest.raises(InvalidDocument, match="bank_taper is not a known assumption"):
        read_design(_bytes(old | {"version": VERSION}))


def test_a_newer_version_is_refused_as_such() -> None:
    with pytest.raises(NewerVersion, match=f"version {VERSION + 1}; this program reads up to"):
        read_design(_changed("/version", VERSION + 1))


def test_infinity_is_no_number() -> None:
    for number in ("1e999", "NaN", "-Infinity"):
        raw = _bytes(VAN).replace(b'"ambient_c": 8.0', b'"ambient_c": ' + number.encode())
        with pytest.raises(GravelJarError):
            read_design(raw)


def test_ten_thousand_loads_are_refused_with_the_limit() -> None:
    lean = {"id": "x", "name": "x", "rail": "bank"}
    raw = _bytes({"format": "gravel-jar/design", "loads": [lean] * 10_000})
    with pytest.raises(InvalidDocument, match="at most 200"):
        read_design(raw)


def test_many_problems_are_told_up_to_a_limit() -> None:
    bad = apply_patch(
        VAN, [{"op": "replace", "path": "/loads", "value": [{"id": i} for i in range(60)]}]
    )
    with pytest.raises(InvalidDocument, match=r"and \d+ more") as caught:
        read_design(_bytes(bad))
    assert len(caught.value.problems) == MAX_PROBLEMS


def _places(value: Any, path: str = "") -> list[str]:
    children = (
        value.items()
        if isinstance(value, dict)
        else enumerate(value)
        if isinstance(value, list)
        else ()
    )
    return [path, *(p for key, child in children for p in _places(child, f"{path}/{key}"))]


@settings(max_examples=300, deadline=None)
@given(
    st.sampled_from(_places(VAN)[1:]),
    st.recursive(
        st.none()
        | st.booleans()
        | st.integers()
        | st.floats(allow_nan=False)
        | st.text(max_size=9),
        lambda inner: (
            st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=5), inner, max_size=3)
        ),
        max_leaves=5,
    ),
)
def test_any_value_anywhere_is_read_or_refused_with_words(path: str, value: Any) -> None:
    """Never another error than ours, and each says a place."""
    refused: GravelJarError | None = None
    try:
        read_design(_changed(path, value))
    except GravelJarError as error:
        refused = error
    if refused is not None:
        assert refused.message
        assert isinstance(refused, NewerVersion | UnreadableDocument) or refused.problems


def test_assumptions_lie_in_their_ranges_and_have_sources() -> None:
    for assumption in ASSUMPTIONS.values():
        assert assumption.least <= assumption.value <= assumption.most
        assert assumption.source in SOURCES
        assert len(assumption.help) > 20


def test_a_design_may_overrule_an_assumption() -> None:
    made = Design(assumptions={"trusted_surge_factor": 2.5})
    values = resolve(made.assumptions)
    assert values["trusted_surge_factor"] == 2.5
    assert values["kind_rate_c"] == ASSUMPTIONS["kind_rate_c"].value
