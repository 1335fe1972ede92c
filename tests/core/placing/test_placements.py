"""One placing of every line: over every fill, region and way of marking, in the planned order and after whatever goes wrong.

The replay knows rulers, foot, seams and what is sewn, and no coordinate of the plan: from what a placement says it lays the
line again, and the line must come out where it is planned.
"""

from __future__ import annotations

import math
import random
from functools import cache

import numpy as np
import pytest
import shapely

from kenzet.core.bench.laid_ruler import laid_ruler
from kenzet.core.fills import FILLS
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.rulers import StraightRuler, WaveRuler
from kenzet.core.marks.marking import marks_of, methods
from kenzet.core.placing.as_it_is import placed
from kenzet.core.placing.cloth import reference_points, ruler_at
from kenzet.core.placing.legs import hand_moves, legs_of, turned_back
from kenzet.core.placing.line_order import line_order
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.precedence import Precedence
from kenzet.core.route.unit import courses_of
from kenzet.core.top.zone import Zone
from tests.core.fills.test_fills import EXAMPLES
from tests.shapes import REGIONS, box, drawn, inches

IN = 25.4
SHAPES = ("square", "right triangle", "petal", "hourglass", "L", "star background")
PLACED = [(kind, region) for kind, some in EXAMPLES.items() if some for region in SHAPES]


def plan_of(kind, region, marking=None, kit=None, **values):
    fill = FILLS[kind].model_validate({"spacing": "3/4 in", **EXAMPLES[kind][0], **values})
    drawing = drawn(fill, REGIONS[region] if isinstance(region, str) else region)
    zone = Zone(name="Zone", part="block", patches=("a",), fill=fill, marking=marking)
    return ZonePlan("zone", zone, kit or Kit(), (drawing,), (0.0, 0.0)), drawing


@cache
def everywhere(kind, region):
    """The plan by each way of marking that makes sense: what one test has worked out of it serves the next."""
    try:
        plan, drawing = plan_of(kind, region)
    except ValueError:
        pytest.skip("this fill does not go into this region")
    if not drawing.lines or drawing.hints or not drawing.fill.sewn:
        pytest.skip("nothing is sewn by a line here")
    return [plan_of(kind, region, method) for method in methods(plan, drawing)]


def in_order(plan, drawing):
    """The lines in an order that keeps to what each rests on."""
    order = line_order(plan, drawing)
    left, sewn = list(range(drawing.lines)), []
    while left:
        done = set(sewn)
        ready = [
            k for k in left if not order.rests_on[k] or any(done.issuperset(way) for way in order.rests_on[k])
        ]
        assert ready, "nothing can come next"
        sewn += ready
        left = [k for k in left if k not in ready]
    return sewn


@pytest.mark.parametrize(("kind", "region"), PLACED)
def test_in_the_planned_order_each_is_placed_as_planned_by_what_is_there(kind, region):
    for plan, drawing in everywhere(kind, region):
        marks = marks_of(plan, drawing)
        sewn: set[int] = set()
        used = set()
        for line in in_order(plan, drawing):
            on = placed(plan, drawing, line, {"": sewn}, "", None)
            assert on is planned(plan, drawing, line)
            assert set(on.needs) <= sewn
            assert sum(leg.length for leg in on.legs) == pytest.approx(
                drawing.length_of(line), rel=0.01, abs=0.3
            )
            if on.on == "mark":
                used.add(line)
            sewn.add(line)
        assert used == set(marks.lines) - {k for k in marks.lines if planned(plan, drawing, k).on == "ditch"}


@pytest.mark.parametrize(("kind", "region"), PLACED)
def test_nothing_is_ordered_that_will_not_do(kind, region):
    for plan, drawing in everywhere(kind, region):
        for line in range(drawing.lines):
            on = planned(plan, drawing, line)
            for one in (on, *on.sides):
                assert all(fit is None or fit.verdict != "will not do" for fit in one.fits)
                assert (
                    one.by not in ("etched line", "edge behind", "gauge")
                    or one.on in ("mark", "points")
                    or one.total.can_be_laid
                )
                assert one.by != "curve" or any(one.fits)
                assert one.by in ("follow", "ditch", "tape") or one.error > 0


