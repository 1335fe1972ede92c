"""A mark sheet as DXF: layers by meaning, true units, arcs as arcs."""

from __future__ import annotations

import io

from ezdxf import filemanagement, units
from ezdxf.document import Drawing as Document
from ezdxf.layouts.layout import Modelspace

from kenzet.core.geom.region import Floats
from kenzet.core.marks.sheet import MarkSheet
from kenzet.core.numbers.measure import MM_PER, Unit

LAYERS = {"SEAMS": 8, "MARKS": 30, "DOTS": 30, "SIGNS": 30, "TICKS": 7, "LABEL": 7}
"""Each layer with its colour number."""


def dxf(sheet: MarkSheet, unit: Unit) -> bytes:
    """In ``unit``, the sheet's lower left corner at the origin."""
    per = float(MM_PER[unit])
    document = filemanagement.new("R2010", units=units.IN if unit == "in" else units.MM)
    for name, colour in LAYERS.items():
        document.layers.add(name, color=colour)
    space = document.modelspace()
    left, low, right, _ = sheet.bounds

    def place(line: Floats) -> list[tuple[float, float, float]]:
        bulges = line[:, 2] if line.shape[1] == 3 else [0.0] * len(line)
        return [
            ((x - left) / per, (y - low) / per, b)
            for (x, y), b in zip(line[:, :2].tolist(), bulges, strict=True)
        ]

    for name, lines in (("SEAMS", sheet.seams), ("MARKS", sheet.arcs), ("SIGNS", sheet.signs)):
        for line in lines:
            space.add_lwpolyline(place(line), format="xyb", dxfattribs={"layer": name})
    for dot in sheet.dots.tolist():
        space.add_point(((dot[0] - left) / per, (dot[1] - low) / per), dxfattribs={"layer": "DOTS"})
    for tick in sheet.ticks:
        foot, tip = (((x - left) / per, (y - low) / per) for x, y in (tick.foot, tick.tip))
        space.add_line(foot, tip, dxfattribs={"layer": "TICKS"})
    _label(space, sheet, (right - left) / per)
    return _bytes(document)


def _label(space: Modelspace, sheet: MarkSheet, wide: float) -> None:
    words = f"{sheet.title} - {sheet.subtitle}"
    space.add_text(words, height=wide / 60, dxfattribs={"layer": "LABEL", "insert": (0, -wide / 30)})


def _bytes(document: Document) -> bytes:
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode("utf-8")
