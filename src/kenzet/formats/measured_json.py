"""The measurements of a sewn block as JSON: figures in mm and degrees, points in the frame (x right, y up from its
lower left corner)."""

from __future__ import annotations

import math
from typing import Any

from kenzet.core.inspect.judge import Judged, SetFigures
from kenzet.core.inspect.measure import Measured

_DIGITS = 3


def measured_json(found: Measured) -> dict[str, Any]:
    """All measurements; for a side that was not seen, only the reason."""
    said = found.report
    return {
        "place": found.frame.place,
        "width": round(found.frame.width, _DIGITS),
        "height": round(found.frame.height, _DIGITS),
        "bend": round(found.view.bend, 4),
        "verdict": said.verdict,
        "seen": len(said.seen),
        "of": len(said.judged),
        "sides": [_side(one) for one in said.judged],
        "sets": [_set(one) for one in said.sets],
        "points_missed": [
            {"at": _point(one.at), "by": round(one.by, _DIGITS), "zone": one.zone, "line": one.line}
            for one in said.missed
        ],
        "widest_gaps": [
            {
                "zone": one.zone,
                "planned": round(one.planned, 2),
                "sewn": round(one.sewn, 2),
                "at": _point(one.at),
            }
            for one in said.gaps
        ],
    }


def _side(one: Judged) -> dict[str, Any]:
    side, finding = one.finding.side, one.finding
    who = {
        "zone": side.zone, "drawing": side.word, "line": side.line, "side": side.number,
        "from": _point(side.path[0].tolist()), "to": _point(side.path[-1].tolist()), "length": round(side.length, _DIGITS),
    }  # fmt: skip
    if finding.unseen:
        return {**who, "seen": False, "why": finding.unseen}
    return {
        **who,
        "seen": True,
        "offset": round(finding.offset, _DIGITS),
        "angle": round(math.degrees(math.atan2(finding.tilt, side.length)), _DIGITS),
        "straightness": round(finding.straight, _DIGITS),
        "sure": round(finding.sure, 1),
        "gap_out": None if one.gap is None else round(one.gap, _DIGITS),
        "truth": one.truth,
        "verdict": one.verdict,
        "seen_from": round(one.seen_from),
    }


def _set(one: SetFigures) -> dict[str, Any]:
    named = {
        "zone": one.zone, "drawing": one.word, "set": one.family, "lines": one.many, "seen": one.seen,
        "spacing_planned": one.planned, "spacing": one.spacing, "spread": one.spread, "worst_gap": one.worst_gap,
        "drift": one.drift, "drift_per_line": one.per_line, "mean": one.mean, "scatter": one.scatter,
    }  # fmt: skip
    return {name: round(value, 4) if isinstance(value, float) else value for name, value in named.items()}


def _point(at: Any) -> list[float]:
    x, y = at
    return [round(x, 2), round(y, 2)]
