"""What a drawing was sewn with according to its plan at that time: foot, rulers, etched lines, thread."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field

from kenzet.core.fills import Fill
from kenzet.core.kit.kit import Kit
from kenzet.core.placing.place_line import planned
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.turns import corners_along
from kenzet.core.route.unit import Technique
from kenzet.core.top.quilt_layout import QuiltLayout


@dataclass(frozen=True, eq=False)
class SewnWith:
    """``ways`` counts how lines are placed (``Placement.by``), ``etched`` which etched line of which ruler is used
    (exact mm; 0 is the edge). ``corners`` are the places (mm) along each line, by number, where the quilt is
    turned."""

    zone: str
    fill: Fill
    kit: Kit
    ways: Counter[str]
    etched: Counter[tuple[str, object]]
    corners: Mapping[int, tuple[float, ...]] = field(default_factory=dict)

    @property
    def technique(self) -> Technique:
        """The technique of most of its lines."""
        if self.ways["freehand"]:
            return "freehand"
        if self.kit.sew_with == "walking foot":
            return "walking"
        return (
            "curved"
            if 2 * sum(self.ways[by] for by in ("curve", "template")) > self.ways.total()
            else "straight"
        )


def sewn_with(laid: QuiltLayout, word: str) -> SewnWith | None:
    """For the drawing named ``word`` at the machine, as planned in ``laid``; None if that plan has no such
    drawing."""
    zone, layer, letters = word.split(".")
    plan = plan_zone(laid, zone) if zone in laid.quilt.zones else None
    for drawing in plan.drawings if plan else ():
        if (str(drawing.layer), drawing.word) == (layer, letters):
            assert plan is not None
            return _of(plan, drawing, laid.quilt.zones[zone].name)
    return None


def _of(plan: ZonePlan, drawing: Drawing, name: str) -> SewnWith:
    ways: Counter[str] = Counter()
    etched: Counter[tuple[str, object]] = Counter()
    if drawing.fill.claimed_density is not None:
        return SewnWith(name, drawing.fill, plan.kit, Counter(freehand=1), etched)
    for line in range(drawing.lines):
        on = planned(plan, drawing, line)
        ways[on.by] += 1
        if on.total is not None and on.total.etched is not None and on.total.ruler:
            etched[on.total.ruler, on.total.etched] += 1
    corners = {line: found for line, path in enumerate(drawing.polylines) if (found := corners_along(path))}
    return SewnWith(name, drawing.fill, plan.kit, ways, etched, corners)
