"""Blocks brought in from drawings: kept true, mended with an account, or refused; never run, never fetched."""

from __future__ import annotations

import io
import math

import ezdxf
import pytest
from shapely.geometry import box

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Arc, sides
from kenzet.core.geom.curves import as_arcs, at
from kenzet.core.numbers.measure import Length
from kenzet.core.top.blocks import Block
from kenzet.core.top.bring import bring
from kenzet.core.top.layout import block_part
from kenzet.formats.dxf_in import read_dxf
from kenzet.formats.readers import read_block
from kenzet.formats.svg_in import read_svg


def svg(body, head='width="8in" height="8in" viewBox="0 0 8 8"'):
    return f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" {head}>{body}</svg>'.encode()


def parts(found):
    """Patches of the brought block by key, once they tile it."""
    width, height = (Length.of(round(side, 3), "mm") for side in (found.width, found.height))
    block = Block(name="b", width=width, height=height, art=found.art)
    part = block_part("b", "b", block, found.width, found.height, {})
    areas = {key: patch.area for key, patch in part.patches.items()}
    assert sum(a.area for a in areas.values()) == pytest.approx(found.width * found.height, rel=1e-6)
    rest = box(0, 0, found.width, found.height)
    for area in areas.values():
        rest = rest.difference(area)
    assert rest.buffer(-0.0005).is_empty
    return areas


FRAME = '<rect width="8" height="8" fill="#eeddcc"/>'
GOOD = {
    "a square with a circle on it": (FRAME + '<circle cx="4" cy="4" r="2" fill="red"/>', 2, 1),
    "four squares side by side": (
        "".join(f'<rect x="{x}" y="{y}" width="4" height="4" fill="#{x}{y}8"/>' for x in (0, 4) for y in (0, 4)), 4, 0),
    "a ground that is wholly covered": (
        FRAME + '<path d="M0 0H8L0 8Z" fill="#123456"/><path d="M8 0V8H0Z" fill="#654321"/>', 2, 0),
    "lines that cross": (FRAME + '<path d="M0 0L8 8M0 8L8 0" stroke="#000" fill="none"/>', 4, 0),
    "a leaf of two curves": (FRAME + '<path d="M1 1C5 1 7 3 7 7C3 7 1 5 1 1Z" fill="#2a6"/>', 2, 1),
    "a ring with a hole": (FRAME + '<path fill-rule="evenodd" d="M1 1H7V7H1ZM3 3V5H5V3Z" fill="#2a6"/>', 2, 1),
    "an arc from edge to edge": (FRAME + '<path d="M0 4A4 4 0 0 1 4 8" fill="none"/>', 2, 0),
    "repeated by reference": (
        FRAME + '<defs><path id="p" d="M0 0L8 8"/></defs><use href="#p"/>', 2, 0),
    "moved and turned": (FRAME + '<g transform="translate(4 4) rotate(45)"><rect x="-1" y="-1" width="2" height="2"/></g>', 2, 1),
}  # fmt: skip


@pytest.mark.parametrize("name", GOOD)
def test_a_drawing_becomes_patches_that_tile(name):
    body, patches, applique = GOOD[name]
    found = bring(read_svg(svg(body)))
    assert (found.width, found.height) == pytest.approx((203.2, 203.2), abs=1e-3)
    assert found.said == ()
    areas = parts(found)
    assert len(areas) == patches
    assert sum(patch.applique for patch in found.art.patches.values()) == applique
    assert len(bring(read_svg(svg(body)), Length.parse("100 mm")).art.patches) == patches


def test_colours_are_kept_as_fabrics():
    found = bring(read_svg(svg(GOOD["a square with a circle on it"][0])))
    cloth = {key: found.fabrics[patch.fabric].colour for key, patch in found.art.patches.items()}
    assert cloth == {"piece-1": "#eeddcc", "applique-1": "#ff0000"}