@pytest.mark.parametrize(("kind", "region"), PLACED)
def test_the_ruler_is_drawn_over_what_its_etched_line_lies_on(kind, region):
    for plan, drawing in everywhere(kind, region):
        seams = shapely.union_all(
            [
                drawing.region.area.boundary,
                *shapely.linestrings(np.array(drawing.shape.seams).reshape(-1, 2, 2)),
            ]
        )
        for line in range(drawing.lines):
            on = planned(plan, drawing, line)
            leg = on.legs[0]
            one = on.sides[0] if on.sides else on
            if one.by != "etched line" or one.on not in ("seam", "line", "last") or leg.arc is not None:
                continue
            plastic = shapely.Polygon(laid_ruler(plan, drawing, on))
            lies_on = seams if one.reference is None else shapely.LineString(drawing.polylines[one.reference])
            side = shapely.LineString([leg.start, leg.end])
            beside, nearer = (side.buffer(float(one.distance) + m, cap_style="flat") for m in (0.3, -0.3))
            near = lies_on.intersection(beside.difference(nearer))
            assert near.length < 1 or near.intersection(plastic.buffer(0.3)).length > 1


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize(("kind", "region"), PLACED)
def test_after_skips_and_unpicked_lines_every_reference_told_is_there(kind, region, seed):
    chance = random.Random(f"{kind} {region} {seed}")
    for plan, drawing in everywhere(kind, region):
        drawn_lines = set(marks_of(plan, drawing).lines)
        sewn: set[int] = set()
        last = None
        for line in in_order(plan, drawing):
            if chance.random() < 0.25:
                continue
            if sewn and chance.random() < 0.15:
                sewn.discard(chance.choice(sorted(sewn)))
                last = None
            on = placed(plan, drawing, line, {"": sewn}, "", last)
            assert set(on.needs) <= (drawn_lines if on.on == "drawn" else sewn)
            assert on.on != "last" or on.reference == last
            sewn.add(line)
            last = line


def laid_anew(on, kit, ends):
    """Where the needle runs: ``reference`` and the sum say how far from it, its ``ends`` (2, 2) which way and on which side."""
    (x0, y0), (x1, y1) = ends
    ux, uy = (x1 - x0) / math.dist(*ends), (y1 - y0) / math.dist(*ends)
    total = on.total
    edge = (0.0 if total.etched is None else float(total.etched)) - float(total.behind)
    far = edge + float(kit.foot_offset)  # of the needle from the reference
    return (-uy, ux), far


@pytest.mark.parametrize("values", [{}, {"spacing": "1/2 in"}, {"spacing": "3/16 in"}, {"spacing": "0.7 in"}])
@pytest.mark.parametrize("kind", ["lines", "grid", "pairs"])
@pytest.mark.parametrize("region", SHAPES)
def test_replayed_from_its_reference_a_line_comes_out_where_it_is_planned(kind, region, values):
    """Also with an etched line that does it only nearly: within what that is out by."""
    plan, drawing = plan_of(kind, region, "first lines", **values)
    seen = 0
    for line in range(len(drawing.stretches)):
        on = planned(plan, drawing, line)
        if on.on not in ("line", "seam") or on.by not in ("etched line", "edge behind"):
            continue
        reference = reference_points(plan, drawing, on)
        assert len(reference) == 2
        (nx, ny), far = laid_anew(on, plan.kit, reference)
        own = drawing.stretches.ends[line].reshape(2, 2)
        away = np.abs((own - reference[0]) @ np.array([nx, ny]))
        assert np.abs(away - far).max() <= abs(float(on.total.off)) + 0.06
        assert abs(float(on.total.off)) <= on.error
        side = (own.mean(axis=0) - reference[0]) @ np.array(
            drawing.straight[int(drawing.stretches.job[line]) % len(drawing.straight)].normal
        )
        assert (side > 0) == (on.way > 0)
        seen += 1
    assert seen or plan.references(drawing).marked


