"""The whole plan as JSON values: what ``kenzet plan`` prints. Described in docs/plan-format.md."""

from __future__ import annotations

from dataclasses import asdict
from fractions import Fraction
from typing import Any

import numpy as np

from kenzet.core.marks.marking import marks_of
from kenzet.core.numbers.measure import MM_PER, Length
from kenzet.core.placing.line_order import line_order
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.line_references import Reference
from kenzet.core.ruler.offset_sums import OffsetSum
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.balance_json import balance_json
from kenzet.formats.placing_json import placement_json


def plan_json(laid: QuiltLayout) -> dict[str, Any]:
    """Zones, lines with coordinates (mm, of the part, y up), placements, ticks and totals."""
    plans = plan_quilt(laid)
    zones = {
        key: _zone(plans[key]) if key in plans else {"name": zone.name, "open": True}
        for key, zone in laid.quilt.zones.items()
    }
    return {
        "format": "kenzet.reckoned",
        "version": 1,
        "quilt": laid.quilt.name,
        "size_mm": [round(laid.top.width, 4), round(laid.top.height, 4)],
        "zones": zones,
        "totals": {
            "lines": sum(plan.lines_in_quilt for plan in plans.values()),
            "stitched_mm": round(sum(plan.stitched_in_quilt for plan in plans.values()), 3),
        },
        "balance": balance_json(laid),
    }


def _zone(plan: ZonePlan) -> dict[str, Any]:
    return {
        "name": plan.zone.name,
        "part": plan.zone.part,
        "lines_in_quilt": plan.lines_in_quilt,
        "stitched_in_quilt_mm": round(plan.stitched_in_quilt, 3),
        "drawings": [_drawing(plan, drawing) for drawing in plan.drawings],
    }


def _drawing(plan: ZonePlan, drawing: Drawing) -> dict[str, Any]:
    references = plan.references(drawing)
    marks = marks_of(plan, drawing)
    marked = set(marks.lines)
    order = line_order(plan, drawing)
    return {
        "fill": drawing.fill.model_dump(mode="json"),
        "layer": drawing.layer,
        "word": drawing.word,
        "marked_by": marks.method,
        "sum": _sum(plan.sum(drawing)),
        "placings": {
            place: [round(v, 4) for v in drawing.shape.part.places[place]] for place in drawing.places
        },
        "stitched_mm": round(drawing.stitched, 3),
        "widest_gap_mm": round(plan.widest_gap(drawing).width, 3),
        "lines": [
            {
                **line,
                "marked": number in marked,
                "laid": _reference(references[number]),
                "placement": placement_json(plan, drawing, planned(plan, drawing, number))
                if drawing.fill.sewn
                else None,
                "rests_on": [list(way) for way in order.rests_on[number]],
                "turn": order.turns[number],
            }
            for number, line in enumerate([*_stretches(drawing), *_traces(drawing)])
        ],
        "ticks": [_ticked(edge) for edge in plan.ticked(drawing)],
    }


def _stretches(drawing: Drawing) -> list[dict[str, Any]]:
    found = []
    for number, (line, ends, length) in enumerate(
        zip(drawing.stretches.line, drawing.stretches.ends, drawing.stretches.lengths, strict=True)
    ):
        piece, family = divmod(int(drawing.stretches.job[number]), len(drawing.straight))
        found.append(
            {
                "family": family,
                "piece": piece,
                "line": int(line),
                "points": ends.reshape(2, 2).round(4).tolist(),
                "closed": False,
                "length_mm": round(float(length), 4),
            }
        )
    return found


def _traces(drawing: Drawing) -> list[dict[str, Any]]:
    """Rings and paths; ``arcs`` has x, y and bulge of each vertex, if there are arcs."""
    found = []
    for trace in drawing.traces:
        vertices = trace.arcs
        found.append(
            {
                "family": trace.family,
                "line": trace.line,
                "points": trace.points.round(4).tolist(),
                "closed": trace.closed,
                "length_mm": round(trace.length, 4),
                **({"arcs": vertices.round(6).tolist()} if np.any(vertices[:, 2]) else {}),
            }
        )
    return found


def _reference(reference: Reference) -> dict[str, Any]:
    return {
        "on": reference.kind,
        "distance_mm": round(float(reference.distance), 4),
        "way": reference.way,
        **({} if reference.line is None else {"line": reference.line}),
        **({"angle": reference.angle} if reference.angle else {}),
    }


def _ticked(ticked: Any) -> dict[str, Any]:
    return {
        "edge": ticked.name,
        "from": [round(v, 4) for v in ticked.edge.start],
        "to": [round(v, 4) for v in ticked.edge.end],
        "ticks": [
            {
                "at_mm": round(float(tick.at), 4),
                "drawn": exact_text(tick.drawn),
                "error_mm": round(float(tick.error), 4),
            }
            for tick in ticked.ticks
        ],
    }


def _sum(total: OffsetSum) -> dict[str, Any]:
    values = asdict(total)
    values["nearest"] = [
        {"etched": exact_text(etched), "spacing": exact_text(spacing)} for etched, spacing in total.nearest
    ]
    return {key: exact_text(value) if isinstance(value, Fraction) else value for key, value in values.items()}


def exact_text(mm: Fraction) -> str:
    """An exact length as text: in inches if a ruler has the fraction, else in mm."""
    inches = mm / MM_PER["in"]
    return Length.of(inches, "in").text if 64 % inches.denominator == 0 else Length.of(mm, "mm").text
