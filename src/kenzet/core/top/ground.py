"""A photograph of the quilter's own top shown under the plan: which one, where, its corners, how strongly.

Glossary: the *corners* are those of the quilt (or of one block) in the photograph: upper left, upper right, lower
right, lower left, each as shares of the photograph's width and height, from its upper left. To *straighten* is to
map this quadrilateral onto the upright rectangle (a plane homography).
"""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Floats
from kenzet.core.params import Frozen
from kenzet.core.top.zone import Place, Spot
from kenzet.texts import tr

_LEAST_AREA = 0.002  # of the photograph


class Ground(Frozen):
    """The photograph ``photo`` under ``place``; ``strength`` 0 hides the photograph, 1 hides the fabrics instead."""

    photo: Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
    place: Place = "top"
    corners: tuple[Spot, Spot, Spot, Spot]
    strength: Annotated[float, Field(ge=0, le=1)] = 0.6

    @model_validator(mode="after")
    def _convex(self) -> Ground:
        points = np.array(self.corners)
        sides = np.roll(points, -1, axis=0) - points
        after = np.roll(sides, -1, axis=0)
        turns = sides[:, 0] * after[:, 1] - sides[:, 1] * after[:, 0]
        if (turns <= 0).any() or turns.sum() / 4 < _LEAST_AREA:
            raise BadValue(
                tr(
                    "The four corners must lie in the order upper left, upper right, lower right, lower left, and none inside the triangle of the others."
                ),
                "corners",
            )
        return self


def homography(source: Floats, target: Floats) -> Floats:
    """The eight numbers (a … h) that map (x, y) to ((ax+by+c)/(gx+hy+1), (dx+ey+f)/(gx+hy+1)).

    ``source`` and ``target`` are (4, 2), no three points on a line. Standard four-point solution: two linear
    equations for each point.

    >>> square = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], float)
    >>> homography(square, 2 * square + 1).round(9).tolist()
    [2.0, 0.0, 1.0, 0.0, 2.0, 1.0, 0.0, 0.0]
    """
    rows, right = [], []
    for (x, y), (u, v) in zip(source.tolist(), target.tolist(), strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    found: Floats = np.linalg.solve(np.array(rows, float), np.array(right, float))
    return found


def straightening(
    corners: tuple[Spot, Spot, Spot, Spot], photo: tuple[int, int], flat: tuple[int, int]
) -> Floats:
    """The map from a pixel of the straightened picture (``flat`` wide and high) to ``photo``."""
    wide, high = flat
    frame = np.array([[0, 0], [wide, 0], [wide, high], [0, high]], float)
    return homography(frame, np.array(corners) * photo)
