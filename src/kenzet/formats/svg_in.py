"""Outlines and lines from an SVG drawing. Nothing in it is executed and nothing that it names is fetched."""

from __future__ import annotations

import io
import math
import re
from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree

import defusedxml.ElementTree
import shapely
from defusedxml import DefusedXmlException
from svgelements import SVG, Arc, Close, Color, CubicBezier, Line, Move, Path, QuadraticBezier, Shape

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Point
from kenzet.core.geom.curves import Piece, Stroke, as_cubic
from kenzet.core.numbers.measure import PIXEL
from kenzet.core.top.bring import MOST_POINTS, Figure, Sheet
from kenzet.texts import tr

_TRUE_UNITS = ("mm", "cm", "in", "pt", "pc")
_LEFT_OUT = {
    "script": tr("a script"),
    "foreignobject": tr("foreign content"),
    "image": tr("a picture"),
    "text": "lettering",
    "audio": tr("a sound"),
    "video": tr("a film"),
    "iframe": tr("foreign content"),
    "animate": tr("a movement"),
    "animatetransform": tr("a movement"),
    "animatemotion": tr("a movement"),
    "set": tr("a movement"),
}
_MOST_DEEP = 200


def read_svg(data: bytes) -> Sheet:
    """Raises BadValue at ``file``, with the reason."""
    try:
        root = defusedxml.ElementTree.fromstring(data, forbid_entities=True, forbid_external=True)
    except DefusedXmlException as error:
        raise BadValue(
            tr(
                "This drawing defines entities of its own or reaches outside itself; such files are not read. Save it as plain SVG."
            ),
            "file",
        ) from error
    except (ElementTree.ParseError, ValueError, LookupError) as error:
        raise BadValue(tr("This SVG file is damaged or incomplete."), "file") from error
    if _name(root) != "svg":
        raise BadValue(tr("This file is not an SVG drawing."), "file")
    said = _cleaned(root)
    _refuse_flood(root)
    _placed(root)
    _sized(root)
    clean = ElementTree.tostring(root)
    try:
        drawing = SVG.parse(io.BytesIO(clean), reify=True, ppi=96)
        shapes = list(_shapes(drawing))
        figures = [figure for figure in map(_figure, shapes) if figure.strokes]
        if any(
            _hides_an_outline(shape, figure)
            for shape, figure in zip(shapes, map(_figure, shapes), strict=True)
        ):
            said.append(tr("An outline inside a filled shape of the same color was read as a seam."))
    except (
        ValueError,
        TypeError,
        ZeroDivisionError,
        OverflowError,
        AttributeError,
        KeyError,
        IndexError,
    ) as error:
        raise BadValue(tr("This SVG drawing holds something that Kenzet cannot read."), "file") from error
    width = root.get("width", "").strip()
    return Sheet(tuple(figures), width.endswith(_TRUE_UNITS), tuple(said))


def _name(element: Any) -> str:
    tag = element.tag
    return tag.rsplit("}", 1)[-1].lower() if isinstance(tag, str) else ""


def _cleaned(root: Any) -> list[str]:
    """Removes from the tree what a block does not need or must not execute; returns what was removed, in words."""
    gone: dict[str, int] = {}
    for parent in list(root.iter()):
        for attribute in list(parent.attrib):
            bare = attribute.rsplit("}", 1)[-1].lower()
            if bare.startswith("on"):
                gone["a script"] = gone.get("a script", 0) + 1
                del parent.attrib[attribute]
            elif bare in ("clip-path", "mask"):
                words = tr("a clipping; what it cuts is drawn whole")
                gone[words] = gone.get(words, 0) + 1
                del parent.attrib[attribute]
            elif bare == "href" and not parent.attrib[attribute].startswith("#"):
                gone["a reference to another file"] = gone.get("a reference to another file", 0) + 1
                del parent.attrib[attribute]
        for child in list(parent):
            words = _LEFT_OUT.get(_name(child), "")
            if _name(child) == "style" and ("@import" in (child.text or "") or "url(" in (child.text or "")):
                words = tr("a reference to another file")
            if words:
                gone[words] = gone.get(words, 0) + 1
                parent.remove(child)
    return [
        tr(
            "Left out: {words}{which}.",
            words=words,
            which=tr(" ({count} times)", count=count) if count > 1 else "",
        )
        for words, count in gone.items()
    ]


_HREFS = ("href", "{http://www.w3.org/1999/xlink}href")


def _placed(root: Any) -> None:
    """Replaces nested drawings, and symbols with a view box, by groups with the transform that shows them."""
    space = root.tag.rsplit("}", 1)[0] + "}" if "}" in root.tag else ""
    parents = {child: parent for parent in root.iter() for child in parent}
    symbols = {element.get("id", ""): element for element in root.iter() if _name(element) == "symbol"}
    for element in list(root.iter()):
        if _name(element) == "svg" and element is not root:
            element.set("transform", _fitted(element, element))
            element.tag = f"{space}g"
        elif _name(element) == "use":
            shown = symbols.get(next((element.get(name, "") for name in _HREFS if element.get(name)), "")[1:])
            if shown is not None and shown.get("viewBox"):
                element.set("transform", f"{element.get('transform', '')} {_fitted(element, shown)}".strip())
    if symbols:
        kept = ElementTree.SubElement(root, f"{space}defs")
        for symbol in symbols.values():
            parents[symbol].remove(symbol)
            symbol.tag = f"{space}g"
            symbol.attrib.pop("viewBox", None)
            kept.append(symbol)


