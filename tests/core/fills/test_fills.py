"""The contract of every fill over every named region, and the scenarios of the three that are here."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from pydantic import ValidationError
from shapely.geometry import LineString

from kenzet.core.errors import BadValue
from kenzet.core.fills import FILLS, default_fill, kind_of
from kenzet.core.fills.base import Paths, Rings
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.offset import inward
from kenzet.core.params import forms
from kenzet.core.plan.widest_gap import widest_gap
from kenzet.core.tolerances import CURVE_ERROR
from tests.shapes import IN, REGIONS, box, drawn, inches, site

EXAMPLES = {
    "lines": [{}, {"angle": 0, "spacing": "1/2 in", "origin": "edge"}, {"origin": "corner", "first_gap": "3/8 in", "angle": 30}, {"rhythm": "1 2 2 4", "spacing": "1/4 in", "skip": "1/2 in"}],
    "grid": [{}, {"angle": 0, "second_angle": 90, "spacing": "19 mm"}, {"angle": 60, "second_angle": 120, "origin": "centre gap"}, {"angle": 30, "second_angle": 60, "crossed_from": "first set"}, {"second_spacing": "1/2 in", "use": "drawn"}],
    "pairs": [{}, {"angle": 0, "together": 3, "crossed": "at 60 degrees", "origin": "edge"}],
    "beside": [{}, {"where": "both", "spacing": "3/8 in"}],
    "fan": [{}, {"spacing": "1/4 in", "wide": "1/2 in", "at": 0, "narrow": "right", "lines": 9}],
    "random": [{}, {"shape": "wavy", "seed": 3, "angle": 30}],
    "keys": [{"spacing": "1/2 in"}, {"spacing": "1/2 in", "base": "all round"}],
    "chevrons": [{}, {"spacing": "1/2 in", "upright": "3/4 in", "diagonals": "left out"}],
    "inset": [{"half": "1/4 in"}, {"half": "1/4 in", "spacing": "1/4 in", "first": "level", "cross": "sewn"}],
    "corner cuts": [{}, {"spacing": "1/4 in", "units": 4, "inner": 3}],
    "frame": [{}, {"inset": "3/4 in", "spacing": "1/8 in", "echoes": 3}],
    "halved triangle": [{}, {"half": "second", "wedges": 1}],
    "echo": [{}, {"spacing": "3/8 in", "corners": "round"}, {"spacing": "1/2 in", "first": "1/4 in", "rounds": 2, "corners": "bevelled"}, {"of": "inner", "corners": "round"}, {"of": "outline", "rounds": 3}],
    "pinned": [{}, {"spacing": "1/4 in", "rounds": None}],
    "spiral": [{}, {"spacing": "1/2 in", "at": 0}],
    "retraced": [{}, {"times": 3, "at": 0}],
    "zigzag": [{}, {"angle": 90, "depth": 2, "start": "edge"}, {"lay": "crossing", "typed": "step"}, {"lay": "random", "seed": 4, "angle": 45}],
    "zigzag rows": [{}, {"rhythm": "1 2 2 4 1 2", "spacing": "1/4 in", "slide": "1/8 in", "typed": "step", "start": "edge"}],
    "ruled zigzag": [{}, {"spacing": "3/4 in", "motif": "spray", "angle": 45}],
    "waves": [{}, {"slide": "1/4 in", "turns": 4, "fit": "whole repeats"}, {"rows": 1}, {"crossed": "across", "angle": 30}, {"crossed": "mirrored"}],
    "wave border": [{"depth": "1/4 in"}, {"depth": "1/4 in", "corner": "trough", "rounds": 2, "spacing": "1/4 in"}],
    "curved rows": [{"rise": "1/8 in"}, {"rise": "1/8 in", "bulging": "down", "straights": "above", "rows": 3, "start": "edge"}],
    "scallops": [{}, {"unit": "2 in", "rise": "1/2 in", "inner": 2, "spacing": "1/8 in", "fit": "as it is", "angle": 90}],
    "clamshell": [{}, {"second": "1/4 in", "fit": "whole"}, {"rise": "1/2 in", "angle": 45}],
    "shells": [{}, {"about": "middle", "spacing": "3/8 in", "skip": None}],
    "hourglass": [{"spacing": "1/8 in"}, {"spacing": "1/8 in", "across": 2, "down": 3}],
    "continuous": [{}, {"cells": "every other", "spacing": "3/4 in", "rise": "1/8 in", "angle": 45}],
    "s-curves": [{}, {"grid": "left out", "rise": "1/8 in"}],
    "through": [{}, {"curves": 3, "straights": "no"}],
    "sunburst": [{"about": "middle"}, {"about": "middle", "spikes": 7, "inner": "1/2 in", "outer": "1 in"}],
    "channel": [{}, {"guides": "alike", "wide": "1/2 in", "depth": "1/4 in"}],
    "texture": [{}, {"texture": "feathers", "thickness": "dense"}, {"texture": "double s"}],
}  # fmt: skip
REFUSE = {  # what each may say no to
    "halved triangle": lambda region: all(len(piece.corners) != 3 for piece in region.pieces),
    "pinned": lambda region: all(len(piece.corners) not in (2, 4) for piece in region.pieces),
    "lines": lambda region: not region.edges,
    "pairs": lambda region: not region.edges,
    "inset": lambda region: min(region.bounds[2] - region.bounds[0], region.bounds[3] - region.bounds[1]) < 0.6 * IN,
    "wave border": lambda region: region.inradius < IN,
    "echo": lambda region: not any(piece.area.geoms[0].interiors for piece in region.pieces),
    "curved rows": lambda region: False,
    "fan": lambda region: not region.edges,
    "retraced": lambda region: not region.edges,
    "spiral": lambda region: not region.corners,
    "shells": lambda region: not region.corners,
    "hourglass": lambda region: region.inradius < IN,
    "channel": lambda region: False,
}  # fmt: skip
CASES = [(kind, k) for kind in FILLS for k in range(len(EXAMPLES[kind]))]


def test_every_fill_has_examples_help_and_forms():
    assert set(EXAMPLES) == set(FILLS)
    for kind, model in FILLS.items():
        assert model.label and model.help.endswith(".") and model.tile.startswith("M")
        assert kind_of(model()) == kind
        assert kind == "retraced" or forms(model)["spacing"].control == "length"
        for form in forms(model).values():
            assert form.label and (form.control != "choice" or form.choices)


@pytest.mark.parametrize(("kind", "example"), CASES)
@pytest.mark.parametrize("name", REGIONS)
def test_the_contract(kind, example, name):
    fill, region = FILLS[kind].model_validate(EXAMPLES[kind][example]), REGIONS[name]
    drawing, refused = drawn_or_refused(fill, region)
    if drawing is None:  # with its reason, at one of its fields
        assert refused.field in {*FILLS[kind].model_fields, "kind"}
        assert refused.message.endswith(".")
        assert REFUSE[kind](region)
        return
    again = drawn(fill, region)
    stretches, traces = drawing.stretches, drawing.traces
    every = [LineString(ends.reshape(2, 2)) for ends in stretches.ends]
    every += [LineString(trace.polyline) for trace in traces]
    assert all(np.isfinite(shapely.get_coordinates(line)).all() for line in every)
    on_outline = any(isinstance(f, Paths) and f.on_outline for f in drawing.families)
    arcs = on_outline or not all(trace.path.straight for trace in traces)
    inside = region.area.buffer(2 * CURVE_ERROR if arcs else 1e-3)
    assert all(shapely.covers(inside, line) for line in every)
    sides = sum(len(p.vertices) for f in drawing.families if isinstance(f, Paths) for p in f.paths)
    assert len(every) <= fill.count_at_most(site(region)) + sides * len(region.segments)
    assert fill.claimed_density is None or (not traces and drawing.hints and drawing.stitched > 0)
    assert all(figure.value == figure.value and figure.label for figure in fill.figures(site(region)))
    fill.notes(), fill.tightest_inner_radius(site(region))
    for line, number in zip(every, range(drawing.lines), strict=True):
        assert line.length > 0.01
        assert line.length == pytest.approx(drawing.length_of(number), rel=2e-3, abs=2 * CURVE_ERROR)
    assert np.array_equal(again.stretches.ends, stretches.ends)
    assert all(np.array_equal(a.points, b.points) for a, b in zip(again.traces, traces, strict=True))
    for job in np.unique(stretches.job):  # in order: lines grow, and along a line its stretches
        assert (np.diff(stretches.line[stretches.job == job]) >= 0).all()
    spacing_holds(drawing)
    if not on_outline:
        nothing_runs_along_the_ditch(region, every)


def drawn_or_refused(fill, region):
    try:
        return drawn(fill, region), None
    except BadValue as error:
        return None, error


def nothing_runs_along_the_ditch(region, lines):
    """A88: of no line does a part of 1/16 in or more lie on a straight seam."""
    ditch = shapely.union_all([LineString([e.start, e.end]) for e in region.edges]).buffer(2e-3)
    for line in lines:
        assert line.intersection(ditch).length < IN / 16


def spacing_holds(drawing):
    stretches, region = drawing.stretches, drawing.region
    for number, family in enumerate(drawing.families):
        if isinstance(family, Straight):
            mine = stretches.job % len(drawing.families) == number
            nx, ny = family.normal
            places = stretches.ends[mine][:, 0] * nx + stretches.ends[mine][:, 1] * ny
            meant = [family.place(line) for line in stretches.line[mine].tolist()]
            assert np.allclose(places, meant, atol=1e-6)
            assert all(gap > 0 for gap in family.gaps)
        elif isinstance(family, Rings):
            for k, ring in enumerate(family.insides):
                away = float(family.first + k * family.pitch)
                near = shapely.distance(region.area.boundary, shapely.points(shapely.get_coordinates(ring)))
                assert near.min() >= away - CURVE_ERROR
                assert near.min() == pytest.approx(away, abs=CURVE_ERROR)
        elif family.spacing is not None:
            paths = [LineString(path.points) for path in family.paths]
            for before, after in pairwise(paths):
                assert before.distance(after) == pytest.approx(float(family.spacing), abs=2 * CURVE_ERROR)


@pytest.mark.parametrize(("kind", "example"), CASES)
@pytest.mark.parametrize("name", ["square", "star background", "lattice", "right triangle"])
def test_an_offered_spacing_does_what_it_says(kind, example, name):
    fill, region = FILLS[kind].model_validate(EXAMPLES[kind][example]), REGIONS[name]
    for wish in fill.suggest_spacings(site(region)):
        tried = fill.model_copy(update={"spacing": wish.length, **dict(wish.values)})
        again = [each.length.mm for each in tried.suggest_spacings(site(region))]
        assert min(abs(float(length - wish.length.mm)) for length in again) < 1e-3, (
            "it is even once it is taken"
        )
        straight = [f for f in drawn(tried, region).families if isinstance(f, Straight)]
        if straight:
            straight_spacing_fits(tried, region, wish, straight)
        elif kind == "echo":
            left = region.inradius - float((tried.first or tried.spacing).mm)
            assert abs(left / float(wish.length.mm) - round(left / float(wish.length.mm))) < 0.01


def straight_spacing_fits(tried, region, wish, families):
    whole = []
    for family in families[:1] if getattr(tried, "second_spacing", None) else families:
        nx, ny = family.normal
        q = [((x * nx + y * ny) - family.datum) / float(family.pitch) for x, y in region.corners]
        ends = [max(q)] if family.first is not None else [min(q), max(q)]
        whole += q if "corners" in wish.does else ends
    if "far end" in wish.does:
        half = 0.5 if tried.origin == "centre gap" else 0
        whole = [max((v + half for v in whole), key=abs) - half]
    assert max(abs(v - round(v)) for v in whole) < 0.01, (wish, whole)


def test_a61_an_echo_moves_a_corner_along_its_bisector():
    for degrees, moved in ((45, 1.307), (90, 0.707), (60, 1.0)):
        far = 30
        tip = inches(
            [(0, 0), (far, 0), (far * math.cos(math.radians(degrees)), far * math.sin(math.radians(degrees)))]
        )
        ring = inward(tip, 0.5 * IN, "mitred")
        nearest = min(math.hypot(x, y) for x, y in ring.geoms[0].exterior.coords) / IN
        assert nearest == pytest.approx(moved, abs=1e-3)


@pytest.mark.parametrize(
    ("region", "spacing", "sides"),
    [
        (inches(box(0, 0, 8.5, 8.5)), "3/4 in", [7.0, 5.5, 4.0, 2.5, 1.0]),
        (inches([(0, 0), (5, 0), (0, 5)]), "3/8 in", [3.7197, 2.4393, 1.159]),
        (inches(box(0, 0, 6, 6)), "1 in", [4, 2]),  # the third ring would be a point
    ],
)
def test_echoes_of_straight_regions(region, spacing, sides):
    (family,) = FILLS["echo"](spacing=spacing).lay_out(site(region))
    widths = [(g.bounds[2] - g.bounds[0]) / IN for g in family.insides]
    assert widths == pytest.approx(sides, abs=1e-3)
    assert len(widths) == math.ceil(region.inradius / float(family.pitch) - 1e-9) - 1  # F21


def test_a_region_that_the_first_echo_exhausts_holds_no_line():
    (family,) = FILLS["echo"](spacing="2 in").lay_out(site(REGIONS["thin strip"]))
    assert family.insides == ()


def test_an_echo_splits_where_the_shape_pinches_and_goes_round_holes():
    pinched = inches(
        [
            (0, 0),
            (4, 0),
            (4, 1.6),
            (6, 1.6),
            (6, 0),
            (10, 0),
            (10, 4),
            (6, 4),
            (6, 2.4),
            (4, 2.4),
            (4, 4),
            (0, 4),
        ]
    )
    (family,) = FILLS["echo"](spacing="1/2 in").lay_out(site(pinched))
    assert len(family.insides[0].geoms) == 2
    (frame,) = FILLS["echo"](spacing="1/2 in", rounds=1).lay_out(site(REGIONS["frame"]))
    assert len(frame.insides[0].geoms[0].interiors) == 1


def test_counted_from_an_edge_the_first_gap_is_kept_and_nothing_lies_behind():
    fill = FILLS["lines"](spacing="1 in", angle=0, origin="edge", first_gap="2 in")
    found = drawn(fill, REGIONS["square"]).stretches
    assert sorted(set((found.ends[:, 1] / IN).round(6))) == [2, 3, 4, 5, 6, 7]
    top = next(k for k, e in enumerate(REGIONS["square"].edges) if e.start[1] > 100 and e.end[1] > 100)
    found = drawn(fill.model_copy(update={"at": top}), REGIONS["square"]).stretches
    assert sorted(set((found.ends[:, 1] / IN).round(6))) == [0.5, 1.5, 2.5, 3.5, 4.5, 5.5]


def test_along_a_seam_the_lean_counts_from_it():
    slope = next(k for k, e in enumerate(REGIONS["right triangle"].edges) if abs(e.angle) % 90 > 1)
    fill = FILLS["lines"](spacing="5/8 in", angle=0, along=slope, origin="edge", at=slope)
    found = drawn(fill, REGIONS["right triangle"]).stretches
    assert sorted((found.lengths / IN).round(3), reverse=True) == [5.821, 4.571, 3.321, 2.071, 0.821]


@pytest.mark.parametrize(
    ("kind", "values", "field"),
    [
        ("lines", {"spacing": "0 in"}, "spacing"),
        ("lines", {"spacing": "-1 in"}, "spacing"),
        ("lines", {"spacing": "500 in"}, "spacing"),
        ("grid", {"spacing": "1/32 in"}, "spacing"),
        ("echo", {"spacing": ""}, "spacing"),
        ("echo", {"first": "0 in"}, "first"),
        ("echo", {"rounds": 0}, "rounds"),
        ("echo", {"rounds": "many"}, "rounds"),
        ("lines", {"angle": "steep"}, "angle"),
        ("lines", {"angle": 400}, "angle"),
        ("lines", {"angle": math.nan}, "angle"),
        ("lines", {"origin": "nowhere"}, "origin"),
        ("grid", {"angle": 45, "second_angle": 47}, ""),
        ("lines", {"colour": "red"}, "colour"),
    ],
)
def test_a105_wrong_parameters_are_refused_at_their_field(kind, values, field):
    with pytest.raises(ValidationError) as error:
        FILLS[kind].model_validate(values)
    assert ".".join(str(p) for p in error.value.errors()[0]["loc"]) == field


@pytest.mark.parametrize(
    "values", [{"origin": "corner", "at": 99}, {"origin": "edge", "at": -3}, {"along": 50}]
)
def test_an_edge_or_corner_that_is_not_there_is_said(values):
    with pytest.raises(BadValue, match="no number"):
        list(FILLS["lines"](**values).lay_out(site(REGIONS["square"])))


def test_changing_the_fill_takes_over_what_fits():
    grid = default_fill("grid", FILLS["lines"](spacing="5/8 in", angle=30).model_dump(mode="json"))
    assert (grid.spacing.text, grid.angle) == ("5/8 in", 30)
    assert default_fill("echo", grid.model_dump(mode="json")).spacing.text == "5/8 in"


@pytest.mark.parametrize(
    ("kind", "values", "name", "gap"),
    [
        ("lines", {"spacing": "3/4 in", "angle": 0}, "square", 0.75),
        ("grid", {"spacing": "3/4 in"}, "star background", 0.75),
        ("grid", {"spacing": "1/2 in", "angle": 60, "second_angle": 120}, "square", 0.5),
        ("lines", {"spacing": "10 in", "angle": 0, "origin": "centre gap"}, "thin strip", 2.0),
        ("lines", {"spacing": "1 in", "angle": 0, "origin": "edge", "first_gap": "3 in"}, "square", 3.0),
        ("echo", {"spacing": "3/4 in", "first": "1/2 in", "rounds": 1}, "square", 6.5),
        ("lines", {"spacing": "6 in", "angle": 90}, "square", 3.75),
    ],
)
def test_f44_widest_gap(kind, values, name, gap):
    assert widest_gap(drawn(FILLS[kind](**values), REGIONS[name])).width / IN == pytest.approx(gap, abs=2e-3)


def test_between_rings_the_corner_is_the_widest_place():
    drawing = drawn(FILLS["echo"](spacing="1 in"), inches(box(0, 0, 9, 9)))
    in_the_corner = 2 * math.sqrt(2) / (1 + math.sqrt(2))
    assert widest_gap(drawing).width / IN == pytest.approx(in_the_corner, abs=2e-3)


def test_a_grid_crosses_at_an_angle_from_its_first_set_as_from_level():
    level = FILLS["grid"](angle=30, second_angle=90, spacing="1/2 in")
    from_first = FILLS["grid"](angle=30, second_angle=60, crossed_from="first set", spacing="1/2 in")
    assert from_first.turn == level.turn == 60
    turned = from_first.model_copy(update={"angle": 45.0})
    assert (turned.turn, level.model_copy(update={"angle": 45.0}).turn) == (60, 45)
    with pytest.raises(ValueError, match="5 degrees or more"):
        FILLS["grid"](angle=30, second_angle=177, crossed_from="first set")


@pytest.mark.parametrize(
    ("to", "kept"),
    [
        (
            "grid",
            {"angle": 30.0, "origin": "edge", "at": 2, "spacing": "1 in", "skip": "1/2 in", "rhythm": "1 2"},
        ),
        ("pairs", {"angle": 30.0, "origin": "edge", "at": 2, "skip": "1/2 in"}),
        ("waves", {"angle": 30.0, "spacing": "1 in", "skip": "1/2 in"}),
    ],
)
def test_another_fill_keeps_what_both_have(to, kept):
    lines = {
        "kind": "lines",
        "spacing": "1 in",
        "angle": 30,
        "origin": "edge",
        "at": 2,
        "skip": "1/2 in",
        "rhythm": "1 2",
    }
    found = default_fill(to, lines).model_dump(mode="json")
    assert {name: found[name] for name in kept} == kept
