"""F6: the step along an edge that a slanted family meets, which is not its spacing."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from kenzet.core.fills.base import Family
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Region
from kenzet.core.measure import Length

_SQUARE = 89.5  # degrees: from here on step and spacing are the same to the eye


@dataclass(frozen=True, slots=True)
class Slant:
    """Edges that lines meet at ``degrees`` (1 to 90): one line comes every ``step`` mm along them."""

    degrees: float
    step: float


def step_along(spacing: float, degrees: float) -> float:
    """v = s / sin f. Also the travel along a seam for an echo of ``spacing`` (A59).

    >>> [round(step_along(0.5, f), 3) for f in (22.5, 30, 45, 60)]
    [1.307, 1.0, 0.707, 0.577]
    """
    return spacing / math.sin(math.radians(degrees))


def spacing_for(step: Length, degrees: float) -> Length:
    """s = v sin f (F6): the spacing that a step along an edge met at ``degrees`` makes.

    >>> spacing_for(Length.parse("1 in"), 30).text
    '1/2 in'
    """
    return Length.near(float(step.mm) * math.sin(math.radians(degrees)), step.unit)


def slants(region: Region, families: Sequence[Family]) -> list[Slant]:
    """The slants at which straight families meet the edges, the longest run of edges first."""
    runs: dict[float, float] = {}
    steps: dict[float, float] = {}
    for family in families:
        if not isinstance(family, Straight):
            continue
        for edge in region.edges:
            angle = abs((edge.angle - family.angle + 90) % 180 - 90)
            if 1.0 < angle < _SQUARE:
                key = round(angle, 1)
                runs[key] = runs.get(key, 0.0) + edge.length
                steps[key] = step_along(float(family.pitch), angle)
    return [Slant(angle, steps[angle]) for angle in sorted(runs, key=lambda a: -runs[a])]