def _fitted(where: Any, what: Any) -> str:
    """The transform by which the view box of ``what`` fits the frame of ``where``, as large as possible and
    centered; the frame's own attributes are removed."""
    frame = [where.attrib.pop(name, "") for name in ("x", "y", "width", "height")]
    x, y, wide, high = (float(text) if _is_number(text) else 0.0 for text in frame)
    box = [float(text) for text in re.findall(r"[-+.\deE]+", what.get("viewBox", "")) if _is_number(text)]
    if where is what:
        where.attrib.pop("viewBox", None)
    if len(box) != 4 or min(box[2:]) <= 0 or min(wide, high) <= 0:
        return f"translate({x},{y})"
    scale = min(wide / box[2], high / box[3])
    dx, dy = x + (wide - scale * box[2]) / 2, y + (high - scale * box[3]) / 2
    return f"translate({dx},{dy}) scale({scale}) translate({-box[0]},{-box[1]})"


def _sized(root: Any) -> None:
    """A missing width or height is derived from the other one and the aspect ratio of the view box."""
    box = [
        float(number) for number in re.findall(r"[-+.\deE]+", root.get("viewBox", "")) if _is_number(number)
    ]
    if len(box) != 4 or min(box[2:]) <= 0:
        return
    for name, other, ratio in (("width", "height", box[2] / box[3]), ("height", "width", box[3] / box[2])):
        given = re.fullmatch(r"\s*([-+.\deE]+)\s*([a-z]*)\s*", root.get(other, ""))
        if root.get(name, "%").strip().endswith("%"):
            if given and _is_number(given[1]):
                root.set(name, f"{float(given[1]) * ratio}{given[2]}")
            elif root.get(other, "%").strip().endswith("%"):
                root.set(name, str(box[2] if name == "width" else box[3]))


def _is_number(text: str) -> bool:
    try:
        return math.isfinite(float(text))
    except ValueError:
        return False


def _refuse_flood(root: Any) -> None:
    """Raises BadValue if the elements, including repetitions, are too many or nested too deeply."""
    by_id = {element.get("id"): element for element in root.iter() if element.get("id")}
    known: dict[int, int] = {}

    def size(element: Any, depth: int) -> int:
        if depth > _MOST_DEEP:
            raise BadValue(
                tr("The parts of this drawing lie too deep within one another; it cannot be read."), "file"
            )
        if id(element) not in known:
            known[id(element)] = MOST_POINTS + 1  # whatever repeats itself is endless
            total = 1 + sum(size(child, depth + 1) for child in element)
            if _name(element) == "use":
                for name in ("href", "{http://www.w3.org/1999/xlink}href"):
                    meant = by_id.get(element.get(name, "")[1:])
                    if meant is not None:
                        total += size(meant, depth + 1)
            known[id(element)] = total
        return known[id(element)]

    if size(root, 0) > MOST_POINTS:
        raise BadValue(
            tr(
                "This drawing has more than {most_points} parts; it cannot be read.",
                most_points=f"{MOST_POINTS:,}",
            ),
            "file",
        )


def _shapes(drawing: SVG) -> Iterator[Shape]:
    for element in drawing.elements():
        hidden = getattr(element, "values", {}) or {}
        if (
            isinstance(element, Shape)
            and hidden.get("display") != "none"
            and hidden.get("visibility") != "hidden"
        ):
            yield element


def _figure(shape: Shape) -> Figure:
    path = abs(Path(shape))
    strokes = [stroke for part in path.as_subpaths() if (stroke := _stroke(Path(part))) is not None]
    return Figure(tuple(strokes), _colour(shape.fill))


def _hides_an_outline(shape: Shape, figure: Figure) -> bool:
    """Whether its fill covers an inner outline: one with the same direction as the outline around it, without a
    visible stroke."""
    values = getattr(shape, "values", None) or {}
    stroked = shape.stroke is not None and shape.stroke.value is not None
    if (
        len(figure.strokes) < 2
        or stroked
        or not figure.colour
        or values.get("fill-rule", "nonzero") != "nonzero"
    ):
        return False
    rings = [
        shapely.LinearRing([stroke.start, *(piece[-1] for piece in stroke.pieces)])
        for stroke in figure.strokes
        if len(stroke.pieces) > 2
    ]
    areas = [shapely.Polygon(ring) for ring in rings]
    return any(
        one.is_ccw == other.is_ccw and areas[k].contains(areas[n])
        for k, one in enumerate(rings)
        for n, other in enumerate(rings)
        if k != n
    )


def _colour(fill: Color | None) -> str:
    if fill is None or fill.value is None or fill.alpha == 0:
        return ""
    return f"#{fill.red:02x}{fill.green:02x}{fill.blue:02x}"


def _stroke(path: Path) -> Stroke | None:
    start: Point | None = None
    pieces: list[Piece] = []
    closed = False
    for segment in path:
        if isinstance(segment, Move):
            start = _at(segment.end)
        elif isinstance(segment, Close):
            closed = True
            if segment.end is not None and start is not None:
                pieces.append((_at(segment.end),))
        elif isinstance(segment, Line):
            pieces.append((_at(segment.end),))
        elif isinstance(segment, QuadraticBezier):
            pieces.append(as_cubic(*(_at(p) for p in (segment.start, segment.control, segment.end))))
        elif isinstance(segment, CubicBezier):
            pieces.append((_at(segment.control1), _at(segment.control2), _at(segment.end)))
        elif isinstance(segment, Arc):
            steps = max(1, math.ceil(abs(segment.sweep) / (math.pi / 4)))
            for curve in segment.as_cubic_curves(steps):
                pieces.append((_at(curve.control1), _at(curve.control2), _at(curve.end)))
    if start is None or not pieces:
        return None
    if not all(math.isfinite(v) for piece in pieces for point in piece for v in point):
        raise ValueError
    return Stroke(start, tuple(pieces), closed)


def _at(point: Any) -> Point:
    return point.x * PIXEL, -point.y * PIXEL
