"""The swatch book: swatches added to it, observations, pictures, and books from files."""

from __future__ import annotations

import json
from typing import Annotated, Any

from flask import Response
from pydantic import Field

from kenzet.core.errors import BadValue, Unknown
from kenzet.core.logbook.swatch import KeptSwatch, SwatchBook, SwatchFound, check_drawable, swatch_of
from kenzet.core.memo import Memo, Table
from kenzet.core.top.document import validated
from kenzet.formats.swatch_picture import swatch_picture
from kenzet.say.swatch_words import SwatchRow, swatch_row
from kenzet.store import photos
from kenzet.store import swatches as store
from kenzet.store.quilts import LOCAL_OWNER
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_quilt, upload
from kenzet.web.wire import base as m

swatches = Blueprint("swatches", __name__, url_prefix="/api")
MOST_BYTES = 20_000_000
_DRAWN: Table[str, bytes] = Table("pictures of swatches", most=80)
_MEMO = Memo()


class SwatchKey(m.Wire):
    """Identifies a swatch."""

    swatch: Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]


class NewSwatch(m.Reading):
    """A zone of the quilt as planned at ``place`` (by default where it is most often), to be added to the book
    under a name."""

    zone: m.ZoneKey
    place: m.PlaceKey = ""
    name: Annotated[str, Field(max_length=80)] = ""


class ChangeSwatch(m.Reading):
    """Observations about a swatch, as typed; only what is sent is changed."""

    found: dict[str, Any]


class SwatchesView(m.Wire):
    """The book, the newest swatch first; ``added`` is one that was just added."""

    swatches: list[SwatchRow]
    added: str = ""


@swatches.get("/swatches", responses={200: SwatchesView})
def show_book(query: m.Reading) -> Response:
    """The whole book."""
    return _book(query)


@swatches.post("/quilts/<quilt>/swatches", responses={200: SwatchesView})
def add_swatch(path: m.QuiltKey, body: NewSwatch) -> Response:
    """Add a zone to the book as planned now."""
    _, laid = laid_quilt(path.quilt)
    piece = swatch_of(laid, body.zone, body.place)
    found = validated(SwatchFound, {"name": body.name.strip() or piece.zone}, body.unit)
    with connection() as conn:
        (new,) = store.add(conn, LOCAL_OWNER, [KeptSwatch(swatch=piece, found=found)])
    return _book(body, new)


@swatches.post("/swatches/<swatch>", responses={200: SwatchesView})
def change_swatch(path: SwatchKey, body: ChangeSwatch) -> Response:
    """Store observations."""
    with connection() as conn:
        before = store.load(conn, LOCAL_OWNER, path.swatch).dated.found
        kept = {**before.model_dump(mode="json"), **body.found}
        found: SwatchFound = validated(SwatchFound, kept, body.unit)
        for photo in set(found.photos) - set(before.photos):
            if not photos.is_there(conn, LOCAL_OWNER, photo):
                raise Unknown(tr("There is no such photograph here."), "photos")
        store.set_found(conn, LOCAL_OWNER, path.swatch, found)
    return _book(body)


@swatches.delete("/swatches/<swatch>", responses={200: SwatchesView})
def take_out(path: SwatchKey, query: m.Reading) -> Response:
    """Remove a swatch from the book."""
    with connection() as conn:
        store.strike(conn, LOCAL_OWNER, path.swatch)
    return _book(query)


@swatches.post("/swatches/import", responses={200: SwatchesView})
def bring_swatches(query: m.Reading) -> Response:
    """Add the swatches of a file; those in the book are not duplicated. Photographs are not included."""
    try:
        raw = json.loads(upload(MOST_BYTES, tr("A swatch book")))
    except (ValueError, RecursionError) as error:
        raise BadValue(tr("This file holds no swatches: it is not JSON."), "file") from error
    try:
        book: SwatchBook = validated(SwatchBook, raw)
        for one in book.swatches:
            check_drawable(one.swatch)
    except BadValue as error:  # said where the file was chosen, whatever in it is wrong
        raise BadValue(
            tr("This file holds no swatch book that can be read: {message}", message=error.message), "file"
        ) from error
    with connection() as conn:
        own = [one.dated for one in store.listed(conn, LOCAL_OWNER)]
        there = [(one.swatch, one.found.name) for one in own]
        new = [one for one in book.swatches if (one.swatch, one.found.name) not in there]
        bare = [
            KeptSwatch(swatch=one.swatch, found=one.found.model_copy(update={"photos": ()})) for one in new
        ]
        store.add(conn, LOCAL_OWNER, bare)
    return _book(query)


@swatches.get("/swatches/<swatch>/picture.jpg")
def picture(path: SwatchKey, query: m.Wire) -> Response:
    """The quilted piece in relief, in its fabric and thread; it never changes."""
    with connection() as conn:
        piece = store.load(conn, LOCAL_OWNER, path.swatch).dated.swatch
    data = _MEMO.once(_DRAWN, path.swatch, lambda: swatch_picture(piece))
    return Response(
        data, mimetype="image/jpeg", headers={"Cache-Control": "private, max-age=31536000, immutable"}
    )


def _book(query: m.Reading, added: str = "") -> Response:
    with connection() as conn:
        found = store.listed(conn, LOCAL_OWNER)
    rows = [swatch_row(one.id, one.dated, query.unit) for one in found]
    return answer(SwatchesView(swatches=rows, added=added))