def assert_checks_lie_there(plan, drawing):
    """What is told to lie under another etched line does, measured from line to line; returns how many are told."""
    told = 0
    for line in range(drawing.lines):
        check = planned(plan, drawing, line).check
        if check is None:
            continue
        told += 1
        own, other = (shapely.LineString(drawing.polylines[k]) for k in (line, check.line))
        far = float(check.etched + plan.kit.foot_offset)
        assert own.distance(other) == pytest.approx(far, abs=0.06)
        assert (
            shapely.length(other.intersection(own.buffer(far + 0.1))) > 6
        )  # mm that lie under the etched line
    return told


@pytest.mark.parametrize(("kind", "region"), PLACED)
def test_a_check_lies_under_the_etched_line_that_is_told(kind, region):
    for plan, drawing in everywhere(kind, region):
        assert_checks_lie_there(plan, drawing)


@pytest.mark.parametrize(
    ("kind", "values"),
    [
        ("pairs", {"spacing": "1/2 in", "wide": "1 in"}),
        ("lines", {"spacing": "1/2 in", "rhythm": "1 2"}),
        ("lines", {"spacing": "3/4 in", "rhythm": "1 1 2"}),
        ("grid", {"spacing": "1/2 in", "rhythm": "1 2"}),
    ],
)
@pytest.mark.parametrize("region", ["square", "L", "star background"])
def test_a_check_holds_where_gaps_differ(kind, values, region):
    plan, drawing = plan_of(kind, region, "first lines", **values)
    assert assert_checks_lie_there(plan, drawing)


def test_a_check_on_a_line_that_was_skipped_is_not_told():
    plan, drawing = plan_of("lines", "square", "first lines", spacing="3/4 in", angle=0)
    order = in_order(plan, drawing)
    line = next(k for k in order if planned(plan, drawing, k).check)
    check = planned(plan, drawing, line).check
    there = set(order[: order.index(line)])
    assert placed(plan, drawing, line, {"": there}, "", None).check == check
    assert placed(plan, drawing, line, {"": there - {check.line}}, "", None).check is None


@pytest.mark.parametrize("region", ["square", "petal"])
def test_the_second_set_of_a_grid_is_laid_across_the_first_also_where_no_seam_is_straight(region):
    plan, drawing = plan_of("grid", region, "first lines", angle=45, second_angle=135)
    across = [
        planned(plan, drawing, k) for k in range(drawing.lines) if planned(plan, drawing, k).by == "angle"
    ]
    assert len(across) == 1 and across[0].angle == 90
    own, other = (drawing.stretches.ends[k].reshape(2, 2) for k in (across[0].line, across[0].reference))
    assert abs((own[1] - own[0]) @ (other[1] - other[0])) < 1e-6 * np.ptp(own) * np.ptp(other) + 1e-6
    first = marks_of(plan, drawing, "first lines").lines
    assert len(first) == (region == "petal")  # in the square the first runs from corner to corner


def test_the_first_chevron_is_laid_from_both_sewn_diagonals_leg_by_leg():
    plan, drawing = plan_of("chevrons", inches(box(0, 0, 8, 8)))
    assert marks_of(plan, drawing).lines == ()  # both diagonals run from corner to corner
    marked = [k for k in range(drawing.lines) if planned(plan, drawing, k).on == "corners"]
    assert len(marked) == 2
    first = next(planned(plan, drawing, k) for k in range(drawing.lines) if planned(plan, drawing, k).sides)
    assert {side.reference for side in first.sides} == set(marked) and len(first.legs) == 2
    assert all(side.total.etched is not None for side in first.sides)
    assert abs(first.legs[0].turn) == pytest.approx(90)
    assert line_order(plan, drawing).rests_on[first.line] == (tuple(sorted(marked)),)


