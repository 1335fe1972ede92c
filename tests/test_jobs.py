"""Whole jobs sewn from the first line to the last as the machine screen tells them, also with lines skipped."""

from __future__ import annotations

import re
from functools import cache
from itertools import pairwise

import pytest

from kenzet.core.placing.place_line import planned
from kenzet.core.plan.planner import plan_quilt
from kenzet.say import words as w
from kenzet.say.placing_words import lay_words
from kenzet.web.dry_run import Mishaps, dry_run
from kenzet.web.wire.ruler import ruler_view
from kenzet.web.wire.zone import RulerRequest
from tests.jobs import JOBS
from tests.tops import after

DRAWN_AT_MOST = {  # of all lines: what a job cannot do without drawing
    "a four patch with chevrons": 0.0,
    "curved rows with uprights": 0.25,
    "an inset square with quadrants": 0.25,
    "hourglass columns": 0.0,
    "a pinwheel through the centre": 0.0,
    "a fan in petals": 0.3,
    "an s curve on an on point grid": 0.15,
    "a petal with lines and a slanted second family": 0.1,
    "clamshells with a second arc": 0.05,
    "a channel": 0.25,
    "an eight sided shape over a nine patch": 0.0,
    "scallops along a sash": 0.1,
    "taped lines": 0.0,
}


@cache
def laid(job):
    return JOBS[job]()


@cache
def sewn_through(job):
    return list(dry_run(laid(job), Mishaps(), "in"))


@pytest.mark.parametrize("job", JOBS)
def test_every_line_of_a_job_is_told_once_and_laid_on_what_is_there(job):
    steps = sewn_through(job)
    lines = [step for step in steps if step["event"] == "sewn"]
    assert [step["step"] for step in lines] == list(range(1, len(lines) + 1))
    assert len({(step["place"], step["drawing"], step["line"]) for step in lines}) == len(lines)
    for step in lines:
        on = step["placement"]
        if on is None:
            continue
        assert on["verdict"] in ("does", "nearly", "by hand")
        needs = {
            on["reference"]["line"],
            *on["through_lines"],
            *(side["reference"]["line"] for side in on["sides"]),
        } - {None}
        assert needs <= set(step["sewn_there"])
    drawn = sum(step["placement"] is not None and step["placement"]["on"] == "mark" for step in lines)
    assert drawn <= DRAWN_AT_MOST.get(job, 1.0) * len(lines)


@pytest.mark.parametrize("job", JOBS)
def test_what_is_told_does_not_contradict_itself(job):
    """No thread is tied where she then only travels on, nothing of no length is travelled, and no figure is a raw number."""
    steps = sewn_through(job)
    for before, step in pairwise(steps):
        tied = "Tie the threads" in before.get("text", "")
        assert not (tied and step["event"] == "gone"), before["text"]
    for step in steps:
        text = step.get("text", "")
        assert not re.search(r"(?<![\d/ ]) 0 in\b|\d\.\d{3,}", text), text
        assert "will not do" not in text


@pytest.mark.parametrize("job", JOBS)
def test_with_lines_skipped_and_a_thread_broken_all_is_sewn_in_the_end(job):
    lines = [step for step in sewn_through(job) if step["event"] == "sewn"]
    many = len(lines)
    mishaps = Mishaps(skip={2, many} if many > 2 else set(), breaks={min(3, many): 0.4} if many > 3 else {})
    steps = list(dry_run(laid(job), mishaps, "in"))
    done = {(step["place"], step["drawing"], step["line"]) for step in steps if step["event"] == "sewn"}
    assert done == {(step["place"], step["drawing"], step["line"]) for step in lines}
    for step in steps:
        on = step.get("placement")
        if on and on["on"] in ("line", "last", "angle"):
            assert on["reference"]["line"] in step["sewn_there"]


@pytest.mark.parametrize("job", list(JOBS)[::3])
def test_with_a_walking_foot_neither_panel_nor_machine_speaks_of_a_ruler(job):
    quilt = laid(job).quilt
    kit = {**quilt.kit.model_dump(mode="json"), "sew_with": "walking foot"}
    walked = after(laid(job), {"kind": "kit", "kit": kit})
    said = [step.get("text", "") for step in dry_run(walked, Mishaps(), "in")]
    for plan in plan_quilt(walked).values():
        drawing = plan.drawings[0]
        for line in range(0, drawing.lines, 5):
            body = RulerRequest(zone=plan.key, place=drawing.places[0], line=line, unit="in")
            view = ruler_view(plan, plan.kit, body)
            assert not view.body
            assert not view.curves
            said += [w.plain(view.laid), *(w.plain(stop.words) for stop in view.stops)]
    assert said
    assert not [text for text in said if re.search("ruler|plastic|edge of yours|template", text)]


@pytest.mark.parametrize("job", JOBS)
def test_the_panel_begins_with_what_the_machine_says(job):
    for plan in plan_quilt(laid(job)).values():
        drawing = plan.layered(0).drawings[0] if plan.layered(0) else plan.drawings[0]
        for line in range(0, drawing.lines, 4):
            view = ruler_view(
                plan.layered(drawing.layer) or plan,
                plan.kit,
                RulerRequest(zone=plan.key, place=drawing.places[0], line=line, unit="in"),
            )
            on = planned(plan.layered(drawing.layer) or plan, drawing, line)
            if not on.sides:
                assert w.plain(view.laid).startswith(w.plain(lay_words(plan.kit, on, "in")))
