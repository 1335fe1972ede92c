"""Whole plans to choose from. Each is planned and routed, so that its figures are the plan's own.

The cost of a plan is in minutes: an uneven spacing, or one that no ruler has, costs a few, two neighbors that look
alike more. The weights are our choice.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import zip_longest
from typing import Literal

import numpy as np

from kenzet.core.balance.density import zone_densities
from kenzet.core.balance.ground import Weighed, weighed
from kenzet.core.balance.standing import fabric_areas
from kenzet.core.balance.threads import on_cloth
from kenzet.core.errors import BadValue, KenzetError
from kenzet.core.fills import AnyFill
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.proposals.candidates import Candidate, Skill, candidates_for
from kenzet.core.proposals.program import Bounds, Choice, Problem, Program
from kenzet.core.route.quilt import QuiltRoute, route_quilt
from kenzet.core.route.quilt_needle import whole_needle
from kenzet.core.tolerances import DIVISOR, VISIBLE
from kenzet.core.top.document import Quilt, with_zone
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr

Aim = Literal["quick", "texture", "straight", "soft"]
AIMS: tuple[Aim, ...] = ("quick", "texture", "straight", "soft")
Move = Literal["another", "quicker", "softer", "contrast"]
STEP = 0.85
"""A quicker or softer plan needs at most this share of the time or density of the one before."""
AROUND = 1.35
"""Total time divided by the minutes at the needle: travel, thread ends and marks are added."""
_UNEVEN, _UNRULED, _ALIKE = 0.15, 0.3, 1.5  # shares of a zone's usual minutes
_TIME = 0.4  # of its minutes, where they are not the aim
_TRIES = 6
MOST_CANDIDATES, _LEAST_EACH = 230, 6
_STRAIGHT_KINDS = 2


@dataclass(frozen=True, slots=True)
class Wish:
    """What the quilter asks for: an aim, the hours available (None: no limit), the number of kinds of fill, the
    skills, and which ``zones`` get a fill; the others keep theirs."""

    aim: Aim
    zones: tuple[str, ...]
    hours: float | None = None
    kinds: int = 3
    skills: frozenset[Skill] = frozenset(("straight", "curves"))
    reads: float = 2.0


@dataclass(frozen=True)
class Proposal:
    """A whole plan: the fill of each zone, the quilt with these fills, and ``focus``, the zone that the aim is
    about."""

    wish: Wish
    choice: Choice
    laid: QuiltLayout
    focus: str = ""

    @cached_property
    def route(self) -> QuiltRoute:
        """The route through the quilt, computed once."""
        return route_quilt(self.laid, quick=True)

    @property
    def minutes(self) -> float:
        """The time at the machine along that route."""
        return whole_needle(self.laid, self.route).seconds / 60

    @property
    def fills(self) -> dict[str, AnyFill]:
        """The fills by zone."""
        return {zone: one.fill for zone, one in self.choice.chosen.items()}


@dataclass(frozen=True)
class Setting:
    """Everything about a quilt from which proposals are chosen."""

    laid: QuiltLayout
    ground: Weighed
    problem: Problem
    area: Mapping[str, float]
    focus: str


def open_zones(laid: QuiltLayout, everything: bool = False) -> tuple[str, ...]:
    """The zones without a fill, or all; zones on top of others are left out."""
    return tuple(
        key
        for key, zone in laid.quilt.zones.items()
        if laid.is_laid(zone) and not zone.on_top and (everything or zone.fill is None)
    )


def setting(laid: QuiltLayout, wish: Wish) -> Setting:
    """Raises BadValue if there is no zone, none is to be filled, or nothing suits one."""
    if not laid.quilt.zones:
        raise BadValue(tr("This quilt has no zones yet. Make zones on the Top station first."), "zones")
    if not wish.zones:
        raise BadValue(tr("Every zone has a fill already. Choose “all zones” to propose others."), "zones")
    ground = weighed(laid)
    found = {key: candidates_for(laid, key, wish.skills) for key in wish.zones}
    none = next((key for key, some in found.items() if not some), None)
    if none is not None:
        raise BadValue(
            tr(
                "Nothing that you sew suits “{name}”. Tick another skill, or leave this zone out.",
                name=laid.zone(none).name,
            ),
            "skills",
        )
    plans = plan_quilt(laid)
    densities = zone_densities(laid, plans)
    stays = {one.key: one.density for one in densities if one.key not in found}
    kept = frozenset(type(d.fill) for key, plan in plans.items() if key not in found for d in plan.drawings)
    beside = [
        (a, b)
        for i, a in enumerate(ground.keys)
        for j, b in enumerate(ground.keys[:i])
        if ground.beside[i, j] and (a in found or b in found)
    ]
    places = {key: len(laid.places(laid.zone(key))) for key in found}
    area = {one.key: one.area for one in densities}
    problem = Problem(found, places, stays, kept, beside, max(wish.kinds, 1), wish.reads)
    return Setting(laid, ground, problem, area, _focus(ground, tuple(found)))


def _focus(ground: Weighed, zones: Sequence[str]) -> str:
    """The zone, of a block if possible, whose fabrics differ most from those of its neighbors, so that the piecing
    shows it off."""
    cloth, fabrics = fabric_areas(ground), ground.laid.quilt.fabrics
    found: list[tuple[float, str]] = []
    blocks = ground.laid.quilt.blocks
    in_blocks = [key for key in zones if ground.laid.zone(key).part in blocks]
    for i, key in enumerate(ground.keys):
        if key not in (in_blocks or zones) or not cloth[key]:
            continue
        most = max(cloth[key], key=lambda fabric: cloth[key][fabric])
        colour = fabrics[most].colour if most in fabrics else "#888888"
        border = ground.beside[i]
        around = sum(
            on_cloth(colour, fabrics, cloth[other]) * int(border[j]) for j, other in enumerate(ground.keys)
        )
        busy = fabrics[most].print == "busy" if most in fabrics else False
        found.append((around / max(int(border.sum()), 1) * (0.5 if busy else 1.0), key))
    return max(found, default=(0.0, zones[0]))[1]


def propose(
    laid: QuiltLayout,
    wish: Wish,
    shown: Sequence[Proposal] = (),
    base: Proposal | None = None,
    move: Move | None = None,
) -> Proposal:
    """The best plan for the wish that differs from those ``shown``; with ``base``, the nearest to it after a
    ``move``.

    Raises BadValue if there is none, with the reason.
    """
    place = setting(laid, wish)
    banned: set[Candidate] = set()
    around = AROUND
    for _ in range(_TRIES):
        choice = _chosen(place, wish, shown, base, move, banned, around)
        if choice is None:
            raise BadValue(_why_none(wish, move, bool(shown)), "hours" if wish.hours and not move else "")
        proposal = Proposal(wish, choice, _with(laid, choice), place.focus)
        wrong = _wrong(proposal)
        banned |= {choice.chosen[key] for key in wrong}
        if wrong:
            continue
        if wish.hours is None or proposal.minutes <= 60 * wish.hours:
            return proposal
        # its own way takes longer: less time is left at the needle
        around *= 1.05 * proposal.minutes / (60 * wish.hours)
    if wish.hours is not None:
        raise BadValue(_why_none(wish, move, False), "hours")
    raise BadValue(
        tr("No plan was found that can be sewn as it stands. Allow more kinds of fill, or another skill."),
        "kinds",
    )


def _why_none(wish: Wish, move: Move | None, shown: bool) -> str:
    if move == "quicker":
        return tr("No plan with these kinds and skills is clearly quicker.")
    if move == "softer":
        return tr("No plan with these kinds and skills is clearly softer.")
    if move == "contrast":
        return tr("No plan with these kinds and skills tells more neighbors apart.")
    if wish.hours is not None and not shown:
        return tr(
            "No plan fits into {hours} hours. Allow more hours, or fill fewer zones.", hours=f"{wish.hours:g}"
        )
    return tr(
        "There is no other plan with these kinds and skills. Allow more kinds of fill, or another skill."
    )


def _with(laid: QuiltLayout, choice: Choice) -> QuiltLayout:
    quilt: Quilt = laid.quilt
    for key, one in choice.chosen.items():
        quilt = with_zone(quilt, key, fill=one.fill, left_open=False, drawn_too=(), over=None)
    return QuiltLayout(quilt, laid.memo.aside(), laid.top)


def _wrong(proposal: Proposal) -> set[str]:
    """Zones whose fill cannot be planned, or leaves a gap that the batting does not allow."""
    limit = float(proposal.laid.quilt.kit.batting.limit.mm)
    try:
        plans = plan_quilt(proposal.laid)
    except KenzetError:
        return set(proposal.choice.chosen)
    found = set()
    for key in proposal.choice.chosen:
        plan = plans.get(key)
        if plan is None or any(plan.widest_gap(drawing).width > limit + VISIBLE for drawing in plan.drawings):
            found.add(key)
    return found


def _chosen(
    place: Setting,
    wish: Wish,
    shown: Sequence[Proposal],
    base: Proposal | None,
    move: Move | None,
    banned: set[Candidate],
    around: float,
) -> Choice | None:
    left = {key: [one for one in some if one not in banned] for key, some in place.problem.candidates.items()}
    if wish.aim == "straight":
        straight = {
            key: [one for one in some if one.skill == "straight" and one.ruled] for key, some in left.items()
        }
        left = {key: straight[key] or some for key, some in left.items()}
    if not all(left.values()):
        return None
    kinds = min(wish.kinds, _STRAIGHT_KINDS) if wish.aim == "straight" else wish.kinds
    kinds = max(kinds, len(place.problem.kept_kinds) + 1)
    old = place.problem
    problem = Problem(left, old.places, old.stays, old.kept_kinds, old.beside, kinds, old.reads)
    usual = {key: float(np.median([one.minutes for one in some])) for key, some in left.items()}
    costs = {one: _cost(place, wish.aim, one, usual[key]) for key, some in left.items() for one in some}
    problem = replace(problem, candidates=_fewer(left, costs))
    alike = _ALIKE * sum(usual.values()) / max(len(problem.beside), 1)
    bounds = _bounds(place, wish, shown, base, move, around)
    if base is not None and move in ("quicker", "softer", "contrast"):
        kept = set(base.choice.chosen.values())
        mean = sum(usual.values()) / len(usual)
        costs = {one: 0.1 * cost + (0.0 if one in kept else mean) for one, cost in costs.items()}
    return Program(problem, costs, alike, bounds, place.area).solve()


def _fewer(
    candidates: Mapping[str, Sequence[Candidate]], costs: Mapping[Candidate, float]
) -> dict[str, Sequence[Candidate]]:
    """With many zones, only the cheapest few candidates of each, taken in turn from each third of the densities,
    so that the problem stays small."""
    each = max(MOST_CANDIDATES // len(candidates), _LEAST_EACH)
    found: dict[str, Sequence[Candidate]] = {}
    for key, some in candidates.items():
        if len(some) <= each:
            found[key] = some
            continue
        ranked = sorted(some, key=lambda one: one.density)
        third = -(-len(ranked) // 3)
        groups = [sorted(ranked[k : k + third], key=lambda one: costs[one]) for k in (0, third, 2 * third)]
        turns = [one for several in zip_longest(*groups) for one in several if one is not None]
        found[key] = turns[:each]
    return found


def _bounds(
    place: Setting,
    wish: Wish,
    shown: Sequence[Proposal],
    base: Proposal | None,
    move: Move | None,
    around: float,
) -> Bounds:
    minutes = 60 * wish.hours / around if wish.hours is not None else None
    firmness, alike = None, None
    if base is not None:
        chosen = base.choice.chosen.values()
        if move == "quicker":
            quicker = STEP * sum(one.minutes for one in chosen)
            minutes = quicker if minutes is None else min(minutes, quicker)
        elif move == "softer":
            firmness = STEP * sum(one.density * place.area[one.zone] for one in chosen)
        elif move == "contrast":
            alike = base.choice.alike - 1
    return Bounds(minutes, firmness, alike, tuple(one.choice.chosen for one in shown))


def _cost(place: Setting, aim: Aim, one: Candidate, usual: float) -> float:
    """The cost of a candidate, in minutes or their equivalent."""
    trouble = usual * (_UNEVEN * (not one.even) + _UNRULED * (not one.ruled))
    if aim == "soft":
        some = place.problem.candidates[one.zone]
        return usual * one.density / max(float(np.median([c.density for c in some])), DIVISOR) + trouble
    if aim == "texture":
        some = place.problem.candidates[one.zone]
        share = one.density / max(DIVISOR, *(c.density for c in some))
        beside = {a if b == place.focus else b for a, b in place.problem.beside if place.focus in (a, b)}
        if one.zone == place.focus:
            return 3 * usual * share + _TIME * one.minutes + trouble
        if one.zone in beside:
            return 3 * usual * (1 - share) + _TIME * one.minutes + trouble
    return one.minutes + trouble
