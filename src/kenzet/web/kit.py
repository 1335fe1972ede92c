"""The kit of a quilt: what it copies from the tools and supplies, and what its rulers make."""

from __future__ import annotations

from flask import Response

from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, her_things, laid_quilt
from kenzet.web.wire import base as m
from kenzet.web.wire.kit import KitView, kit_of

kit = Blueprint("kit", __name__, url_prefix="/api/quilts/<quilt>")


@kit.get("/kit", responses={200: KitView})
def kit_view(path: m.QuiltKey, query: m.Reading) -> Response:
    """The quilt's kit, and how the present tools and supplies differ from it."""
    kept, _ = laid_quilt(path.quilt)
    return answer(kit_of(kept.quilt.kit, her_things(), query.unit))
