"""Ticks along the edges of a zone, each counted from one corner (F35).

Glossary: the *datum corner* of an edge is its left end, or its upper end where it stands upright.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np

from kenzet.core.geom.place_names import place_names
from kenzet.core.geom.region import Edge, Floats, Region
from kenzet.core.numbers.spacing import Tick, stepping_error, ticks
from kenzet.core.tolerances import ON_EDGE, SAME_PLACE
from kenzet.texts import tr

_ONE_TICK = 0.02  # mm: ends nearer together than this are one tick


@dataclass(frozen=True, slots=True)
class TickedEdge:
    """An edge with its ticks. ``behind`` is its name as seen from the back. ``gap`` is the distance between ticks
    and ``stepped`` the error of the last tick if a rounded gap were stepped off; both None if the ticks are not
    evenly spaced."""

    name: str
    behind: str
    edge: Edge
    ticks: tuple[Tick, ...]
    gap: Fraction | None
    stepped: Fraction | None


def mirrored(ticked: TickedEdge, across: float, step: Fraction) -> TickedEdge:
    """The edge as it appears on the back, mirrored about x = ``across`` / 2 (mm). It is counted from its left end
    there, each tick rounded to ``step``."""
    (x0, y0), (x1, y1) = ticked.edge.start, ticked.edge.end
    names = (ticked.behind, ticked.name)
    if ticked.edge.datum == "top":
        edge = Edge((across - x0, y0), (across - x1, y1))
        return TickedEdge(*names, edge, ticked.ticks, ticked.gap, ticked.stepped)
    long = Fraction(ticked.edge.length).limit_denominator(10**9)
    places = [long - tick.at for tick in reversed(ticked.ticks)]
    edge = Edge((across - x1, y1), (across - x0, y0))
    return TickedEdge(*names, edge, tuple(ticks(places, step)), ticked.gap, ticked.stepped)


def edge_names(region: Region, behind: bool = False) -> list[str]:
    """A name for every edge of ``region`` in order: "top", "bottom", "left" or "right" if it is that whole side,
    else by where it lies. With ``behind``, the names of the same edges as seen from the back."""
    left, low, right, high = region.bounds
    whole: dict[int, str] = {}
    nouns = []
    for number, edge in enumerate(region.edges):
        (x0, y0), (x1, y1) = edge.start, edge.end
        wide, tall = abs(x1 - x0), abs(y0 - y1)
        level, upright = tall < SAME_PLACE, wide < SAME_PLACE
        if (
            level
            and abs(wide - (right - left)) < SAME_PLACE
            and min(abs(y0 - high), abs(y0 - low)) < SAME_PLACE
        ):
            whole[number] = tr("top edge") if abs(y0 - high) < SAME_PLACE else tr("bottom edge")
        elif (
            upright
            and abs(tall - (high - low)) < SAME_PLACE
            and min(abs(x0 - left), abs(x0 - right)) < SAME_PLACE
        ):
            is_left = abs(x0 - left) < SAME_PLACE
            whole[number] = tr("left edge") if is_left != behind else tr("right edge")
        nouns.append(tr("level edge") if level else tr("upright edge") if upright else tr("slanted edge"))
    rest = [number for number in range(len(nouns)) if number not in whole]
    middles = [region.edges[number].at(region.edges[number].length / 2) for number in rest]
    names = place_names(middles, [nouns[number] for number in rest], region.bounds, behind)
    return [whole.get(number) or names[rest.index(number)] for number in range(len(nouns))]


def corner_names(region: Region) -> list[str]:
    """A name for every corner of ``region`` in order, by where it lies."""
    return place_names(list(region.corners), [tr("corner")] * len(region.corners), region.bounds)


def ticked_edges(region: Region, ends: Floats, step: Fraction) -> list[TickedEdge]:
    """Every edge on which a line ends (``ends``: (n, 2)), with its ticks rounded to ``step`` (mm)."""
    found = []
    for name, behind, edge in zip(
        edge_names(region), edge_names(region, behind=True), region.edges, strict=True
    ):
        places = _places(edge, ends)
        if places:
            gap = _even_gap(places)
            stepped = stepping_error(gap, len(places) - 1, step) if gap and len(places) > 1 else None
            found.append(TickedEdge(name, behind, edge, tuple(ticks(places, step)), gap, stepped))
    return found


def _places(edge: Edge, ends: np.ndarray) -> list[Fraction]:
    """Where lines meet ``edge`` between its corners, mm from the datum corner, ascending."""
    (x0, y0), (x1, y1) = edge.start, edge.end
    ux, uy = (x1 - x0) / edge.length, (y1 - y0) / edge.length
    along = (ends[:, 0] - x0) * ux + (ends[:, 1] - y0) * uy
    off = np.abs((ends[:, 0] - x0) * -uy + (ends[:, 1] - y0) * ux)
    on = (off < ON_EDGE) & (along > _ONE_TICK) & (along < edge.length - _ONE_TICK)
    places = np.sort(along[on])
    new = np.append(True, np.diff(places) > _ONE_TICK)[: len(places)]
    return [Fraction(round(place * 10**6), 10**6) for place in places[new].tolist()]


def _even_gap(places: list[Fraction]) -> Fraction | None:
    gaps = [b - a for a, b in pairwise(places)]
    if not gaps or max(gaps) - min(gaps) > Fraction(1, 50):
        return None
    return (places[-1] - places[0]) / len(gaps)
