"""Measures a sewn block from its photograph, from start to end."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np

from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Floats
from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.fits import fault, surely_fits
from kenzet.core.inspect.judge import Report, report
from kenzet.core.inspect.lay_over import LaidOver, laid_over
from kenzet.core.inspect.sides import Frame, area_in, corners_in, frame_at
from kenzet.core.inspect.view import Flat, Pixels, View
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr

_LEAST_CORNERS = 0.05  # of the photograph's area


@dataclass(frozen=True, eq=False)
class Measured:
    """A block in its frame as photographed, and the report about it."""

    frame: Frame
    view: View
    flat: Flat
    findings: tuple[Finding, ...]
    report: Report


def reported(laid: QuiltLayout, frame: Frame, findings: Collection[Finding]) -> Report:
    """The report for some findings."""
    areas = {
        zone: area
        for zone in dict.fromkeys(side.zone for side in frame.sides)
        if (area := area_in(laid, frame, zone)) is not None
    }
    kit = laid.quilt.kit
    tolerance, look = float(kit.tolerance.mm), float(kit.seen_from.mm)
    return report(frame, tuple(findings), corners_in(laid, frame), areas, tolerance, look)


def measured(
    photo: Pixels,
    corners: Floats,
    laid: QuiltLayout,
    place: str,
    sewn: Collection[tuple[str, int]] | None = None,
) -> Measured:
    """``photo`` is (rows, columns, 3) or gray; ``corners`` (4, 2) px of the place in it: upper left, upper right,
    lower right, lower left.

    ``sewn`` restricts the measurement to some lines (word and number). Raises Unknown; BadValue if nothing is
    planned there, corners are crossed or too close, the picture shows something else, or too little is seen.
    """
    _check_corners(photo, corners)
    frame = frame_at(laid, place, sewn)
    if not frame.sides:
        raise BadValue(
            tr("Nothing is planned here that a picture can measure. Choose a block with sewn lines."), "place"
        )
    found = laid_over(photo, corners, laid, frame)
    wrong = _fault(laid, frame, found)
    if wrong:
        turn = _turned(photo, corners, laid, frame)
        raise BadValue(_SAYS[wrong] if not turn else _TURNED[turn], "photo" if not turn else "corners")
    said = reported(laid, frame, found.findings)
    return Measured(frame, found.view, found.flat, tuple(found.findings), said)


_SAYS = {
    "another block": tr(
        "This picture does not show this block: its lines and seams lie elsewhere. Check the block and its corners."
    ),
    "too little seen": tr(
        "Too few stitches can be told from the fabric. Take the picture with one low light from the side, close up and sharp."
    ),
}
_TURNED = {
    1: tr(
        "The picture is turned by a quarter. Click the corners again, the block’s own upper left corner first."
    ),
    2: tr("The picture is upside down. Click the corners again, the block’s own upper left corner first."),
    3: tr(
        "The picture is turned by a quarter. Click the corners again, the block’s own upper left corner first."
    ),
}


def _fault(laid: QuiltLayout, frame: Frame, found: LaidOver) -> str:
    return fault(laid, frame, found.flat, found.findings, found.inner_seams)


def _turned(photo: Pixels, corners: Floats, laid: QuiltLayout, frame: Frame) -> int:
    """The number of quarter turns of the corners that makes the picture fit for sure; 0 if none does."""
    square = abs(frame.width - frame.height) < max(frame.width, frame.height) / 20
    for turn in (1, 2, 3) if square else (2,):
        found = laid_over(photo, np.roll(corners, turn, axis=0), laid, frame, once=True)
        if not _fault(laid, frame, found) and surely_fits(found.findings, found.inner_seams):
            return turn
    return 0


def _check_corners(photo: Pixels, corners: Floats) -> None:
    sides = np.roll(corners, -1, axis=0) - corners
    after = np.roll(sides, -1, axis=0)
    turns = sides[:, 0] * after[:, 1] - sides[:, 1] * after[:, 0]
    if (turns <= 0).any():
        raise BadValue(
            tr("The corners must lie in the order upper left, upper right, lower right, lower left."),
            "corners",
        )
    if turns.sum() / 4 < _LEAST_CORNERS * photo.shape[0] * photo.shape[1]:
        raise BadValue(tr("The block is too small in this picture. Take the picture from closer."), "corners")
