"""What is told after a break, from the needle: the rest of the line, its legs, and its true end."""

from __future__ import annotations

import re

import numpy as np
import pytest

from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from kenzet.web.dry_run import Mishaps, dry_run
from tests.jobs import block, whole

IN = 25.4
ZONES = {
    "lines": {"kind": "lines", "spacing": "1 in"},
    "chevrons": {"kind": "chevrons", "spacing": "1 in"},
    "zigzag": {"kind": "zigzag", "spacing": "1 in"},
}


def laid_out(name):
    return QuiltLayout(demo_quilts()[2]) if name == "demo" else whole(block("Plain", "8 in"), ZONES[name])


def inches(words):
    """The lengths at the beginning of each leg, inches."""
    found = []
    for one in words:
        whole_, top, bottom = re.match(r"(?:generous |scant )?(?:(\d+) ?)?(?:(\d+)/(\d+) )?in", one).groups()
        found.append(int(whole_ or 0) + (int(top) / int(bottom) if top else 0))
    return found


@pytest.mark.parametrize("share", [0.2, 0.4, 0.7])
@pytest.mark.parametrize("skip", [(), (2,), (1, 4)])
@pytest.mark.parametrize("name", ["lines", "chevrons", "zigzag", "demo"])
def test_after_a_break_the_rest_is_told_from_the_needle(name, skip, share):
    laid = laid_out(name)
    told = list(dry_run(laid, Mishaps(skip, {3: share, 5: share}), "in"))
    size = np.array([laid.top.width, laid.top.height])
    seen = 0
    for number, broke in enumerate(told):
        if broke.get("event") != "broke":
            continue
        rest = next(one for one in told[number + 1 :] if one.get("kind") == "line")
        assert (rest["line"], rest["drawing"], rest["place"]) == (
            broke["line"],
            broke["drawing"],
            broke["place"],
        )
        whole_line = np.concatenate([np.reshape(one, (-1, 2)) for one in broke["points"]])
        left = np.concatenate([np.reshape(one, (-1, 2)) for one in rest["points"]])
        along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(whole_line, axis=0).T))])
        needle = [np.interp(broke["sewn_mm"], along, whole_line[:, axis]) for axis in (0, 1)]
        assert np.hypot(*(left[0] - needle)) < 1.0, "it is begun where the thread broke"
        assert np.hypot(*(left[-1] - whole_line[-1])) < 1.0, "and sewn to the end that was left"
        if "quilt’s edge, and stop" in rest["text"]:
            assert min(np.abs(left[-1]).min(), np.abs(left[-1] - size).min()) < 1.0
        assert "sewn already" not in rest["text"]
        if (
            rest["legs_text"]
            and "pivot" in " ".join(rest["legs_text"])
            and "legs of" not in rest["legs_text"][0]
        ):
            long = np.hypot(*np.diff(left, axis=0).T).sum()
            assert sum(inches(rest["legs_text"])) * IN == pytest.approx(long, abs=len(rest["legs_text"]))
        turns = sum(leg["pivot_degrees"] != 0 for leg in rest["placement"]["legs"] if "pivot_degrees" in leg)
        assert turns <= max(len(left) - 2, 0)
        seen += 1
    assert seen
