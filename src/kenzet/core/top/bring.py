"""A block from a drawing file: outlines and lines become seams, overlapping figures become appliqués.

Glossary: a *figure* is one or several closed outlines of one color, alternately outside and inside, or lines; a
*sheet* is everything read from a file. Repairs and omissions are reported in *said*.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import shapely
from pydantic import ValidationError
from shapely.geometry import Polygon, box

from kenzet import texts
from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Point, Vertex, drawn, inner_points, sides
from kenzet.core.geom.curves import Stroke
from kenzet.core.numbers.measure import INCH, Length, Unit, in_words
from kenzet.core.params import Frozen
from kenzet.core.tolerances import EQUAL, SAME_PLACE
from kenzet.core.top.blocks import MOST_SEAMS, MOST_VERTICES, Drawn, Fabric, Patch, Seam
from kenzet.core.top.seams import patches_of
from kenzet.texts import tr

MOST_POINTS = 20_000
MENDED_GAP = 0.5
"""mm: outlines with smaller gaps are closed, and ends closer than this are joined."""

_STRAY = 0.05  # mm: how far an arc may lie from the curve that was drawn
_SPECK = 1.0  # mm²
_COVERS = 0.999
_OVERLAP = 0.5  # mm²: what overlaps by less only touches
_GRID = 8
GROUND = Fabric(name="Ground", colour="#e8e0d0")


@dataclass(frozen=True, slots=True)
class Figure:
    """The strokes of one element of a drawing, mm, y up."""

    strokes: tuple[Stroke, ...]
    colour: str = ""
    label: str = ""


@dataclass(frozen=True, slots=True)
class Sheet:
    """The figures from the lowest up, whether the file names a unit and which one was assumed (``taken_for``) if
    not, and what was left out."""

    figures: tuple[Figure, ...]
    has_unit: bool
    said: tuple[str, ...] = ()
    taken_for: str = tr("96 of its units were read as an inch")


class Brought(Frozen):
    """A block that can be saved: its size in mm, its patches with their fabrics, and what was done to it."""

    width: float
    height: float
    art: Drawn
    fabrics: dict[str, Fabric]
    said: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class _Piece:
    """A figure's rings as vertices, and its area."""

    rings: tuple[tuple[Vertex, ...], ...]
    area: shapely.Geometry
    figure: Figure


def bring(sheet: Sheet, width: Length | None = None) -> Brought:
    """The drawing as a block of ``width``, or at its true size.

    Raises BadValue at ``file`` if it cannot become a block, at ``width`` for an impossible size.
    """
    try:
        return _brought(sheet, width)
    except ValidationError as error:
        raise BadValue(_why_not(error), "file") from error


def _why_not(error: ValidationError) -> str:
    """Why an outline cannot become a patch, in words."""
    first = error.errors()[0]
    if first["type"] == "too_long":
        return tr(
            "An outline of this drawing has more than {most_vertices} corners; draw it plainer.",
            most_vertices=f"{MOST_VERTICES:,}",
        )
    reason = first.get("ctx", {}).get("error")
    if isinstance(reason, BadValue):
        return tr("An outline of this drawing cannot become a patch. {reason}", reason=reason.message)
    return tr("An outline of this drawing cannot become a patch. Draw it plainer, or leave it out.")


def _brought(sheet: Sheet, width: Length | None) -> Brought:
    points = sum(stroke.points for figure in sheet.figures for stroke in figure.strokes)
    if points > MOST_POINTS:
        raise BadValue(
            tr(
                "The drawing has {points} points; at most {most_points} can be read.",
                points=f"{points:,}",
                most_points=f"{MOST_POINTS:,}",
            ),
            "file",
        )
    said = list(sheet.said)
    try:
        figures, size = _scaled(sheet.figures, width)
    except BadValue as error:
        if sheet.has_unit or width is not None or error.field != "width":
            raise
        raise BadValue(
            tr(
                "The file names no unit, and when {taken_for} the drawing has no size that a block can have. Give the block’s width.",
                taken_for=sheet.taken_for,
            ),
            "width",
        ) from error
    if not sheet.has_unit and width is None:
        said.append(
            tr(
                "The file names no unit: {taken_for}. Give the block’s width if that is wrong.",
                taken_for=sheet.taken_for,
            )
        )
    closed, lines = _sorted(figures, said)
    frame = box(0, 0, *size)
    pieces, applique = _layered(closed, frame)
    grid = (_GRID, max(1, round(_GRID * size[1] / size[0])))
    units = (grid[0] / size[0], grid[1] / size[1])
    rings = [side for piece in pieces for ring in piece.rings for side in sides(ring)]
    seams = _seams([*rings, *lines], size, units)
    if len(seams) > MOST_SEAMS:
        raise BadValue(
            tr(
                "The drawing falls into {seams} seams; a block holds at most {most_seams}.",
                seams=f"{len(seams):,}",
                most_seams=f"{MOST_SEAMS:,}",
            ),
            "file",
        )
    fabrics, called = _fabrics([piece.figure for piece in (*pieces, *applique)])
    whole = ((0.0, 0.0), (float(grid[0]), 0.0), (float(grid[0]), float(grid[1])), (0.0, float(grid[1])))
    try:
        bare = patches_of(grid, size, seams, {"piece-1": Patch(outline=whole, fabric="ground")})
    except BadValue as error:
        raise BadValue(error.message, "file") from error
    patches = {name: _coloured(patch, pieces, called, units) for name, patch in bare.items()}
    shapes = [(piece, rings) for piece in applique for rings in _apart(piece.rings)]
    for number, (piece, shape) in enumerate(shapes, 1):
        outline, *holes = (tuple((v[0] * units[0], v[1] * units[1], *v[2:]) for v in ring) for ring in shape)
        patches[f"applique-{number}"] = Patch(
            outline=outline, holes=tuple(holes), fabric=called[_look(piece.figure)], applique=True
        )
    if len(patches) == 1 and not seams:
        raise BadValue(
            tr("Nothing in this drawing divides a block: it has no closed outline and no line."), "file"
        )
    used = {patch.fabric for patch in patches.values()}
    kept = {key: fabric for key, fabric in fabrics.items() if key in used}
    art = Drawn(grid=grid, patches=patches, seams=tuple(seams))
    return Brought(width=size[0], height=size[1], art=art, fabrics=kept, said=tuple(said))


