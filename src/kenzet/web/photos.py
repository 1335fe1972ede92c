"""Photographs: of the quilter's top, to show under the plan, and of fabrics, for their colors."""

from __future__ import annotations

from flask import Response

from kenzet.core.errors import Unknown
from kenzet.core.top.fabric_color import fabric_color
from kenzet.core.top.ground import straightening
from kenzet.formats import photo
from kenzet.formats.apart import apart
from kenzet.store import photos as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt, upload
from kenzet.web.wire import base as m
from kenzet.web.wire.photos import FabricColorView, GroundQuery, PhotoOfHers, PhotoView

photos = Blueprint("photos", __name__, url_prefix="/api")


@photos.post("/photos", responses={200: PhotoView})
def add_photo() -> Response:
    """Store a photograph from the request body; only its pixels are kept."""
    found = apart(
        photo.kept, upload(photo.MOST_BYTES, tr("A photograph")), what=tr("This picture"), seconds=15.0
    )
    with connection() as conn:
        new = store.add(conn, LOCAL_OWNER, store.KeptPhoto(found.jpeg, found.width, found.height))
    return answer(PhotoView(id=new, width=found.width, height=found.height))


@photos.get("/photos/<photo>.jpg")
def photo_file(path: PhotoOfHers) -> Response:
    """The photograph as taken."""
    with connection() as conn:
        return _picture(store.load(conn, LOCAL_OWNER, path.photo).jpeg)


@photos.get("/photos/<photo>", responses={200: PhotoView})
def photo_size(path: PhotoOfHers) -> Response:
    """Its size in pixels."""
    with connection() as conn:
        found = store.load(conn, LOCAL_OWNER, path.photo)
    return answer(PhotoView(id=path.photo, width=found.width, height=found.height))


@photos.get("/quilts/<quilt>/ground.jpg")
def ground(path: m.QuiltKey, query: GroundQuery) -> Response:
    """The photograph under the plan, straightened to the quilt or block that it shows."""
    kept, laid = laid_quilt(path.quilt)
    under = kept.quilt.ground
    if under is None:
        raise Unknown(tr("No photograph lies under this quilt."), "ground")
    _, width, height = laid.frame_of(under.place)
    size = photo.flat_size(width, height)
    with connection() as conn:
        found = store.load(conn, LOCAL_OWNER, under.photo)
    eight = straightening(under.corners, (found.width, found.height), size)
    return _picture(photo.straightened(found.jpeg, size, eight))


@photos.post("/fabric-color", responses={200: FabricColorView})
def fabric_color_of() -> Response:
    """The average color of a fabric's picture and how busy its print is; nothing is stored."""
    colour, how = fabric_color(
        apart(
            photo.pixels, upload(photo.MOST_BYTES, tr("A photograph")), what=tr("This picture"), seconds=15.0
        )
    )
    return answer(FabricColorView(colour=colour, print=how))


def _picture(jpeg: bytes) -> Response:
    return Response(jpeg, mimetype="image/jpeg")
