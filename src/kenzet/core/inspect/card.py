"""Corner cards: printed marks placed outside the four corners of a block, so that the corners are found automatically
in a photograph.

A card is a square of ``CARD`` mm. One of its corners lies on the block's corner and its sides continue the block's
edges, so that it lies outside the block. In its center is a square mark of ``MARK`` mm, a fiducial of a
general-purpose dictionary: 0 to 3 for upper left, upper right, lower right, lower left.
"""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from kenzet.core.errors import BadValue
from kenzet.core.geom.region import Floats
from kenzet.core.inspect.view import Pixels
from kenzet.texts import tr

CARD, MARK = 40.0, 24.0
CORNERS = (tr("upper left"), tr("upper right"), tr("lower right"), tr("lower left"))
_CELLS = 6  # of a mark, its black rim counted in


def _dictionary() -> Any:
    return cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_4X4_50)


def mark_cells(which: int) -> NDArray[np.bool_]:
    """The mark of a card, (6, 6), true for black cells; row 0 is at the top."""
    picture = cv2.aruco.generateImageMarker(_dictionary(), which, _CELLS)
    return np.asarray(picture == 0, dtype=bool)


def lies_at(which: int, width: float, height: float) -> tuple[float, float]:
    """The lower left corner of a card beside a frame of ``width`` by ``height`` mm, in mm of the frame."""
    return (-CARD if which in (0, 3) else width), (height if which in (0, 1) else -CARD)


def found_corners(photo: Pixels, width: float, height: float) -> Floats:
    """The corners of a frame of ``width`` by ``height`` mm in a photograph with all four cards, (4, 2) px, in the
    order of ``View.of``.

    Raises BadValue at ``corners`` if a card is not seen.
    """
    grey = photo if photo.ndim == 2 else cv2.cvtColor(photo, cv2.COLOR_RGB2GRAY)
    settings = cv2.aruco.DetectorParameters()
    settings.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    seen, ids, _ = cv2.aruco.ArucoDetector(_dictionary(), settings).detectMarkers(grey)
    at = (
        {int(which): np.asarray(mark).reshape(4, 2) for mark, which in zip(seen, ids.ravel(), strict=True)}
        if ids is not None
        else {}
    )
    missing = [name for which, name in enumerate(CORNERS) if which not in at]
    if missing:
        says = (
            tr("None of the corner cards is seen")
            if len(missing) == 4
            else tr("The corner card at the {missing} is not seen", missing=tr(" and ").join(missing))
        )
        raise BadValue(
            tr("{says}. Click the block’s corners instead, or take the picture again.", says=says), "corners"
        )
    frame, pixels = [], []
    for which in range(4):
        left, low = (value + (CARD - MARK) / 2 for value in lies_at(which, width, height))
        frame += [(left, low + MARK), (left + MARK, low + MARK), (left + MARK, low), (left, low)]
        pixels += at[which].tolist()
    onto, _ = cv2.findHomography(np.array(frame), np.array(pixels))
    wanted = np.array([[[0, height]], [[width, height]], [[width, 0]], [[0, 0]]], dtype=float)
    return np.asarray(cv2.perspectiveTransform(wanted, onto).reshape(4, 2), dtype=float)
