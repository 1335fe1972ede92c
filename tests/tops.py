"""Quilts for tests, made as a quilter's wishes would make them."""

from __future__ import annotations

from kenzet.core.changes import CHANGES
from kenzet.core.changes.new_quilt import PALETTE, NewQuilt, new_quilt
from kenzet.core.top.document import Quilt
from kenzet.core.top.patterns import offers
from kenzet.core.top.quilt_layout import QuiltLayout


def top_of(blocks, layout, borders=(), **more) -> Quilt:
    return Quilt(
        name="Tried", fabrics=PALETTE, blocks=blocks, layout=layout, borders=borders, zones={}, **more
    )


def laid_of(quilt: Quilt) -> QuiltLayout:
    return QuiltLayout(quilt)


def wished(**wish) -> QuiltLayout:
    return QuiltLayout(new_quilt(NewQuilt.model_validate({"name": "Tried", **wish})))


def after(laid: QuiltLayout, *changes: dict) -> QuiltLayout:
    """The quilt after changes in order, each written as it comes over the wire."""
    for change in changes:
        quilt, said = CHANGES[change["kind"]].model_validate(change).apply(laid)
        assert said
        laid = QuiltLayout(quilt)
    return laid


def patterned(name: str, size: str = "12 in") -> dict:
    """A block of the chooser as it comes over the wire, its roles in three fabrics by turns."""
    pattern = dict(offers())[name]
    fabrics = {role: ("ground", "main", "accent")[k % 3] for k, role in enumerate(pattern.roles())}
    art = {"kind": "pattern", "pattern": pattern.model_dump(mode="json"), "fabrics": fabrics}
    return {"name": name, "width": size, "height": size, "art": art}


def single(name: str, size: str = "12 in") -> QuiltLayout:
    """A top of one block of the chooser."""
    laid = wished(arrangement="single block", block=size)
    laid = after(laid, {"kind": "new block", "block": patterned(name, size)})
    key = next(key for key in laid.quilt.blocks if key != "plain")
    return after(laid, {"kind": "paint", "places": ["1-1"], "block": key})
