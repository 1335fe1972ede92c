"""The cloth of a whole quilt on a raster: where stitches hold it, which fabric is where, and how the light falls
on it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from kenzet.core.geom.affine import place_all
from kenzet.core.geom.region import Floats
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.numbers.measure import INCH
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.relief.heights import Heights, Mask, heights
from kenzet.core.tolerances import DIVISOR
from kenzet.core.top.quilt_layout import QuiltLayout

Light = Literal["upper left", "upper right", "left", "right", "above"]
Picture = NDArray[np.uint8]

MOST_PIXELS = 4_500_000
FINEST = INCH / 20
"""mm: the smallest pixel, about the width of a stitch."""
_TOWARDS: dict[Light, tuple[float, float]] = {
    "upper left": (-0.7, 0.7), "upper right": (0.7, 0.7), "left": (-1.0, 0.0), "right": (1.0, 0.0), "above": (0.0, 1.0),
}  # fmt: skip
_RISES = 0.84  # the light's height: 40 degrees over the cloth, as its tangent
_STEEPER = 1.5  # relief is told more plainly than the eye would see it straight on
_VALLEY = 0.85  # how light it is at the foot of a stitch
_THREAD = 0.8  # a stitch lies in the shade of its own valley


@dataclass(frozen=True, slots=True)
class Raster:
    """Square pixels of ``wide`` mm over a quilt; row 0 is at the top."""

    rows: int
    columns: int
    wide: float

    @classmethod
    def over(cls, laid: QuiltLayout, longer: int) -> Raster:
        """A raster with ``longer`` pixels along the longer side, none smaller than a stitch is wide."""
        width, height = laid.top.width, laid.top.height
        wide = max(max(width, height) / longer, FINEST, (width * height / MOST_PIXELS) ** 0.5)
        return cls(max(round(height / wide), 1), max(round(width / wide), 1), wide)

    def cells(self, points: Floats) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """Row and column of points of the quilt, mm, y up."""
        column = np.clip((points[:, 0] / self.wide).astype(np.int64), 0, self.columns - 1)
        row = np.clip(self.rows - 1 - (points[:, 1] / self.wide).astype(np.int64), 0, self.rows - 1)
        return row, column


def stitched(laid: QuiltLayout, raster: Raster) -> Mask:
    """The pixels that a line of stitches crosses. A freehand texture is taken as its hint is drawn, since its own
    lines are unknown."""
    held: Mask = np.zeros((raster.rows, raster.columns), dtype=bool)
    for line in sewn_lines(laid):
        row, column = raster.cells(along(line, raster.wide / 2))
        held[row, column] = True
    return held


def sewn_lines(laid: QuiltLayout, textures: bool = True) -> Iterable[Floats]:
    """Every line of stitches in the quilt's coordinates, (n, 2) mm; with ``textures`` also the hints of freehand
    textures."""
    for plan in plan_quilt(laid).values():
        for drawing in plan.drawings:
            if not drawing.fill.sewn:
                continue
            hints = [hint.polyline for hint in drawing.hints] if textures else []
            lines = [*drawing.polylines, *hints]
            for place in drawing.places:
                placing = drawing.shape.part.places[place]
                for line in lines:
                    yield place_all(placing, line)


def along(line: Floats, step: float) -> Floats:
    """Points along a polyline, at most ``step`` mm apart."""
    far = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(line, axis=0).T))])
    at = np.linspace(0.0, far[-1], max(int(far[-1] / step) + 2, 2))
    return np.stack([np.interp(at, far, line[:, 0]), np.interp(at, far, line[:, 1])], axis=1)


def cloth_heights(laid: QuiltLayout, raster: Raster) -> tuple[Heights, Mask]:
    """The height at every pixel, mm, and which pixels are stitched."""
    held = stitched(laid, raster)
    return batting_heights(held, raster.wide, laid.quilt.kit.batting), held


def batting_heights(held: Mask, pixel: float, batting: Batting) -> Heights:
    """The height at every pixel of cloth on ``batting``, mm."""
    return heights(held, pixel, float(batting.thickness.mm), batting.rise / 100)


def lit(
    fabric: Picture, found: Heights, held: Mask, wide: float, light: Light, back: bool = False
) -> Picture:
    """``fabric`` (rows, columns, 3) lit from one side; ``back`` shows the back of the quilt, mirrored."""
    if back:
        fabric, found, held = fabric[:, ::-1], found[:, ::-1], held[:, ::-1]
    up, across = np.gradient(found, np.float32(wide))
    x, y = _TOWARDS[light]
    # the normal is (-dh/dx, dh/drow, 1): rows run down
    slope_x, slope_y = -across * _STEEPER, up * _STEEPER
    shade = (
        (slope_x * x + slope_y * y + _RISES) / np.sqrt(slope_x**2 + slope_y**2 + 1) / np.sqrt(1 + _RISES**2)
    )
    flat = _RISES / np.sqrt(1 + _RISES**2)
    loft = max(float(found.max()), DIVISOR)
    deep = _VALLEY + (1 - _VALLEY) * np.sqrt(np.clip(found / loft, 0, 1))
    bright = np.clip(0.35 + 0.65 * shade / flat, 0.25, 1.5) * deep * np.where(held, _THREAD, 1.0)
    return np.asarray(np.clip(fabric * bright[:, :, None] * 1.06, 0, 255), dtype=np.uint8)
