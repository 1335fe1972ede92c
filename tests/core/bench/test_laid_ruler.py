"""The ruler that is drawn lies one foot's offset beside what it sews."""

from __future__ import annotations

import numpy as np
import pytest
import shapely

from kenzet.core.bench.laid_ruler import laid_ruler, ruler_on_arc, stop_dots
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_quilt
from tests.jobs import JOBS


@pytest.mark.parametrize(
    "job",
    [
        "hourglass columns",
        "a fan in petals",
        "clamshells with a second arc",
        "an eight sided shape over a nine patch",
        "scallops along a sash",
        "curved rows with uprights",
        "waves stepped and slid",
    ],
)
def test_the_ruler_lies_a_foot_beside_the_leg_that_is_sewn_first(job):
    seen = set()
    for plan in plan_quilt(JOBS[job]()).values():
        foot = float(plan.kit.foot_offset)
        for drawing in plan.drawings:
            for line in range(drawing.lines):
                on = planned(plan, drawing, line)
                if on.by not in ("curve", "tilt", "two points", "template", "etched line") or on.sides:
                    continue
                for back in (False, True):
                    outline = laid_ruler(plan, drawing, on, back)
                    if not len(outline):
                        continue
                    leg = on.legs[-1 if back else 0]
                    seen.add(on.by)
                    middle = leg.arc.at(0.5) if leg.arc else tuple(np.mean([leg.start, leg.end], axis=0))
                    if on.by == "template":  # it lies over the middle of the line, crest on crest
                        away = shapely.Polygon(outline).exterior.distance(
                            shapely.LineString(drawing.polylines[line])
                        )
                        assert away == pytest.approx(foot, abs=3.5)
                        continue
                    away = shapely.Polygon(outline).exterior.distance(shapely.Point(middle))
                    assert away == pytest.approx(foot, abs=1.7 if on.by == "curve" else 0.02)
                    assert not shapely.Polygon(outline).contains(shapely.Point(middle))
    assert seen


def test_the_stop_dots_of_an_arc_lie_a_foot_from_its_ends_on_the_plastics_edge():
    laid = JOBS["hourglass columns"]()
    plan = next(iter(plan_quilt(laid).values()))
    on = planned(plan, plan.drawings[0], 0)
    for leg, fit in zip(on.legs, on.fits, strict=True):
        outline = shapely.Polygon(ruler_on_arc(plan.kit, leg.arc, fit))
        for end, dot in zip((leg.start, leg.end), stop_dots(leg.arc, fit), strict=True):
            assert shapely.Point(end).distance(shapely.Point(dot)) == pytest.approx(
                float(plan.kit.foot_offset), abs=1e-6
            )
            assert outline.exterior.distance(shapely.Point(dot)) < 0.5
