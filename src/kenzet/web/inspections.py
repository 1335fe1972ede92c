"""Sewn blocks measured from photographs: added, shown, removed."""

from __future__ import annotations

import threading
from typing import Annotated, Any

import numpy as np
from flask import Response
from pydantic import Field

from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Floats
from kenzet.core.inspect.card import found_corners
from kenzet.core.inspect.judge import Report
from kenzet.core.inspect.measure import Measured, measured, reported
from kenzet.core.inspect.sides import Frame, is_whole
from kenzet.core.inspect.view import MARGIN, View, flattened
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.core.top.zone import Spot
from kenzet.formats import photo as pictures
from kenzet.say.inspect_words import InspectionView, inspection_view, key_of
from kenzet.say.log_words import clock_words, day_words
from kenzet.store import logbook as store
from kenzet.store import photos
from kenzet.store.logbook import Inspection
from kenzet.store.quilts import LOCAL_OWNER, Kept
from kenzet.texts import tr
from kenzet.web.blueprint import Blueprint
from kenzet.web.request_context import answer, connection, laid_at, laid_quilt
from kenzet.web.state.logs import logs
from kenzet.web.state.measured import findings_of
from kenzet.web.wire import base as m

inspections = Blueprint("inspections", __name__, url_prefix="/api/quilts/<quilt>")
_SHOWN_PX = 4.0
"""Pixels a mm of the picture that is shown."""
_ONE_AT_A_TIME = threading.Lock()
"""One measurement at a time, as a photograph and its flattened picture need much memory."""


class InspectionRequest(m.Reading):
    """A photograph of the block at ``place``.

    ``corners`` are shares of its width and height (upper left, upper right, lower right, lower left), or null to
    find them by the corner cards. With ``all_lines``, everything planned counts as sewn.
    """

    photo: Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]
    place: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
    corners: tuple[Spot, Spot, Spot, Spot] | None = None
    all_lines: bool = False


class InspectionOfQuilt(m.QuiltKey):
    """Identifies an inspection of a quilt."""

    inspection: Annotated[str, Field(pattern=r"^[a-z0-9]{12}$")]


class PictureQuery(m.Wire):
    """No parameters."""


class ChangeSide(m.Reading):
    """A side by its key: removed (null), moved to that many mm left of its plan, or as found (``back``)."""

    side: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}\.[0-9]\.[0-9a-f]{8}/[0-9]{1,6}/[0-9]{1,6}$")]
    nudged: Annotated[float, Field(ge=-25, le=25, allow_inf_nan=False)] | None = None
    back: bool = False


class InspectionsView(m.Wire):
    """The measured blocks, the newest first: place, time, and id of each."""

    inspections: list[InspectionCard]


class InspectionCard(m.Wire):
    """One measured block."""

    id: str
    place: str
    when: str
    photo: str


@inspections.get("/inspections", responses={200: InspectionsView})
def listed(path: m.QuiltKey) -> Response:
    """All inspections of a quilt."""
    laid_quilt(path.quilt)
    with connection() as conn:
        found = store.inspections(conn, path.quilt)
    return answer(
        InspectionsView(
            inspections=[
                InspectionCard(id=one.id, place=one.place, when=_when(one), photo=one.photo) for one in found
            ]
        )
    )


@inspections.post("/inspections", responses={200: InspectionView})
def inspect(path: m.QuiltKey, body: InspectionRequest) -> Response:
    """Measure a photograph and store the result."""
    kept, laid = laid_quilt(path.quilt)
    if not is_whole(laid, body.place):
        raise BadValue(tr("Only blocks with four corners can be measured from a photo."), "place")
    with connection() as conn:
        jpeg = photos.load(conn, LOCAL_OWNER, body.photo).jpeg
        log = logs().log(conn, path.quilt)
    sewn = None if body.all_lines else [(of, line) for of, line, _ in log.sewn.of(body.place)]
    with _ONE_AT_A_TIME:
        picture = pictures.colors(jpeg)
        _, width, height = laid.frame_of(body.place)
        corners = _corners(picture, body, width, height)
        found = measured(picture, corners, laid, body.place, sewn or None)
    with connection() as conn:
        new = store.add_inspection(
            conn, path.quilt, body.place, body.photo, kept.revision, _told(found, body.all_lines or not sewn)
        )
    return answer(_view(kept, new, body.unit))


