"""Arcs of a fill by an edge of her own: what it makes, and why it makes nothing."""

from __future__ import annotations

import pytest

from kenzet.core.kit.edges import ArcEdge
from kenzet.core.kit.kit import Kit
from kenzet.core.numbers.measure import Length
from kenzet.core.plan.planner import plan_quilt
from kenzet.say import words as w
from kenzet.say.kit_words import curves_sewn
from kenzet.say.zone_words import by_her_curves
from tests.jobs import block, whole

IN = 25.4
CIRCLE = {"kind": "arc", "name": "Circle", "measured": "diameter", "outside": "1 1/2 in"}


def offered(wide, **more):
    laid = whole(block("Plain", "9 in", CIRCLE), {"kind": "clamshell", "spacing": wide, **more})
    plan = next(iter(plan_quilt(laid).values()))
    drawing = plan.drawings[0]
    offers, refused = by_her_curves(plan, drawing, "1-1", "in")
    return {offer.label.split(" by ")[0]: offer for offer in offers}, [w.plain(one) for one in refused]


def inches_of(text):
    return float(Length.parse(text).mm) / IN


def test_a_circle_of_1_1_2_in_sews_a_radius_of_1_in_and_makes_a_second_arc_0_339_in_high():
    offers, refused = offered("1 1/2 in")
    assert inches_of(offers["second arc"].values["second"]) == pytest.approx(0.339, abs=5e-4)
    assert not refused


def test_over_a_scale_wider_than_its_circle_it_makes_none_and_says_why():
    offers, refused = offered("2 1/4 in")
    assert "second arc" not in offers
    assert refused == [
        "“Circle” sews a radius of 1 in: too small a circle for a second arc over so wide a scale."
    ]


def test_scales_that_are_half_circles_of_hers_are_as_wide_as_it_sews():
    offers, _ = offered("1 3/4 in")
    assert inches_of(offers["half circles"].value) == pytest.approx(2)
    assert not offers["half circles"].now
    offers, _ = offered("2 in")
    assert offers["half circles"].now


@pytest.mark.parametrize(
    ("edges", "said"),
    [
        (
            (("outside", 3.5), ("outside", 4.5)),
            "a radius of 3 3/4 in along its outside and of 4 3/4 in along its outside: without moving the ruler, the two lie 1 in apart.",
        ),
        (
            (("outside", 4.5), ("inside", 3.5)),
            "a radius of 4 3/4 in along its outside and of 3 1/4 in along its inside: without moving the ruler, the two lie 1 1/2 in apart.",
        ),
        ((("inside", 0.25),), ""),
    ],
)
def test_the_passes_along_the_edges_of_one_template_are_told_with_their_gap(edges, said):
    found = curves_sewn([ArcEdge(side, radius * IN, 100.0) for side, radius in edges], Kit(), "in")
    assert w.plain(found) == (f"With your foot it sews {said}" if said else "")
