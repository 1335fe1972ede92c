"""A new spacing for one of two zones that look alike, such that it does not look like its other neighbors either.

The density is assumed to be inversely proportional to the spacing, which holds for lines, grids and echoes; the
figures shown after the change come from a new plan.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from kenzet.core.advice.contrast import ratio
from kenzet.core.balance.density import WANTS_SOFT, hand
from kenzet.core.balance.standing import Pair
from kenzet.core.numbers.measure import MM_PER
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout

LEAST = MM_PER["in"] / 4
"""mm: closer lines than these are never proposed."""


@dataclass(frozen=True, slots=True)
class Respacing:
    """A new spacing for a zone, exact mm, and how many pairs of the quilt look alike with it."""

    zone: str
    spacing: Fraction
    alike: int


def tell_apart(
    laid: QuiltLayout,
    plans: Mapping[str, ZonePlan],
    densities: Mapping[str, float],
    pairs: Sequence[Pair],
    pair: Pair,
    reads: float,
    grain: Fraction,
) -> Respacing | None:
    """The spacing, a whole multiple of ``grain``, that leaves the fewest pairs alike, the wider one if two are
    equal; None if none reduces their number."""
    beside = [(one.dense, one.loose) for one in pairs]
    now = _alike(densities, beside, reads)
    found = []
    for zone, spacing in _tries(plans, densities, pair, reads, grain):
        if spacing < LEAST or spacing > laid.quilt.kit.batting.limit.mm:
            continue
        dense = densities[zone] * float(plans[zone].drawings[0].fill.spacing.mm / spacing)
        tighter = dense > densities[zone]
        if (
            tighter
            and laid.quilt.use in WANTS_SOFT
            and hand(dense, laid.quilt.use, laid.quilt.kit.batting) == "stiff"
        ):
            continue
        found.append(Respacing(zone, spacing, _alike({**densities, zone: dense}, beside, reads)))
    best = min(found, key=lambda one: (one.alike, -one.spacing), default=None)
    return best if best and best.alike < now else None


def _alike(densities: Mapping[str, float], beside: Iterable[tuple[str, str]], reads: float) -> int:
    ratios = [ratio(densities[one], densities[other]) for one, other in beside]
    return sum(each is not None and each < reads for each in ratios)


def _tries(
    plans: Mapping[str, ZonePlan], densities: Mapping[str, float], pair: Pair, reads: float, grain: Fraction
) -> Iterable[tuple[str, Fraction]]:
    """For either zone of the pair, the spacings that make it less dense or denser than the other by the ratio
    ``reads``."""
    for zone, other in ((pair.loose, pair.dense), (pair.dense, pair.loose)):
        fill = plans[zone].drawings[0].fill
        if not fill.is_spaced or fill.claimed_density is not None or not densities[zone]:
            continue
        wider = Fraction(float(fill.spacing.mm) * densities[zone] * reads / densities[other])
        yield zone, -((-wider / grain).__floor__()) * grain
        closer = Fraction(float(fill.spacing.mm) * densities[zone] / densities[other] / reads)
        yield zone, (closer / grain).__floor__() * grain
