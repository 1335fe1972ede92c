"""A mark sheet as SVG in true units: one document, one unit is one millimetre."""

from __future__ import annotations

from xml.etree import ElementTree as ET

import numpy as np

from kenzet.core.geom.arcs import Arc
from kenzet.core.marks.sheet import MarkSheet
from kenzet.core.numbers.measure import MM_PER, Unit
from kenzet.formats.placement import BLEED, to_svg

NAMESPACE = "http://www.w3.org/2000/svg"


def svg(sheet: MarkSheet, unit: Unit) -> bytes:
    """Seams, marks and ticks in groups of those names; the page size is in ``unit``. Arcs stay arcs."""
    left, low, right, top = sheet.bounds
    wide, high = right - left + 2 * BLEED, top - low + 2 * BLEED
    per = float(MM_PER[unit])
    ET.register_namespace("", NAMESPACE)
    root = ET.Element(
        f"{{{NAMESPACE}}}svg",
        width=f"{wide / per:.6f}{unit}",
        height=f"{high / per:.6f}{unit}",
        viewBox=f"0 0 {wide:.4f} {high:.4f}",
    )
    ET.SubElement(root, f"{{{NAMESPACE}}}title").text = f"{sheet.title} · {sheet.subtitle}"
    _group(root, sheet, "seams", sheet.seams, {"stroke": "#8a8f98", "stroke-width": "0.2"})
    _group(
        root,
        sheet,
        "marks",
        sheet.arcs,
        {"stroke": "#b9820f", "stroke-width": "0.5", "stroke-dasharray": "1.6 0.9"},
    )
    _group(root, sheet, "signs", sheet.signs, {"stroke": "#b9820f", "stroke-width": "0.5"})
    dots = ET.SubElement(root, f"{{{NAMESPACE}}}g", {"id": "dots", "fill": "#b9820f"})
    for dot in sheet.dots.tolist():
        x, y = to_svg(sheet.bounds, dot)
        ET.SubElement(dots, f"{{{NAMESPACE}}}circle", cx=f"{x:.4f}", cy=f"{y:.4f}", r="0.6")
    ticks = tuple(np.array([tick.foot, tick.tip]) for tick in sheet.ticks)
    _group(root, sheet, "ticks", ticks, {"stroke": "#1e2733", "stroke-width": "0.25"})
    if sheet.tells_figures:
        _figures(root, sheet)
    _bar(root, (wide, high), unit)
    return bytes(ET.tostring(root, encoding="utf-8", xml_declaration=True))


_FIGURE = 2.2  # mm high


def _figures(root: ET.Element, sheet: MarkSheet) -> None:
    """The figure to measure, beside each tick."""
    group = ET.SubElement(
        root, f"{{{NAMESPACE}}}g",
        {"id": "figures", "font-size": f"{_FIGURE}", "font-family": "sans-serif", "fill": "#1e2733", "text-anchor": "middle"},
    )  # fmt: skip
    for tick in sheet.ticks:
        (x0, y0), (x1, y1) = (to_svg(sheet.bounds, at) for at in (tick.foot, tick.tip))
        x, y = x1 + (x1 - x0) * 0.5, y1 + (y1 - y0) * 0.5 + _FIGURE / 3
        ET.SubElement(group, f"{{{NAMESPACE}}}text", x=f"{x:.3f}", y=f"{y:.3f}").text = tick.figure


def _bar(root: ET.Element, size: tuple[float, float], unit: Unit) -> None:
    """A bar of known length in the margin below, to check the scale of a cutter or printer."""
    many, each = (4, float(MM_PER["in"])) if unit == "in" else (100, 1.0)
    while many * each > size[0] - 2 * BLEED and many > 1:
        many //= 2
    y = size[1] - BLEED / 2
    group = ET.SubElement(
        root, f"{{{NAMESPACE}}}g", {"id": "check-bar", "stroke": "#1e2733", "stroke-width": "0.25"}
    )
    end = BLEED + many * each
    ET.SubElement(
        group,
        f"{{{NAMESPACE}}}path",
        d=f"M{BLEED} {y - 1}V{y + 1}M{BLEED} {y}H{end:.4f}M{end:.4f} {y - 1}V{y + 1}",
        fill="none",
    )
    text = ET.SubElement(
        group, f"{{{NAMESPACE}}}text",
        {"x": f"{end + 1.5:.3f}", "y": f"{y + 0.8:.3f}", "font-size": f"{_FIGURE}", "font-family": "sans-serif", "stroke": "none", "fill": "#1e2733"},
    )  # fmt: skip
    text.text = f"{many} {unit}"


def _group(
    root: ET.Element, sheet: MarkSheet, name: str, lines: tuple[np.ndarray, ...], style: dict[str, str]
) -> None:
    group = ET.SubElement(root, f"{{{NAMESPACE}}}g", {"id": name, "fill": "none", **style})
    for line in lines:
        ET.SubElement(group, f"{{{NAMESPACE}}}path", d=_path(sheet, line))


def _path(sheet: MarkSheet, line: np.ndarray) -> str:
    """Straight sides and, if ``line`` has bulges (n, 3), arcs; flipping y reverses their direction."""
    said = []
    for k, row in enumerate(line.tolist()):
        x, y = to_svg(sheet.bounds, (row[0], row[1]))
        before = line[k - 1].tolist() if k else row
        if k and len(before) == 3 and before[2]:
            arc = Arc((before[0], before[1]), (row[0], row[1]), before[2])
            large, sweep = int(abs(arc.bulge) > 1), int(arc.bulge < 0)
            said.append(f"A{arc.radius:.4f} {arc.radius:.4f} 0 {large} {sweep} {x:.4f} {y:.4f}")
        else:
            said.append(f"{'L' if k else 'M'}{x:.4f} {y:.4f}")
    return " ".join(said)
