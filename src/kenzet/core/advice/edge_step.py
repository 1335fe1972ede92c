"""F6: the step along an edge that a family of lines meets at an angle; it is larger than the spacing."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.fills import Fill
from kenzet.core.fills.base import Family
from kenzet.core.geom.clip import Straight
from kenzet.core.geom.region import Region
from kenzet.core.numbers.measure import Length
from kenzet.core.tolerances import SAME_PLACE

_SQUARE = 89.5  # degrees: from here on step and spacing are the same to the eye


@dataclass(frozen=True, slots=True)
class Slant:
    """Edges that lines meet at ``degrees`` (1 to 90); the distance from line to line along such an edge is
    ``step`` mm."""

    degrees: float
    step: float


def step_along(spacing: float, degrees: float) -> float:
    """v = s / sin φ. Also the travel along a seam between echoes of ``spacing`` (A59).

    >>> [round(step_along(0.5, f), 3) for f in (22.5, 30, 45, 60)]
    [1.307, 1.0, 0.707, 0.577]
    """
    return spacing / math.sin(math.radians(degrees))


def spacing_for(step: Length, degrees: float) -> Length:
    """s = v sin φ (F6): the spacing that gives ``step`` along an edge met at ``degrees``.

    >>> spacing_for(Length.parse("1 in"), 30).text
    '1/2 in'
    """
    return Length.near(float(step.mm) * math.sin(math.radians(degrees)), step.unit)


def slants(region: Region, families: Sequence[Family]) -> list[Slant]:
    """The angles at which straight families meet the edges, those with the greatest total length of edges first."""
    runs: dict[float, float] = {}
    steps: dict[float, float] = {}
    for family in families:
        if not isinstance(family, Straight):
            continue
        (ux, uy), ways, ends = family.direction, region.edge_ways, region.edge_ends
        sine = np.abs(ways[:, 0] * uy - ways[:, 1] * ux)
        angles = np.degrees(np.arctan2(sine, np.abs(ways @ np.array((ux, uy)))))
        lengths = np.hypot(*(ends[:, 1] - ends[:, 0]).T)
        slanted = np.flatnonzero((angles > 1.0) & (angles < _SQUARE))
        alike, first, which = np.unique(angles[slanted].round(1), return_index=True, return_inverse=True)
        run = np.bincount(which, lengths[slanted], len(alike))
        for k, angle in enumerate(alike.tolist()):
            runs[angle] = runs.get(angle, 0.0) + float(run[k])
            steps[angle] = step_along(float(family.pitch), float(angles[slanted[first[k]]]))
    return [Slant(angle, steps[angle]) for angle in sorted(runs, key=lambda a: -runs[a])]


def takes_step(fill: Fill) -> bool:
    """Whether the step along an edge can be typed instead of the spacing."""
    return "step" in type(fill).model_fields


def step_is_typed(fill: Fill, slants: Sequence[Slant]) -> bool:
    """Whether the step along the edge was typed, so that the spacing follows from it."""
    step = getattr(fill, "step", None)
    return (
        isinstance(step, Length) and bool(slants) and abs(float(step.mm) - slants[0].step) < float(SAME_PLACE)
    )