def test_a_circle_keeps_its_area_and_its_arcs():
    found = bring(read_svg(svg(GOOD["a square with a circle on it"][0])))
    assert parts(found)["applique-1"].area == pytest.approx(math.pi * 50.8**2, rel=1e-3)
    assert all(len(v) == 3 for v in found.art.patches["applique-1"].outline)


CUBICS = {
    "an S": ((0, 0), (80, 0), (-20, 60), (60, 60)),
    "a hook": ((0, 0), (0, 90), (10, 90), (10, 0)),
    "a loop": ((0, 0), (100, 80), (-40, 80), (60, 0)),
    "a straight line": ((0, 0), (10, 10), (20, 20), (30, 30)),
    "a cusp": ((0, 0), (60, 60), (0, 60), (60, 0)),
    "flat": ((0, 0), (30, 1), (60, 1), (90, 0)),
}


@pytest.mark.parametrize("name", CUBICS)
def test_curves_become_arcs_within_a_tenth_of_a_millimetre(name):
    cubic = CUBICS[name]
    vertices = [*as_arcs(cubic, 0.05), cubic[3]]
    points = [at(cubic, k / 400) for k in range(401)]
    for x, y in points:
        away = min(_from_side((x, y), *side) for side in list(sides(vertices))[:-1])
        assert away < 0.1
    assert len(vertices) < 60


def _from_side(point, start, end, bulge):
    if not bulge:
        dx, dy = end[0] - start[0], end[1] - start[1]
        share = ((point[0] - start[0]) * dx + (point[1] - start[1]) * dy) / (dx * dx + dy * dy)
        share = min(max(share, 0), 1)
        return math.dist(point, (start[0] + share * dx, start[1] + share * dy))
    arc = Arc(start, end, bulge)
    foot = min((k / 200 for k in range(201)), key=lambda share: math.dist(point, arc.at(share)))
    if 0 < foot < 1:
        return abs(math.dist(point, arc.centre) - arc.radius)
    return math.dist(point, arc.at(foot))


@pytest.mark.parametrize(
    ("body", "says"),
    [
        (FRAME + '<path d="M0 4L8 4"/><path d="M1 1L3 1L3 3L1 3L1.01 1.01" fill="red"/>', "open by less than half a millimetre: closed"),
        (FRAME + '<path d="M0 0L8 8"/><path d="M1 1L3 3L3 1L1 3Z" fill="red"/>', "1 outline crossing itself: left out"),
        (FRAME + '<path d="M0 0L8 8"/><rect width=".01" height=".01" x="2" y="5" fill="red"/>', "smaller than a square millimetre"),
        (FRAME + '<script>alert(1)</script><path d="M0 0L8 8"/>', "Left out: a script"),
        (FRAME + '<path onclick="x()" d="M0 0L8 8"/>', "Left out: a script"),
        (FRAME + '<image href="http://example.invalid/a.png"/><path d="M0 0L8 8"/>', "reference to another file"),
        (FRAME + '<use xlink:href="other.svg#p"/><path d="M0 0L8 8"/>', "reference to another file"),
        (FRAME + '<style>@import "x.css";</style><path d="M0 0L8 8"/>', "reference to another file"),
        (FRAME + '<text x="1" y="1">hello</text><path d="M0 0L8 8"/>', "lettering"),
    ],
)  # fmt: skip
def test_what_is_mended_or_left_out_is_said(body, says):
    found = bring(read_svg(svg(body)))
    assert says in " ".join(found.said)
    parts(found)


