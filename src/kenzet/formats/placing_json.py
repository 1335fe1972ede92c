"""How a line is placed as JSON values: what ``kenzet plan`` and ``kenzet steps`` print. Described in docs/plan-format.md."""

from __future__ import annotations

from typing import Any

from kenzet.core.geom.headings import heading
from kenzet.core.kit.curves import CurveFit, TemplateFit
from kenzet.core.placing.cloth import reference_points
from kenzet.core.placing.legs import Leg, hand_moves
from kenzet.core.placing.placement import Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.ruler.pose import Pose


def placement_json(plan: ZonePlan, drawing: Drawing, on: Placement) -> dict[str, Any]:
    """Everything in a placement; lengths in mm, coordinates of the part, y up."""
    return {
        "on": on.on,
        "by": on.by,
        "verdict": on.verdict,
        "foot_mm": round(float(plan.kit.foot_offset), 5),
        "distance_mm": round(float(on.distance), 5),
        "way": on.way,
        "lines_over": on.over,
        "towards": heading(*on.towards) if isinstance(on.towards, tuple) else on.towards,
        "crosses": None
        if on.crosses is None
        else {"mm": round(on.crosses[0], 4), "from_end": heading(*on.crosses[1])},
        "stepped": on.stepped,
        "slide_mm": round(on.slide, 4),
        "moved": heading(*on.onward) if isinstance(on.onward, tuple) else on.onward,
        "reference": {
            "line": on.reference if on.beyond is None else on.beyond.line,
            "drawing": None if on.beyond is None else on.beyond.word,
            "points": reference_points(plan, drawing, on).round(4).tolist(),
        },
        "angle": on.angle,
        "through_lines": list(on.through),
        "level": on.level,
        "dots": [[round(v, 4) for v in dot] for dot in on.dots],
        "under_edge_mm": [round(float(under), 5) for under in on.tilt],
        **_thing(on),
        "predicted_error_mm": round(on.error, 4),
        "check": None
        if on.check is None
        else {
            "line": on.check.line,
            "lines_back": on.check.back,
            "etched_mm": round(float(on.check.etched), 5),
        },
        "laid_down": on.lays,
        "ruler_side": ruler_side(on),
        "stops": _stops(_pose(plan, drawing, on)),
        "hand_moves_mm": [round(at, 3) for at in _moves(plan, drawing, on)],
        "legs": [_leg(leg) for leg in on.legs],
        "sides": [placement_json(plan, drawing, side) for side in on.sides],
        "marked": on.on == "mark",
    }


def _thing(on: Placement) -> dict[str, Any]:
    """The ruler or template, and which etched line of it lies on the reference."""
    total = on.total
    fits = [_fit(fit) for fit in on.fits]
    if total is None:
        return {
            "thing": next((fit["thing"] for fit in fits if fit), ""),
            "etched_mm": None,
            "behind_mm": 0.0,
            "out_mm": 0.0,
            "fits": fits,
        }
    return {
        "thing": total.gauge or total.ruler,
        "etched_mm": None if total.etched is None else round(float(total.etched), 5),
        "behind_mm": round(float(total.behind), 5),
        "out_mm": round(float(total.off), 5),
        "fits": fits,
    }


def _fit(fit: CurveFit | TemplateFit | None) -> dict[str, Any] | None:
    if fit is None:
        return None
    if isinstance(fit, CurveFit):
        return {
            "thing": fit.ruler,
            "edge": fit.edge.side,
            "verdict": fit.verdict,
            "stray_mm": round(fit.stray, 4),
        }
    return {
        "thing": fit.ruler, "edge": "template", "verdict": fit.verdict,
        "longer_mm": round(fit.longer, 4), "higher_mm": round(fit.higher, 4),
    }  # fmt: skip


def ruler_side(on: Placement) -> str:
    """The side of the line, in its drawn direction, on which the ruler is (that of its first curve)."""
    if on.by == "curve" and on.on in ("seam", "line", "last", "drawn") and not on.stepped:
        over = next((over for over, fit in zip(on.over_line, on.fits, strict=True) if fit), False)
        return "left" if (on.way < 0) != over else "right"
    if on.by not in ("etched line", "edge behind", "angle", "two points", "gauge"):
        return ""
    return "left" if on.way < 0 else "right"


def _pose(plan: ZonePlan, drawing: Drawing, on: Placement) -> Pose | None:
    straight = on.by in ("etched line", "edge behind", "angle", "two points")
    if not straight or drawing.trace(on.line) is not None:
        return None
    return plan.pose_from(drawing, on.line, on.distance, on.way)[0]


def _stops(pose: Pose | None) -> list[dict[str, Any]]:
    if pose is None:
        return []
    return [
        {
            "needle": [round(v, 4) for v in stop.needle],
            "edge": [round(v, 4) for v in stop.edge],
            "along_seam_mm": None if stop.along is None else round(stop.along, 4),
        }
        for stop in pose.stops
    ]


def _moves(plan: ZonePlan, drawing: Drawing, on: Placement) -> list[float]:
    if on.by in ("follow", "eye", "freehand", "ditch", "tape", "gauge", "rim"):
        return []
    crossings = plan.crossings(drawing, on.line) if drawing.trace(on.line) is None else []
    return hand_moves(
        drawing, on.line, crossings, float(plan.kit.hand.mm), 0.0, drawing.length_of(on.line), False
    )


def _leg(leg: Leg) -> dict[str, Any]:
    return {
        "start": [round(v, 4) for v in leg.start],
        "end": [round(v, 4) for v in leg.end],
        "length_mm": round(leg.length, 4),
        **({"radius_mm": round(leg.arc.radius, 4), "bulge": round(leg.arc.bulge, 6)} if leg.arc else {}),
        "pivot_degrees": leg.turn,
    }
