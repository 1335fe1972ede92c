"""One figure for one thing: what a zone's panel says of whole jobs."""

from __future__ import annotations

import pytest

from kenzet.core.numbers.measure import little
from kenzet.core.plan.planner import plan_zone
from kenzet.say import words as w
from kenzet.web.wire.zone import PlanRequest, zone_view
from tests.jobs import JOBS


def told(job):
    laid = JOBS[job]()
    (key,) = laid.quilt.zones
    view = zone_view(laid, plan_zone(laid, key), PlanRequest(zone=key, place="", unit="in", gap=False))
    rows = {w.plain(row.label): w.plain(row.words) for row in [*view.rows, *view.figures]}
    return view, rows


@pytest.mark.parametrize(
    ("job", "what", "many", "lines"),
    [
        ("a four patch with chevrons", "Chevrons", "16", "18"),
        ("clamshells with a second arc", "Rows", "12", "24"),
    ],
)
def test_what_is_counted_is_what_the_fill_is_named_after(job, what, many, lines):
    view, rows = told(job)
    assert (rows[what], rows["Lines to sew"]) == (many, lines)
    assert len([row for row in [*view.rows, *view.figures] if w.plain(row.label) == what]) == 1


@pytest.mark.parametrize("job", ["clamshells with a second arc", "scallops along a sash"])
def test_what_a_curve_sews_has_no_sum_of_an_etched_line(job):
    view, _ = told(job)
    assert view.sum is None


@pytest.mark.parametrize("job", ["a four patch with chevrons", "taped lines"])
def test_what_an_etched_line_lays_has_its_sum(job):
    view, _ = told(job)
    assert view.sum is not None and view.sum.kind == "etched"


@pytest.mark.parametrize(
    ("mm", "says"), [(0.254, "0.01 in"), (0.05, "less than 0.01 in"), (25.4 / 32, "1/32 in"), (0.0, "0 in")]
)
def test_a_small_difference_is_told_as_it_is(mm, says):
    assert little(mm, "in") == says
