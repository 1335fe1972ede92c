"""Ticks and strokes as tables, to be read off beside a tape measure."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

import numpy as np

from kenzet.core.marks.sheet import MarkSheet
from kenzet.core.numbers.measure import MM_PER, Unit, figure


def ticks_csv(sheet: MarkSheet, unit: Unit) -> bytes:
    """Each counted from its edge's left or upper corner: where it truly is, the figure to lay off, what that is out by."""
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
    """Each stroke from where to where, counted from the sheet's lower left corner."""
    per = float(MM_PER[unit])
    left, low, _, _ = sheet.bounds
    rows = []
    for number, line in enumerate(sheet.marks, 1):
        ends = [[f"{(x - left) / per:.4f}", f"{(y - low) / per:.4f}"] for x, y in (line[0], line[-1])]
        long = float(np.hypot(*np.diff(line, axis=0).T).sum()) / per
        rows.append(
            [number, *ends[0], *ends[1], f"{long:.4f}", "straight" if len(line) == 2 else "curve or corners"]
        )
    return _table(["stroke", "from x", "from y", "to x", "to y", f"long ({unit})", "is"], rows)


def _table(head: list[str], rows: Sequence[Sequence[object]]) -> bytes:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    writer.writerows(rows)
    return out.getvalue().encode("utf-8")
