"""A curve rebuilt from what is told: which edge of which arc, how far from what, and on which side of it."""

from __future__ import annotations

import itertools
import re

import pytest

from kenzet.core.kit.kit import Kit
from kenzet.core.placing.legs import turned_back
from kenzet.core.placing.place_line import planned
from kenzet.say.placing_words import lay_words, leg_words
from kenzet.say.words import plain
from tests.core.placing.test_placements import plan_of
from tests.shapes import petal

IN = 25.4
EDGE = re.compile(r"(?:the )?(outside|inside) edge of “(.+?)”(.*)")


def with_edges(*edges):
    """A kit with a straight ruler and one arc for each (side, radius in inches)."""
    arcs = {
        f"arc-{k}": {
            "kind": "arc", "name": f"Arc {k}", "measured": "radius", "outside": None, "inside": None, side: f"{radius} in",
        }
        for k, (side, radius) in enumerate(edges)
    }  # fmt: skip
    return Kit.model_validate(
        {"rulers": {"straight": {"kind": "straight ruler", "etched": "eighths"}, **arcs}}
    )


def sewn_from(kit, said):
    """How far inside its reference the needle sews in the middle of an arc that lies inside its reference, mm: the
    edge lies where the words put it, and the needle a foot's offset away from the plastic."""
    side, _, lies = EDGE.search(said).groups()
    far = re.match(r" (?:generous |scant )?(?:(\d+) )?(?:(\d+)/(\d+) )?in (from|beside|behind)", lies)
    if far is None:
        assert lies.startswith(" on "), said
        inside = 0.0
    else:
        whole, top, bottom, how = far.groups()
        told = IN * (int(whole or 0) + (int(top) / int(bottom) if top else 0))
        assert (how == "from") == ("comes between them" in lies)
        inside = -told if how == "behind" else told
    return inside + float(kit.foot_offset) * (1 if side == "inside" else -1)


@pytest.mark.parametrize(
    "edges",
    [
        [("outside", 6.125)],
        [("inside", 6.625)],
        [("outside", 6.125), ("inside", 6.625)],
        [("outside", 6.125), ("outside", 5.875), ("inside", 6.375), ("inside", 6.625)],
    ],
    ids=["outside only", "inside only", "both", "for three rings"],
)
def test_an_echo_in_a_melon_is_sewn_inside_it(edges):
    """Chord 7, rise 1, echo 1/4: an inside edge lies on the seam; an outside edge lies 1/2 in from it."""
    kit = with_edges(*edges)
    plan, drawing = plan_of("echo", petal(7, 1), "first lines", kit, spacing="1/4 in")
    told = 0
    for line in range(drawing.lines):
        on = planned(plan, drawing, line)
        if on.by == "curve":
            assert sewn_from(kit, plain(lay_words(kit, on, "in"))) == pytest.approx(
                float(on.distance), abs=IN / 32
            )
            told += 1
    assert told
    first = plain(lay_words(kit, planned(plan, drawing, 0), "in"))
    if ("inside", 6.625) in edges:
        assert "inside edge" in first and "on the seam" in first
    else:
        assert "1/2 in from the seam, so that this line comes between them" in first


@pytest.mark.parametrize("back", [False, True])
def test_where_the_line_comes_between_on_some_curves_only_it_is_told_leg_by_leg(back):
    radii = (1.5, 1.75, 2.0, 2.25, 2.5, 2.75, 3.0, 3.5, 4.0)
    kit = with_edges(*itertools.product(("outside", "inside"), radii))
    plan, drawing = plan_of("shells", "disc", "first lines", kit)
    on = planned(plan, drawing, 1)
    assert on.by == "curve" and set(on.over_line) == {True, False}
    legs = leg_words(kit, on, turned_back(on.legs) if back else on.legs, back, "in")
    over = on.over_line[::-1] if back else on.over_line
    assert ["comes between them" in plain(words) for words in legs] == list(over)
