"""The contract of every block pattern: its patches tile the block, whatever its size and however it is laid."""

from __future__ import annotations

import math
from itertools import combinations, product

import pytest
import shapely
import shapely.affinity
from shapely.geometry import Polygon, box

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import drawn
from kenzet.core.numbers.measure import Length
from kenzet.core.top.arrangement import Cell, Sashing, StraightRows
from kenzet.core.top.blocks import Block, Measured, Patterned
from kenzet.core.top.document import validated
from kenzet.core.top.layout import block_part
from kenzet.core.top.patterns import PATTERNS, kind_of, offers
from tests.tops import laid_of, top_of

NEAR = 0.0005  # mm: half of what two patches may miss one another by
OFFERS = dict(offers())
SIZES = {"12 in": ("12 in", "12 in"), "60 mm": ("60 mm", "60 mm"), "oblong": ("11 7/8 in", "12 1/16 in")}


def block(name: str, width: str = "12 in", height: str = "12 in", **more) -> Block:
    pattern = OFFERS[name]
    fabrics = {role: ("ground", "main", "accent")[k % 3] for k, role in enumerate(pattern.roles())}
    art = Patterned(pattern=pattern, fabrics=fabrics)
    return Block(name=name, width=Length.parse(width), height=Length.parse(height), art=art, **more)


def faults(areas, whole) -> list[str]:
    """Where areas leave a gap in ``whole``, overlap or stand out by more than a thousandth of a mm."""
    union = shapely.union_all(areas)
    found = []
    if not whole.difference(union).buffer(-NEAR).is_empty:
        found.append("gap")
    if not union.difference(whole).buffer(-NEAR).is_empty:
        found.append("outside")
    for (n, one), (k, other) in combinations(enumerate(areas), 2):
        if not one.intersection(other).buffer(-NEAR).is_empty:
            found.append(f"{n} over {k}")
    return found


@pytest.mark.parametrize("size", SIZES)
@pytest.mark.parametrize("name", OFFERS)
def test_patches_tile_the_block(name, size):
    made = block(name, *SIZES[size])
    width, height = (float(side) for side in made.size)
    part = block_part("b", "b", made, width, height, {})
    areas = [patch.area for patch in part.patches.values()]
    assert all(area.is_valid and area.area > 1 for area in areas)
    assert faults(areas, box(0, 0, width, height)) == []
    assert sum(area.area for area in areas) == pytest.approx(width * height, rel=1e-9)


@pytest.mark.parametrize("name", OFFERS)
def test_neighbours_share_every_point_of_a_seam(name):
    """A point of one patch that lies on another's outline is a point of that outline too, or lies on a straight seam."""
    made = block(name)
    rings = {
        key: [drawn(s.outline), *(drawn(h) for h in s.holes)] for key, s in made.shapes(304.8, 304.8).items()
    }
    soft = {key: {p for ring in parts for p in ring[1]} for key, parts in rings.items()}
    points = {key: {p for ring in parts for p in ring[0]} for key, parts in rings.items()}
    lines = {key: Polygon(parts[0][0], [h[0] for h in parts[1:]]).boundary for key, parts in rings.items()}
    for one, other in product(rings, repeat=2):
        on = [p for p in soft[one] if one != other and shapely.dwithin(lines[other], shapely.Point(p), NEAR)]
        missing = [p for p in on if min(abs(p[0] - q[0]) + abs(p[1] - q[1]) for q in points[other]) > 1e-6]
        assert len(missing) <= 2, (one, other)  # where another seam only touches the curve


