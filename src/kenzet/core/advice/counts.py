"""Counts for a quilter: whole and cut rows; whole cells of a grid and parts of cells."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Mapping
from dataclasses import dataclass

from kenzet.core.geom.cells import cells_of as cells_left
from kenzet.core.memo import Table
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan

_MOST_LINES = 250  # of a grid whose cells are counted
_NEARLY = 0.02  # of a whole cell
_SLIVER = 2e-3  # of a whole cell: what rounding leaves
_PARTS = {"whole": 1.0, "half": 0.5, "quarter": 0.25}

CELLS = Table[tuple[ZonePlan, int], Mapping[str, int]]("cells of grids by plan and drawing", 500)


@dataclass(frozen=True, slots=True)
class RowCount:
    """``rows`` of a fill, how many of them are ``cut`` into several pieces, and the total number of ``pieces``."""

    rows: int
    cut: int
    pieces: int


def rows_of(drawing: Drawing) -> RowCount:
    """The rows that a fill repeats, each counted once however often the zone's outline cuts it.

    A ring is one row; a straight line cut in two is one row.
    """
    found: dict[tuple[int, int, int], list[float]] = defaultdict(list)
    many = max(len(drawing.straight), 1)
    for job, line, length in zip(
        drawing.stretches.job.tolist(),
        drawing.stretches.line.tolist(),
        drawing.stretches.lengths.tolist(),
        strict=True,
    ):
        found[-1 - job % many, job // many, line].append(length)
    counted = drawing.fill.counted_families
    for trace in drawing.traces:
        if counted is None or trace.family in counted:
            found[trace.family, 0, trace.line].append(trace.length)
    cut = [key for key in found if key[0] >= 0 and len(found[key]) > 1]
    return RowCount(len(found), len(cut), drawing.lines)


def cells_of(plan: ZonePlan, drawing: Drawing) -> Mapping[str, int]:
    """The number of cells of a grid by kind: "whole", "half", "quarter", "other"; empty for fills that are not a
    grid of two sets of lines."""
    if len(drawing.straight) != 2 or drawing.traces or drawing.lines > _MOST_LINES or not drawing.lines:
        return {}
    return plan.memo.once(CELLS, (plan, plan.number_of(drawing)), lambda: _cells(drawing))


def _cells(drawing: Drawing) -> Mapping[str, int]:
    one, other = drawing.straight
    if len(set(one.gaps)) > 1 or len(set(other.gaps)) > 1:
        return {}
    turned = math.sin(math.radians(one.angle - other.angle))
    cell = abs(float(one.pitch) * float(other.pitch) / turned)
    cells = cells_left(drawing.region, drawing.polylines)
    found: Counter[str] = Counter()
    for share in (piece.area / cell for piece in cells if piece.area > _SLIVER * cell):
        name = next((name for name, part in _PARTS.items() if abs(share - part) < _NEARLY), "other")
        found[name] += 1
    return found
