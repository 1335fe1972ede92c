"""The entry point: all figures of a quilt at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from kenzet.core.balance.density import Spread, ZoneDensity, spread, zone_densities
from kenzet.core.balance.effort import Accent, Asked, accents, asked
from kenzet.core.balance.gaps import Gap, gaps
from kenzet.core.balance.ground import weighed
from kenzet.core.balance.standing import (
    Pair,
    Seen,
    Standing,
    busy_shares,
    fabric_areas,
    pairs,
    seen_first,
    standings,
)
from kenzet.core.balance.threads import ByZone, ThreadOn, by_zone, compared, on_cloth
from kenzet.core.kit.things.supplies import Thread
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.quilt_layout import QuiltLayout


@dataclass(frozen=True)
class Balance:
    """All findings, each ranked; ``asked``, ``busy`` (a share) and ``cloth`` (mm² of each fabric) are by zone."""

    plans: Mapping[str, ZonePlan]
    densities: list[ZoneDensity]
    spread: Spread
    gaps: list[Gap]
    standings: list[Standing]
    pairs: list[Pair]
    seen: list[Seen]
    busy: Mapping[str, float]
    cloth: Mapping[str, Mapping[str, float]]
    asked: Mapping[str, Asked]
    accents: list[Accent]


def weigh(laid: QuiltLayout) -> Balance:
    """All figures except those of threads, which depend on the threads that are owned."""
    plans, ground = plan_quilt(laid), weighed(laid)
    densities = zone_densities(laid, plans)
    found, cloth, busy = standings(ground), fabric_areas(ground), busy_shares(ground)
    colour = laid.quilt.kit.thread.colour
    shows = {
        key: on_cloth(colour, laid.quilt.fabrics, cloth[key]) if key in plans else 0.0 for key in ground.keys
    }
    return Balance(
        plans=plans,
        densities=densities,
        spread=spread(densities),
        gaps=gaps(laid, plans),
        standings=found,
        pairs=pairs(ground, densities, found),
        seen=seen_first(ground, found, shows, busy),
        busy=busy,
        cloth=cloth,
        asked={key: asked(laid, plan) for key, plan in plans.items()},
        accents=accents(laid, plans),
    )


def threads_for(
    laid: QuiltLayout, found: Balance, threads: Mapping[str, Thread]
) -> tuple[list[ThreadOn], ByZone | None]:
    """``threads`` on the quilted cloth, the least visible first; and one thread for each zone if there is a
    choice."""
    sewn = {key: areas for key, areas in found.cloth.items() if key in found.plans}
    whole: dict[str, float] = {}
    for areas in sewn.values():
        for fabric, area in areas.items():
            whole[fabric] = whole.get(fabric, 0.0) + area
    ranked = compared(threads, laid.quilt.fabrics, whole)
    if len(ranked) < 2 or not sewn:
        return ranked, None
    return ranked, by_zone(threads, laid.quilt.fabrics, sewn, ranked[0].key)