@pytest.mark.parametrize("name", OFFERS)
def test_however_it_is_turned_mirrored_and_measured_the_top_is_whole(name):
    cells = [Cell(block="it", turns=k % 4, mirrored=k > 3) for k in range(8)]
    odd = Measured(width=Length.parse("11 7/8 in"), height=Length.parse("12 1/16 in"))
    sash = Sashing(width=Length.parse("1 in"), fabric="main", cornerstones="accent")
    for measured, sashing in ((None, None), (odd, sash)):
        made = {"it": block(name, measured=measured)}
        layout = StraightRows(rows=(tuple(cells[:4]), tuple(cells[4:])), sashing=sashing)
        laid = laid_of(top_of(made, layout))
        areas = [patch.area for patch in laid.top.whole.patches.values()]
        whole = laid.top.width * laid.top.height
        filled = sum(area.area for area in areas)
        if measured is None:
            assert filled == pytest.approx(whole, rel=1e-9)
            assert shapely.union_all(areas).area == pytest.approx(whole, rel=1e-7)
        else:  # turned, it does not fill the larger place; nothing overlaps
            assert filled <= whole * (1 + 1e-9)
            assert shapely.union_all(areas).area == pytest.approx(filled, rel=1e-7)


@pytest.mark.parametrize("name", OFFERS)
def test_a_pattern_says_what_its_patches_are(name):
    pattern = OFFERS[name]
    pieces = pattern.draw(304.8, 304.8)
    assert len({piece.key for piece in pieces}) == len(pieces)
    assert {piece.role for piece in pieces} <= set(pattern.roles())
    assert pieces == pattern.draw(304.8, 304.8)
    assert PATTERNS[kind_of(pattern)] is type(pattern)
    assert pattern.help.endswith(".")


LENGTHS = [
    (name, field)
    for name, pattern in OFFERS.items()
    for field, info in type(pattern).model_fields.items()
    if "Length" in str(info.annotation)
]


@pytest.mark.parametrize("size", ["12 in", "6 in", "1 in"])
@pytest.mark.parametrize(("name", "field"), LENGTHS)
def test_a_length_that_the_block_cannot_hold_is_refused_at_its_field_and_others_tile(name, field, size):
    numbers = {**OFFERS[name].model_dump(mode="json"), field: size}
    doc = {
        **block(name).model_dump(mode="json"),
        "art": {**block(name).art.model_dump(mode="json"), "pattern": numbers},
    }
    try:
        made = validated(Block, doc)
    except BadValue as error:
        made, field = None, error.field
    if made is None:
        assert field.split(".")[-1] in type(OFFERS[name]).model_fields
    else:
        part = block_part("b", "b", made, 304.8, 304.8, {})
        assert faults([p.area for p in part.patches.values()], box(0, 0, 304.8, 304.8)) == []


@pytest.mark.parametrize(
    ("name", "role", "many"), [("Pinwheel", "blades", 4), ("Friendship star", "star", 5)]
)
def test_what_turns_like_a_wheel_is_the_same_after_a_quarter_turn(name, role, many):
    """All blades of a pinwheel meet with a point in the middle; a friendship star's points stand on its centre."""
    pattern = dict(offers())[name]
    pieces = [
        shapely.Polygon([(x, y) for x, y, *_ in piece.outline])
        for piece in pattern.draw(12.0, 12.0)
        if piece.role == role
    ]
    assert len(pieces) == many
    turned = shapely.union_all([shapely.affinity.rotate(piece, 90, origin=(6, 6)) for piece in pieces])
    assert turned.symmetric_difference(shapely.union_all(pieces)).area < 1e-9
    middle = shapely.Point(6, 6)
    if name == "Pinwheel":
        assert all(piece.distance(middle) < 1e-9 for piece in pieces)
        spread = [
            shapely.area(shapely.intersection(middle.buffer(0.1), piece)) / (math.pi * 0.01)
            for piece in pieces
        ]
        assert spread == pytest.approx([1 / 8] * 4, abs=1e-3)  # 45 degrees of the round each
    else:
        (centre,) = [piece for piece in pieces if piece.covers(middle)]
        assert all(
            piece.intersection(centre).length == pytest.approx(4) for piece in pieces if piece is not centre
        )


def test_broken_dishes_turn_in_pairs_and_never_make_a_square():
    pieces = [
        shapely.Polygon([(x, y) for x, y, *_ in p.outline])
        for p in dict(offers())["Broken dishes"].draw(12.0, 12.0)
        if p.role == "dishes"
    ]
    inside = [piece.distance(shapely.Point(6, 6)) < 1e-9 for piece in pieces]
    assert sorted(inside) == [False, False, True, True]
