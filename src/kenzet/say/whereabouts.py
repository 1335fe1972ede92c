"""Places in words: places of the quilt, corners, directions."""

from __future__ import annotations

import math

import numpy as np

from kenzet.core.geom.affine import Placing, place, place_all
from kenzet.core.geom.region import Floats, Point
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import BORDER, SASHING, TOP, Zone
from kenzet.texts import tr


def occurs(laid: QuiltLayout, zone: Zone, plan: ZonePlan | None) -> str:
    """How many times a zone is in the quilt, in words, and in how many blocks its drawing is the same."""
    if zone.part == TOP:
        return tr("{patches} patches, across the quilt", patches=len(zone.patches))
    if zone.part == SASHING:
        return (
            tr("between all blocks")
            if _is_whole(laid, zone)
            else tr("{patches} of the sashes", patches=len(zone.patches))
        )
    if zone.part.startswith(BORDER):
        return (
            tr("one piece, all round")
            if _is_whole(laid, zone)
            else tr("{patches} of its pieces", patches=len(zone.patches))
        )
    many = tr("{patches} patches", patches=len(zone.patches)) if len(zone.patches) > 1 else tr("one patch")
    if zone.slices:
        pieces = len(zone.slices[-1].inside)
        many = tr("a piece") if pieces == 1 else tr("{pieces} pieces", pieces=pieces)
    times = len(laid.places(zone)) if laid.is_laid(zone) else 0
    if times == 0:
        return tr("{many}; this block is not in the quilt yet", many=many)
    if times == 1:
        return tr("{many}, in one block", many=many)
    within = tr(" in this block") if zone.part in laid.quilt.blocks else ""
    drawings = [one for one in plan.drawings if one.layer == 0] if plan else []
    alike = [len(one.places) for one in drawings or laid.shapes(zone)] or [times]
    same = (
        tr("identical in all {times}", times=times)
        if len(alike) == 1
        else tr("the same in {times} of {times2}", times=max(alike), times2=sum(alike))
    )
    return f"{many}{within} · {same}"


def _is_whole(laid: QuiltLayout, zone: Zone) -> bool:
    return len(zone.patches) == len(laid.quilt.part_patches[zone.part]) and not zone.slices


def place_name(place: str) -> str:
    """
    >>> place_name("2-3"), place_name("side-4"), place_name("border-1")
    ('row 2, block 3', 'side 4', 'border 1')
    """
    row, _, column = place.partition("-")
    return tr("row {row}, block {column}", row=row, column=column) if row.isdigit() else _part_name(place)


def _part_name(place: str) -> str:
    """The name of a part that is not a block, from its key."""
    part, _, number = place.partition("-")
    names = {
        "border": tr("border {number}", number=number), "side": tr("side {number}", number=number), "corner": tr("corner {number}", number=number),
        "top": tr("top"), "sashing": tr("sashing"), "cornerstone": tr("cornerstone {number}", number=number),
    }  # fmt: skip
    return names.get(part, place.replace("-", " "))


def placed(part: str, place: str, which: str = "") -> str:
    """
    >>> placed("Star", "2-3", " 1 of 12"), placed("Border", "border-1"), placed("Whole top", "top")
    ('Star 1 of 12, row 2, block 3', 'Border 1', 'Whole top')
    """
    if place == TOP:
        return part
    words = place_name(place)
    return words[:1].upper() + words[1:] if words.startswith(part.lower()) else f"{part}{which}, {words}"


def corner_words(one: UnitRoute, point: Point, placing: Placing) -> str:
    """Where ``point`` (of the part) lies in the unit as ``placing`` puts it, in words."""
    part = one.unit.part
    outline = place_all(placing, np.array([(x, y) for x in (0.0, part.width) for y in (0.0, part.height)]))
    low_left = outline.min(axis=0)
    x, y = ((np.array(place(placing, point)) - low_left) / (outline.max(axis=0) - low_left)).tolist()
    left, low, middle = x < 1 / 3, y < 1 / 3, 1 / 3 <= x <= 2 / 3
    across = "" if middle else tr("left") if left else tr("right")
    up = tr("lower") if low else tr("upper") if y > 2 / 3 else ""
    if not across and not up:
        return tr("in the middle")
    if not across:
        return tr("at the {which}, in the middle", which=tr("bottom") if low else tr("top"))
    return (
        tr("at the {up} {across}", up=up, across=across)
        if up
        else tr("at the {across}, half-way up", across=across)
    )


_WAYS = (
    tr("to the right"), tr("up to the right"), tr("up"), tr("up to the left"),
    tr("to the left"), tr("down to the left"), tr("down"), tr("down to the right"),
)  # fmt: skip


def way_to(start: Point | Floats, end: Point | Floats) -> str:
    """The direction, as the quilt appears on the screen.

    >>> way_to((0, 0), (0, 5)), way_to((0, 0), (3, -3)), way_to((0, 0), (-9, 1))
    ('up', 'down to the right', 'to the left')
    """
    turn = math.atan2(float(end[1] - start[1]), float(end[0] - start[0]))
    return _WAYS[round(turn / (math.pi / 4)) % 8]


CORNERS = (tr("lower left"), tr("lower right"), tr("upper right"), tr("upper left"))
"""In the order of ``corners_of``."""
