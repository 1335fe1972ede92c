"""What is drawn of a zone: nothing hangs in the air, and no more is drawn than has to be."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
import shapely

from kenzet.core.fills import FILLS
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Marker
from kenzet.core.marks.marking import (
    BY_EYE,
    anchors_every,
    half_of,
    hanging,
    left_to_the_eye,
    marks_of,
    method_of,
    methods,
)
from kenzet.core.marks.prep import prep
from kenzet.core.marks.signs import STROKES
from kenzet.core.marks.table import steps
from kenzet.core.marks.tools import batch, care, choices, colour_of, fabrics_of
from kenzet.core.numbers.measure import Length
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.drift import error_after
from kenzet.core.ruler.line_references import LINE, MARK
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Zone
from kenzet.demo import demo_quilts
from kenzet.say.mark_words import pens_by_lean
from tests.core.fills.test_fills import EXAMPLES
from tests.jobs import block, whole
from tests.shapes import REGIONS, box, drawn, inches

DEMOS = demo_quilts()
CASES = [(kind, k, name) for kind in FILLS for k in range(len(EXAMPLES[kind])) for name in ("square", "right triangle", "frame", "L")]  # fmt: skip


def plan_of(fill, region, kit=None):
    drawing = drawn(fill, region)
    zone = Zone(name="Zone", part="block", patches=("patch",), fill=fill)
    return ZonePlan("zone", zone, kit or Kit(), (drawing,), (0.0, 0.0)), drawing


def check(plan, drawing):
    for method in methods(plan, drawing):
        marks = marks_of(plan, drawing, method)
        if method not in BY_EYE:
            assert hanging(plan, drawing, marks) == [], method
        assert (marks.seconds > 0) == bool(marks.count or marks.laid_down), (
            "what is drawn takes time, and nothing else does"
        )
        assert len(set(marks.lines)) == len(marks.lines)
        shown = (
            shapely.union_all([shapely.linestrings(stroke) for stroke in marks.strokes])
            if marks.strokes
            else None
        )
        if shown is not None:
            assert drawing.region.area.buffer(0.1).contains(shown)
    assert plan.zone.marking or method_of(plan, drawing) == methods(plan, drawing)[0]


@pytest.mark.parametrize(("kind", "number", "name"), CASES)
def test_no_line_hangs_in_the_air_whatever_the_fill(kind, number, name):
    fill = FILLS[kind].model_validate({"kind": kind, **EXAMPLES[kind][number]})
    try:
        plan, drawing = plan_of(fill, REGIONS[name])
    except ValueError:
        pytest.skip("this fill is refused here, with its reason")
    check(plan, drawing)


@pytest.mark.parametrize("quilt", DEMOS, ids=[quilt.name for quilt in DEMOS])
def test_no_line_hangs_in_the_air_in_the_demo_quilts(quilt):
    for plan in plan_quilt(QuiltLayout(quilt)).values():
        for drawing in plan.drawings:
            check(plan, drawing)


def lines(spacing="3/4 in", **more):
    return FILLS["lines"].model_validate({"spacing": spacing, "angle": 0, **more})


def test_the_checker_finds_what_hangs():
    plan, drawing = plan_of(lines(angle=30), REGIONS["square"])
    nothing = marks_of(plan, drawing, "nothing")
    assert len(hanging(plan, drawing, nothing)) == drawing.lines  # no seam runs along: all hang on the first
    assert marks_of(plan, drawing, "first lines").count == 1


def test_a90_one_mark_and_ten_that_follow_or_eleven_drawn():
    plan, drawing = plan_of(lines("5/8 in", origin="centre line"), REGIONS["square"], eighths())
    by_ruler = marks_of(plan, drawing, "first lines")
    assert (drawing.lines, by_ruler.count, marks_of(plan, drawing, "all lines").count) == (11, 0, 11)
    loose, its = plan_of(lines("5/8 in", angle=30), REGIONS["square"], eighths())
    assert marks_of(loose, its, "first lines").count == 1
    cornered, its = plan_of(lines("5/8 in", angle=45), REGIONS["square"], eighths())  # from corner to corner
    assert marks_of(cornered, its, "first lines").count == 0


def eighths(**more):
    return Kit.model_validate({"rulers": {"mine": {"kind": "straight ruler", "etched": "eighths"}}, **more})


@pytest.mark.parametrize(
    ("spread", "tolerance", "every"),
    [("1/32 in", "1/8 in", 4), ("1/64 in", "1/8 in", 16), ("1/8 in", "1/8 in", 0)],
)
def test_f36_an_anchor_every_so_many_lines(spread, tolerance, every):
    kit = eighths(spread=spread, tolerance=tolerance)
    plan, drawing = plan_of(lines("1/4 in", angle=30), REGIONS["square"], kit)
    assert anchors_every(plan, drawing) == every
    marks = marks_of(plan, drawing, "anchors")
    if every == 0:
        assert len(marks.lines) == drawing.lines
        return
    refs = plan.references(drawing)
    runs = refs.runs
    free = set(range(drawing.lines)) - set(marks.lines)
    assert all(refs.kinds[k] == LINE and runs[k] % every for k in free)
    assert all(refs.kinds[k] == MARK or runs[k] % every == 0 for k in marks.lines)
    held = float(Length.parse(tolerance).mm)
    assert 0 < left_to_the_eye(plan, drawing, marks) <= held
    assert left_to_the_eye(plan, drawing, marks_of(plan, drawing, "first lines")) > held or every > 10


def test_what_is_left_to_the_eye_grows_with_the_lines_that_follow():
    kit = eighths()
    plan, drawing = plan_of(lines("5/8 in"), REGIONS["square"], kit)
    follow = int(plan.references(drawing).runs.max())
    told = left_to_the_eye(plan, drawing, marks_of(plan, drawing, "first lines"))
    assert told == pytest.approx(error_after(follow, 0.0, float(kit.spread.mm)))


def test_dots_stand_at_ends_and_turns_once():
    fill = FILLS["zigzag"].model_validate({"spacing": "1 in", "advance": "1 in", "throw": "1/2 in"})
    plan, drawing = plan_of(fill, REGIONS["square"])
    dots = np.array(marks_of(plan, drawing, "dots").dots)
    turns = sum(len(trace.path.vertices) for trace in drawing.traces)
    assert len(dots) <= turns
    apart = shapely.distance(*np.meshgrid(shapely.points(dots), shapely.points(dots)))
    assert (apart + np.eye(len(dots)) * 99 > 0.01).all()


def test_half_is_the_left_half():
    plan, drawing = plan_of(lines(angle=30), REGIONS["square"])
    strokes = marks_of(plan, drawing, "half").strokes
    assert max(float(stroke[:, 0].max()) for stroke in strokes) == pytest.approx(7.5 * 25.4 / 2)
    whole = marks_of(plan, drawing, "all lines").pen
    assert marks_of(plan, drawing, "half").pen == pytest.approx(whole / 2, rel=0.1)


@pytest.mark.parametrize("texture", STROKES)
def test_a_texture_has_a_sign_inside_its_place(texture):
    fill = FILLS["texture"].model_validate({"texture": texture})
    plan, drawing = plan_of(fill, REGIONS["right triangle"])
    (sign,) = marks_of(plan, drawing).signs
    assert sign.names == texture
    assert all(drawing.region.area.contains(shapely.linestrings(stroke)) for stroke in sign.strokes)


def test_hers_holds_where_it_makes_sense():
    plan, drawing = plan_of(lines(angle=45), REGIONS["square"])
    for wish, got in (
        ("dots", "dots"),
        ("fill signs", methods(plan, drawing)[0]),
        (None, methods(plan, drawing)[0]),
    ):
        wished = ZonePlan(
            "zone", plan.zone.model_copy(update={"marking": wish}), Kit(), (drawing,), (0.0, 0.0)
        )
        assert method_of(wished, drawing) == got


def taped(width, **more):
    return Kit.model_validate({"tools": {"mine": {"kind": "tape", "width": width, **more}}})


def test_a65_tape_from_the_centre_of_a_quilt():
    plan, drawing = plan_of(
        lines("3/4 in", angle=90, origin="centre line"), inches(box(0, 0, 30, 30)), taped("3/4 in")
    )
    tape = marks_of(plan, drawing, "tape").tape
    assert (drawing.lines, len(tape.placements), tape.both) == (39, 20, True)
    assert (tape.strips, len(tape.rounds)) == (4, 5)
    assert tape.used / 25.4 == pytest.approx(4 * 32)  # F37: as long as the line and 2 in
    assert hanging(plan, drawing, marks_of(plan, drawing, "tape")) == []


@pytest.mark.parametrize(("width", "placements", "both", "halving"), [("3/4 in", 5, True, False), ("1 1/2 in", 3, False, True), ("1 in", 9, False, False)])  # fmt: skip
def test_both_edges_one_edge_or_a_halving_pass(width, placements, both, halving):
    plan, drawing = plan_of(lines("3/4 in"), REGIONS["square"], taped(width))
    tape = marks_of(plan, drawing, "tape").tape
    assert (drawing.lines, len(tape.placements), tape.both, tape.halving) == (9, placements, both, halving)
    assert sorted(id(one) for some in tape.rounds for one in some) == sorted(map(id, tape.placements))
    for some in tape.rounds:
        assert len(some) <= tape.strips
        areas = [shapely.Polygon(one.corners).buffer(-0.31) for one in some]
        assert shapely.union_all(areas).area == pytest.approx(sum(area.area for area in areas))
    for placement in tape.placements:
        area = shapely.Polygon(placement.corners).buffer(0.01)
        assert all(area.covers(shapely.linestrings(drawing.polylines[k])) for k in placement.lines)


def test_f38_a_stencil_is_laid_over_its_last_line():
    grid = FILLS["grid"].model_validate({"spacing": "1 in", "angle": 0, "second_angle": 90})
    kit = Kit.model_validate({"tools": {"mine": {"kind": "stencil", "side": "18 in", "grid": "1 in"}}})
    plan, drawing = plan_of(grid, inches(box(0, 0, 50, 18)), kit)
    stencil = marks_of(plan, drawing, "stencil").stencil
    assert (stencil.columns, stencil.rows, stencil.partial) == (3, 1, 1)
    other, its = plan_of(grid.model_copy(update={"spacing": Length.parse("3/4 in")}), REGIONS["square"], kit)
    assert "stencil" not in methods(other, its)


CREAM, NAVY, PRINT = ("Cream", "#ded9cb", "calm"), ("Navy", "#23345a", "calm"), ("Meadow", "#8fa58a", "busy")


@pytest.mark.parametrize(
    ("fabrics", "best", "worst_of_blue"),
    [([CREAM], "blue-pen", "shows well"), ([NAVY], "chalk", "is faint"), ([CREAM, NAVY], "blue-pen", "is faint"), ([PRINT], "chalk", "is hardly seen")],
)  # fmt: skip
def test_the_tool_that_shows_best_where_it_shows_least_comes_first(fabrics, best, worst_of_blue):
    found = choices(Kit().tools, fabrics)
    blue = next(choice for choice in found if choice.key == "blue-pen")
    assert blue.shows == worst_of_blue
    if len(fabrics) == 1 and fabrics != [PRINT]:
        assert found[0].key == best


def test_chalk_is_hardly_seen_on_cream_and_a_crease_has_no_colour():
    chalk = next(choice for choice in choices(Kit().tools, [CREAM]) if choice.key == "chalk")
    assert (chalk.shows, chalk.fits) == ("is hardly seen", False)
    crease = choices({"mine": Marker(name="Crease", sort="crease")}, [CREAM])[0]
    assert crease.shows is None and colour_of(crease.marker) is None
    assert all(care(Marker(sort=sort)) for sort in ("pencil", "powder", "heat pen"))


def test_f39_a_fading_pen_marks_what_is_sewn_before_it_goes():
    fading = Marker(sort="pen that fades", hours=2)
    inch = 25.4
    assert batch(fading, [20 * inch] * 5) == 2 * 45 * 60 * 2 // 5 // 20
    assert batch(Marker(), [20 * inch]) is None
    assert batch(fading, [1e6]) == 1


def test_strips_are_sewn_one_way_along_one_edge_and_back_along_the_next():
    plan, drawing = plan_of(lines("3/4 in", angle=90), inches(box(0, 0, 30, 30)), taped("3/4 in"))
    tape = marks_of(plan, drawing, "tape").tape
    assert tape.both
    for number, strips in enumerate(tape.rounds):
        sewn = tape.sewn(drawing, number)
        ways = [np.sign(line[-1][1] - line[0][1]) for strip in sewn for line in strip]
        assert all(one != other for one, other in pairwise(ways))
        for strip, along in zip(strips, sewn, strict=True):
            edges = shapely.linearrings(strip.corners)
            assert all(shapely.dwithin(edges, shapely.linestrings(line), 0.01) for line in along)


@pytest.mark.parametrize("angle", [0, 30])
@pytest.mark.parametrize("region", ["square", "right triangle"])
def test_a_stencil_covers_every_line_and_registers_on_what_is_powdered(region, angle):
    grid = FILLS["grid"].model_validate({"spacing": "1/2 in", "angle": angle, "second_angle": angle + 90})
    kit = Kit.model_validate({"tools": {"mine": {"kind": "stencil", "side": "2 in", "grid": "1/2 in"}}})
    plan, drawing = plan_of(grid, REGIONS[region], kit)
    stencil = marks_of(plan, drawing, "stencil").stencil
    laid = shapely.polygons(np.array(stencil.corners))
    together = shapely.union_all(laid).buffer(0.01)
    assert shapely.covers(together, shapely.multilinestrings(drawing.polylines))
    for number in range(1, len(laid)):
        before = shapely.union_all(laid[:number])
        assert shapely.intersection(laid[number], before).area > 0.9 * 12.7 * 12.7
    beyond = ~shapely.covers(drawing.region.area.buffer(0.1), laid)
    assert stencil.partial == beyond.sum()


def test_what_is_done_at_the_table_is_everything_that_is_marked():
    fill = FILLS["grid"].model_validate({"spacing": "1/2 in", "angle": 0, "second_angle": 90})
    kit = Kit.model_validate(
        {
            "tools": {
                "mine": {"kind": "stencil", "side": "2 in", "grid": "1/2 in"},
                "tape": {"kind": "tape", "width": "1/2 in"},
            }
        }
    )
    plan, drawing = plan_of(fill, REGIONS["square"], kit)
    for method in methods(plan, drawing):
        marks = marks_of(plan, drawing, method)
        todo = steps(plan, drawing, marks)
        assert bool(todo) == bool(marks.seconds)
        assert sum(step.kind == "stroke" for step in todo) == marks.drawn
        assert sum(len(step.dots) for step in todo if step.kind == "ticks") == marks.ticks
        assert sum(len(step.laid) for step in todo) == marks.laid_down


def test_both_schools_of_layering_mark_before_they_sew():
    blue = Marker(name="Blue", sort="pen that washes out")
    first = prep("after marking", "pins", "12 strokes", [blue])
    later = prep("before marking", "spray glue", "12 strokes", [blue])
    marked, layered = (
        next(k for k, step in enumerate(first) if word in step) for word in ("12 strokes", "backing")
    )
    assert marked < layered
    marked, layered = (
        next(k for k, step in enumerate(later) if word in step) for word in ("12 strokes", "backing")
    )
    assert layered < marked
    assert sum("iron" in step for step in first) == 1
    assert any("window open" in step for step in later) and any("Take each pin out" in step for step in first)


@pytest.mark.parametrize(
    ("region", "share"),
    [("square", 0.5), ("right triangle", 0.5), ("petal", 0.5), ("diamond", 0.5), ("L", 0.5)],
)
def test_half_of_a_zone_is_half_by_symmetry(region, share):
    area = REGIONS[region].area
    half = half_of(REGIONS[region])
    assert half.intersection(area).area == pytest.approx(share * area.area, rel=0.02)


def test_a_zone_that_is_no_mirror_image_of_itself_has_no_half():
    assert half_of(inches([(0, 0), (7, 0), (5, 2), (0, 3)])) is None


@pytest.mark.parametrize(
    ("fill", "pens", "told"),
    [
        ("grid", ("blue", "purple"), True),
        ("grid", ("blue", "white"), False),  # which is hardly seen on that ground
        ("grid", ("blue",), False),
        ("lines", ("blue", "purple"), False),
    ],
)
def test_a_pen_for_each_lean_where_drawn_lines_cross_and_two_pens_show(fill, pens, told):
    laid = whole(block("Plain", "6 in"), {"kind": fill, "spacing": "1 in"})
    plan = next(iter(plan_quilt(laid).values()))
    drawing = plan.drawings[0]
    tools = {
        colour: Marker(name=colour, sort="pen that washes out", colour=colour, off="water") for colour in pens
    }
    offered = choices(tools, fabrics_of(laid.quilt, drawing))
    assert bool(pens_by_lean(offered, offered[0], marks_of(plan, drawing, "all lines"))) == told
