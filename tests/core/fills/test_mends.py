"""Figures that were wrong once, each under the case in which it was seen."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
import shapely

from kenzet.core.fills import FILLS
from kenzet.core.numbers.meeting import NEAR
from kenzet.core.plan.widest_gap import widest_gap
from tests.shapes import box, drawn, inches, site

IN = 25.4


@pytest.mark.parametrize(
    "features", [((2, 6), (9, 2)), ((1, 1), (8, 1)), ((2, 2), (7.5, 5)), ((3, 4), (9, 4.75))]
)
def test_a_zigzag_that_is_said_to_meet_features_has_a_point_on_each(features):
    """Block 12 by 8, advance 1.1, throw 3/4, step 1: "1 in, 7 steps" was offered as a hit, 0.25 in off."""
    fill = FILLS["zigzag"].model_validate(
        {"advance": "1.1 in", "throw": "3/4 in", "spacing": "1 in", "typed": "step"}
    )
    block = site(inches(box(0, 0, 12, 8)))
    points = [(x * IN, y * IN) for x, y in features]
    offers = fill.fit_to_points(block, points)
    assert offers
    for offer in offers:
        made = FILLS["zigzag"].model_validate(
            {**fill.model_dump(), **dict(offer.values), "through": offer.through}
        )
        rows = np.concatenate(
            [path.vertices[:, :2] for family in made.lay_out(block) for path in family.paths]
        )
        away = [float(np.hypot(*(rows - point).T).min()) for point in np.array(points)]
        assert away[0] < 1e-3
        for k, miss in enumerate(away[1:]):
            assert (miss <= NEAR + 0.01) == (k not in offer.give)
            assert offer.misses[k] == pytest.approx(miss, abs=0.02)


@pytest.mark.parametrize(
    ("kind", "values", "true"),
    [("lines", {"spacing": "1/2 in", "angle": 90, "skip": "3 in"}, 2.0)],
)
def test_where_pieces_are_left_out_the_widest_gap_is_what_is_left(kind, values, true):
    """A dumbbell of two 4 in squares and a neck of 4 by 2 in: upright lines under 3 in are left out in the neck."""
    dumbbell = inches(
        [(0, 0), (4, 0), (4, 1), (8, 1), (8, 0), (12, 0), (12, 4), (8, 4), (8, 3), (4, 3), (4, 4), (0, 4)]
    )
    drawing = drawn(FILLS[kind].model_validate(values), dumbbell)
    assert drawing.left_out
    assert widest_gap(drawing).width / IN == pytest.approx(true, abs=0.02)


def test_a_grid_of_which_every_line_is_left_out_leaves_the_strip_open():
    strip = inches(box(0, 0, 12, 2))
    grid = FILLS["grid"].model_validate(
        {"spacing": "1/2 in", "angle": 45, "second_angle": 135, "skip": "3 in"}
    )
    drawing = drawn(grid, strip)
    assert drawing.lines == 0 and drawing.left_out
    assert widest_gap(drawing).width / IN == pytest.approx(2.0, abs=0.01)


def l_shape(wide, high, arm, inner):
    return inches([(0, 0), (wide, 0), (wide, inner), (arm, inner), (arm, high), (0, high)])


@pytest.mark.parametrize("nudge", [0, 1e-9, -1e-9, 3e-7, -3e-7])
def test_an_arm_twice_as_wide_as_a_rings_distance_holds_no_ring_there_and_back(nudge):
    """L of 4 by 10 3/4 with an arm of 2 1/2, echo 1 1/4: 19.5 in told, 5 5/8 real, whatever the rounding."""
    zone = l_shape(4, 10.75, 2.5 + nudge, 3 + 13 / 16)
    drawing = drawn(FILLS["echo"].model_validate({"spacing": "1 1/4 in"}), zone)
    assert drawing.stitched / IN == pytest.approx(5.625, abs=0.02)


@pytest.mark.parametrize("arm", [1.5, 2, 2.25, 2.5, 3])
@pytest.mark.parametrize("turn", [0, 1, 2])
def test_no_ring_comes_back_on_its_own_line(arm, turn):
    zone = l_shape(4 + turn / 3, 9 + turn, arm, 3 + turn / 7)
    drawing = drawn(FILLS["echo"].model_validate({"spacing": f"{arm / 2} in", "rounds": 1}), zone)
    for line in drawing.polylines:
        assert shapely.Polygon(line).buffer(-0.02).area > 0.5 * shapely.Polygon(line).area


@pytest.mark.parametrize("job", [("6.4 mm", "3/4 in"), ("6.36 mm", "1/2 in"), ("6.35 mm", "1/2 in")])
def test_what_an_etched_line_misses_by_adds_up_and_is_held_by_the_drift(job):
    """Foot 6.4 mm, "1/2 + generous 1/4 = 3/4": over 39 lines 1.9 mm that no figure held."""
    from fractions import Fraction

    from kenzet.core.kit.kit import Kit
    from kenzet.core.numbers.measure import Length
    from kenzet.core.ruler.drift import error_after
    from kenzet.core.ruler.offset_sums import best_offset_sum

    foot, spacing = (Length.parse(text) for text in job)
    kit = Kit.model_validate({"foot": {"kind": "ruler foot", "offset": foot.text}})
    total = best_offset_sum(kit, spacing.mm)
    assert total.etched is not None
    real = total.etched + foot.mm - spacing.mm
    assert total.out == (real if abs(real) > Fraction(1, 100) else 0)
    assert error_after(39, float(total.out), 0.0) >= 39 * abs(float(total.out)) - 1e-9


@pytest.mark.parametrize(("slide", "true"), [("1/4 in", 0.082), ("1/2 in", 0.0), (None, 0.2117)])
def test_the_true_spacing_of_slid_waves_is_that_between_the_rows_as_drawn(slide, true):
    """2 1/2 by 1/2 in wave, step 1/4, slide 1/4: told 0.212, true 0.082; at slide 1/2 the lines touch."""
    fill = FILLS["waves"].model_validate(
        {
            "spacing": "1/4 in",
            "typed": "step",
            "period": "2 1/2 in",
            "depth": "1/2 in",
            "slide": slide,
            "angle": 0,
        }
    )
    zone = inches(box(0, 0, 12, 6))
    told = next(one.value for one in fill.figures(site(zone)) if one.label == "True spacing, where closest")
    rows = [
        shapely.LineString(trace.polyline) for trace in drawn(fill, zone).traces if trace.length > 11 * IN
    ]
    real = min(one.distance(other) for one, other in pairwise(rows))
    assert told / IN == pytest.approx(true, abs=0.003)
    assert told == pytest.approx(real, abs=0.1)


@pytest.mark.parametrize("slide", ["1/8 in", "1/4 in", "3/8 in"])
def test_slid_waves_lie_as_far_apart_as_their_true_spacing_is_typed(slide):
    fill = FILLS["waves"].model_validate(
        {"spacing": "3/8 in", "period": "2 1/2 in", "depth": "1/2 in", "slide": slide, "angle": 0}
    )
    rows = [
        shapely.LineString(t.polyline)
        for t in drawn(fill, inches(box(0, 0, 12, 8))).traces
        if t.length > 11.5 * IN
    ]
    assert len(rows) > 4
    apart = [one.distance(other) for one, other in pairwise(rows)]
    assert [far / IN for far in apart] == pytest.approx([0.375] * len(apart), abs=0.004)


@pytest.mark.parametrize(
    ("outline", "degrees", "moves"),
    [
        ([(0, 0), (5, 0), (0, 5)], 45, 1.307),
        ([(0, 0), (6, 0), (6, 6), (0, 6)], 90, 0.707),
        ([(0, 0), (6, 0), (3, 3 * 3**0.5)], 60, 1.0),
    ],
)
def test_a61_an_echo_tells_how_far_its_tips_move_in(outline, degrees, moves):
    told = FILLS["echo"].model_validate({"spacing": "1/2 in"}).figures(site(inches(outline)))
    assert [one.label for one in told] == ["Sharpest corner", "There each ring moves in by"]
    assert told[0].value == pytest.approx(degrees, abs=1e-6)
    assert told[1].value / IN == pytest.approx(moves, abs=0.001)


def test_a_disc_has_no_corner_to_tell_of():
    from tests.shapes import REGIONS

    assert FILLS["echo"].model_validate({"spacing": "1/2 in"}).figures(site(REGIONS["disc"])) == ()