BOMB = b"""<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg"><text>&b;</text></svg>"""
ALOUD = b"""<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"><text>&a;</text></svg>"""
NESTED = '<g id="a0"><path d="M0 0L1 1"/></g>' + "".join(
    f'<g id="a{k}"><use href="#a{k - 1}"/><use href="#a{k - 1}"/></g>' for k in range(1, 40)
)


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "damaged or incomplete"),
        (b"<svg", "damaged or incomplete"),
        (b"<html/>", "not an SVG"),
        (BOMB, "entities of its own"),
        (ALOUD, "entities of its own"),
        (svg(NESTED), "more than 20,000 parts"),
        (svg('<g id="x"><use href="#x"/></g>'), "more than 20,000 parts"),
        (svg("<g>" * 400 + "</g>" * 400), "too deep"),
        (svg(""), "is empty"),
        (svg('<path d="M0 0L8 0"/>'), "single line"),
        (svg(FRAME), "no closed outline and no line"),
        (svg(FRAME + '<path d="M0 0' + "L1 1L2 0" * 10_100 + '"/>'), "at most 20,000"),
        (svg(FRAME + '<path d="M0 0L8 8"/>', 'width="8mm" height="8mm" viewBox="0 0 8 8"'), "between 1/2 in and 200 in"),
    ],
)  # fmt: skip
def test_what_cannot_be_a_block_is_refused(data, says):
    with pytest.raises(BadValue) as error:
        bring(read_svg(data))
    assert says in error.value.message
    assert error.value.field in ("file", "width")


def test_an_outline_of_too_many_corners_is_refused():
    comb = "".join(f"L{1 + k / 2000:.5f} {2 + k % 2}" for k in range(8000))
    with pytest.raises(BadValue) as error:
        bring(read_svg(svg(FRAME + f'<path d="M1 1{comb}L6 1Z" fill="red"/>')))
    assert error.value.field == "file"


def test_a_drawing_without_units_says_so_and_takes_her_width():
    data = svg(FRAME + '<path d="M0 0L8 8"/>', 'viewBox="0 0 8 8" width="768" height="768"')
    found = bring(read_svg(data))
    assert found.width == pytest.approx(203.2, abs=1e-3)
    assert "names no unit" in found.said[0]
    wider = bring(read_svg(data), Length.parse("12 in"))
    assert (wider.width, wider.said) == (pytest.approx(304.8), ())


def dxf(units=1, version="R2010"):
    drawing = ezdxf.new(version)
    drawing.units = units
    drawing.layers.add("Sea", color=5)
    space = drawing.modelspace()
    space.add_lwpolyline([(0, 0), (6, 0), (6, 6), (0, 6)], close=True, dxfattribs={"layer": "Sea"})
    space.add_line((0, 0), (6, 6))
    space.add_arc((0, 6), 3, 270, 360)
    return drawing


def as_bytes(drawing):
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


@pytest.mark.parametrize(("units", "side"), [(1, 152.4), (5, 60), (0, 152.4)])
def test_a_dxf_drawing_comes_at_its_true_size(units, side):
    data = as_bytes(dxf(units))
    sheet = read_dxf(data if units else data.replace(b"$MEASUREMENT", b"$MEASUREMEN_"))
    assert sheet.has_unit == (units != 0)
    found = bring(sheet)
    assert bool(found.said) == (units == 0)
    assert (found.width, found.height) == pytest.approx((side, side))
    areas = parts(found)
    assert sorted(round(a.area / side**2, 3) for a in areas.values())[-1] == 0.5
    assert len(areas) == 3  # two triangles, the arc's quarter cut off one of them
    assert {fabric.name for fabric in found.fabrics.values()} == {"Sea"}


@pytest.mark.parametrize(("wide", "mm", "unit"), [(12, 304.8, "inches"), (300, 300, "millimetres")])
def test_a_drawing_in_an_old_form_names_no_unit_and_is_taken_for_the_likely_one(wide, mm, unit):
    drawing = ezdxf.new("R12")
    drawing.modelspace().add_line((0, 0), (wide, wide))
    drawing.modelspace().add_polyline2d([(0, 0), (wide, 0), (wide, wide), (0, wide)], close=True)
    found = bring(read_dxf(as_bytes(drawing)))
    assert found.width == pytest.approx(mm) and f"read as {unit}" in found.said[0]
    drawing.modelspace().add_line((0, 0), (9000, 9000))
    with pytest.raises(BadValue, match="names no unit") as refused:
        bring(read_dxf(as_bytes(drawing)))
    assert refused.value.field == "width"


