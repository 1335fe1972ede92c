"""The density map of a quilt as a picture to lay over it."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from kenzet.core.balance.density import HANDS, density_map, limits
from kenzet.core.numbers.measure import INCH
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say.balance_words import HAND_COLOURS

_SEEN = 224  # of 255: the piecing shows through a little


def density_picture(laid: QuiltLayout) -> bytes:
    """A PNG with one pixel for each cell of the map. Each word's color is at the middle of its range and blends
    into the next."""
    found = density_map(laid).values
    soft, firm, stiff = limits(laid.quilt.use, laid.quilt.kit.batting)
    at = [0.0, soft / 2, (soft + firm) / 2, (firm + stiff) / 2, stiff * 1.25]
    colours = np.array([[int(HAND_COLOURS[hand][k : k + 2], 16) for k in (1, 3, 5)] for hand in HANDS])
    picture = np.empty((*found.shape, 4), dtype=np.uint8)
    for channel in range(3):
        picture[:, :, channel] = np.interp(found, at, colours[:, channel])
    picture[:, :, 3] = _SEEN
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "PNG", optimize=True)
    return out.getvalue()


def density_table(laid: QuiltLayout) -> bytes:
    """The map as CSV: inches per square inch, one row of cells a line, the quilt's upper edge first; x and y are
    the cell centers in inches from its lower left corner."""
    found = density_map(laid)
    wide, (rows, columns) = found.raster.wide / INCH, found.values.shape
    lines = ["y \\ x," + ",".join(f"{(k + 0.5) * wide:.3f}" for k in range(columns))]
    for k, row in enumerate((found.values * INCH).tolist()):
        lines.append(f"{(rows - k - 0.5) * wide:.3f}," + ",".join(f"{value:.3f}" for value in row))
    return ("\n".join(lines) + "\n").encode()
