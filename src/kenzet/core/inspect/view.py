"""The camera model: from mm of a flat frame to pixels of the photograph; and the flattened photograph.

It is a plane homography and one term of radial distortion about the picture's center: a point r half diagonals
from there is seen at r (1 + bend r²). Four corners give the homography; the distortion comes from lines known to
be straight.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from kenzet.core.geom.region import Floats
from kenzet.core.top.ground import homography

Pixels = NDArray[np.uint8]
MARGIN = 8.0
"""mm around the frame that the flattened picture shows."""
_FINEST = 8.0  # px a mm: more shows the weave, not the thread
_MOST = 2600  # px a side
_ROUNDS = 8


@dataclass(frozen=True, eq=False)
class View:
    """``eight`` (a … h) maps a point of the frame, mm, to pixels without distortion; ``bend`` is the distortion,
    without unit."""

    eight: Floats
    middle: tuple[float, float]
    half: float
    bend: float = 0.0

    @classmethod
    def of(
        cls, corners: Floats, frame: tuple[float, float], photo: tuple[int, int], bend: float = 0.0
    ) -> View:
        """The view from ``corners`` (4, 2) px: upper left, upper right, lower right, lower left of a frame of size
        ``frame`` (mm); ``photo`` is its width and height, px."""
        wide, high = frame
        middle, half = (photo[0] / 2, photo[1] / 2), float(np.hypot(*photo)) / 2
        ideal = _unbent(corners, middle, half, bend)
        corner_mm = np.array([[0.0, high], [wide, high], [wide, 0.0], [0.0, 0.0]])
        return cls(homography(corner_mm, ideal), middle, half, bend)

    def to_photo(self, points: Floats) -> Floats:
        """Points of the frame (n, 2), mm, to pixels of the photograph."""
        a, b, c, d, e, f, g, h = self.eight.tolist()
        x, y = points.T
        under = g * x + h * y + 1
        ideal = np.stack([(a * x + b * y + c) / under, (d * x + e * y + f) / under], axis=1)
        return _bent(ideal, self.middle, self.half, self.bend)

    def to_frame(self, pixels: Floats) -> Floats:
        """Pixels of the photograph (n, 2) to points of the frame, mm."""
        ideal = _unbent(pixels, self.middle, self.half, self.bend)
        back = np.linalg.inv(np.append(self.eight, 1.0).reshape(3, 3))
        found = np.column_stack([ideal, np.ones(len(ideal))]) @ back.T
        placed: Floats = found[:, :2] / found[:, 2:]
        return placed


def _bent(ideal: Floats, middle: tuple[float, float], half: float, bend: float) -> Floats:
    away = (ideal - np.array(middle)) / half
    seen: Floats = np.array(middle) + half * away * (1 + bend * (away**2).sum(axis=1, keepdims=True))
    return seen


def _unbent(seen: Floats, middle: tuple[float, float], half: float, bend: float) -> Floats:
    """Points without distortion, by fixed-point iteration: distortions are small."""
    away = (seen - np.array(middle)) / half
    found = away
    for _ in range(_ROUNDS):
        found = away / (1 + bend * (found**2).sum(axis=1, keepdims=True))
    ideal: Floats = np.array(middle) + half * found
    return ideal


@dataclass(frozen=True, eq=False)
class Flat:
    """The frame seen straight from above, with ``MARGIN`` around it: ``light`` (rows, columns), 0 to 255, ``px``
    pixels a mm."""

    light: NDArray[np.float32]
    px: float
    width: float
    height: float

    def cells(self, points: Floats) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
        """Column and row of points of the frame (mm)."""
        column = (points[..., 0] + MARGIN) * self.px - 1 / 2
        row = (self.height + MARGIN - points[..., 1]) * self.px - 1 / 2
        return column.astype(np.float32), row.astype(np.float32)


def finest(frame: tuple[float, float]) -> float:
    """The resolution at which a frame is flattened, pixels a mm."""
    return min(_FINEST, _MOST / (max(frame) + 2 * MARGIN))


def flattened(photo: Pixels, view: View, frame: tuple[float, float], px: float) -> Pixels:
    """The photograph, gray or in color, transformed to the frame seen straight from above, with ``MARGIN`` around
    it."""
    wide, high = frame
    columns, rows = round((wide + 2 * MARGIN) * px), round((high + 2 * MARGIN) * px)
    x = (np.arange(columns) + 1 / 2) / px - MARGIN
    y = high + MARGIN - (np.arange(rows) + 1 / 2) / px
    found = np.empty((rows, columns, 2), dtype=np.float32)
    for row, at in enumerate(y.tolist()):
        found[row] = view.to_photo(np.column_stack([x, np.full(columns, at)]))
    flat = cv2.remap(
        photo,
        found[..., 0] - np.float32(1 / 2),
        found[..., 1] - np.float32(1 / 2),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(flat, dtype=np.uint8)


def flat_of(photo: Pixels, view: View, frame: tuple[float, float]) -> Flat:
    """The brightness of the flattened photograph; colors are weighted as the eye sees them."""
    px = finest(frame)
    grey = photo if photo.ndim == 2 else cv2.cvtColor(photo, cv2.COLOR_RGB2GRAY)
    seen = flattened(np.asarray(grey, dtype=np.uint8), view, frame, px)
    return Flat(seen.astype(np.float32), px, *frame)