def test_a_long_line_is_not_laid_on_a_scrap():
    """A stub of 1/2 by 1 1/4 in under a body 12 in wide: what the stub holds is half an inch long."""
    stub = inches([(0, 0), (0.5, 0), (0.5, 1.25), (6, 1.25), (6, 4), (-6, 4), (-6, 1.25), (0, 1.25)])
    plan, drawing = plan_of("lines", stub, spacing="1/2 in", angle=0, origin="edge", at=0)
    lengths = drawing.lengths
    for line in range(drawing.lines):
        on = planned(plan, drawing, line)
        if on.on == "line":
            assert lengths[line] <= 4.001 * lengths[on.reference]
    assert lengths.max() > 11.9 * IN


def test_what_she_has_no_edge_for_is_never_laid():
    plan, drawing = plan_of("curved rows", "square", kit=Kit())
    arcs = [
        planned(plan, drawing, k) for k in range(drawing.lines) if any(leg.arc for leg in legs_of(drawing, k))
    ]
    assert arcs and {on.by for on in arcs} == {"follow"} and {on.on for on in arcs} == {"mark"}


def test_with_a_walking_foot_drawn_lines_are_followed_and_no_ruler_lies():
    plan, drawing = plan_of("lines", "square", "all lines", Kit(sew_with="walking foot"))
    found = [planned(plan, drawing, k) for k in range(drawing.lines)]
    assert {(on.on, on.by) for on in found} == {("mark", "follow")}
    assert all(len(ruler_at(plan, drawing, on)) == 0 for on in found)


@pytest.mark.parametrize(
    ("length", "crossing", "forth", "back"),
    [(9.5, 4.6, [4.6], [4.9]), (9.5, None, [5.0], [5.0]), (9.5, 7.0, [5.0], [2.5, 7.5]), (4, 2.0, [], [])],
)
def test_a72_the_hand_moves_on_at_a_crossing_whichever_way_the_line_is_sewn(length, crossing, forth, back):
    _, drawing = plan_of(
        "lines", inches(box(0, 0, length, 1)), angle=0, spacing="1/2 in", origin="edge", at=0
    )
    at = [] if crossing is None else [crossing * IN]
    for turned, stops in ((False, forth), (True, back)):
        found = hand_moves(drawing, 0, at, 5 * IN, 0.0, length * IN, back=turned)
        assert [one / IN for one in found] == pytest.approx(stops)


def test_on_a_zigzag_the_hand_moves_on_at_a_point_and_on_a_wave_at_crest_or_trough():
    _, drawing = plan_of("zigzag", "square")
    line = int(np.argmax(drawing.lengths))
    points = np.cumsum([leg.length for leg in legs_of(drawing, line)])
    moves = hand_moves(drawing, line, [], 3 * IN, 0.0, drawing.length_of(line), back=False)
    assert moves and all(np.abs(points - at).min() < 0.01 for at in moves)
    _, drawing = plan_of("waves", inches(box(0, 0, 12, 6)), angle=0)
    line = int(np.argmax(drawing.lengths))
    wave = drawing.polylines[line]
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(wave, axis=0).T))])
    moves = hand_moves(drawing, line, [], 4 * IN, 0.0, drawing.length_of(line), back=False)
    heights = np.interp(moves, along, wave[:, 1])
    low, high = wave[:, 1].min(), wave[:, 1].max()
    assert moves and (np.minimum(heights - low, high - heights) < 0.05 * (high - low)).all()


def test_legs_turned_back_have_their_turns_the_other_way_round():
    _, drawing = plan_of("zigzag", "square")
    legs = legs_of(drawing, int(np.argmax(drawing.lengths)))
    back = turned_back(legs)
    assert [leg.turn for leg in back[:-1]] == [-leg.turn for leg in legs[:-1]][::-1]
    assert (back[0].start, back[-1].end) == (legs[-1].end, legs[0].start)
    assert sum(leg.length for leg in back) == pytest.approx(sum(leg.length for leg in legs))
    assert turned_back(back)[0].turn == legs[0].turn


def test_a_ring_whose_neighbour_was_skipped_is_laid_on_the_one_beyond_or_on_the_seam():
    plan, drawing = plan_of("echo", inches(box(0, 0, 8, 8)), spacing="1/2 in")
    third = placed(plan, drawing, 2, {"": {0}}, "", 0)
    assert (third.on, third.reference, third.over) == ("last", 0, 1)  # the ring between was not sewn
    assert third.distance == 2 * planned(plan, drawing, 2).distance and third.total.etched is not None
    second = placed(plan, drawing, 1, {}, "", None)
    assert (second.on, second.needs) == ("seam", ())
    assert second.distance == planned(plan, drawing, 0).distance + planned(plan, drawing, 1).distance


