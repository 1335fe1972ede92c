"""Drawings of the core as coordinates for the screen."""

from __future__ import annotations

import zlib
from collections.abc import Iterable

import numpy as np
from shapely.geometry import Polygon

from kenzet.core.fills import FILLS
from kenzet.core.fills.base import GROUPS
from kenzet.core.geom.region import Floats
from kenzet.core.plan.drawing import Trace
from kenzet.core.plan.zone_plan import ZonePlan
from kenzet.core.top.blocks import Block
from kenzet.core.top.layout import block_part
from kenzet.core.top.quilt_layout import QuiltLayout, ZoneShape
from kenzet.web.wire import base as m


def drawings(plan: ZonePlan | None) -> list[m.DrawingView]:
    """Coordinates to a thousandth of a millimeter."""
    if plan is None:
        return []
    return [
        m.DrawingView.model_construct(
            part=drawing.shape.part.key,
            places=list(drawing.places),
            layer=drawing.layer,
            lines=drawing.stretches.ends.round(3).tolist(),
            paths=_flat(drawing.traces),
            hints=_flat(drawing.hints),
        )
        for drawing in plan.drawings
    ]


def _flat(traces: Iterable[Trace]) -> list[list[float]]:
    return [trace.polyline.round(3).ravel().tolist() for trace in traces]


def parts(laid: QuiltLayout) -> list[m.PartView]:
    """The parts with their patches."""
    return [
        m.PartView(
            key=key,
            kin=part.of,
            name=part.name,
            width=part.width,
            height=part.height,
            places=[m.PlaceView(id=place, at=list(at)) for place, at in part.places.items()],
            patches=[
                m.PatchView(key=name, fabric=patch.fabric, rings=rings(patch.area.geoms))
                for name, patch in part.patches.items()
            ],
        )
        for key, part in laid.top.parts.items()
    ]


def block_patches(key: str, block: Block, width: float, height: float) -> list[m.PatchView]:
    """The patches of a block that is ``width`` by ``height`` mm."""
    part = block_part(key, key, block, width, height, {})
    return [
        m.PatchView(key=name, fabric=patch.fabric, rings=rings(patch.area.geoms))
        for name, patch in part.patches.items()
    ]


def shapes(found: Iterable[ZoneShape]) -> list[m.ShapeView]:
    """The outlines of a zone."""
    return [
        m.ShapeView(part=s.part.key, places=list(s.places), rings=rings(s.region.area.geoms)) for s in found
    ]


def ground(quilt_id: str, laid: QuiltLayout) -> m.GroundView | None:
    """The photograph under the plan."""
    under = laid.quilt.ground
    if under is None:
        return None
    at, width, height = laid.frame_of(under.place)
    told_apart = zlib.crc32(f"{under.photo} {under.corners} {under.place} {width} {height}".encode())
    return m.GroundView(
        url=f"/api/quilts/{quilt_id}/ground.jpg?version={told_apart:08x}",
        at=list(at),
        width=width,
        height=height,
        place=under.place,
        strength=under.strength,
        photo=under.photo,
        corners=[list(corner) for corner in under.corners],
    )


def rings(polygons: Iterable[Polygon]) -> list[list[float]]:
    """Flat x, y lists to a thousandth of a millimeter, holes after outlines."""
    found = [ring for p in polygons for ring in (p.exterior, *p.interiors)]
    return [np.asarray(ring.coords)[:-1].round(3).ravel().tolist() for ring in found]


def fill_kinds() -> list[m.FillKind]:
    """The chooser's tiles."""
    return [
        m.FillKind(kind=kind, label=model.label, group=GROUPS[model.group], help=model.help, tile=model.tile)
        for kind, model in FILLS.items()
    ]


def flat(line: Floats) -> list[float]:
    """x and y alternating."""
    points: list[float] = line.round(3).ravel().tolist()
    return points
