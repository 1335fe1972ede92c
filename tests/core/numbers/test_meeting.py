"""Lines that meet the piecing, features of zones, help in choosing, recipes."""

from __future__ import annotations

import math

import pytest
import shapely
from pydantic import ValidationError
from shapely.geometry import LineString

from kenzet.core.advice.features import features_of
from kenzet.core.advice.recipes import RecipeBook
from kenzet.core.advice.suited_fills import effort, gallery, suited, thread_stops
from kenzet.core.fills import FILLS
from kenzet.core.fills.base import Fill
from kenzet.core.numbers.meeting import NEAR, whole_steps
from kenzet.core.plan.zone_plan import site_at
from tests.shapes import IN, box, drawn, inches, site

SQUARE = inches(box(0, 0, 7.5, 7.5))


def told(steps):
    return [(s.counts[0], round(s.step / IN, 4), round(s.change, 2)) for s in steps]


def test_the_worked_example_of_seams_seven_and_a_half_apart():
    assert told(whole_steps([7.5 * IN], 1.1 * IN))[:3] == [
        (7, 1.0714, -0.03),
        (6, 1.25, 0.14),
        (8, 0.9375, -0.15),
    ]


def test_several_features_have_one_step_or_the_one_that_gives_is_named():
    exact = whole_steps([3 * IN, 7.5 * IN], 0.7 * IN)
    assert all(s.hits for s in exact)
    assert exact[0].step / IN == pytest.approx(0.75)
    assert exact[0].counts == (4, 10)
    none = whole_steps([math.sqrt(2) * IN, 2 * IN], 0.5 * IN, most_change=0.3)
    assert none
    assert not any(s.hits for s in none)
    assert none[0].give == (0,), "the farthest is met, the other gives"
    assert whole_steps([], 10.0)[0].step == 10.0
    assert whole_steps([100.0], 1000.0) == []


@pytest.mark.parametrize("wish", [0.3, 0.55, 0.8, 1.1, 2.4])
@pytest.mark.parametrize("way", [[2.0], [1.5, 4.5], [3.0, -4.5], [0.0, 6.0]])
def test_every_step_that_hits_does_so_and_the_nearest_comes_first(wish, way):
    found = whole_steps([d * IN for d in way], wish * IN)
    hits = [s for s in found if s.hits]
    assert found == hits or not hits
    for s in found:
        assert all(
            abs(d * IN - n * s.step - m) < 1e-9 for d, n, m in zip(way, s.counts, s.misses, strict=True)
        )
        assert abs(s.change) <= 0.30 + 1e-6
    assert [abs(s.change) for s in hits] == sorted(abs(s.change) for s in hits)


@pytest.mark.parametrize(
    ("kind", "values"),
    [("lines", {"angle": 30}), ("grid", {"angle": 0, "second_angle": 90}), ("lines", {"angle": 0})],
)
def test_lines_laid_as_offered_go_through_the_features(kind, values):
    points = [(0.0, 0.0), (4.5 * IN, 3 * IN), (1.5 * IN, 6 * IN)]
    fill = FILLS[kind](spacing="0.7 in", **values)
    ways = fill.fit_to_points(site(SQUARE), points)
    assert ways
    for way in ways:
        laid = type(fill).model_validate(
            {**fill.model_dump(mode="json"), **dict(way.values), "through": way.through}
        )
        for family in laid.lay_out(site(SQUARE)):
            nx, ny = family.normal
            off = [(x * nx + y * ny - family.datum) / float(family.pitch) for x, y in points]
            missed = [abs(v - round(v)) * float(family.pitch) for v in off]
            assert missed[0] < 1e-5
            if not way.give:
                assert max(missed) <= NEAR + 1e-6


