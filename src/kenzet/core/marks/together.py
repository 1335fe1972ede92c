"""All zones of a block at one of its places, for one sheet."""

from __future__ import annotations

from kenzet.core.errors import BadValue
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr


def together(laid: QuiltLayout, key: str, place: str) -> list[tuple[ZonePlan, Drawing]]:
    """The plans and drawings of every zone of the part that zone ``key`` belongs to, at ``place`` (or where the
    zone is most often). Raises BadValue if none of them has a fill."""
    zone = laid.zone(key)
    shapes = laid.shapes(zone)
    at = place or (shapes[0].places[0] if shapes else "")
    found = []
    for other_key, other in laid.quilt.zones.items():
        plan = plan_zone(laid, other_key) if other.part == zone.part else None
        found += [(plan, drawing) for drawing in plan.drawings if at in drawing.places] if plan else []
    if not found:
        raise BadValue(tr("No zone of this block has a fill here."), "zone")
    return found
