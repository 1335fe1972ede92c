"""The route through a block as SVG at true size: every line numbered where it begins, with an arrow; travel
dotted."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from xml.etree import ElementTree as ET

import numpy as np

from kenzet.core.errors import Unknown
from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import MM_PER, Unit
from kenzet.core.route.quilt import QuiltRoute, line_of
from kenzet.core.route.turns import is_freehand
from kenzet.core.route.unit import rings
from kenzet.core.tolerances import ROUNDING
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.beside_lines import beside_lines
from kenzet.formats.placement import BLEED, to_svg
from kenzet.formats.svg import NAMESPACE
from kenzet.say.route_words import sentence
from kenzet.texts import tr

_ARROW = 1.6  # mm
_TEXT = 2.6
_CLEAR = 0.5


@dataclass(frozen=True, eq=False)
class RoutePiece:
    """A polyline (n, 2) in the direction of sewing, mm, y up; ``sews`` for a line (or ``freehand`` for a texture),
    else travel; ``begins`` if a thread begins with it."""

    line: Floats
    sews: bool
    begins: bool
    freehand: bool = False


class _Page:
    """An SVG page under construction; points are mm of the part, y up."""

    def __init__(self, title: str, size: tuple[float, float], unit: Unit) -> None:
        self.bounds = (0.0, 0.0, *size)
        wide, high = size[0] + 2 * BLEED, size[1] + 2 * BLEED
        per = float(MM_PER[unit])
        ET.register_namespace("", NAMESPACE)
        self.root = ET.Element(
            f"{{{NAMESPACE}}}svg", width=f"{wide / per:.6f}{unit}", height=f"{high / per:.6f}{unit}", viewBox=f"0 0 {wide:.4f} {high:.4f}"
        )  # fmt: skip
        self.put(self.root, "title").text = title

    def put(self, parent: ET.Element, tag: str, **said: str) -> ET.Element:
        return ET.SubElement(
            parent, f"{{{NAMESPACE}}}{tag}", {key.replace("_", "-"): value for key, value in said.items()}
        )

    def group(self, name: str, **style: str) -> ET.Element:
        return self.put(self.root, "g", id=name, **style)

    def at(self, point: Floats) -> tuple[float, float]:
        x, y = to_svg(self.bounds, point.tolist())
        return x, y

    def path(self, parent: ET.Element, line: Floats) -> None:
        ends = map(self.at, line)
        self.put(
            parent, "path", d=" ".join(f"{'L' if k else 'M'}{x:.3f} {y:.3f}" for k, (x, y) in enumerate(ends))
        )


def route_svg(
    title: str, size: tuple[float, float], seams: Iterable[Floats], way: Sequence[RoutePiece], unit: Unit
) -> bytes:
    """Groups ``seams``, ``travel``, ``lines``, ``freehand``, ``numbers`` and ``threads``; the page size is in
    ``unit``."""
    page = _Page(title, size, unit)
    thin = page.group("seams", fill="none", stroke="#8a8f98", stroke_width="0.2")
    for seam in seams:
        page.path(thin, seam)
    _draw_way(page, way)
    _draw_numbers(
        page, [piece for piece in way if piece.sews], [piece.line for piece in way if not piece.sews]
    )
    _draw_threads(page, way)
    return bytes(ET.tostring(page.root, encoding="utf-8", xml_declaration=True))


def _draw_way(page: _Page, way: Sequence[RoutePiece]) -> None:
    dotted = {"stroke_linecap": "round", "stroke_dasharray": "0.01 1.4"}
    travel = page.group("travel", fill="none", stroke="#a8392c", stroke_width="0.7", **dotted)
    lines = page.group("lines", fill="none", stroke="#2b3a67", stroke_width="0.4")
    dashed = {"stroke_linecap": "round", "stroke_dasharray": "0.4 1.2"}
    freehand = page.group("freehand", fill="none", stroke="#2b3a67", stroke_width="0.4", **dashed)
    for piece in way:
        page.path(freehand if piece.freehand else lines if piece.sews else travel, piece.line)
        page.path(lines if piece.sews else travel, _arrow(piece.line))


def _draw_numbers(page: _Page, sewn: Sequence[RoutePiece], travels: Sequence[Floats]) -> None:
    halo = {"stroke": "#ffffff", "stroke_width": "0.8", "paint_order": "stroke", "stroke_linejoin": "round"}
    numbers = page.group(
        "numbers",
        fill="#1e2733",
        font_family="sans-serif",
        font_size=f"{_TEXT}",
        text_anchor="middle",
        **halo,
    )
    lines = [piece.line[:, :2] for piece in sewn]
    sizes = [(0.6 * _TEXT * len(str(number)), 0.75 * _TEXT) for number in range(1, len(sewn) + 1)]
    for number, spot in enumerate(beside_lines(lines, sizes, _CLEAR, [line[:, :2] for line in travels]), 1):
        x, y = page.at(np.array(spot))
        page.put(numbers, "text", x=f"{x:.3f}", y=f"{y + _TEXT / 3:.3f}").text = str(number)


def _draw_threads(page: _Page, way: Sequence[RoutePiece]) -> None:
    """A ring where a thread begins, a square where it ends."""
    threads = page.group("threads", stroke="#a8392c", stroke_width="0.5")
    for k, piece in enumerate(way):
        if piece.begins:
            x, y = page.at(piece.line[0])
            page.put(threads, "circle", cx=f"{x:.3f}", cy=f"{y:.3f}", r="1.3", fill="#ffffff")
        if k + 1 == len(way) or way[k + 1].begins:
            x, y = page.at(piece.line[-1])
            page.put(
                threads, "rect", x=f"{x - 1:.3f}", y=f"{y - 1:.3f}", width="2", height="2", fill="#a8392c"
            )


def _along(line: Floats, share: float) -> tuple[Floats, float]:
    """The point at ``share`` of a polyline's length, and the direction there in radians."""
    ways = np.diff(line, axis=0)
    long = np.hypot(*ways.T)
    ends = np.concatenate([[0.0], np.cumsum(long)])
    k = min(int(np.searchsorted(ends, share * ends[-1], side="right")) - 1, len(long) - 1)
    part = (share * ends[-1] - ends[k]) / max(float(long[k]), ROUNDING)
    return line[k] + part * ways[k], math.atan2(ways[k][1], ways[k][0])


