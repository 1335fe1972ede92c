"""Average color of a fabric's picture, and whether its print is calm or busy.

Light is averaged, not the encoded values (sRGB, IEC 61966-2-1). A print is busy if the spread of its lightness
(CIE 1976 L*) is large, once the picture is small enough that single threads are gone. The limit is our own choice,
tried on plain, tone-on-tone and large prints.
"""

from __future__ import annotations

from typing import Literal

import numpy as np

from kenzet.core.geom.region import Floats

PLAIN = "#e8e1d3"
"""The color used for a fabric whose color is unknown."""
BUSY = 8.0
"""The standard deviation of L* (0 to 100) from which a print is called busy."""


def fabric_color(pixels: Floats) -> tuple[str, Literal["calm", "busy"]]:
    """Color as #rrggbb and print of a picture (rows, columns, 3), 0 to 255.

    >>> fabric_color(np.full((4, 4, 3), 128.0))
    ('#808080', 'calm')
    >>> fabric_color(np.indices((4, 4)).sum(0)[..., None] % 2 * np.full(3, 255.0))
    ('#bcbcbc', 'busy')
    """
    share = pixels.reshape(-1, 3) / 255
    light = np.where(share <= 0.04045, share / 12.92, ((share + 0.055) / 1.055) ** 2.4)
    mean = light.mean(axis=0)
    back = np.where(mean <= 0.0031308, mean * 12.92, 1.055 * mean ** (1 / 2.4) - 0.055)
    red, green, blue = (back * 255).round().astype(int).tolist()
    y = light @ (0.2126, 0.7152, 0.0722)
    lightness = np.where(y > 216 / 24389, 116 * np.cbrt(y) - 16, y * 24389 / 27)
    return f"#{red:02x}{green:02x}{blue:02x}", "busy" if lightness.std() >= BUSY else "calm"
