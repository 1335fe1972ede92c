"""Totals of a quilt's plans: stitching, lines, marks and the time to make them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from kenzet.core.kit.things.supplies import Marker
from kenzet.core.marks.marking import marks_of
from kenzet.core.marks.tools import choices, fabrics_of
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.document import Quilt


@dataclass(frozen=True, slots=True)
class Totals:
    """For the whole quilt: mm ``stitched``, ``lines`` to sew, ``marks`` to make and the ``seconds`` for them."""

    stitched: float
    lines: int
    marks: int
    seconds: float


def totals_of(plans: Iterable[ZonePlan]) -> Totals:
    """The totals of ``plans``, each drawing counted once for every place."""
    plans = list(plans)
    marked = [(marks_of(plan, drawing), len(drawing.places)) for plan in plans for drawing in plan.drawings]
    return Totals(
        sum(plan.stitched_in_quilt for plan in plans),
        sum(plan.lines_to_sew for plan in plans),
        sum(marks.count * many for marks, many in marked),
        sum(marks.seconds * many for marks, many in marked),
    )


def together(parts: Iterable[Totals]) -> Totals:
    """The sum of several totals."""
    parts = list(parts)
    return Totals(
        sum(one.stitched for one in parts),
        sum(one.lines for one in parts),
        sum(one.marks for one in parts),
        sum(one.seconds for one in parts),
    )


@dataclass(frozen=True, slots=True)
class ToDraw:
    """Everything to be marked before the first stitch, counted by kind, the ``seconds`` it takes, and the
    ``markers`` used."""

    counts: Counter[str]
    seconds: float
    markers: tuple[Marker, ...]


def to_draw(quilt: Quilt, plans: Iterable[ZonePlan]) -> ToDraw:
    """Counts of strokes, ticks, dots, signs and placements of tape or stencil; the markers are those chosen, else
    the first that shows."""
    counts: Counter[str] = Counter()
    seconds, markers = 0.0, {}
    for plan in plans:
        for drawing in plan.drawings:
            marks = marks_of(plan, drawing)
            if not marks.seconds:
                continue
            here = {
                "stroke": marks.drawn,
                "tick": marks.ticks,
                "dot": len(marks.dots),
                "sign": len(marks.signs),
                "placing": marks.laid_down,
            }
            for what, many in here.items():
                counts[what] += many * len(drawing.places)
            seconds += marks.seconds * len(drawing.places)
            offered = {one.key: one for one in choices(quilt.kit.tools, fabrics_of(quilt, drawing))}
            chosen = offered.get(plan.zone.mark_with or "") or next(iter(offered.values()), None)
            if chosen and marks.method != "tape":
                markers[chosen.key] = chosen.marker
    return ToDraw(counts, seconds, tuple(markers.values()))
