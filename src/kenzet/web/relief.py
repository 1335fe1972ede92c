"""The quilt under raking light: how the quilted cloth will look."""

from __future__ import annotations

from typing import Annotated

from flask import Response
from pydantic import Field

from kenzet.core.memo import Table
from kenzet.core.relief.cloth import Light
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats.relief_picture import relief_picture
from kenzet.store.quilts import Kept
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import laid_quilt
from kenzet.web.wire import base as m

relief = Blueprint("relief", __name__, url_prefix="/api/quilts/<quilt>")
PICTURES: Table[tuple[str, int, int, Light, bool], bytes] = Table("relief pictures", most=12)


class ReliefQuery(m.Wire):
    """A picture ``long`` pixels along its longer side, lit from a side; optionally of the back, mirrored.
    ``revision`` only makes the address differ between plans."""

    long: Annotated[int, Field(ge=60, le=2400)] = 1320
    light: Light = "upper left"
    back: bool = False
    revision: int | None = None


@relief.get("/relief.jpg")
def picture(path: m.QuiltKey, query: ReliefQuery) -> Response:
    """The quilted cloth in relief, in its fabrics."""
    kept, laid = laid_quilt(path.quilt)
    return Response(_drawn(kept, laid, query), mimetype="image/jpeg")


def _drawn(kept: Kept, laid: QuiltLayout, query: ReliefQuery) -> bytes:
    """The picture, cached by plan."""
    key = (kept.id, kept.revision, query.long, query.light, query.back)
    return laid.memo.get(PICTURES, key) or laid.memo.put(
        PICTURES, key, relief_picture(laid, query.long, query.light, query.back)
    )