@pytest.mark.parametrize("other", [False, True])
def test_lines_begin_away_from_the_machine_or_beside_it_as_she_says(other):
    kit = Kit().for_zone(None, None, begin_other=other)
    plan, drawing = plan_of("lines", inches(box(0, 0, 8, 6)), "first lines", kit, angle=90, spacing="1 in")
    found = [planned(plan, drawing, k) for k in range(drawing.lines)]
    (first,) = [on for on in found if on.on == "seam"]
    left = [drawing.stretches.ends[on.line, 0] for on in found]
    assert drawing.stretches.ends[first.line, 0] == pytest.approx(max(left) if other else min(left))
    assert len({on.way for on in found}) == 1


def test_the_second_set_is_sewn_first_where_she_says_so():
    plan, drawing = plan_of("grid", "petal", "first lines", angle=45, second_angle=135)
    turned = ZonePlan(
        "zone", plan.zone.model_copy(update={"second_first": True}), plan.kit, (drawing,), (0.0, 0.0)
    )
    for one in (plan, turned):
        order = line_order(one, drawing)
        across = next(
            on for on in (planned(one, drawing, k) for k in range(drawing.lines)) if on.by == "angle"
        )
        assert order.turns[across.line] == 1 and order.turns[across.reference] == 0
    assert [1 - turn for turn in line_order(plan, drawing).turns] == list(line_order(turned, drawing).turns)


def test_rings_are_sewn_from_the_innermost_outwards_where_she_says_so():
    """The innermost gets dots at its corners, and each ring lies on the one inside it."""
    region = inches(box(0, 0, 8, 6))
    plan, drawing = plan_of("echo", region, spacing="1/2 in")
    turned = ZonePlan(
        "zone", plan.zone.model_copy(update={"second_first": True}), plan.kit, (drawing,), (0.0, 0.0)
    )
    many, found = drawing.lines, [planned(turned, drawing, k) for k in range(drawing.lines)]
    assert drawing.comes_in == "rings" and many > 4
    assert [on.reference for on in found] == [*range(1, many), None]
    assert found[-1].on == "corners" and len(found[-1].dots) == 4 == len(marks_of(turned, drawing).dots)
    assert [on.way for on in found[:-1]] == [-1] * (many - 1)
    assert in_order(turned, drawing) == list(range(many))[::-1]
    assert in_order(plan, drawing) == list(range(many)) and planned(plan, drawing, 0).on == "seam"


def test_an_outline_is_sewn_last_where_she_says_so():
    plan, drawing = plan_of("through", inches(box(0, 0, 8, 8)), spacing="1 in")
    turned = ZonePlan(
        "zone", plan.zone.model_copy(update={"second_first": True}), plan.kit, (drawing,), (0.0, 0.0)
    )
    assert drawing.comes_in == ("outline" if drawing.outline else "")
    turns = line_order(turned, drawing).turns
    others = [turn for line, turn in enumerate(turns) if line not in drawing.outline]
    assert all(turns[line] > max(others) for line in drawing.outline)


