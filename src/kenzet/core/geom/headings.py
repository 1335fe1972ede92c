"""Directions by name, as seen on something that lies with y up."""

from __future__ import annotations

import math
from typing import Literal, get_args

from kenzet.core.geom.region import Point
from kenzet.core.tolerances import ROUNDING

Heading = Literal[
    "right", "up and right", "up", "up and left", "left", "down and left", "down", "down and right"
]
HEADINGS: tuple[Heading, ...] = get_args(Heading)
Compass = Literal["right", "left", "up", "down"]


def heading(x: float, y: float) -> Heading:
    """The nearest of eight directions.

    >>> heading(0, 5), heading(3, -3), heading(-9, 1), heading(1, 0.3)
    ('up', 'down and right', 'left', 'right')
    """
    return HEADINGS[round(math.atan2(y, x) / (math.pi / 4)) % 8]


def opposite(to: Heading) -> Heading:
    """
    >>> opposite("up"), opposite("down and right")
    ('down', 'up and left')
    """
    return HEADINGS[(HEADINGS.index(to) + 4) % 8]


def compass(x: float, y: float) -> Compass:
    """The nearest of four directions.

    >>> compass(1, 0.2), compass(-1, 0), compass(0.1, 1), compass(0, -1)
    ('right', 'left', 'up', 'down')
    """
    if abs(x) >= abs(y) - ROUNDING:
        return "right" if x > 0 else "left"
    return "up" if y > 0 else "down"


def vector(to: Compass) -> Point:
    """The direction as a vector of length 1."""
    return {"right": (1.0, 0.0), "left": (-1.0, 0.0), "up": (0.0, 1.0), "down": (0.0, -1.0)}[to]