@pytest.mark.parametrize(
    ("path", "says"),
    [
        ('d="M0 0H6V6H0ZM1 1H5V5H1Z"', True),
        ('d="M0 0H6V6H0ZM1 1V5H5V1Z"', False),
        ('d="M0 0H6V6H0ZM1 1H5V5H1Z" fill-rule="evenodd"', False),
        ('d="M0 0H6V6H0ZM1 1H5V5H1Z" stroke="black"', False),
    ],
    ids=["hidden", "a hole", "even-odd", "drawn"],
)
def test_an_outline_that_its_own_fill_hides_is_told(path, says):
    found = bring(read_svg(svg(f"<path {path}/>", 'viewBox="0 0 6 6" width="6in" height="6in"')))
    assert any("same color" in said for said in found.said) == says


@pytest.mark.parametrize(("system", "side"), [(0, 152.4), (1, 6.0)])
def test_a_drawing_that_names_no_unit_is_in_those_of_its_system(system, side):
    drawing = dxf(0)
    drawing.header["$MEASUREMENT"] = system
    sheet = read_dxf(as_bytes(drawing))
    assert sheet.has_unit
    assert max(
        piece[-1][0] for figure in sheet.figures for stroke in figure.strokes for piece in stroke.pieces
    ) == (pytest.approx(side))


@pytest.mark.parametrize(("units", "mm"), [(9, 0.0254), (14, 100.0), (13, 0.001)])
def test_mils_microns_and_decimetres_are_units_too(units, mm):
    sheet = read_dxf(as_bytes(dxf(units)))
    assert sheet.has_unit
    assert max(p[-1][0] for f in sheet.figures for s in f.strokes for p in s.pieces) == pytest.approx(6 * mm)


def test_measures_and_leaders_are_no_patches_and_a_binary_drawing_is_read():
    drawing = dxf()
    plain = bring(read_dxf(as_bytes(drawing)))
    drawing.modelspace().add_linear_dim(base=(0, 8), p1=(0, 0), p2=(6, 0)).render()
    drawing.modelspace().add_leader([(0, 0), (9, 9)])
    binary = io.BytesIO()
    drawing.write(binary, fmt="bin")
    for data in (as_bytes(drawing), binary.getvalue()):
        found = bring(read_dxf(data))
        assert (found.width, found.art.patches.keys()) == (plain.width, plain.art.patches.keys())
        assert found.said == ("Left out: dimension, leader.",)


def test_what_was_left_out_is_told_also_when_nothing_else_is_left():
    drawing = ezdxf.new("R2010", units=1)
    drawing.modelspace().add_text("hello")
    with pytest.raises(BadValue, match="Left out: text"):
        read_block(as_bytes(drawing), "dxf", None)
    with pytest.raises(BadValue, match="Left out: lettering"):
        read_block(svg("<text>hello</text>"), "svg", None)


@pytest.mark.parametrize(
    "body",
    [
        '<symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10" fill="red"/></symbol>'
        '<use href="#s" x="2" y="1" width="4" height="4"/>',
        '<svg x="2" y="1" width="4" height="4" viewBox="0 0 10 10"><rect width="10" height="10" fill="red"/></svg>',
        '<svg x="2" y="1" width="4" height="4" viewBox="5 5 40 40"><rect x="5" y="5" width="40" height="40" fill="red"/></svg>',
    ],
)
def test_symbols_and_drawings_within_the_drawing_are_shown_where_and_as_large_as_they_are(body):
    found = bring(read_svg(svg(FRAME + body)))
    areas = parts(found)
    (small,) = (area for area in areas.values() if area.area < 20 * 25.4**2)
    assert [v / 25.4 for v in small.bounds] == pytest.approx([2, 3, 6, 7], abs=1e-3)


