"""A quilt before it is created: a preview of the choices, and the blocks to choose from."""

from __future__ import annotations

from flask import Response

from kenzet.core.changes.new_quilt import NewQuilt, new_quilt
from kenzet.core.plan.planner import check_quilt
from kenzet.core.top.document import validated
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.picture_svg import picture_svg
from kenzet.say import words as w
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer
from kenzet.web.wire import base as m
from kenzet.web.wire.docs import WishDoc
from kenzet.web.wire.top import TileView, tiles

begin = Blueprint("begin", __name__, url_prefix="/api")


class WishRequest(m.Reading):
    """What is wished so far."""

    wish: WishDoc


class DraftView(m.Wire):
    """What the wish comes to: its finished size, and a picture of it as SVG."""

    size: w.Words
    picture: str


class TilesView(m.Wire):
    """The blocks that are offered."""

    tiles: list[TileView]


@begin.post("/draft", responses={200: DraftView})
def draft(body: WishRequest) -> Response:
    """A quilt as wished; nothing is kept."""
    laid = QuiltLayout(new_quilt(validated(NewQuilt, body.wish, body.unit, "wish")))
    check_quilt(laid)
    size = [
        w.shown(laid.top.width, body.unit, bare=True, about=True),
        " × ",
        w.shown(laid.top.height, body.unit, about=True),
    ]
    return answer(DraftView(size=size, picture=picture_svg(laid).decode()))


@begin.get("/blocks", responses={200: TilesView})
def blocks() -> Response:
    """The blocks that are offered."""
    return answer(TilesView(tiles=tiles()))
