"""The drawing as a file: all that is wired is in it, and it needs nothing from elsewhere."""

import re
from html import escape
from typing import Literal
from xml.etree import ElementTree

import pytest

from graveljar.core.cables.colours import colours_of
from graveljar.core.context import Context
from graveljar.core.sheet import sheet_of
from graveljar.core.text import number
from graveljar.core.views.cables import cables_of
from graveljar.demo import demo_designs
from graveljar.formats.cables_csv import write_joints
from graveljar.formats.drawing import drawing_png, drawing_svg
from graveljar.formats.sheet_html import Part, sheet_html
from tests.building import design, load

COVER: tuple[Part, ...] = ("cover",)
SVG = "{http://www.w3.org/2000/svg}"


def texts(svg: str) -> list[str]:
    """What stands in a drawing, a letter's ground apart."""
    # Made by this program itself.
    root = ElementTree.fromstring(svg)  # noqa: S314
    shown = [x for x in root.iter(f"{SVG}text") if x.get("fill") != "none"]
    return ["".join(x.itertext()) for x in shown]


@pytest.mark.parametrize("name", sorted(demo_designs()))
def test_every_wire_says_size_fuse_and_length_and_every_load_its_name(name: str) -> None:
    made = demo_designs()[name]
    svg = drawing_svg(made)
    said = texts(svg)
    whole = " ".join(said)
    for row in cables_of(Context(made)).rows:
        size = row.chosen or row.proposed
        length = f"{number(row.length_m)} m"
        if size and row.subject in {x.id for x in made.stages}:
            wire = re.compile(rf"\(?(\d × )?{size.name}\)?.*{length}")
            assert any(wire.fullmatch(x) for x in said), row.name
        elif size and row.subject in {x.id for x in made.loads}:
            assert any(x.endswith(f"· {length}") for x in said), row.name
            assert any(size.name in x for x in said), row.name
    for one in (*made.stores, *made.loads):
        # A long name is cut where its box ends, and stands whole in its title.
        assert escape(one.name) in svg, one.name
    # Needs no style sheet, script or file from elsewhere; names of the screen are left out.
    assert not re.search(r'var\(--|<script| class="| data-|(href|src)\s*=\s*"', svg)
    assert svg.count("font/woff2;base64") == 2
    assert "red is plus, black is minus" in whole
    assert sheet_of(Context(made), ()).drawn in whole


@pytest.mark.parametrize(
    ("place", "volts", "minus", "words"),
    [
        ("vehicle", 230.0, "black", "Mains here: brown is hot, blue neutral"),
        ("vehicle", 120.0, "black", "Mains here: black is hot, white neutral"),
        ("boat", 230.0, "yellow", "in North America black is hot"),
        ("boat", 120.0, "yellow", "elsewhere brown is hot"),
    ],
)
def test_colours_are_those_of_the_custom_with_their_words(
    place: Literal["vehicle", "boat"], volts: float, minus: str, words: str
) -> None:
    """IEC 60445, NEC 200.6, ABYC E-11 (minus of boats, as black is hot in mains), from memory."""
    lit = design(load(60.0) | {"cable": {"length_m": 3.0}})
    setting = lit.setting.model_copy(update={"place": place, "ac_volts": volts})
    made = lit.model_copy(update={"setting": setting})
    sheet = sheet_of(Context(made), ())
    assert sheet.wiring[0].colours == f"plus red, minus {minus}"
    assert {x.item.split(", ")[1] for x in sheet.cuts if x.kind == "cable"} == {"red", minus}
    assert words in sheet.custom
    assert words in " ".join(texts(drawing_svg(made)))
    joints = write_joints(cables_of(Context(made)), colours_of(setting))
    assert f",{minus}," in joints


def test_all_of_many_loads_are_drawn_and_what_people_typed_stays_text() -> None:
    rude = '</style></svg><script>x</script>"&'
    loads = [load(5.0, f"l{n}") | {"name": f"Lamp {n}"} for n in range(30)]
    last = load(5.0, "rude") | {"name": rude}
    made = design(*loads, last).model_copy(update={"name": rude})
    svg = drawing_svg(made, 3)
    said = texts(svg)
    assert f"{rude}, revision 3" in said
    # Before a name with a finding stands its mark.
    assert all(any(x.endswith(f"Lamp {n}") for x in said) for n in range(30))
    html = sheet_html(sheet_of(Context(made), ()), parts=COVER, drawing=svg)
    assert "<script" not in html
    assert html.count("</svg>") == 1


def test_letters_keep_their_ground_and_a_picture_is_not_empty() -> None:
    svg = drawing_svg(demo_designs()["tide-gauge-hut"])
    grounds = re.findall(r'<text fill="none" stroke="#ffffff"[^>]*>(.*?)</text>', svg)
    assert grounds
    assert all(ground in svg.split(ground, 1)[1] for ground in grounds)
    png = drawing_png(svg)
    assert len(set(png)) > 200
