"""The faces bounded by lanes: patches and zones.

If the travelled lanes around a face are replaced by its other lanes, all parities stay the same. So a route has a
twin for every face, which exchanges of two joins seldom find.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import shapely

from kenzet.core.route.network import LANES, Network
from kenzet.core.tolerances import FACE_GRID

_MOST = 40


def faces_of(network: Network, allowed: Sequence[bool]) -> list[list[int]]:
    """The edges around each face of the ``allowed`` lanes, at most forty faces, from the left."""
    lanes = [k for k, kind in enumerate(network.kinds.tolist()) if kind in LANES and allowed[k]]
    if not lanes:
        return []
    paths = shapely.set_precision([shapely.linestrings(network.paths[k]) for k in lanes], FACE_GRID)
    middles = shapely.line_interpolate_point(paths, 0.5, normalized=True)
    faces = shapely.get_parts(shapely.polygonize(paths))
    faces = sorted(faces, key=lambda face: tuple(round(x, 1) for x in face.bounds))[:_MOST]
    on = [shapely.dwithin(face.boundary, middles, FACE_GRID) for face in faces]
    return [[lanes[k] for k in np.flatnonzero(one).tolist()] for one in on]