def _scaled(figures: Sequence[Figure], width: Length | None) -> tuple[list[Figure], tuple[float, float]]:
    """Figures moved to the origin and scaled to ``width``, and the size in mm."""
    points = [point for figure in figures for stroke in figure.strokes for point in _polyline(stroke)]
    if not points:
        raise BadValue(tr("This drawing is empty: it has no outline and no line."), "file")
    left, low, right, top = shapely.total_bounds(shapely.multipoints(points))
    if right - left < EQUAL or top - low < EQUAL:
        raise BadValue(tr("This drawing is a single line; a block needs width and height."), "file")
    scale = float(width.mm) / (right - left) if width else 1.0
    size = (float((right - left) * scale), float((top - low) * scale))
    unit: Unit = width.unit if width else "in"
    for side in size:
        if not INCH / 2 <= side <= 200 * INCH:
            raise BadValue(
                tr(
                    "The block would be {size} by {size2}; its sides must lie between 1/2 in and 200 in. Give another width.",
                    size=in_words(size[0], unit),
                    size2=in_words(size[1], unit),
                ),
                "width",
            )
    return [
        Figure(tuple(s.moved(scale, -left * scale, -low * scale) for s in f.strokes), f.colour, f.label)
        for f in figures
    ], size


def _polyline(stroke: Stroke) -> list[Point]:
    """A stroke's points as drawn, including its end."""
    vertices = stroke.vertices(_STRAY)
    found = [
        p
        for start, end, bulge in list(sides(vertices))[:-1]
        for p in (start, *inner_points(start, end, bulge))
    ]
    return [*found, stroke.end]


Line = tuple[Point, Point, float]


def _sorted(figures: Iterable[Figure], said: list[str]) -> tuple[list[_Piece], list[Line]]:
    """Closed outlines, and lines as sides; repairs and omissions are appended to ``said``."""
    closed: list[_Piece] = []
    lines: list[Line] = []
    mended = crossed = specks = 0
    for figure in figures:
        rings = []
        for stroke in figure.strokes:
            vertices = stroke.vertices(_STRAY)
            gap = math.dist(stroke.start, stroke.end)
            if not stroke.closed and (gap > MENDED_GAP or len(vertices) < 3):
                lines += [side for side in list(sides(vertices))[:-1] if side[0] != side[1]]
                continue
            mended += not stroke.closed and gap > SAME_PLACE
            ring = vertices[:-1] if gap <= MENDED_GAP else vertices
            area = Polygon(drawn(ring)[0]) if len(ring) > 2 or any(len(v) == 3 for v in ring) else Polygon()
            if not area.is_valid:
                crossed += 1
            elif area.area < _SPECK:
                specks += 1
            else:
                rings.append(tuple(ring))
        if rings:
            area = Polygon()
            for one in rings:
                area = area.symmetric_difference(Polygon(drawn(one)[0]))
            closed.append(_Piece(tuple(rings), area, figure))
    if mended:
        said.append(
            texts.counted(
                mended,
                "{count} outline open by less than half a millimetre: closed.",
                "{count} outlines open by less than half a millimetre: closed.",
            )
        )
    if crossed:
        said.append(
            texts.counted(
                crossed,
                "{count} outline crossing itself: left out.",
                "{count} outlines crossing themselves: left out.",
            )
        )
    if specks:
        said.append(
            texts.counted(
                specks,
                "{count} outline smaller than a square millimetre: left out.",
                "{count} outlines smaller than a square millimetre: left out.",
            )
        )
    joined, moved = _joined(lines)
    if moved:
        said.append(
            texts.counted(
                moved,
                "{count} line end that missed another by less than half a millimetre: joined.",
                "{count} line ends that missed another by less than half a millimetre: joined.",
            )
        )
    return closed, joined


