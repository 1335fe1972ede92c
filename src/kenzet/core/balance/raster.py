"""Which pixels of a raster a shape covers at each of its places."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import partial

import numpy as np
import shapely

from kenzet.core.geom.affine import place_all
from kenzet.core.relief.cloth import Raster
from kenzet.core.relief.heights import Mask
from kenzet.core.top.quilt_layout import ZoneShape

Pixels = tuple[slice, slice, Mask]


def pixels(raster: Raster, shape: ZoneShape, places: Iterable[str]) -> Iterator[Pixels]:
    """For each place: the rows and columns around the shape, and which of these pixels have their center in it."""
    height = raster.rows * raster.wide
    for place in places:
        placing = shape.part.places[place]
        area = shapely.transform(shape.region.area, partial(place_all, placing))
        shapely.prepare(area)
        left, low, right, high = (bound / raster.wide for bound in area.bounds)
        first, last = max(int(left), 0), min(int(right) + 1, raster.columns)
        top, bottom = max(int(raster.rows - high), 0), min(int(raster.rows - low) + 1, raster.rows)
        x, y = np.meshgrid(
            (np.arange(first, last) + 0.5) * raster.wide,
            height - (np.arange(top, bottom) + 0.5) * raster.wide,
        )
        yield slice(top, bottom), slice(first, last), shapely.intersects_xy(area, x, y)
