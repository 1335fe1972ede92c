"""What can be clicked in a zone: its edges, corners and features; cached by shape."""

from __future__ import annotations

from functools import lru_cache

from kenzet.core.advice.features import features_of
from kenzet.core.fills.base import Site
from kenzet.core.geom.edge_ticks import corner_names, edge_names
from kenzet.core.geom.region import Region
from kenzet.core.top.quilt_layout import ZoneShape
from kenzet.web.wire import base as m


class FeatureView(m.Spot):
    """A feature that lines can meet or be counted from; ``share`` is its place as shares of the zone's bounds."""

    share: list[float]


@lru_cache(maxsize=64)
def edges(region: Region) -> list[m.Spot]:
    """The straight runs of its outline."""
    return [
        m.Spot.model_construct(points=[*edge.start, *edge.end], name=name)
        for edge, name in zip(region.edges, edge_names(region), strict=True)
    ]


@lru_cache(maxsize=64)
def corners(region: Region) -> list[m.Spot]:
    """In reading order, named by where they lie."""
    return [
        m.Spot.model_construct(points=list(corner), name=name)
        for corner, name in zip(region.corners, corner_names(region), strict=True)
    ]


@lru_cache(maxsize=64)
def features(shape: ZoneShape) -> list[FeatureView]:
    """Features that lines can meet or be counted from."""
    at = Site(shape.uncut, shape.part.centre, shape.part.centre)
    return [
        FeatureView.model_construct(points=list(f.point), name=f.name, share=list(at.share_of(f.point)))
        for f in features_of(shape)
    ]
