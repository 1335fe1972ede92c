"""Ticks and strokes as tables, to be read beside a tape measure."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Sequence

from kenzet.core.geom.arcs import Arc
from kenzet.core.marks.sheet import MarkSheet
from kenzet.core.numbers.measure import MM_PER, Unit, figure


def ticks_csv(sheet: MarkSheet, unit: Unit) -> bytes:
    """For each tick, counted from the left or upper corner of its edge: its exact place, the figure to mark, and
    the error of that figure."""
    per = float(MM_PER[unit])
    rows = [
        [
            edge.name,
            number,
            f"{float(tick.at) / per:.4f}",
            figure(tick.drawn, unit).text,
            f"{float(tick.error) / per:.4f}",
        ]
        for edge in sheet.ticked
        for number, tick in enumerate(edge.ticks, 1)
    ]
    return _table(["edge", "tick", f"at ({unit})", "lay off", f"out by ({unit})"], rows)


def strokes_csv(sheet: MarkSheet, unit: Unit) -> bytes:
    """Every corner of each stroke in order, from the sheet's lower left corner, and the distance to the next. For
    a curve its ends and the rise of the arc between them, positive to the left."""
    per = float(MM_PER[unit])
    left, low, _, _ = sheet.bounds
    rows = []
    for number, line in enumerate(sheet.arcs, 1):
        points = line[:, :2].tolist()
        for k, ((x, y), row) in enumerate(zip(points, line.tolist(), strict=True), 1):
            last = k == len(points)
            far = 0.0 if last else math.dist(points[k - 1], points[k])
            rise = 0.0 if last else row[2] * far / 2
            arc = Arc((x, y), tuple(points[k]), row[2]) if rise and not last else None
            long = arc.radius * abs(arc.angle) if arc else far
            rows.append(
                [
                    number,
                    k,
                    f"{(x - left) / per:.4f}",
                    f"{(y - low) / per:.4f}",
                    "" if last else f"{long / per:.4f}",
                    f"{rise / per:.4f}" if rise else "",
                ]
            )
    return _table(["stroke", "corner", "x", "y", f"to the next ({unit})", f"rise ({unit})"], rows)


def _table(head: list[str], rows: Sequence[Sequence[object]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    writer.writerows(rows)
    return out.getvalue().encode("utf-8")
