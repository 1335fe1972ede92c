"""Flat and puffy: how high each zone stands, what lies beside it, and what the eye sees first.

Glossary: a zone's *rise* is the mean height of its cloth as a share of the batting's loft. Two zones *look alike*
if the ratio of their densities is below the one that the quilter asks for (J3; the default of two is our choice).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from kenzet.core.advice.contrast import ratio
from kenzet.core.balance.density import ZoneDensity
from kenzet.core.balance.ground import NONE, Weighed
from kenzet.core.tolerances import DIVISOR

HIGH = 0.5
"""Share of the loft above which cloth counts as puffy."""
FLAT = 0.3
"""Share of the loft: if nearly nothing in a zone is higher, all of it counts as flat."""
_NEARLY_ALL = 97.0  # per cent
_LEAST_SHARED = 0.02  # of a zone's border: less is a touch at a corner
_DOWN = 0.45  # what is busy hides of the quilting, as a factor on what is seen
_THREAD = 0.35  # how much thread contrast weighs against relief
_APART = 30.0  # CIEDE2000 from which on more contrast is not seen as more


@dataclass(frozen=True, slots=True)
class Standing:
    """A zone's ``rise``, the share of it that is ``puffy``, its share of the quilt, and whether all of it lies ``flat``."""

    key: str
    rise: float
    puffy: float
    share: float
    flat: bool


def standings(ground: Weighed) -> list[Standing]:
    """Every zone that covers at least one pixel, the highest first."""
    labels, loft = ground.labels, max(ground.loft, DIVISOR)
    rise = ground.heights / np.float32(loft)
    found = []
    for k, key in enumerate(ground.keys):
        mine = rise[labels == k]
        if len(mine):
            high = float(np.percentile(mine, _NEARLY_ALL))
            puffy, share = float((mine > HIGH).mean()), len(mine) / labels.size
            found.append(Standing(key, float(mine.mean()), puffy, share, high < FLAT))
    return sorted(found, key=lambda one: -one.rise)


@dataclass(frozen=True, slots=True)
class Pair:
    """Two neighboring zones, the denser first; ``ratio`` of their densities (None if one is not quilted) and the
    ``rises`` of both."""

    dense: str
    loose: str
    ratio: float | None
    rises: tuple[float, float]

    def alike(self, least: float) -> bool:
        """Whether the ratio of densities is below ``least``."""
        return self.ratio is not None and self.ratio < least


def pairs(ground: Weighed, densities: Sequence[ZoneDensity], found: Sequence[Standing]) -> list[Pair]:
    """All pairs of neighboring zones, the least different first."""
    dense = {one.key: one.density for one in densities}
    rise = {one.key: one.rise for one in found}
    beside = ground.beside
    border = beside.sum(axis=1)
    told = []
    for i, one in enumerate(ground.keys):
        for j in range(i):
            other = ground.keys[j]
            shared = int(beside[i, j])
            if shared <= _LEAST_SHARED * min(border[i], border[j]) or not shared:
                continue
            first, second = (one, other) if dense[one] >= dense[other] else (other, one)
            if dense[first] > 0:
                told.append(Pair(first, second, ratio(dense[one], dense[other]), (rise[first], rise[second])))
    return sorted(told, key=lambda pair: pair.ratio if pair.ratio is not None else np.inf)


@dataclass(frozen=True, slots=True)
class Seen:
    """How strongly a zone draws the eye (``weight``, 0 to 1) and why: its relief against its neighbors (0 to 1),
    CIEDE2000 of thread and cloth, its share of the quilt, and the share of it that is a busy print."""

    key: str
    weight: float
    relief: float
    thread: float
    share: float
    busy: float


def seen_first(
    ground: Weighed, found: Sequence[Standing], thread: Mapping[str, float], busy: Mapping[str, float]
) -> list[Seen]:
    """All zones, the most visible first. ``thread`` is CIEDE2000 of the thread on each zone's cloth, ``busy`` the
    zone's share of busy prints. The weights are our choice."""
    rise = np.zeros(len(ground.keys))
    for one in found:
        rise[ground.keys.index(one.key)] = one.rise
    told = []
    for one in found:
        k = ground.keys.index(one.key)
        border = ground.beside[k]
        relief = float((np.abs(rise - rise[k]) * border).sum() / max(border.sum(), 1))
        contrast = min(thread.get(one.key, 0.0) / _APART, 1.0)
        shown = (relief + _THREAD * contrast) * (1 - _DOWN * busy.get(one.key, 0.0))
        told.append((one, relief, shown * one.share**0.5))
    most = max((weight for *_, weight in told), default=0.0) or 1.0
    seen = [
        Seen(one.key, weight / most, relief, thread.get(one.key, 0.0), one.share, busy.get(one.key, 0.0))
        for one, relief, weight in told
    ]
    return sorted(seen, key=lambda one: -one.weight)


def busy_shares(ground: Weighed) -> dict[str, float]:
    """For each zone, the share of its area that is a busy print."""
    quilt, found = ground.laid.quilt, {}
    for key, areas in fabric_areas(ground).items():
        busy = sum(
            area
            for fabric, area in areas.items()
            if fabric in quilt.fabrics and quilt.fabrics[fabric].print == "busy"
        )
        found[key] = busy / max(sum(areas.values()), DIVISOR)
    return found


def fabric_areas(ground: Weighed) -> dict[str, dict[str, float]]:
    """For each zone, the area of each fabric in mm², over all places."""
    found: dict[str, dict[str, float]] = {}
    for key in ground.keys:
        areas: dict[str, float] = {}
        for shape in ground.laid.shapes(ground.laid.zone(key)):
            for patch in shape.part.patches.values():
                area = float(patch.area.intersection(shape.region.area).area) * len(shape.places)
                if area > 0:
                    areas[patch.fabric] = areas.get(patch.fabric, 0.0) + area
        found[key] = areas
    return found


def unlabeled(ground: Weighed) -> float:
    """The share of the quilt that is in no zone."""
    return float((ground.labels == NONE).mean())
