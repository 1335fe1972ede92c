"""A top of pinwheels: many triangles of one outline, each turned four ways, and such as the quilt's edge cuts."""

from __future__ import annotations

from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.top.quilt_layout import QuiltLayout


def pinwheels(columns: int) -> QuiltLayout:
    """``columns`` by as many pinwheels of 6 in with every triangle a zone of its own."""
    wish = {"name": "Pinwheels", "columns": columns, "rows": columns, "block": "6 in"}
    laid = QuiltLayout(new_quilt(NewQuilt.model_validate(wish)))
    art = {
        "kind": "pattern",
        "pattern": {"kind": "pieced"},
        "fabrics": {"background": "ground", "blades": "dark"},
    }
    block = {"name": "Pinwheel", "width": "6 in", "height": "6 in", "art": art}
    places = [place for place, _ in laid.quilt.layout.places()]
    laid = changed(laid, {"kind": "new block", "block": block})
    laid = changed(laid, {"kind": "paint", "places": places, "block": "pinwheel"})
    inside = {"line_ends": "inside", "edge": "1/4 in", "batting_overhang": "2 in", "backing_overhang": "3 in"}
    laid = changed(laid, {"kind": "quilt", "use": "lap", **inside})
    for patch in laid.top.at["1-1"].patches:
        laid = changed(laid, {"kind": "zone", "refs": [f"1-1/{patch}"]})
    return laid


def filled(laid: QuiltLayout, fill: dict) -> QuiltLayout:
    """The same with ``fill`` in every zone; what hangs on the top is worked out once for both."""
    for key in laid.quilt.zones:
        change = CHANGES["fill"].model_validate({"kind": "fill", "zone": key, "fill": fill})
        laid = laid.with_quilt(change.apply(laid)[0])
    return laid


def changed(laid: QuiltLayout, change: dict) -> QuiltLayout:
    """``laid`` after one change."""
    return QuiltLayout(CHANGES[change["kind"]].model_validate(change).apply(laid)[0])
