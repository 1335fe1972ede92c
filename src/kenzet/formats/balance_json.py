"""The balance of a quilt as JSON values: part of what ``kenzet plan`` prints. Described in docs/plan-format.md."""

from __future__ import annotations

from typing import Any

from kenzet.core.balance.threads import difference
from kenzet.core.balance.weigh import weigh
from kenzet.core.numbers.measure import INCH
from kenzet.core.top.quilt_layout import QuiltLayout


def balance_json(laid: QuiltLayout) -> dict[str, Any]:
    """Density, gaps, contrast and thread."""
    found, quilt = weigh(laid), laid.quilt
    standing = {one.key: one for one in found.standings}
    seen = {one.key: one for one in found.seen}
    thread = quilt.kit.thread.colour
    return {
        "mean_in_per_sq_in": round(found.spread.mean * INCH, 4),
        "spread_of_mean": round(found.spread.share, 4),
        "batting_allows_mm": round(float(quilt.kit.batting.limit.mm), 4),
        "zones": {
            one.key: {
                "in_per_sq_in": round(one.density * INCH, 4),
                "hand": one.hand,
                "area_sq_in": round(one.area / INCH**2, 3),
                "rise_of_loft": round(standing[one.key].rise, 4),
                "puffy_share": round(standing[one.key].puffy, 4),
                "lies_flat": standing[one.key].flat,
                "draws_the_eye": round(seen[one.key].weight, 4),
                "busy_share": round(found.busy[one.key], 4),
                "minutes_at_needle": round(found.asked[one.key].minutes, 2)
                if one.key in found.asked
                else 0.0,
            }
            for one in found.densities
            if one.key in standing
        },
        "gaps": [
            {
                "zone": gap.zone or None,
                "place": gap.place,
                "width_mm": round(gap.width, 3),
                "at_mm": [round(v, 3) for v in gap.at],
                "filled": gap.filled,
                "places": gap.places,
                "lines_left_out": gap.left_out,
            }
            for gap in found.gaps
        ],
        "beside": [
            {"dense": pair.dense, "loose": pair.loose, "ratio": pair.ratio and round(pair.ratio, 4)}
            for pair in found.pairs
        ],
        "fills": [
            {
                "label": one.label,
                "places": one.places,
                "area_sq_in": round(one.area / INCH**2, 3),
                "off_center": [round(v, 4) for v in one.off],
            }
            for one in found.accents
        ],
        "thread": {
            "color": thread,
            "ciede2000": {
                key: round(difference(thread, fabric.colour), 3) for key, fabric in quilt.fabrics.items()
            },
        },
    }
