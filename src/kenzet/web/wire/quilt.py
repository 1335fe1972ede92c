"""A quilt laid out, with the lines of every zone."""

from __future__ import annotations

from kenzet.core.marks.totals import totals_of
from kenzet.core.numbers.measure import Unit
from kenzet.core.plan.planner import plan_quilt
from kenzet.core.top.document import write
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.say import whereabouts
from kenzet.say import words as w
from kenzet.store.quilts import Kept
from kenzet.web.wire import base as m
from kenzet.web.wire import drawn


def quilt_of(kept: Kept, laid: QuiltLayout, unit: Unit) -> m.QuiltView:
    """A quilt as it is kept, laid out and drawn."""
    quilt, plans = kept.quilt, plan_quilt(laid)
    return m.QuiltView(
        id=kept.id,
        version=kept.version,
        name=quilt.name,
        use=quilt.use,
        size=[w.shown(laid.top.width, unit, bare=True), " × ", w.shown(laid.top.height, unit)],
        width=laid.top.width,
        height=laid.top.height,
        undo=kept.undo,
        redo=kept.redo,
        fabrics={key: {"name": f.name, "colour": f.colour} for key, f in quilt.fabrics.items()},
        parts=drawn.parts(laid),
        zones=[
            m.ZoneInfo(
                key=key,
                name=zone.name,
                part=zone.part,
                patches=list(zone.patches),
                shapes=drawn.shapes(laid.shapes(zone)),
                occurs=whereabouts.occurs(laid, zone),
                fill=zone.fill.label if zone.fill else "",
                left_open=zone.left_open,
                cut=bool(zone.slices),
                stand_off=w.length_text(zone.stand_off, unit) if zone.stand_off else "",
                stands_off=zone.part in laid.quilt.blocks and not laid.parts(zone.part)[0].applique.is_empty,
                drawings=drawn.drawings(plans.get(key)),
            )
            for key, zone in quilt.zones.items()
            if laid.is_laid(zone)
        ],
        ground=drawn.ground(kept.id, laid),
        fills=drawn.fill_kinds(),
        totals=w.totals(totals_of(plans.values()), unit),
        kit=write(quilt)["kit"],
    )