def _joined(lines: list[Line]) -> tuple[list[Line], int]:
    """Joins ends that are closer than ``MENDED_GAP``; also returns how many were moved."""
    ends = list(dict.fromkeys(point for start, end, _ in lines for point in (start, end)))
    if not ends:
        return lines, 0
    tree = shapely.STRtree(shapely.points(ends))
    lead: dict[Point, Point] = {}
    for number, point in enumerate(ends):
        near = tree.query(shapely.points(point), predicate="dwithin", distance=MENDED_GAP)
        first = min((k for k in near.tolist() if ends[k] in lead or k == number), default=number)
        lead[point] = lead.get(ends[first], point)
    moved = sum(math.dist(point, to) > SAME_PLACE for point, to in lead.items())
    found = [(lead[start], lead[end], bulge) for start, end, bulge in lines]
    return [line for line in found if line[0] != line[1]], moved


def _layered(closed: list[_Piece], frame: Polygon) -> tuple[list[_Piece], list[_Piece]]:
    """Pieces side by side, and pieces on top of others: appliqués.

    A piece that fills the whole block is below the rest, unless the rest fills it too.
    """
    grounds = [piece for piece in closed if piece.area.area >= _COVERS * frame.area]
    others = [piece for piece in closed if piece not in grounds]
    filled = bool(others) and shapely.union_all([p.area for p in others]).area >= _COVERS * frame.area
    pieces = [] if filled else grounds[-1:]
    applique: list[_Piece] = []
    for piece in others:
        over = any(below.area.intersection(piece.area).area > _OVERLAP for below in pieces)
        (applique if over else pieces).append(piece)
    return pieces, applique


def _apart(rings: Sequence[tuple[Vertex, ...]]) -> list[list[tuple[Vertex, ...]]]:
    """The shapes of one figure, each as its outline and the holes in it: an outline that lies inside an odd number
    of others is a hole. Outlines that cross are shapes of their own; of two alike, one is left."""
    areas = [Polygon(drawn(ring)[0]) for ring in rings]
    single = [k for k, area in enumerate(areas) if not any(area.equals(other) for other in areas[:k])]
    around = {k: {n for n in single if n != k and areas[n].contains(areas[k])} for k in single}
    return [
        [rings[k], *(rings[n] for n in single if k in around[n] and len(around[n]) == len(around[k]) + 1)]
        for k in single
        if len(around[k]) % 2 == 0
    ]


def _seams(lines: Iterable[Line], size: tuple[float, float], units: tuple[float, float]) -> list[Seam]:
    """Every side once, in grid units, without those along the block's own edge."""
    found: dict[tuple[object, ...], Seam] = {}
    for start, end, bulge in lines:
        if math.dist(start, end) < SAME_PLACE or (not bulge and _on_edge(start, end, size)):
            continue
        ways = sorted(
            [(_near(start), _near(end), round(bulge, 3)), (_near(end), _near(start), round(-bulge, 3))]
        )
        at = [(round(p[0] * units[0], 9), round(p[1] * units[1], 9)) for p in (start, end)]
        found.setdefault(ways[0], Seam(start=at[0], end=at[1], bulge=bulge))
    return list(found.values())


def _near(point: Point) -> Point:
    return round(point[0], 2) + 0.0, round(point[1], 2) + 0.0


def _on_edge(start: Point, end: Point, size: tuple[float, float]) -> bool:
    return any(
        abs(start[axis] - edge) < SAME_PLACE and abs(end[axis] - edge) < SAME_PLACE
        for axis in (0, 1)
        for edge in (0.0, size[axis])
    )


def _look(figure: Figure) -> tuple[str, str]:
    return figure.label, figure.colour


def _fabrics(figures: Iterable[Figure]) -> tuple[dict[str, Fabric], dict[tuple[str, str], str]]:
    """A fabric for every color or layer, and which figure has which."""
    fabrics, called = {"ground": GROUND}, {}
    for figure in figures:
        look = _look(figure)
        if look in called:
            continue
        if not any(look):
            called[look] = "ground"
            continue
        key = f"colour-{len(fabrics)}"
        name = figure.label or tr("Color {fabrics}", fabrics=len(fabrics))
        fabrics[key] = Fabric(name=name[:80], colour=figure.colour or _PALETTE[len(fabrics) % len(_PALETTE)])
        called[look] = key
    return fabrics, called


_PALETTE = ("#6f8fa6", "#c98a6b", "#9aa67c", "#3f4f63", "#d8c9a3")


def _coloured(
    patch: Patch, pieces: Sequence[_Piece], called: dict[tuple[str, str], str], units: tuple[float, float]
) -> Patch:
    """The patch in the fabric of the topmost piece over it."""
    outline, *holes = (
        drawn([(v[0] / units[0], v[1] / units[1], *v[2:]) for v in ring])[0]
        for ring in (patch.outline, *patch.holes)
    )
    spot = Polygon(outline, holes).representative_point()
    above = [piece for piece in pieces if piece.area.contains(spot)]
    return patch.model_copy(update={"fabric": called[_look(above[-1].figure)]}) if above else patch