def _corners(picture: Any, body: InspectionRequest, width: float, height: float) -> Floats:
    if body.corners is None:
        return found_corners(picture, width, height)
    found: Floats = np.array(body.corners) * [picture.shape[1], picture.shape[0]]
    return found


@inspections.get("/inspections/<inspection>", responses={200: InspectionView})
def shown(path: InspectionOfQuilt, query: m.Reading) -> Response:
    """One inspection with all details."""
    kept, _ = laid_quilt(path.quilt)
    return answer(_view(kept, path.inspection, query.unit))


@inspections.get("/inspections/<inspection>/flat.jpg")
def flat_picture(path: InspectionOfQuilt, query: PictureQuery) -> Response:
    """The photograph, straightened, with a margin around the block."""
    laid_quilt(path.quilt)
    with connection() as conn:
        one = store.inspection(conn, path.quilt, path.inspection)
        jpeg = photos.load(conn, LOCAL_OWNER, one.photo).jpeg
    size = (one.found["width"], one.found["height"])
    with _ONE_AT_A_TIME:
        flat = flattened(pictures.colors(jpeg), _view_of(one), size, min(_SHOWN_PX, 1600 / max(size)))
    return Response(pictures.jpeg_of(flat), mimetype="image/jpeg")


@inspections.post("/inspections/<inspection>/side", responses={200: InspectionView})
def change_side(path: InspectionOfQuilt, body: ChangeSide) -> Response:
    """Remove a side, move it, or restore it."""
    kept, _ = laid_quilt(path.quilt)
    with connection() as conn:
        one = store.inspection(conn, path.quilt, path.inspection)
        if body.side not in one.found["sides"]:
            raise BadValue(tr("This picture shows no such line."), "side")
        struck = {key: value for key, value in one.struck.items() if key != body.side}
        if not body.back:
            struck[body.side] = body.nudged
        store.set_struck(conn, path.quilt, path.inspection, struck)
    return answer(_view(kept, path.inspection, body.unit))


@inspections.post("/inspections/<inspection>/strike", responses={200: InspectionsView})
def strike(path: InspectionOfQuilt) -> Response:
    """Remove a whole inspection."""
    laid_quilt(path.quilt)
    with connection() as conn:
        store.strike_inspection(conn, path.quilt, path.inspection)
    return listed(path)  # type: ignore[no-any-return]


def _told(found: Measured, all_lines: bool) -> dict[str, Any]:
    view = found.view
    return {
        "width": found.frame.width,
        "height": found.frame.height,
        "all_lines": all_lines,
        "view": {"eight": view.eight.tolist(), "middle": view.middle, "half": view.half, "bend": view.bend},
        "sides": {
            key_of(one.side): [one.unseen, one.offset, one.tilt, one.straight, round(one.sure, 2), one.shade]
            for one in found.findings
        },
    }


def _view_of(one: Inspection) -> View:
    told = one.found["view"]
    return View(np.array(told["eight"]), tuple(told["middle"]), told["half"], told["bend"])


def report_of(kept: Kept, one: Inspection) -> tuple[QuiltLayout, Frame, Report]:
    """Its report, against the plan at that time."""
    laid = laid_at(kept, one.revision)
    frame, found = findings_of(laid, one)
    return laid, frame, reported(laid, frame, found)


def _view(kept: Kept, ident: str, unit: Any) -> InspectionView:
    with connection() as conn:
        one = store.inspection(conn, kept.id, ident)
    laid, frame, said = report_of(kept, one)
    return inspection_view(laid, frame, said, ident, _when(one), MARGIN, one.struck, unit)


def _when(one: Inspection) -> str:
    return f"{day_words(one.when)}, {clock_words(one.when)}"
