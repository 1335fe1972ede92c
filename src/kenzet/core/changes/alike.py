"""Copies one zone's fill to other zones of the same outline, rotated and mirrored to match."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field

from kenzet.core.changes.base import Change
from kenzet.core.changes.filling import with_fill
from kenzet.core.errors import BadValue
from kenzet.core.fills import AnyFill
from kenzet.core.geom.affine import Placing, place_all
from kenzet.core.geom.congruent import outline_of, placing_onto
from kenzet.core.geom.region import Point, Region
from kenzet.core.top.blocks import Key
from kenzet.core.top.document import Quilt
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr


class FillAlike(Change):
    """Zones of the same outline get the fill of ``zone``; origin corner, edge and angle are carried over to each."""

    kind: Literal["fill alike"] = "fill alike"
    zone: Key
    others: Annotated[tuple[Key, ...], Field(min_length=1, max_length=400)]

    def apply(self, laid: QuiltLayout) -> tuple[Quilt, str]:
        """Raises BadValue for a zone of another outline, or if ``zone`` has no fill."""
        zone, quilt = laid.zone(self.zone), laid.quilt
        if zone.fill is None:
            raise BadValue(tr("This zone has no fill to give to others."), "zone")
        for key in self.others:
            placing = placing_between(laid, self.zone, key)
            if placing is None:
                raise BadValue(tr("“{name}” has another outline.", name=laid.zone(key).name), "others")
            one, other = (laid.shapes(laid.zone(k))[0].uncut for k in (self.zone, key))
            quilt = with_fill(quilt, key, turned_fill(zone.fill, one, other, placing), "")
        return quilt, tr("{label} in {others} more zones", label=zone.fill.label, others=len(self.others))


def alike(laid: QuiltLayout, key: str) -> list[str]:
    """The other zones of its part whose outline equals that of zone ``key``, rotated or mirrored."""
    zone = laid.zone(key)
    return [
        other
        for other, one in laid.quilt.zones.items()
        if other != key and one.part == zone.part and placing_between(laid, key, other) is not None
    ]


def placing_between(laid: QuiltLayout, one: str, other: str) -> Placing | None:
    """The rotation, mirror and shift that maps the outline of one zone onto that of another; None if there is
    none."""
    outlines = []
    for key in (one, other):
        zone = laid.zone(key)
        shapes = laid.shapes(zone) if laid.is_laid(zone) else ()
        outlines.append(outline_of(shapes[0].uncut.area) if shapes else None)
    mine, its = outlines
    return None if mine is None or its is None else placing_onto(mine, its)


def turned_fill(fill: AnyFill, one: Region, other: Region, placing: Placing) -> AnyFill:
    """``fill`` of region ``one``, adapted to ``other``, onto which ``placing`` maps it: with its corner, edge,
    point and angle."""
    values = fill.model_dump()
    new: dict[str, Any] = {}
    picks = {values.get("origin"), values.get("about"), values.get("base")}
    at = values.get("at")
    if isinstance(at, int):
        corner = "corner" in picks
        new["at"] = (
            _same(one.corners, other.corners, at, placing)
            if corner
            else _same(_middles(one), _middles(other), at, placing)
        )
    if isinstance(values.get("along"), int):
        new["along"] = _same(_middles(one), _middles(other), values["along"], placing)
    else:
        for name in ("angle", "second_angle", "lean"):
            if isinstance(values.get(name), int | float) and not (
                name == "second_angle" and values.get("crossed_from") == "first set"
            ):
                new[name] = _leaning(float(values[name]), placing)
    if values.get("crossed_from") == "first set" and _mirrors(placing):
        new["second_angle"] = -float(values["second_angle"]) % 180
    through = values.get("through")
    if isinstance(through, Sequence) and len(through) == 2:
        left, low, right, high = one.bounds
        x, y = _placed(placing, (left + through[0] * (right - left), low + through[1] * (high - low)))
        left, low, right, high = other.bounds
        new["through"] = (round((x - left) / (right - left), 9), round((y - low) / (high - low), 9))
    return fill.model_copy(update=new)


def _mirrors(placing: Placing) -> bool:
    a, b, c, d, _, _ = placing
    return a * d - b * c < 0


def _middles(region: Region) -> list[Point]:
    return [edge.at(edge.length / 2) for edge in region.edges]


def _same(mine: Sequence[Point], its: Sequence[Point], number: int, placing: Placing) -> int:
    """The index among ``its`` of the element that corresponds to ``number`` among ``mine``."""
    if not 0 <= number < len(mine) or not its:
        return number
    at = _placed(placing, mine[number])
    return min(range(len(its)), key=lambda k: math.dist(its[k], at))


def _placed(placing: Placing, point: Point) -> Point:
    x, y = place_all(placing, np.array([point]))[0].tolist()
    return x, y


def _leaning(degrees: float, placing: Placing) -> float:
    a, b, c, d, _, _ = placing
    ux, uy = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return round(math.degrees(math.atan2(b * ux + d * uy, a * ux + c * uy)) % 180, 6)
