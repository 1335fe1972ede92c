"""Where something lies, in words: places of the quilt, corners, directions."""

from __future__ import annotations

import math

from kenzet.core.geom.region import Floats, Point
from kenzet.core.route.unit_route import UnitRoute
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import BORDER, SASHING, TOP, Zone


def occurs(laid: QuiltLayout, zone: Zone) -> str:
    """How often a zone is there, in words."""
    if zone.part == TOP:
        return f"{len(zone.patches)} patches, across the quilt"
    if zone.part == SASHING:
        return "between all blocks" if _is_whole(laid, zone) else f"{len(zone.patches)} of the sashes"
    if zone.part.startswith(BORDER):
        return "one piece, all round" if _is_whole(laid, zone) else f"{len(zone.patches)} of its pieces"
    many = f"{len(zone.patches)} patches" if len(zone.patches) > 1 else "one patch"
    if zone.slices:
        pieces = len(zone.slices[-1].inside)
        many = "a piece" if pieces == 1 else f"{pieces} pieces"
    times = len(laid.places(zone)) if laid.is_laid(zone) else 0
    if times == 0:
        return f"{many}; this block is not in the quilt yet"
    apart = sum(len(one.places) for one in zone.apart)
    if times == 1:
        return f"{many}, in one block"
    within = " in this block" if zone.part in laid.quilt.blocks else ""
    same = f"identical in all {times}" if not apart else f"the same in {times - apart} of {times}"
    return f"{many}{within} · {same}"


def _is_whole(laid: QuiltLayout, zone: Zone) -> bool:
    return len(zone.patches) == len(laid.quilt.part_patches[zone.part]) and not zone.slices


def place_name(place: str) -> str:
    """
    >>> place_name("2-3"), place_name("side-4"), place_name("border-1")
    ('row 2, block 3', 'side 4', 'border 1')
    """
    row, _, column = place.partition("-")
    return f"row {row}, block {column}" if row.isdigit() else place.replace("-", " ")


def placed(part: str, place: str, which: str = "") -> str:
    """
    >>> placed("Star", "2-3", " 1 of 12"), placed("Border", "border-1")
    ('Star 1 of 12, row 2, block 3', 'Border 1')
    """
    words = place_name(place)
    return words[:1].upper() + words[1:] if words.startswith(part.lower()) else f"{part}{which}, {words}"


def corner_words(one: UnitRoute, point: Point) -> str:
    """Whereabouts of what is sewn in one go ``point`` (of the part) lies."""
    x, y = point[0] / one.unit.part.width, point[1] / one.unit.part.height
    across = "left" if x < 1 / 3 else "right" if x > 2 / 3 else ""
    up = "lower" if y < 1 / 3 else "upper" if y > 2 / 3 else ""
    if not across and not up:
        return "in the middle"
    if not across:
        return f"at the {'bottom' if up == 'lower' else 'top'}, in the middle"
    return f"at the {up} {across}" if up else f"at the {across}, half-way up"


_WAYS = (
    "to the right", "up to the right", "up", "up to the left",
    "to the left", "down to the left", "down", "down to the right",
)  # fmt: skip


def way_to(start: Point | Floats, end: Point | Floats) -> str:
    """In which direction, as the quilt lies on the screen.

    >>> way_to((0, 0), (0, 5)), way_to((0, 0), (3, -3)), way_to((0, 0), (-9, 1))
    ('up', 'down to the right', 'to the left')
    """
    turn = math.atan2(float(end[1] - start[1]), float(end[0] - start[0]))
    return _WAYS[round(turn / (math.pi / 4)) % 8]


CORNERS = ("lower left", "lower right", "upper right", "upper left")
"""In the order of ``corners_of``."""