@pytest.mark.parametrize("kind", ["continuous", "shells", "hourglass", "corner cuts"])
@pytest.mark.parametrize("region", sorted(REGIONS))
def test_whole_figures_are_sewn_before_cut_ones_where_she_says_so(kind, region):
    """But for those cut ones that a whole one is laid on."""
    fill = FILLS[kind].model_validate({"spacing": "3/4 in", **EXAMPLES[kind][1]})
    try:
        drawing = drawn(fill, REGIONS[region])
    except ValueError:
        pytest.skip("this fill does not go into this region")
    if drawing.comes_in != "cells":
        pytest.skip("no figure is cut here, or none is whole")
    zone = Zone(name="Zone", part="block", patches=("a",), fill=fill, second_first=True)
    plan = ZonePlan("zone", zone, Kit(), (drawing,), (0.0, 0.0))
    order, cut = line_order(plan, drawing), set(drawing.cut_figures)
    sewn = Precedence(courses_of(drawing), [order]).begin()
    left, sewn_so_far = list(range(drawing.lines)), []
    while left:
        line = next((k for k in left if sewn.ready(k)), None)
        assert line is not None, "nothing can come next"
        sewn.add(line)
        left.remove(line)
        sewn_so_far.append(line)
    rests = {on for some in order.rests_on for way in some for on in way}
    for piece in set(order.pieces):
        mine = [line for line in sewn_so_far if order.pieces[line] == piece]
        whole = [k for k, line in enumerate(mine) if line not in cut]
        assert all(mine.index(line) > max(whole, default=-1) for line in cut - rests if line in mine)


@pytest.mark.parametrize(("kind", "region"), PLACED)
def test_every_dot_is_one_that_some_line_is_laid_by_and_every_such_dot_is_marked(kind, region):
    for plan, drawing in everywhere(kind, region):
        marks = marks_of(plan, drawing)
        used = {dot for k in range(drawing.lines) for dot in planned(plan, drawing, k).dots}
        marked = {(round(x, 1), round(y, 1)) for x, y in marks.dots}
        assert {(round(x, 1), round(y, 1)) for x, y in used} <= marked
        if marks.method not in ("dots", "half"):
            assert len(marked) <= len(used)


@pytest.mark.parametrize("seed", range(12))
def test_three_hundred_random_plans_are_replayed_from_their_references_alone(seed):
    """Straight fills of any spacing and lean in any shape: from seam or line, etched line and foot each comes out in its place."""
    chance = random.Random(seed)
    seen = 0
    for _ in range(25):
        kind = chance.choice(["lines", "grid"])
        lean = chance.uniform(0, 180)
        values = {
            "spacing": f"{chance.randint(3, 40)}/16 in",
            "angle": round(lean, 2),
            "origin": chance.choice(["centre line", "centre gap"]),
        }
        if kind == "grid":
            values["second_angle"] = round((lean + chance.choice([90, 60, 45])) % 180, 2)
        region = chance.choice(list(REGIONS))
        fill = FILLS[kind].model_validate(values)
        drawing = drawn(fill, REGIONS[region])
        zone = Zone(name="Zone", part="block", patches=("a",), fill=fill, marking="first lines")
        plan = ZonePlan("zone", zone, Kit(), (drawing,), (0.0, 0.0))
        for line in in_order(plan, drawing):
            on = planned(plan, drawing, line)
            assert on.on in ("seam", "line", "angle", "mark", "ditch", "corners")
            if on.by not in ("etched line", "edge behind") or on.on == "mark":
                continue
            reference = reference_points(plan, drawing, on)
            (nx, ny), far = laid_anew(on, plan.kit, reference)
            own = drawing.stretches.ends[line].reshape(2, 2)
            away = np.abs((own - reference[0]) @ np.array([nx, ny]))
            assert np.abs(away - far).max() <= on.error + 0.06 + 1e-3 * drawing.length_of(
                line
            )  # nearly parallel is parallel
            shared = _shared(own, reference)
            assert drawing.length_of(line) <= 4.01 * shared or on.on == "seam"
            seen += 1
    assert seen > 20


def _shared(own, other):
    """How much of one straight line lies beside another, mm."""
    way = (own[1] - own[0]) / math.dist(*own)
    a, b = (np.sort((one - own[0]) @ way) for one in (own, other))
    return max(min(a[1], b[1]) - max(a[0], b[0]), 1e-9)


def wavy_kit():
    wave = WaveRuler()
    return Kit(rulers={"wave": wave, "straight": StraightRuler()})


