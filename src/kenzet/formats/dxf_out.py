"""A mark sheet as DXF: layers by meaning, true units, true arcs."""

from __future__ import annotations

import io

from ezdxf import filemanagement, units
from ezdxf.document import Drawing as Document
from ezdxf.enums import TextEntityAlignment
from ezdxf.layouts.layout import Modelspace

from kenzet.core.geom.region import Floats
from kenzet.core.marks.sheet import MarkSheet
from kenzet.core.numbers.measure import MM_PER, Unit

LAYERS = {"SEAMS": 8, "MARKS": 30, "DOTS": 30, "SIGNS": 30, "TICKS": 7, "FIGURES": 7, "CHECK": 7, "LABEL": 7}
"""Each layer with its color number."""


def dxf(sheet: MarkSheet, unit: Unit) -> bytes:
    """The drawing in ``unit``, with the sheet's lower left corner at the origin."""
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
        if sheet.tells_figures:
            at = tuple(b + (b - a) / 2 for a, b in zip(foot, tip, strict=True))
            text = space.add_text(tick.figure, height=_FIGURE / per, dxfattribs={"layer": "FIGURES"})
            text.set_placement(at, align=TextEntityAlignment.MIDDLE_CENTER)
    _bar(space, unit)
    _label(space, sheet, (right - left) / per, per)
    return _bytes(document)


_FIGURE = 2.2  # mm high


def _bar(space: Modelspace, unit: Unit) -> None:
    """A bar of known length below the drawing, to check the scale."""
    many, per = (4, float(MM_PER[unit])) if unit == "in" else (100, 1.0)
    y = -5.0 / per
    space.add_line((0, y), (many, y), dxfattribs={"layer": "CHECK"})
    text = space.add_text(f"{many} {unit}", height=_FIGURE / per, dxfattribs={"layer": "CHECK"})
    text.set_placement((many + 1.5 / per, y), align=TextEntityAlignment.MIDDLE_LEFT)


def _label(space: Modelspace, sheet: MarkSheet, wide: float, per: float) -> None:
    words = f"{sheet.title} - {sheet.subtitle}"
    space.add_text(
        words, height=wide / 60, dxfattribs={"layer": "LABEL", "insert": (0, -10.0 / per - wide / 30)}
    )


def _bytes(document: Document) -> bytes:
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode("utf-8")
