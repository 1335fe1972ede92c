"""Features of a zone that lines should meet: corners, seam crossings, middles of edges, the centre."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely

from kenzet.core.geom.arcs import key
from kenzet.core.geom.edge_ticks import corner_names, edge_names
from kenzet.core.geom.place_names import place_names
from kenzet.core.geom.region import Point
from kenzet.core.top.quilt_layout import ZoneShape
from kenzet.texts import tr

_APART = 1.0  # mm: features nearer together than this are one
MOST_FEATURES = 400


@dataclass(frozen=True, slots=True)
class Feature:
    """A named place in the part's coordinates, mm."""

    name: str
    point: Point


@lru_cache(maxsize=64)
def features_of(shape: ZoneShape) -> tuple[Feature, ...]:
    """Each feature once: corners in reading order, then places where seams cross or end, midpoints of edges, the
    center."""
    region = shape.uncut
    found = [Feature(name, at) for name, at in zip(corner_names(region), region.corners, strict=True)]
    nodes = sorted(_crossings(shape), key=lambda p: (-round(p[1], 2), p[0]))
    names = place_names(nodes, [tr("seam crossing")] * len(nodes), region.bounds)
    found += [Feature(name, node) for name, node in zip(names, nodes, strict=True)]
    for name, edge in zip(edge_names(region), region.edges, strict=True):
        found.append(Feature(tr("middle of the {name}", name=name), edge.at(edge.length / 2)))
    found.append(Feature(tr("the center"), region.middle))
    found = found[:MOST_FEATURES]
    places = np.array([feature.point for feature in found])
    kept: list[int] = []
    for number, place in enumerate(places):
        if (np.hypot(*(places[kept] - place).T) > _APART).all():
            kept.append(number)
    return tuple(found[number] for number in kept)


def _crossings(shape: ZoneShape) -> set[Point]:
    """Points where seams inside the zone cross or end."""
    seams = shape.seams
    if not seams:
        return set()
    noded = shapely.union_all(shapely.linestrings(seams))
    lines = getattr(noded, "geoms", [noded])
    return {key(end) for line in lines for end in (line.coords[0], line.coords[-1])}
