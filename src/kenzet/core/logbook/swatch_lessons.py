"""What swatches teach about a batting: its thickness, its rise, how firm it feels, what it loses in the wash.

Heights and shrinkage are combined with the value in use as a prior, as in ``learn``. Firmness is reported in
words: each word fits a range of factors on the density (F13), and the factor in use moves no farther than most of
the words require.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from kenzet.core.balance.density import limits
from kenzet.core.kit.kit import Kit
from kenzet.core.kit.things.supplies import Batting
from kenzet.core.logbook.learn import NINETEEN_OF_TWENTY, Key, Learnt, weighed
from kenzet.core.logbook.swatch import FELT, Swatch, SwatchFound, pressure
from kenzet.core.numbers.robust import scatter as scatter_of
from kenzet.core.relief.heights import CHANNEL
from kenzet.core.tolerances import DIVISOR

_READ = 0.4
"""mm: the reading error of a height, 1/64 in."""
_THICKNESS_SD = 0.4  # of the thickness in use, as a share
_RISE_SD = 25.0  # per cent of the thickness
_SHRINK_SD = 2.0  # per cent, where a label tells it
_SHRINK_READ = 0.5  # per cent: a side of 12 in read to a sixteenth
_LEAST, _MOST = 0.3, 3.0  # factors on the density that a batting may have
_APART = 1.3
_WITHIN = 1.02  # a word that holds from a factor on surely holds so much farther


@dataclass(frozen=True, slots=True)
class DatedSwatch:
    """A swatch, what was observed, and when it was added to the book, seconds since 1970."""

    swatch: Swatch
    found: SwatchFound
    when: float


def on_batting(kept: Sequence[DatedSwatch], kit: Kit) -> list[DatedSwatch]:
    """The swatches on the kit's batting: with the same key, or the same name."""

    def same(swatch: Swatch) -> bool:
        if swatch.batting_key and kit.batting_key:
            return swatch.batting_key == kit.batting_key
        return swatch.batting.name == kit.batting.name

    return [one for one in kept if same(one.swatch)]


def learnt_batting(kept: Sequence[DatedSwatch], kit: Kit) -> list[Learnt]:
    """For the kit's batting: its thickness, mm; its rise, firmness, shrinkage and take-up, per cent."""
    mine, batting = on_batting(kept, kit), kit.batting
    return [*_heights(mine, batting), *_firmness(mine, batting), *_shrinks(mine, batting)]


@dataclass(frozen=True, slots=True)
class ShrinkageByDensity:
    """The shrinkage of washed swatches, per cent of a side, by density (mm for each mm²), ascending."""

    densities: tuple[float, ...]
    lost: tuple[float, ...]

    def at(self, density: float) -> float:
        """The shrinkage at a density: interpolated linearly, constant beyond the first and the last swatch.

        >>> ShrinkageByDensity((1.0, 3.0), (2.0, 4.0)).at(1.5), ShrinkageByDensity((1.0, 3.0), (2.0, 4.0)).at(9.0)
        (2.5, 4.0)
        """
        return float(np.interp(density, self.densities, self.lost))


def shrinkage_by_density(kept: Sequence[DatedSwatch], kit: Kit) -> ShrinkageByDensity | None:
    """From swatches on the kit's batting; None unless two of them differ in density by a factor of ``_APART``.
    Swatches of equal density are averaged."""
    told: dict[float, list[tuple[float, float]]] = {}
    for one in on_batting(kept, kit):
        if one.found.shrunk is not None:
            told.setdefault(round(one.swatch.density, 3), []).append((one.swatch.density, one.found.shrunk))
    points = sorted(tuple(np.mean(some, axis=0).tolist()) for some in told.values())
    if len(points) < 2 or points[-1][0] < _APART * max(points[0][0], DIVISOR):
        return None
    densities, lost = zip(*points, strict=True)
    return ShrinkageByDensity(densities, lost)


