"""Default names of zones."""

from __future__ import annotations

from collections.abc import Sequence

from shapely.geometry import Polygon

from kenzet.core.geom.arcs import Soft
from kenzet.core.geom.place_names import NINTHS
from kenzet.core.geom.region import Region
from kenzet.core.tolerances import EQUAL, SAME_SIDE
from kenzet.core.top.blocks import Patterned
from kenzet.core.top.document import Quilt
from kenzet.core.top.zone import BORDER, CORNER, SASHING, SIDE, TOP
from kenzet.texts import tr

_SIDED = {
    3: "triangle",
    5: tr("five-sided shape"),
    6: tr("six-sided shape"),
    7: tr("seven-sided shape"),
    8: tr("eight-sided shape"),
}


def zone_name(quilt: Quilt, part: str, patches: Sequence[str]) -> str:
    """A quilter's name for ``patches`` of ``part``."""
    if part == TOP:
        return _across(quilt, patches)
    if part in quilt.blocks:
        return _in_block(quilt, part, patches)
    if part == SIDE:
        return tr("Setting triangles")
    if part == CORNER:
        return tr("Corner triangles")
    every = len(patches) == len(quilt.part_patches[part])
    if part == SASHING:
        kinds = {patch.split("-")[0] for patch in patches}
        return tr("Sashing") if every else tr("Cornerstones") if kinds == {"stone"} else tr("Sashes")
    name = (
        tr("Border")
        if len(quilt.borders) == 1
        else tr("Border {removeprefix}", removeprefix=part.removeprefix(BORDER))
    )
    corners = all(patch.startswith("corner") for patch in patches)
    words = patches[0].replace("corner-", "").replace("-", " ") if len(patches) == 1 else ""
    return (
        name if every else f"{name} {'corners' if corners else 'sides'}" if not words else f"{name}, {words}"
    )


def _in_block(quilt: Quilt, part: str, patches: Sequence[str]) -> str:
    block = quilt.blocks[part]
    if len(patches) == len(block.fabric_of):
        return block.name if len(patches) == 1 else tr("{name}, whole", name=block.name)
    if isinstance(block.art, Patterned):
        roles = list(dict.fromkeys(block.role_of(patch) for patch in patches))
    else:
        roles = list(dict.fromkeys(quilt.fabrics[block.fabric_of[patch]].name.lower() for patch in patches))
    joined = tr(" and ").join(roles[:2])
    return f"{block.name}: {joined}{' …' if len(roles) > 2 else ''}"


def _across(quilt: Quilt, patches: Sequence[str]) -> str:
    fabrics = set()
    for ref in patches:
        place, _, patch = ref.partition("/")
        part = quilt.parts_at[place]
        if part in quilt.blocks:
            fabrics.add(quilt.blocks[part].fabric_of[patch])
        elif part in quilt.spread.strips:
            fabrics.add(quilt.spread.strips[part][patch].fabric)
        else:
            fabrics.add(quilt.triangle_fabric)
    if len(fabrics) == 1:
        name = quilt.fabrics[fabrics.pop()].name
        return (
            tr("{name} background", name=name)
            if len(patches) > 2
            else tr("{name}, {patches} here", name=name, patches=len(patches))
        )
    return tr("Patches across blocks")


def piece_words(piece: Polygon, soft: Soft) -> str:
    """The shape of a piece in words: triangle, square, eight-sided shape, frame …"""
    region = Region(piece, soft)
    corners, curved = len(region.corners), len(region.edges) < len(region.corners) or not region.corners
    if piece.interiors:
        return "frame"
    if curved:
        return tr("curved shape")
    if corners == 4:
        return _four_sided(region)
    return _SIDED.get(corners, tr("{corners}-sided shape", corners=corners))


def _four_sided(region: Region) -> str:
    lengths = sorted(edge.length for edge in region.edges)
    area = region.area.area
    if len(lengths) == 4 and abs(area - lengths[0] * lengths[-1]) < SAME_SIDE * area:
        return "square" if lengths[-1] - lengths[0] < SAME_SIDE * lengths[-1] else "oblong"
    even = len(lengths) == 4 and lengths[-1] - lengths[0] < SAME_SIDE * lengths[-1]
    return "diamond" if even else tr("four-sided shape")


def many(count: int, words: str) -> str:
    """
    >>> many(1, "frame"), many(4, "triangle"), many(2, "curved shape")
    ('frame', '4 triangles', '2 curved shapes')
    """
    return words if count == 1 else f"{count} {words}s"


def where(piece: Polygon, width: float, height: float) -> str:
    """The place of a piece in its part, in words: upper left, right, middle …"""
    x, y = piece.centroid.x / width, piece.centroid.y / height
    row, column = (2 if share > 0.55 else 0 if share < 0.45 else 1 for share in (y, x))
    return NINTHS[row][column]


def nested(piece: Polygon, frames: Sequence[Polygon]) -> str:
    """Which of several nested frames it is: outer, middle, inner; "" if it is none of them.

    >>> from shapely.geometry import box
    >>> rings = [box(k, k, 9 - k, 9 - k).difference(box(k + 1, k + 1, 8 - k, 8 - k)) for k in range(3)]
    >>> [nested(ring, rings) for ring in rings], nested(box(0, 0, 1, 1), rings), nested(rings[2], rings[1:])
    (['outer', 'middle', 'inner'], '', 'inner')
    """
    if piece not in frames:
        return ""
    wider = sum(1 for other in frames if Polygon(other.exterior).area > Polygon(piece.exterior).area + EQUAL)
    return "outer" if wider == 0 else "inner" if wider == len(frames) - 1 else "middle"
