"""Contrast: how densely a zone is quilted compared with its neighbors, and fills used only once (F13)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from shapely.affinity import affine_transform
from shapely.geometry.base import BaseGeometry

from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout, ZoneShape

READS = 2.0
"""Density ratio from which flat and puffy zones contrast clearly (our choice)."""
FEW = 6
"""Quilts with fewer filled places than this get no advice about a fill used only once (our choice)."""
_TOUCH = 0.5  # mm


@dataclass(frozen=True, slots=True)
class Beside:
    """A neighboring zone: its name, and the ratio of the greater to the smaller density; None if the neighbor is
    not quilted."""

    name: str
    ratio: float | None

    @property
    def reads(self) -> bool:
        """Whether the contrast between the two is clear."""
        return self.ratio is None or self.ratio >= READS


def ratio(one: float, other: float) -> float | None:
    """The greater density divided by the smaller; None if only one of the two is quilted at all.

    >>> round(ratio(3.2, 2.4), 2), ratio(0.0, 2.0), ratio(2.0, 2.0)
    (1.33, None, 1.0)
    """
    low, high = sorted((one, other))
    if low <= 0:
        return None if high > 0 else 1.0
    return high / low


def neighbours(laid: QuiltLayout, plans: Mapping[str, ZonePlan], key: str, place: str) -> list[Beside]:
    """The zones that touch zone ``key`` at ``place``, each with its contrast; also those without quilting."""
    zone = laid.zone(key)
    here = laid.shape_at(zone, place)
    if here is None:
        return []
    mine = density_at(plans, key, place)
    area = _in_quilt(here, place)
    found = []
    for other_key, other in laid.quilt.zones.items():
        if other_key == key or not laid.is_laid(other) or not (other.fill or other.left_open):
            continue
        for shape in laid.shapes(other):
            near = (
                place
                if place in shape.places
                else next((p for p in shape.places if p in (other.part, "top")), None)
            )
            if near is None or _in_quilt(shape, near).distance(area) > _TOUCH:
                continue
            found.append(Beside(other.name, ratio(mine, density_at(plans, other_key, near))))
            break
    return found


def density_at(plans: Mapping[str, ZonePlan], key: str, place: str) -> float:
    """Stitched mm for each mm² of a zone at a place; 0 if it is not quilted."""
    plan = plans.get(key)
    if plan is None:
        return 0.0
    layers = [plan.layered(layer) for layer in {drawing.layer for drawing in plan.drawings}]
    drawn = [one.drawing_at(place) for one in layers if one.has_drawing_at(place)]
    area = plan.drawing_at(place).region.area.area if drawn else 1.0
    return sum(drawing.stitched for drawing in drawn) / float(area)


def stands_alone(plans: Mapping[str, ZonePlan], key: str) -> bool:
    """A84: whether the fill of zone ``key`` is used in one place only, while many other places have other fills."""
    counts: dict[type, int] = {}
    for plan in plans.values():
        for drawing in plan.drawings:
            counts[type(drawing.fill)] = counts.get(type(drawing.fill), 0) + len(drawing.places)
    mine = plans.get(key)
    if mine is None or not mine.drawings:
        return False
    return counts[type(mine.drawings[0].fill)] == 1 and sum(counts.values()) >= FEW


def _in_quilt(shape: ZoneShape, place: str) -> BaseGeometry:
    a, b, c, d, e, f = shape.part.places[place]
    return affine_transform(shape.region.area, (a, c, b, d, e, f))