def _heights(kept: Sequence[DatedSwatch], batting: Batting) -> list[Learnt]:
    """Cloth that rises as high as the loft allows gives the thickness; lower cloth gives the rise."""
    thick, push = float(batting.thickness.mm), pressure(batting)
    measured = [(one, float(one.found.high.mm)) for one in kept if one.found.high is not None]
    full = [(high, one.when) for one, high in measured if push * one.swatch.bulge >= thick]
    flat = [
        (100 * high * CHANNEL**2 / (8 * thick * one.swatch.bulge), one.when, one.swatch.bulge)
        for one, high in measured
        if DIVISOR < push * one.swatch.bulge < thick
    ]
    found = []
    if full:
        found.append(_from("thickness", full, thick, _THICKNESS_SD * thick, _READ))
    if flat:
        read = float(np.median([100 * _READ * CHANNEL**2 / (8 * thick * bulge) for _, _, bulge in flat]))
        shares = [(min(share, 100.0), when) for share, when, _ in flat]
        rise = _from("rise", shares, float(batting.rise), _RISE_SD, read)
        found.append(replace(rise, value=min(rise.value, 100.0), high=min(rise.high, 100.0)))
    return found


def _from(key: Key, seen: Sequence[tuple[float, float]], used: float, prior: float, read: float) -> Learnt:
    """The median of the readings, combined with the value in use; ``read`` is the error of one reading."""
    values = np.array([value for value, _ in seen])
    error = max(scatter_of(values), read) * (1.2533 if len(values) > 2 else 1.0) / math.sqrt(len(values))
    middle = float(np.median(values))
    value, sd = (middle, error) if math.isnan(used) else weighed(used, prior, middle, error)
    times = [when for _, when in seen]
    low, high = value - NINETEEN_OF_TWENTY * sd, value + NINETEEN_OF_TWENTY * sd
    return Learnt(key, value, max(low, 0.0), high, used, len(values), min(times), max(times))


def _shrinks(kept: Sequence[DatedSwatch], batting: Batting) -> list[Learnt]:
    told: list[tuple[Key, int | None, list[tuple[float | None, float]]]] = [
        ("shrinks", batting.shrinks, [(one.found.shrunk, one.when) for one in kept]),
        ("takes_up", batting.takes_up, [(one.found.took_up, one.when) for one in kept]),
    ]
    found = []
    for key, used, every in told:
        seen = [(lost, when) for lost, when in every if lost is not None]
        if seen:
            found.append(
                _from(key, seen, math.nan if used is None else float(used), _SHRINK_SD, _SHRINK_READ)
            )
    return found


def _firmness(kept: Sequence[DatedSwatch], batting: Batting) -> list[Learnt]:
    felt = [one for one in kept if one.found.felt and one.swatch.density > DIVISOR]
    if not felt:
        return []
    ranges = [_factors(one) for one in felt]
    used = batting.firmness / 100
    ends = sorted({_LEAST, _MOST, *(end for each in ranges for end in each)})

    def away(span: tuple[float, float]) -> float:
        return max(math.log(span[0] / used), math.log(used / span[1]), 0.0)

    def many(span: tuple[float, float]) -> int:
        middle = math.sqrt(span[0] * span[1])
        return sum(low <= middle < high for low, high in ranges)

    low, high = max(pairwise(ends), key=lambda span: (many(span), -away(span)))
    value = used if low <= used < high else min(max(used, low * _WITHIN), high / _WITHIN)
    times = [one.when for one in felt]
    return [
        Learnt("firmness", 100 * value, 100 * low, 100 * high, 100 * used, len(felt), min(times), max(times))
    ]


def _factors(one: DatedSwatch) -> tuple[float, float]:
    """The range of factors on its density for which a swatch feels as reported."""
    usual = one.swatch.batting.model_copy(update={"firmness": 100})
    ends = (0.0, *(limit / one.swatch.density for limit in limits(one.swatch.use, usual)), math.inf)
    rank = FELT.index(one.found.felt)
    low, high = (min(max(end, _LEAST), _MOST) for end in ends[rank : rank + 2])
    return low, high
