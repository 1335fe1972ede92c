"""Whether a photograph shows the block it is said to show."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray

from kenzet.core.geom.affine import invert, place_all
from kenzet.core.geom.region import Floats
from kenzet.core.inspect.find import Finding
from kenzet.core.inspect.sides import Frame
from kenzet.core.inspect.view import MARGIN, Flat
from kenzet.core.numbers.robust import trend
from kenzet.core.tolerances import EQUAL
from kenzet.core.top.quilt_layout import QuiltLayout

Fault = Literal["", "another block", "too little seen"]
_FAR = 2.2  # mm: lines of another block are found anywhere in their bands
_FAR_SHARE = 0.25
_DRIFTS = 5  # lines: a set of so many may have drifted
_WELL_SEEN = 0.6
_LEAST_SEEN, _FEWEST = 0.3, 3  # of a right picture in the worst light more than 0.4 was seen
_SEAMS_FOUND = 0.15
_ENOUGH_SEAMS = 4
_UNEVEN = 0.22  # between the quartiles of the logarithm of how light one patch is
_CELL = 4.0  # mm: larger than a print's figures
_CELLS = 12


def fault(
    laid: QuiltLayout, frame: Frame, flat: Flat, lines: Sequence[Finding], seams: Sequence[Finding]
) -> Fault:
    """The reason why it does not, or none. ``seams`` are the findings for seams inside the frame between different
    fabrics.

    Lines and seams alone decide: a shadow makes any fabric uneven. Where they refuse for want of anything seen, the
    brightness within patches tells which reason is the likelier.
    """
    seen = [one for one in lines if not one.unseen]
    share = _length(seen) / max(_length(lines), EQUAL)
    far = _astray(seen)
    if len(seen) >= 2 and _length(far) > _FAR_SHARE * _length(seen):
        return "another block"
    found = sum(not one.unseen for one in seams) / max(len(seams), 1)
    told_by_seams = len(seams) >= _ENOUGH_SEAMS
    if share < _WELL_SEEN and told_by_seams and found < _SEAMS_FOUND:
        return "another block"
    if (len(seen) < _FEWEST or share < _LEAST_SEEN) and not (told_by_seams and found > 1 / 2):
        return "another block" if _patches_differ_within(laid, frame, flat) else "too little seen"
    return ""


def _astray(seen: Sequence[Finding]) -> list[Finding]:
    """Findings far from where the other lines of their set predict them; a set as a whole may drift."""
    sets: dict[tuple[str, int], list[Finding]] = {}
    for one in seen:
        sets.setdefault(one.side.set, []).append(one)
    found = []
    for mine in sets.values():
        rows = np.array([one.side.row for one in mine], dtype=float)
        aside = np.array([one.offset for one in mine])
        if len(np.unique(rows)) >= _DRIFTS:
            slope, level = trend(rows, aside)
            expected = level + slope * rows
            aside = aside - (expected if np.abs(expected).min() < _FAR else 0.0)  # it begins near its plan
        found += [one for one, out in zip(mine, aside.tolist(), strict=True) if abs(out) > _FAR]
    return found


def _length(some: Sequence[Finding]) -> float:
    return sum(one.side.length for one in some)


def surely_fits(lines: Sequence[Finding], seams: Sequence[Finding]) -> bool:
    """Whether most lines, or most of enough seams, are found where they are planned: more than chance finds."""
    seen = [one for one in lines if not one.unseen]
    found = sum(not one.unseen for one in seams)
    by_seams = len(seams) >= _ENOUGH_SEAMS and found > len(seams) / 2
    return by_seams or _length(seen) >= _WELL_SEEN * _length(lines)


def _patches_differ_within(laid: QuiltLayout, frame: Frame, flat: Flat) -> bool:
    """Whether most patches that should be one fabric contain both light and dark areas in the picture, apart from
    slow changes of the light over the whole of it."""
    if frame.place not in laid.top.at:
        return False
    part = laid.top.at[frame.place]
    placing, _, _ = laid.frame_of(frame.place)
    step = max(round(_CELL * flat.px), 1)
    cells = cv2.resize(
        flat.light, (flat.light.shape[1] // step, flat.light.shape[0] // step), interpolation=cv2.INTER_AREA
    )
    columns, rows = np.meshgrid(np.arange(cells.shape[1]), np.arange(cells.shape[0]))
    x = (columns + 1 / 2) * step / flat.px - MARGIN
    y = frame.height + MARGIN - (rows + 1 / 2) * step / flat.px
    patch_of = np.full(cells.shape, -1)
    sizes: list[float] = []
    for patch in part.patches.values():
        area = shapely.transform(
            patch.area,
            lambda points: _in_frame(place_all(part.places[frame.place], points), placing),
        )
        inside = shapely.contains_xy(shapely.buffer(area, -_CELL / 2), x, y)
        if inside.sum() >= _CELLS:
            patch_of[inside] = len(sizes)
            sizes.append(area.area)
    if not sizes:
        return False
    within = patch_of >= 0
    even = _evened(
        cells[within].astype(float), x[within] / frame.width, y[within] / frame.height, patch_of[within]
    )
    uneven = 0.0
    for number, size in enumerate(sizes):
        low, high = np.quantile(even[patch_of[within] == number], [0.25, 0.75])
        uneven += size * bool(high - low > _UNEVEN)
    return bool(uneven > sum(sizes) / 2)


def _evened(light: Floats, x: Floats, y: Floats, patch_of: NDArray[np.int64]) -> Floats:
    """The logarithm of ``light`` without the quadratic surface in x and y that explains most of its changes within
    patches; all are (n,)."""
    logarithm = np.log(np.maximum(light, 1.0))
    surface = np.stack([x, y, x * x, x * y, y * y], axis=1)
    many = np.maximum(np.bincount(patch_of), 1)

    def centred(values: Floats) -> Floats:
        sums = np.zeros((len(many), values.shape[1]))
        np.add.at(sums, patch_of, values)
        found: Floats = values - (sums / many[:, None])[patch_of]
        return found

    fitted, *_ = np.linalg.lstsq(centred(surface), centred(logarithm[:, None]), rcond=None)
    even: Floats = logarithm - (surface @ fitted)[:, 0]
    return even


def _in_frame(points: Floats, placing) -> Floats:  # type: ignore[no-untyped-def]
    return np.array([invert(placing, (x, y)) for x, y in points.tolist()])
