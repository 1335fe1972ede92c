"""What lines are laid from, worked out for whole families against the plain way, line by line."""

from __future__ import annotations

from fractions import Fraction as F

import numpy as np
import pytest

from kenzet.core.geom.clip import Straight
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.machine import Machine
from kenzet.core.ruler.line_references import KINDS, LINE, MARK, SEAM, References
from kenzet.core.ruler.offset_sums import best_offset_sum
from tests.core.ruler.test_pose import inch, laid
from tests.shapes import REGIONS

FAMILIES = {
    "even": Straight(0, inch("3/4"), 3.0),
    "slanted": Straight(120, inch("3/4"), 0.0),
    "pairs": Straight(90, inch("1"), 0.0, offsets=(F(0), inch("1/4"))),
    "cannot be laid": Straight(45, inch("5/8"), 1.0),
}


@pytest.mark.parametrize("throat", ["right", "left"])
@pytest.mark.parametrize("name", REGIONS)
@pytest.mark.parametrize("family", FAMILIES.values(), ids=FAMILIES)
def test_every_line_is_laid_on_the_one_beside_most_of_it(name, family, throat):
    kit = Kit().changed(machine=Machine(throat=throat))
    found, refs = laid(REGIONS[name], family, kit)
    spans = found.ends.reshape(-1, 2, 2) @ np.array(family.direction)
    for number in refs:
        ref = refs[number]
        near = [
            (min(spans[number, 1], spans[k, 1]) - max(spans[number, 0], spans[k, 0]), k)
            for k in range(len(found))
            if found.job[k] == found.job[number] and found.line[k] == found.line[number] - ref.way
        ]
        most = max((shared for shared, _ in near), default=-1.0)
        if ref.kind == "line":
            assert {k: shared for shared, k in near}[ref.line] == pytest.approx(most)
            assert best_offset_sum(kit, ref.distance).can_be_laid
            gap = family.at(int(found.line[number])) - family.at(int(found.line[ref.line]))
            assert abs(gap) == ref.distance
        elif ref.kind == "seam":
            edges = REGIONS[name].pieces[int(found.job[number])].edges
            place = family.place(int(found.line[number]))
            away = [abs(place - float(np.dot(e.start, family.normal))) for e in edges]
            assert min(abs(a - float(ref.distance)) for a in away) < 1e-5
        else:
            assert ref.distance == 0


def test_runs_count_the_lines_that_hang_on_one_another():
    refs = References.empty(6)
    refs.kinds[:] = [SEAM, LINE, LINE, MARK, LINE, LINE]
    refs.before[:] = [-1, 0, 1, -1, 3, -1]  # the last is laid on a ring that has no number
    assert refs.runs.tolist() == [0, 1, 2, 0, 1, 0]
    assert refs.marked == [3]
    assert [refs[k].kind for k in refs] == [KINDS[k] for k in refs.kinds]
    assert 6 not in refs


@pytest.mark.parametrize("throat", ["right", "left"])
def test_a80_lines_go_on_away_from_the_side_where_the_ruler_lies(throat):
    _, refs = laid(
        REGIONS["square"], Straight(90, inch("3/4"), 0.0), Kit().changed(machine=Machine(throat=throat))
    )
    nx = Straight(90, inch("3/4"), 0.0).normal[0]
    assert {ref.way * nx > 0 for ref in refs.values()} == {throat == "right"}