def test_a_zigzag_tells_on_which_side_it_arrives():
    region = inches(box(0, 0, 9, 7.5))
    points = [(0.0, 3 * IN), (7.5 * IN, 3 * IN)]
    fill = FILLS["zigzag"](advance="1.1 in", throw="3/4 in")
    ways = fill.fit_to_points(site(region), points)
    assert [(w.counts[0], w.arrives, bool(w.give)) for w in ways][:2] == [
        (6, "same side", False),
        (8, "same side", False),
    ]
    (seven,) = [w for w in ways if w.counts[0] == 7]  # a point of another row, if the rows lie otherwise
    assert (
        seven.arrives == "opposite side"
        and "spacing" in dict(seven.values)
        and "spacing" not in dict(ways[0].values)
    )
    laid = FILLS["zigzag"].model_validate(
        {**fill.model_dump(mode="json"), **dict(ways[0].values), "through": ways[0].through}
    )
    rows = [LineString(t.points) for t in drawn(laid, region).traces]
    for point in points:
        assert min(row.distance(shapely.Point(point)) for row in rows) < NEAR
        corners = [p for t in drawn(laid, region).traces for p in t.path.vertices[:, :2].tolist()]
        assert min(math.dist(p, point) for p in corners) < NEAR


def test_fills_that_cannot_meet_say_so():
    assert {kind for kind, model in FILLS.items() if model.model_validate({}).can_meet} == {
        "lines",
        "grid",
        "pairs",
        "zigzag",
    }
    assert FILLS["pairs"]().fit_to_points(site(SQUARE), [(0, 0), (10, 10)]) == []
    assert Fill.fit_to_points(FILLS["echo"](), site(SQUARE), [(0, 0), (10, 10)]) == ()


def test_features_are_corners_crossings_middles_and_the_centre(laid):
    zone = laid.zone("star-background")
    shape = laid.shapes(zone)[0]
    names = [feature.name for feature in features_of(shape)]
    assert names[0].endswith("upper left corner")
    assert len(names) == len(set(names))
    assert "the center" in names or "middle of the top edge" in names
    points = [feature.point for feature in features_of(shape)]
    assert min(math.dist(a, b) for k, a in enumerate(points) for b in points[:k]) > 1.0
    place = site_at(shape, shape.places[0], laid.middle)
    for point in points:
        assert place.at_share(place.share_of(point)) == pytest.approx(point, abs=1e-5)


def test_the_gallery_holds_every_fill_that_suits_and_each_can_be_sewn(laid):
    found = list(gallery(laid, "star-centre"))
    kinds = [type(f.fill) for f in found]
    assert len(kinds) == len(set(kinds)) >= 25
    for each in found:
        cost = effort(each.plan, each.drawing, laid.quilt.stitching)
        assert cost.minutes > 0
        assert 0 <= cost.marks <= cost.lines == each.drawing.lines
        assert cost.stops >= 1
        assert cost.ease in (1, 2, 3, 4)


def test_a_zone_too_small_gets_its_fill_smaller(laid):
    whole = suited(laid, "border", "waves")
    small = suited(laid, "star-points", "waves")
    assert whole.fill.spacing.mm > small.fill.spacing.mm or whole.fill == small.fill
    assert suited(laid, "star-centre", "halved triangle") is None
    given = suited(laid, "star-centre", "grid", {"kind": "lines", "spacing": "5/8 in", "angle": 30})
    assert given.fill.spacing.text == "5/8 in"


def test_thread_stops_are_one_run_for_rows_and_one_a_ring():
    assert thread_stops(drawn(FILLS["lines"](spacing="1/2 in"), SQUARE)) == 1
    echo = drawn(FILLS["echo"](spacing="1/2 in"), SQUARE)
    assert thread_stops(echo) == len(echo.traces)
    assert thread_stops(drawn(FILLS["spiral"](spacing="1/2 in"), SQUARE)) == 1


def test_a_book_of_recipes_is_checked_whole():
    book = RecipeBook.model_validate(
        {"recipes": [{"name": "Ripple", "fill": {"kind": "waves", "period": "3 in"}}]}
    )
    assert RecipeBook.model_validate_json(book.model_dump_json()) == book
    with pytest.raises(ValidationError):
        RecipeBook.model_validate({"recipes": [{"name": "Ripple", "fill": {"kind": "unheard of"}}]})
    with pytest.raises(ValidationError):
        RecipeBook.model_validate(
            {"recipes": [{"name": "Ripple", "fill": {"kind": "waves", "period": "0 in"}}]}
        )
