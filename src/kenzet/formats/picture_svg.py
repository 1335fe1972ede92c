"""A small picture of a quilt as SVG: its patches in their fabrics with the planned lines."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from xml.etree import ElementTree as ET

import numpy as np

from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.route.unit import rings
from kenzet.core.top.fabric_color import PLAIN
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.svg import NAMESPACE

_MOST_LINES = 3_000
_STITCH = 0.0025  # of the longer side
_SEAM = 0.0018  # of the longer side


def picture_svg(laid: QuiltLayout) -> bytes:
    """In millimeters, y down; lines are left out if there are thousands of them."""
    wide, high = laid.top.width, laid.top.height
    ET.register_namespace("", NAMESPACE)
    root = ET.Element(f"{{{NAMESPACE}}}svg", viewBox=f"0 0 {wide:.1f} {high:.1f}")
    ET.SubElement(root, f"{{{NAMESPACE}}}title").text = laid.quilt.name
    seam = {
        "stroke": "#6e685a", "stroke-opacity": "0.5", "stroke-width": f"{_SEAM * max(wide, high):.2f}", "stroke-linejoin": "round"
    }  # fmt: skip
    for colour, paths in _patches(laid, high).items():
        ET.SubElement(
            root,
            f"{{{NAMESPACE}}}path",
            {"fill": colour, "fill-rule": "evenodd", **seam, "d": "".join(paths)},
        )
    lines = list(_lines(laid, high))
    if lines:
        style = {"fill": "none", "stroke": "#2b3a67", "stroke-width": f"{_STITCH * max(wide, high):.2f}"}
        ET.SubElement(root, f"{{{NAMESPACE}}}path", {**style, "d": "".join(lines)})
    return bytes(ET.tostring(root, encoding="utf-8", xml_declaration=True))


def _patches(laid: QuiltLayout, high: float) -> dict[str, list[str]]:
    found: dict[str, list[str]] = defaultdict(list)
    for part in laid.top.parts.values():
        for patch in part.patches.values():
            fabric = laid.quilt.fabrics.get(patch.fabric)
            for placing in part.places.values():
                placed = (place_all(placing, ring) for ring in rings(patch.area))
                found[fabric.colour if fabric else PLAIN] += [_path(ring, high) + "Z" for ring in placed]
    return found


def _lines(laid: QuiltLayout, high: float) -> Iterable[str]:
    plans = list(plan_quilt(laid).values())
    if sum(plan.lines_in_quilt for plan in plans) > _MOST_LINES:
        return
    for plan in plans:
        for drawing in plan.drawings:
            for place in drawing.places:
                placing = drawing.shape.part.places[place]
                for line in drawing.polylines if drawing.fill.sewn else ():
                    yield _path(place_all(placing, line), high)


def _path(points: Floats, high: float) -> str:
    x, y = np.round(points[:, 0], 1).tolist(), np.round(high - points[:, 1], 1).tolist()
    return "M" + "L".join(f"{a:g} {b:g}" for a, b in zip(x, y, strict=True))
