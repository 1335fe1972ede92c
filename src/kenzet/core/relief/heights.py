"""How high quilted cloth stands above its stitches: a thin sheet under even pressure, held down along them.

The model: Δh = -p where the cloth is free, h = 0 on stitches and at the quilt's edge, 0 <= h <= loft. Between two
long lines w apart this is h = p (w/2 - x)(w/2 + x) / 2, with p w² / 8 in the middle, up to the loft. p is such that a
channel ``CHANNEL`` wide rises to the batting's own share of the loft (``SHARE`` if unknown). The model ignores that
weave pulls in more along one thread than across, that dense stitching stiffens its surroundings, and that washing
crinkles. Heights are for looking and for comparing zones, not for measuring.

Solved on a raster by red-black successive over-relaxation, from coarse to fine; heights above the loft are cut off
at every step, so that the sheet rests against a plate. O(pixels).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from kenzet.core.numbers.measure import INCH

Heights = NDArray[np.float32]
Mask = NDArray[np.bool_]

CHANNEL = INCH
"""mm: the distance between two lines at which the cloth of most battings rises to ``SHARE`` of the loft."""
SHARE = 0.8
_COARSEST = 12  # pixels of the shorter side, at least
_SWEEPS = 30
_ROUGH = 16  # sweeps on a coarse raster: what it leaves, the next one mends
_WIDEST = 1.12  # channels: wider ones lie at the loft in their middle


def heights(held: Mask, pixel: float, loft: float, share: float = SHARE) -> Heights:
    """The height above the stitches at every pixel of ``held`` (rows, columns), mm; ``held`` is true where a stitch
    holds the cloth.

    A pixel is ``pixel`` mm wide and high; the cloth rises to ``share`` of ``loft`` in a channel ``CHANNEL`` wide.
    Everything outside the raster is held.
    """
    levels = [(held, pixel)]
    while min(levels[-1][0].shape) > 2 * _COARSEST:
        levels.append((_halved(levels[-1][0]), 2 * levels[-1][1]))
    found: Heights = np.zeros(levels[-1][0].shape, dtype=np.float32)
    for mask, wide in reversed(levels):
        if found.shape != mask.shape:
            found = found.repeat(2, axis=0).repeat(2, axis=1)[: mask.shape[0], : mask.shape[1]]
        _relax(found, mask, wide, loft, share, _SWEEPS if mask is held else _ROUGH)
    return found


def _halved(held: Mask) -> Mask:
    """The raster at half the resolution; a pixel is held if any of its four is."""
    rows, columns = (-(-size // 2) * 2 for size in held.shape)
    padded = np.zeros((rows, columns), dtype=bool)
    padded[: held.shape[0], : held.shape[1]] = held
    return np.asarray(padded.reshape(rows // 2, 2, columns // 2, 2).any(axis=(1, 3)), dtype=bool)


def _relax(found: Heights, held: Mask, wide: float, loft: float, share: float, sweeps: int) -> None:
    """Relaxes ``found`` in place."""
    pressure = 8 * share * loft / CHANNEL**2
    rise = np.float32(pressure * wide * wide / 4)
    across = max(_WIDEST * CHANNEL / wide, 3.0)
    over = np.float32(2 / (1 + np.sin(np.pi / across)))
    most = np.where(held, np.float32(0), np.float32(loft))
    sheet = np.pad(found, 1)
    sheet[1:-1, 1:-1][held] = 0
    rows, columns = found.shape
    for _ in range(sweeps):
        for row, column in ((0, 0), (1, 1), (0, 1), (1, 0)):
            # every other pixel of every other row: its neighbors are of the other color
            mine = sheet[1 + row : rows + 1 : 2, 1 + column : columns + 1 : 2]
            many, wide_ = mine.shape
            up = sheet[row : row + 2 * many : 2, 1 + column : columns + 1 : 2]
            down = sheet[2 + row : 2 + row + 2 * many : 2, 1 + column : columns + 1 : 2]
            left = sheet[1 + row : rows + 1 : 2, column : column + 2 * wide_ : 2]
            right = sheet[1 + row : rows + 1 : 2, 2 + column : 2 + column + 2 * wide_ : 2]
            goal = (up + down + left + right) * np.float32(0.25)
            goal += rise - mine
            goal *= over
            goal += mine
            np.clip(goal, 0, most[row::2, column::2], out=mine)
    found[:] = sheet[1:-1, 1:-1]