def test_what_is_clipped_is_drawn_whole_and_told():
    clip = '<clipPath id="c"><rect width="2" height="2"/></clipPath>'
    found = bring(read_svg(svg(FRAME + clip + '<rect width="4" height="8" fill="red" clip-path="url(#c)"/>')))
    assert any("clipping" in said for said in found.said)


def test_dxf_blocks_layers_and_splines():
    drawing = dxf()
    drawing.layers.add("hidden").off()
    space = drawing.modelspace()
    space.add_line((1, 0), (1, 6), dxfattribs={"layer": "hidden"})
    space.add_text("hello")
    part = drawing.blocks.new("leaf")
    part.add_spline([(0, 0), (1, 0.5), (2, 0), (1, -0.5), (0, 0)])
    space.add_blockref("leaf", (3, 1.5))
    found = bring(read_dxf(as_bytes(drawing)))
    assert any("switched off" in said for said in found.said)
    assert any("text" in said for said in found.said)
    assert sum(patch.applique for patch in found.art.patches.values()) == 1
    parts(found)


@pytest.mark.parametrize("data", [b"", b"hello", b"0\nSECTION\n2\nHEADER\n", bytes(range(256)) * 20])
def test_a_broken_dxf_is_refused(data):
    with pytest.raises(BadValue) as error:
        bring(read_dxf(data))
    assert error.value.field == "file"


@pytest.mark.parametrize(
    ("head", "wide"),
    [
        ('width="6in" viewBox="0 0 8 4"', 152.4),
        ('height="3in" viewBox="0 0 8 4"', 152.4),
        ('width="100%" height="76.2mm" viewBox="0,0,8,4"', 152.4),
        ('width="10cm" height="5cm"', None),
    ],
)
def test_the_true_size_is_found_from_what_the_head_says(head, wide):
    sheet = read_svg(svg('<rect width="8" height="4" fill="#eee"/><path d="M0 0L8 4"/>', head))
    if wide is None:  # steps of 1/96 in: far too small for a block
        with pytest.raises(BadValue):
            bring(sheet)
    else:
        found = bring(sheet)
        assert (found.width, found.height) == pytest.approx((wide, wide / 2), abs=1e-3)


@pytest.mark.parametrize(
    ("path", "shapes"),
    [
        ("M1 1H3V3Z M4 4H7V7H4Z", [(3, 0), (4, 0)]),
        ("M1 1H7V7H1Z M2 2H3V3H2Z M5 5H6V6Z", [(4, 2)]),
        ("M1 1H7V7H1Z M2 2H6V6H2Z M3 3H5V5Z", [(4, 1), (3, 0)]),
        ("M1 1H4V4H1Z M3 3H6V6H3Z", [(4, 0), (4, 0)]),
        ("M1 1H4V4H1Z M1 1H4V4H1Z M5 5H7V7Z", [(4, 0), (3, 0)]),
    ],
    ids=["side by side", "two holes", "a shape in a hole", "crossing", "twice the same"],
)
def test_a_path_of_several_outlines_on_a_patch_becomes_one_applique_for_each_shape(path, shapes):
    found = bring(
        read_svg(
            svg(
                f'{FRAME}<rect width="8" height="8" fill="#eee"/><path d="{path}" fill-rule="evenodd" fill="red"/>'
            )
        )
    )
    made = [patch for patch in found.art.patches.values() if patch.applique]
    assert [(len(one.outline), len(one.holes)) for one in made] == shapes


def test_only_an_outline_of_too_many_corners_is_said_to_have_them():
    comb = "".join(f"L{1 + k / 2000:.5f} {2 + k % 2}" for k in range(8000))
    with pytest.raises(BadValue, match="more than 5,000 corners"):
        bring(
            read_svg(
                svg(f'{FRAME}<rect width="8" height="8" fill="#eee"/><path d="M1 1{comb}L6 1Z" fill="red"/>')
            )
        )
