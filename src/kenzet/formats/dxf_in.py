"""Outlines and lines from a DXF drawing's model space."""

from __future__ import annotations

import io
import tempfile
from collections.abc import Sequence
from itertools import islice
from typing import Any

import numpy as np
from ezdxf import recover
from ezdxf.colors import aci2rgb
from ezdxf.disassemble import recursive_decompose
from ezdxf.filemanagement import readfile
from ezdxf.lldxf.const import DXFError
from ezdxf.path import Curve3To, Curve4To, LineTo, make_path

from kenzet.core.errors import BadValue
from kenzet.core.geom.arcs import Point
from kenzet.core.geom.curves import Piece, Stroke, as_cubic
from kenzet.core.numbers.measure import FOOT, INCH, METRE, YARD
from kenzet.core.top.bring import MOST_POINTS, Figure, Sheet
from kenzet.texts import tr

_MM = {
    1: INCH,
    2: FOOT,
    4: 1.0,
    5: 10.0,
    6: METRE,
    8: INCH / 1e6,
    9: INCH / 1000,
    10: YARD,
    13: METRE / 1e6,
    14: 100.0,
}
"""By the drawing's unit code: inches, feet, mm, cm, m, microinches, mils, yards, microns, decimeters."""
_MOST_INCHES = 60  # steps: a block is no larger; a drawing of more is in mm where it names no unit
_BY_SYSTEM = {0: INCH, 1: 1.0}  # where a drawing names no unit: by its system of measures
_TOLD = {"DIMENSION", "LEADER", "MULTILEADER", "ARC_DIMENSION", "TOLERANCE", "ACAD_TABLE"}
"""Entities made of lines that are no seams; they are left out and reported."""
_READ = {"LINE", "ARC", "CIRCLE", "ELLIPSE", "SPLINE", "LWPOLYLINE", "POLYLINE"}


def read_dxf(data: bytes) -> Sheet:
    """Raises BadValue at ``file``, with the reason. Nothing that the file refers to is fetched."""
    try:
        document = _document(data)
        mm = _MM.get(document.units, 0.0)
        drawn = [entity for entity in document.modelspace() if entity.dxftype() not in _TOLD]
        told = {entity.dxftype().lower() for entity in document.modelspace() if entity.dxftype() in _TOLD}
        entities = list(islice(recursive_decompose(drawn), MOST_POINTS + 1))
    except (
        DXFError,
        OSError,
        ValueError,
        LookupError,
        TypeError,
        AttributeError,
        RecursionError,
    ) as error:
        raise BadValue(tr("This DXF file is damaged or incomplete."), "file") from error
    if len(entities) > MOST_POINTS:
        raise BadValue(
            tr(
                "This drawing has more than {most_points} parts; it cannot be read.",
                most_points=f"{MOST_POINTS:,}",
            ),
            "file",
        )
    figures, other, hidden = [], set(told), 0
    system = _BY_SYSTEM.get(document.header.get("$MEASUREMENT", -1)) if b"$MEASUREMENT" in data else None
    unit = mm or system
    for entity in entities:
        layer = document.layers.get(entity.dxf.layer) if document.layers.has_entry(entity.dxf.layer) else None
        if entity.dxf.get("invisible") or (layer is not None and (layer.is_off() or layer.is_frozen())):
            hidden += 1
        elif entity.dxftype() in _READ:
            figures.append(_figure(entity, layer, unit or 1.0))
        else:
            other.add(entity.dxftype().lower())
    said = [tr("Left out: {sorted}.", sorted=", ".join(sorted(other)))] if other else []
    if hidden:
        said.append(tr("Left out: {hidden} parts on layers that are switched off.", hidden=hidden))
    seen = tuple(figure for figure in figures if figure.strokes)
    if not seen and said:
        raise BadValue(
            tr("There is no outline and no line in this drawing. {said}", said=" ".join(said)), "file"
        )
    if unit:
        return Sheet(seen, True, tuple(said))
    if not _is_small(seen):
        return Sheet(seen, False, tuple(said), tr("its numbers were read as millimetres"))
    larger = (
        Figure(tuple(stroke.moved(INCH, 0, 0) for stroke in one.strokes), one.colour, one.label)
        for one in seen
    )
    return Sheet(tuple(larger), False, tuple(said), tr("its numbers were read as inches"))


def _is_small(figures: Sequence[Figure]) -> bool:
    """Whether the drawing is at most ``_MOST_INCHES`` units wide and high."""
    points = np.array(
        [point for one in figures for stroke in one.strokes for piece in stroke.pieces for point in piece]
    )
    return len(points) > 0 and float(np.ptp(points, axis=0).max()) <= _MOST_INCHES


def _document(data: bytes) -> Any:
    """The parsed document, from text or binary DXF."""
    if b"\0" not in data[:64]:
        return recover.read(io.BytesIO(data))[0]
    with tempfile.NamedTemporaryFile(suffix=".dxf") as file:
        file.write(data)
        file.flush()
        return readfile(file.name)


def _figure(entity: Any, layer: Any, scale: float) -> Figure:
    try:
        path = make_path(entity, segments=8)
    except (DXFError, TypeError, ValueError, ZeroDivisionError) as error:
        raise BadValue(
            tr("A {dxftype} in this drawing cannot be read.", dxftype=entity.dxftype().lower()), "file"
        ) from error
    strokes = []
    for part in path.sub_paths():
        start = _at(part.start, scale)
        pieces: list[Piece] = []
        here = start
        for command in part.commands():
            end = _at(command.end, scale)
            if isinstance(command, Curve4To):
                pieces.append((_at(command.ctrl1, scale), _at(command.ctrl2, scale), end))
            elif isinstance(command, Curve3To):
                pieces.append(as_cubic(here, _at(command.ctrl, scale), end))
            elif isinstance(command, LineTo):
                pieces.append((end,))
            here = end
        if pieces:
            strokes.append(Stroke(start, tuple(pieces), part.is_closed))
    name = str(entity.dxf.layer)
    return Figure(tuple(strokes), _colour(entity, layer), "" if name == "0" else name)


def _colour(entity: Any, layer: Any) -> str:
    """Its own color, else its layer's; pure black and white stand for no fabric."""
    rgb = entity.rgb
    if rgb is None:
        number = entity.dxf.get("color", 256)
        if number in (0, 256) and layer is not None:
            number = 0 if layer.rgb else layer.color
            rgb = layer.rgb
        if rgb is None:
            rgb = tuple(aci2rgb(number)) if 0 < number < 256 and number != 7 else None
    return f"#{rgb[0]:02x}{rgb[1]:02x}{rgb[2]:02x}" if rgb is not None else ""


def _at(point: Any, scale: float) -> Point:
    return point.x * scale, point.y * scale
