"""Where on the cloth the ruler of a placement is, and where the placement's reference is."""

from __future__ import annotations

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.placing.placement import Placement
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.lay_level import levels
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.tolerances import SAME_ANGLE, STOP_ERROR


def ruler_at(plan: ZonePlan, drawing: Drawing, placement: Placement) -> Floats:
    """The corners of the straight ruler as placed for a straight line, (4, 2) in the part; empty if no straight
    ruler is used."""
    straight = placement.by in ("etched line", "edge behind", "angle", "two points")
    if drawing.trace(placement.line) is not None or not straight or plan.kit.sew_with == "walking foot":
        return np.zeros((0, 2))
    pose, _ = plan.pose_from(drawing, placement.line, placement.distance, placement.way)
    return np.array(pose.body).reshape(-1, 2)


def reference_points(plan: ZonePlan, drawing: Drawing, placement: Placement) -> Floats:
    """The line or seam that it is placed from, (n, 2) mm in the part; empty if that is its own mark, or nothing."""
    if placement.beyond is not None:
        return plan.line_beyond(placement.beyond)
    if placement.reference is not None:
        return drawing.polylines[placement.reference]
    template = plan.own_template(drawing) if placement.level and placement.on == "seam" else None
    if template is not None:
        return levels(drawing, template)[placement.line].seam
    if placement.on != "seam" or not placement.legs or placement.legs[0].arc is not None:
        return np.zeros((0, 2))
    leg, far = placement.legs[0], float(placement.distance)
    ux, uy = (leg.end[0] - leg.start[0]) / leg.length, (leg.end[1] - leg.start[1]) / leg.length
    edges = [
        *(edge for piece in drawing.shape.uncut.pieces for edge in piece.edge_ends),
        *np.array(drawing.shape.seams).reshape(-1, 2, 2),
    ]
    best: tuple[float, Floats] | None = None
    for ends in edges:
        away = (ends - np.array(leg.start)) @ np.array([-uy, ux])
        along = (ends - np.array(leg.start)) @ np.array([ux, uy])
        shared = min(along.max(), leg.length) - max(along.min(), 0.0)
        if (
            abs(abs(away.mean()) - far) < STOP_ERROR + np.ptp(away)
            and np.ptp(away) < STOP_ERROR + 1e3 * SAME_ANGLE * np.ptp(along)
            and shared > 0
            and (best is None or shared > best[0])
        ):
            best = shared, ends
    return best[1] if best else np.zeros((0, 2))
