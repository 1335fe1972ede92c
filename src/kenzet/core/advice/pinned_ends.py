"""The cost of a pinned start or end point, and nearby spacings with which the route ends there without a detour.

Rows sewn back and forth end on the other side if there is one line more or fewer. Spacings that give such a count,
evenly divided if possible, are planned and routed; those that need less travel are offered.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import product

from kenzet.core.errors import KenzetError
from kenzet.core.fills import Fill
from kenzet.core.numbers.measure import INCH, Length
from kenzet.core.plan.drawing import Drawing
from kenzet.core.plan.planner import plan_zone
from kenzet.core.plan.zone_plan import site_at
from kenzet.core.route.quilt import costs_of, units_of, wishes_of
from kenzet.core.route.unit import SewingUnit
from kenzet.core.route.unit_route import UnitRoute, route_unit
from kenzet.core.top.document import with_zone
from kenzet.core.top.quilt_layout import QuiltLayout

_LEAST = 0.25 * INCH  # mm: less is no gain
_MOST_LINES = 80  # of a unit: with more each try takes long
_MOST = 3
_OTHERWISE = {"centre line": ("centre gap",), "centre gap": ("centre line",)}


@dataclass(frozen=True, slots=True)
class Offer:
    """``fill`` in zone ``zone`` draws ``many`` lines at a place instead of ``had``, and saves ``saved`` mm of
    travel."""

    zone: str
    fill: Fill
    had: int
    many: int
    saved: float


def _change(laid: QuiltLayout, offer: Offer) -> float:
    """The relative change of the spacing."""
    had = laid.zone(offer.zone).fill
    return abs(float(offer.fill.spacing.mm / had.spacing.mm) - 1) if had else 0.0


def _tried(laid: QuiltLayout, zone: str, drawing: Drawing) -> Iterable[Fill]:
    """The zone's fill with one line more or fewer, or with a gap in the center instead of a line. Empty if
    something is sewn on top of the zone, or the place has a fill of its own."""
    plan = plan_zone(laid, zone)
    if plan is None or drawing.layer or drawing.hints or drawing.fill != plan.zone.fill:
        return
    mine, site = drawing.fill, site_at(drawing.shape, drawing.places[0], laid.middle)
    origins = ({}, *({"origin": to} for to in _OTHERWISE.get(getattr(mine, "origin", ""), ())))
    shares = [Fraction(drawing.lines, many) for many in (drawing.lines + 1, drawing.lines - 1) if many > 0]
    seen = {mine.model_dump_json()}
    for share, values in product((Fraction(1), *shares), origins):
        try:
            other = _with(mine, Length.near(mine.spacing.mm * share, mine.spacing.unit), values)
            wishes = [
                wish
                for wish in other.suggest_spacings(site)
                if wish.does.startswith("even") and not wish.values
            ]
            other = _with(other, wishes[0].length, {}) if wishes else other
        except ValueError:  # so close or so far apart it cannot be
            continue
        if other.model_dump_json() not in seen:
            seen.add(other.model_dump_json())
            yield other


def _with(fill: Fill, spacing: Length, values: dict[str, str]) -> Fill:
    return type(fill).model_validate({**fill.model_dump(mode="json"), "spacing": spacing.text, **values})


def _with_fill(laid: QuiltLayout, unit: SewingUnit, zone: str, fill: Fill) -> tuple[SewingUnit, int] | None:
    """The same unit with another fill in ``zone``, and the number of lines at a place; None if the fill does not
    fit or leaves a sliver along an edge."""
    try:
        other = laid.tried(with_zone(laid.quilt, zone, fill=fill))
        units = units_of(other)
    except KenzetError:
        return None
    known = (unit.rank, unit.family, unit.part.key)
    for one in units:
        if (one.rank, one.family, one.part.key) == known and unit.places[0] in one.places:
            plan = plan_zone(other, zone)
            for key, drawing in one.drawings:
                if plan is not None and key == zone and drawing.layer == 0:
                    sliver = any(gap.sliver for gap in plan.edge_remainders(drawing)[:1])
                    return None if sliver else (one, drawing.lines)
    return None


@dataclass(frozen=True, slots=True)
class PinCost:
    """With its pins, the route travels ``extra`` mm more than with free ends; ``offers`` need less travel."""

    extra: float
    offers: tuple[Offer, ...]


def pin_cost(laid: QuiltLayout, one: UnitRoute) -> PinCost | None:
    """The cost of the unit's pins, the best offers first; None if nothing is pinned or the pins could not be kept."""
    if not one.pinned or len(one.unit.courses) > _MOST_LINES:
        return None
    costs, wishes = costs_of(laid.quilt.stitching), wishes_of(laid, one.unit)
    free = route_unit(one.unit, costs, replace(wishes, pin=None))
    extra = one.travelled - min(route.travelled for route in free)
    found: list[Offer] = []
    for zone, drawing in one.unit.drawings if extra >= _LEAST else ():
        for fill in _tried(laid, zone, drawing):
            other = _with_fill(laid, one.unit, zone, fill)
            if other is None:
                continue
            unit, lines = other
            best = route_unit(unit, costs, wishes)[0]
            stops = len(best.runs) - len(one.runs)
            saved = one.travelled - best.travelled
            if best.pinned and stops <= 0 and saved >= _LEAST:
                found.append(Offer(zone, fill, drawing.lines, lines, saved))
    found.sort(key=lambda offer: (-round(offer.saved / INCH), _change(laid, offer)))
    return PinCost(max(extra, 0.0), tuple(found[:_MOST]))