def _arrow(line: Floats) -> Floats:
    """A small arrow head slightly beyond the middle."""
    (x, y), lean = _along(line, 0.6)
    sides = [
        (x - _ARROW * math.cos(lean + turn), y - _ARROW * math.sin(lean + turn)) for turn in (0.45, -0.45)
    ]
    return np.array([sides[0], (x, y), sides[1]])


def place_route_svg(laid: QuiltLayout, found: QuiltRoute, number: int, unit: Unit) -> tuple[bytes, str]:
    """The route at the ``number``-th place of the order, from 1, in the block's coordinates; and the block's key.

    Raises Unknown if nothing is sewn there.
    """
    if not 0 < number <= len(found.visits):
        raise Unknown(tr("Nothing is sewn there."), "number")
    visit = found.visits[number - 1]
    one = found.routes[visit.route]
    part = one.unit.part
    way = [
        RoutePiece(line_of(one.network.paths[leg.edge], leg.back), leg.sews, k == 0, is_freehand(one, leg))
        for run in (one.backwards if visit.back else one.runs)
        for k, leg in enumerate(run.legs)
    ]
    seams = [ring for patch in part.patches.values() for ring in rings(patch.area)]
    title = f"{laid.quilt.name} · {part.name} · {sentence(one, visit)}"
    return route_svg(title, (part.width, part.height), seams, way, unit), part.key
