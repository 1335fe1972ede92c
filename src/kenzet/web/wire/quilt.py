"""A quilt laid out, with the lines of every zone; and what a change affected."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Annotated, Any

from pydantic import Field, field_validator

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.document import Quilt, write
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Zone
from kenzet.say import whereabouts
from kenzet.say import words as w
from kenzet.store.quilts import Kept
from kenzet.texts import tr
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn
from kenzet.web.wire.docs import KitDoc
from kenzet.web.wire.kit import KitView
from kenzet.web.wire.marks import MarksRequest, MarksView
from kenzet.web.wire.route import RouteOrQuickRequest, RouteView
from kenzet.web.wire.top import TopView
from kenzet.web.wire.zone import PlanRequest, ZoneView


class ViewsWanted(m.Wire):
    """The views open on the screen, to be computed for the quilt after the change."""

    zone: PlanRequest | None = None
    marks: MarksRequest | None = None
    route: RouteOrQuickRequest | None = None
    top: bool = False
    kit: bool = False


class Views(m.Wire):
    """The views asked for; ``faults`` says by name why one could not be computed."""

    zone: ZoneView | None = None
    marks: MarksView | None = None
    route: RouteView | None = None
    top: TopView | None = None
    kit: KitView | None = None
    faults: dict[str, m.Problem] = Field(default_factory=dict)


class VersionRequest(m.Reading):
    """Undo or redo from ``version``."""

    version: m.Number
    views: ViewsWanted = ViewsWanted()


class ChangeRequest(VersionRequest):
    """Changes to store, in order, the first based on ``version``; ``unit`` applies to lengths without one.

    ``knows`` names zones whose new lines the screen already shows.
    """

    changes: Annotated[list[m.ChangeMade], Field(min_length=1, max_length=50)]
    knows: Annotated[list[m.ZoneKey], Field(max_length=50)] = Field(default_factory=list)

    @field_validator("changes")
    @classmethod
    def _once(cls, changes: list[m.ChangeMade]) -> list[m.ChangeMade]:
        if len({one.key for one in changes}) < len(changes):
            raise BadValue(tr("Each change of a request needs a key of its own."))
        return changes


class Touched(m.Wire):
    """The state of the quilt after a change, and what that affected.

    ``fabrics``, ``parts`` and ``kit`` if they changed, ``zones`` that are new or have other shapes or lines,
    ``order`` (the keys of all zones) if zones were added or removed; ``gone`` names zones with a fill whose
    patches or block are no longer in the quilt.
    """

    version: int
    undo: str | None
    redo: str | None
    name: str
    use: str
    size: w.Words
    width: float
    height: float
    fabrics: dict[str, dict[str, str]] | None
    parts: list[m.PartView] | None
    zones: list[m.ZoneInfo]
    order: list[str] | None
    gone: list[str]
    ground: m.GroundView | None
    kit: KitDoc | None
    totals: list[w.Total]
    views: Views


def quilt_of(kept: Kept, laid: QuiltLayout, unit: Unit) -> m.QuiltView:
    """A quilt as stored, laid out and drawn."""
    quilt, plans = kept.quilt, plan_quilt(laid)
    return m.QuiltView(
        id=kept.id,
        **_stands(kept, laid, unit),
        fabrics=_fabrics(quilt),
        parts=drawn.parts(laid),
        zones=[_zone(laid, key, zone, plans.get(key), unit) for key, zone in _laid_zones(laid)],
        ground=drawn.ground(kept.id, laid),
        fills=drawn.fill_kinds(),
        totals=w.totals(laid, plans, unit),
        kit=write(quilt)["kit"],
    )


def touched(
    before: QuiltLayout | None, kept: Kept, laid: QuiltLayout, views: Views, body: VersionRequest
) -> Touched:
    """The differences from ``before``; everything if that is None. Lines depend on the zone and the top, not on
    the kit."""
    quilt, plans, unit = kept.quilt, plan_quilt(laid), body.unit
    old = before.quilt if before else None
    same_top = before is not None and before.ground == laid.ground
    keys = [key for key, _ in _laid_zones(laid)]
    was = [key for key, _ in _laid_zones(before)] if before else None
    knows = body.knows if isinstance(body, ChangeRequest) else []
    return Touched(
        **_stands(kept, laid, unit),
        fabrics=None if old and old.fabrics == quilt.fabrics else _fabrics(quilt),
        parts=None if same_top else drawn.parts(laid),
        zones=[
            _zone(laid, key, zone, plans.get(key), unit)
            for key, zone in _laid_zones(laid)
            if not (same_top and old and (old.zones.get(key) == zone or key in knows))
        ],
        order=None if was == keys else keys,
        gone=_gone(before, laid) if before else [],
        ground=drawn.ground(kept.id, laid),
        kit=None if old and old.kit == quilt.kit else write(quilt)["kit"],
        totals=w.totals(laid, plans, unit),
        views=views,
    )


def _gone(before: QuiltLayout, laid: QuiltLayout) -> list[str]:
    """Zones that lost all of their patches, or their block."""
    return [
        zone.name
        for key, zone in _laid_zones(before)
        if zone.fill is not None
        and not (laid.is_laid(zone) and any(laid.quilt.has_patch(zone.part, patch) for patch in zone.patches))
        and not (key in laid.quilt.zones and laid.is_laid(laid.quilt.zones[key]))
    ]


def _laid_zones(laid: QuiltLayout) -> Iterable[tuple[str, Zone]]:
    return ((key, zone) for key, zone in laid.quilt.zones.items() if laid.is_laid(zone))


def _stands(kept: Kept, laid: QuiltLayout, unit: Unit) -> dict[str, Any]:
    """Its version, name and size."""
    return {
        "version": kept.version,
        "undo": kept.undo,
        "redo": kept.redo,
        "name": kept.quilt.name,
        "use": kept.quilt.use,
        "size": [w.shown(laid.top.width, unit, bare=True), " × ", w.shown(laid.top.height, unit)],
        "width": laid.top.width,
        "height": laid.top.height,
    }


def _fabrics(quilt: Quilt) -> dict[str, dict[str, str]]:
    return {key: {"name": f.name, "colour": f.colour} for key, f in quilt.fabrics.items()}


def _zone(laid: QuiltLayout, key: str, zone: Zone, plan: ZonePlan | None, unit: Unit) -> m.ZoneInfo:
    return m.ZoneInfo(
        key=key,
        name=zone.name,
        part=zone.part,
        patches=list(zone.patches),
        shapes=drawn.shapes(laid.shapes(zone)),
        occurs=whereabouts.occurs(laid, zone, plan),
        fill=zone.fill.label if zone.fill else "",
        left_open=zone.left_open,
        cut=bool(zone.slices),
        on_top=zone.on_top,
        stand_off=w.length_text(zone.stand_off, unit) if zone.stand_off else "",
        stands_off=zone.part in laid.quilt.blocks and not laid.parts(zone.part)[0].applique.is_empty,
        drawings=drawn.drawings(plan),
    )