def test_rows_of_a_wave_that_her_template_sews_are_stepped_from_the_one_beside_a_seam():
    values = {"period": "2 1/2 in", "depth": "1/2 in", "spacing": "3/4 in", "typed": "step", "angle": 0}
    plan, drawing = plan_of(
        "waves", inches(box(0, 0, 10, 6)), "first lines", wavy_kit(), **values, slide="1/4 in"
    )
    found = [planned(plan, drawing, k) for k in range(drawing.lines)]
    (base,) = [on for on in found if on.on == "seam"]
    assert base.level and base.by == "template" and not any(on.on == "mark" for on in found)
    (crest,) = base.dots
    own, seam = drawing.polylines[base.line], reference_points(plan, drawing, base)
    assert np.ptp(seam[:, 1]) < 1e-6
    assert abs((own[:, 1].max() + own[:, 1].min()) / 2 - seam[0, 1]) == pytest.approx(
        float(base.distance), abs=0.05
    )
    assert own[:, 1].max() == pytest.approx(crest[1], abs=0.05)
    stepped = [on for on in found if on.stepped]
    assert len(stepped) == len(found) - 1 and {on.by for on in stepped} == {"template"}
    for on in stepped:
        low, high = (drawing.polylines[k][:, 1] for k in (on.reference, on.line))
        if np.ptp(high) > 12.6 and np.ptp(low) > 12.6:  # neither is cut at the edge
            up = (high.max() + high.min() - low.max() - low.min()) / 2
            assert up == pytest.approx(on.way * float(on.distance), abs=0.05)
        assert on.slide == pytest.approx(on.way * 0.25 * IN)


def test_of_a_row_that_is_drawn_only_the_middle_line_and_a_crest_are_marked():
    values = {"period": "2 1/2 in", "depth": "1/2 in", "spacing": "3/4 in", "angle": 30, "rows": 1}
    plan, drawing = plan_of("waves", inches(box(0, 0, 10, 10)), None, wavy_kit(), **values)
    marks, on = marks_of(plan, drawing), planned(plan, drawing, 0)
    assert (on.on, on.by, on.level, on.dots) == ("mark", "template", True, marks.dots)
    (stroke,), (crest,) = marks.strokes, marks.dots
    way = (stroke[1] - stroke[0]) / math.dist(*stroke)
    assert math.degrees(math.atan2(way[1], way[0])) % 180 == pytest.approx(30, abs=1e-6)
    across = (drawing.polylines[0] - stroke[0]) @ np.array([-way[1], way[0]])
    assert [across.min(), across.max()] == pytest.approx([-6.35, 6.35], abs=0.05)
    assert (np.array(crest) - stroke[0]) @ np.array([-way[1], way[0]]) == pytest.approx(6.35, abs=0.05)
    assert marks.pen == pytest.approx(math.dist(*stroke))
    assert marks.pen < drawing.length_of(0)


def test_without_a_template_that_does_it_every_row_is_drawn():
    plan, drawing = plan_of(
        "waves", inches(box(0, 0, 10, 6)), kit=Kit(), period="2 1/2 in", depth="1/2 in", angle=0
    )
    assert {planned(plan, drawing, k).on for k in range(drawing.lines)} == {"mark"}


def test_a_line_laid_across_another_says_where_it_crosses_it():
    plan, drawing = plan_of("grid", "petal", "first lines", angle=45, second_angle=135)
    on = next(on for on in (planned(plan, drawing, k) for k in range(drawing.lines)) if on.by == "angle")
    far, towards = on.crosses
    other = drawing.polylines[on.reference]
    start = other[(other @ np.array(towards)).argmax()]
    spot = start + (other.sum(axis=0) - 2 * start) * far / math.dist(*other)
    own = drawing.polylines[on.line]
    way = (own[1] - own[0]) / math.dist(*own)
    assert abs(float((spot - own[0]) @ np.array([-way[1], way[0]]))) < 1e-6
    assert far <= math.dist(*other) / 2


def test_an_echo_of_a_curve_at_the_foot_s_offset_runs_the_foot_s_rim_along_the_seam():
    plan, drawing = plan_of("echo", "petal", spacing="1/4 in")
    first = planned(plan, drawing, 0)
    assert (first.on, first.by, first.verdict) == ("seam", "rim", "does")
    assert planned(plan, drawing, 1).by == "rim"
