"""Finds the stitches of planned sides in a flattened picture of the block, or reports that they are not visible.

The picture is sampled in a band along each side. A thread is a narrow strip that is darker, or lighter, than the
cloth on both its sides; a seam is a step in brightness and therefore neither. All straight lines through the band
are tried, by their distance from the plan at the middle and the tilt from end to end; the best is refined point by
point and fitted robustly. It counts as seen only if it stands out from all others, and if both its halves agree.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from kenzet.core.geom.region import Floats
from kenzet.core.inspect.sides import Side, along
from kenzet.core.inspect.view import Flat
from kenzet.core.numbers.robust import scatter, trend
from kenzet.core.tolerances import DIVISOR

BAND = 5.0
"""mm on either side of the plan in which stitches are searched, where no other line is near."""
_SHARE = 0.62  # of the way to the next line
_NARROWEST = 1.3  # mm: a narrower band holds no cloth beside the thread
SEAM_BAND = 3.0
"""mm on either side in which a seam is searched."""
_STEP_AT = 0.6  # mm from a seam: where its two fabrics are compared
_SEAM_APART = 1.5  # mm: another way
STEP = 0.1  # mm across
_ALONG = 0.25  # mm along, as sampled
_BIN = 4  # of them are put together
_THREAD, _BESIDE = (
    0.25,
    (0.55, 1.35),
)  # mm from its middle: half a thread, and the cloth that it is compared with
_TILT = 0.2  # mm from end to end
_APART = 0.7  # mm: another way
_NEAR = 0.6  # mm: where a way is refined
_REFINED = 6.0  # mm along, of one refinement
STANDS_OUT = 6.5
"""How many times the scatter of other lines a response must reach to be told from the cloth."""
_SECOND = 0.45  # of the best: where another way is nearly as good, neither is sure
_USUAL = 0.65  # of what is seen of a zone, by length: so many threads are of the shade that all have
_EITHER = 0.6  # a darker thread and a lighter one that are nearly as sure: it is one of the two
_DRIFT = 2.0  # mm from a set's first line to its last: then it is followed
_FOLLOWED = 5  # lines that are seen tell where the others are
_HALVES = 0.5  # mm: by so much both halves may differ

Shade = Literal["darker", "lighter"]
Unseen = Literal["", "too close", "no contrast", "two places", "halves differ"]


@dataclass(frozen=True, eq=False)
class Finding:
    """Where a side was found.

    ``offset`` is mm to the left of its plan at its middle; ``tilt`` is mm farther left at its end than at its
    beginning; ``straight`` is how much it deviates from that, mm (a robust standard deviation). ``unseen`` says
    why it was not found; the figures are then only a guess and never shown. ``sure`` is the response in scatters.
    ``spots`` (n, 2) are mm along and mm aside of every refined point.
    """

    side: Side
    unseen: Unseen
    offset: float = 0.0
    tilt: float = 0.0
    straight: float = 0.0
    sure: float = 0.0
    shade: Shade = "darker"
    spots: Floats | None = None

    def aside(self, share: float) -> float:
        """mm to the left of the plan at ``share`` of its length (0 to 1)."""
        return self.offset + (share - 1 / 2) * self.tilt


def findings(flat: Flat, sides: Sequence[Side]) -> list[Finding]:
    """The finding for every side, in order.

    Within a zone the threads are either all darker or all lighter than the cloth, whichever most are: a light
    strip between a dark thread and a dark seam is no thread. If a set of lines drifts, its other lines are
    searched where the drift predicts them.
    """
    found = _of_usual_shade([_both(flat, side) for side in sides])
    expected = _drifted(found)
    if not expected:
        return found
    return _of_usual_shade(
        [
            _both(flat, side, expected[k]) if k in expected else {one.shade: one}
            for k, (side, one) in enumerate(zip(sides, found, strict=True))
        ]
    )


def _of_usual_shade(both: Sequence[dict[Shade, Finding]]) -> list[Finding]:
    weight: dict[str, dict[Shade, float]] = {}
    for one in both:
        for shade, finding in one.items():
            if not finding.unseen:
                mine = weight.setdefault(finding.side.zone, {"darker": 0.0, "lighter": 0.0})
                mine[shade] += finding.side.length
    found = []
    for one in both:
        best, *other = sorted(one.values(), key=lambda finding: -finding.sure)
        here = weight.get(best.side.zone, {})
        usual = max(here, key=lambda shade: here[shade], default=best.shade)
        if len(both) > 1 and here and here[usual] > _USUAL * sum(here.values()):
            best = one.get(usual, best)
        elif not best.unseen and other and other[0].sure > _EITHER * best.sure and other[0].sure > STANDS_OUT:
            best = replace(best, unseen="two places")
        found.append(best)
    return found


def _drifted(found: Sequence[Finding]) -> dict[int, float]:
    """For sides of sets that drift by more than ``_DRIFT``, by index: the expected distance to the left of the
    plan, mm."""
    sets: dict[tuple[str, int], list[int]] = {}
    for k, one in enumerate(found):
        sets.setdefault(one.side.set, []).append(k)
    expected: dict[int, float] = {}
    for numbers in sets.values():
        seen = [found[k] for k in numbers if not found[k].unseen]
        rows, aside = np.array([one.side.row for one in seen], float), np.array([one.offset for one in seen])
        if len(np.unique(rows)) < _FOLLOWED:
            continue
        slope, middle = trend(rows, aside)
        every = [found[k].side.row for k in numbers]
        if abs(slope) * (max(every) - min(every)) < _DRIFT:
            continue
        expected |= {
            k: middle + slope * found[k].side.row
            for k in numbers
            if found[k].unseen or abs(middle + slope * found[k].side.row) > _DRIFT
        }
    return expected


def band_of(side: Side) -> float:
    """mm on either side in which the side is searched; 0 if another line is too close."""
    band = min(BAND, _SHARE * side.clear)
    return band if band >= _NARROWEST else 0.0


def find_seam(flat: Flat, path: Floats) -> Finding:
    """Where a straight seam between two fabrics is found: a step in brightness, not a thread."""
    side = Side("", "", None, 0, 0, path)  # type: ignore[arg-type]
    far, aside, across = _across(flat, side, SEAM_BAND)
    return _best(side, far, aside, _steps(across), SEAM_BAND, "darker", _SEAM_APART)


def _steps(across: NDArray[np.float32]) -> Floats:
    """The difference in brightness between the two sides of every point, as a share of the brightness there."""
    left, right = (_means(across, sign * _STEP_AT, _STEP_AT - STEP) for sign in (-1, 1))
    found: Floats = np.abs(left - right) / np.maximum((left + right) / 2, 8)
    return found


def _both(flat: Flat, side: Side, expected: float = 0.0) -> dict[Shade, Finding]:
    """The best dark and the best light thread, about ``expected`` mm to the left of the plan."""
    band = band_of(side)
    if not band:
        return {"darker": Finding(side, "too close")}
    far, aside, across = _across(flat, side, band, expected)
    found = {shade: _best(side, far, aside, seen, band, shade) for shade, seen in _responses(across)}
    return {shade: _moved(one, expected) for shade, one in found.items()} if expected else found


def _moved(finding: Finding, by: float) -> Finding:
    spots = None if finding.spots is None else finding.spots + np.array([0.0, by])
    return replace(finding, offset=finding.offset + by, spots=spots)


def _across(
    flat: Flat, side: Side, band: float, about: float = 0.0
) -> tuple[Floats, Floats, NDArray[np.float32]]:
    """Samples of the band: mm along, mm aside, and the brightness (along, aside)."""
    many = max(int(side.length / _ALONG / _BIN), 4) * _BIN
    far = (np.arange(many) + 1 / 2) * side.length / many
    reach = band + _BESIDE[1] + STEP
    aside = np.arange(-round(reach / STEP), round(reach / STEP) + 1) * STEP
    points, normals = along(side.path, far)
    grid = points[:, None, :] + (about + aside)[None, :, None] * normals[:, None, :]
    columns, rows = flat.cells(grid)
    seen = cv2.remap(flat.light, columns, rows, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    binned = seen.reshape(many // _BIN, _BIN, len(aside)).mean(axis=1)
    binned_far: Floats = far.reshape(-1, _BIN).mean(axis=1)
    return binned_far, np.asarray(aside, dtype=float), np.asarray(binned, dtype=np.float32)


def _responses(across: NDArray[np.float32]) -> list[tuple[Shade, Floats]]:
    """How much darker, and how much lighter, every point is than the cloth on both its sides, as a share of the
    brightness.

    Columns at the rims of the band, as many as ``_BESIDE`` covers, are not computed.
    """
    thread = _means(across, 0.0, _THREAD)
    middle = (_BESIDE[0] + _BESIDE[1]) / 2
    left, right = (_means(across, sign * middle, _BESIDE[1] - middle) for sign in (-1, 1))
    bright = np.maximum((left + right) / 2, 8)
    return [
        ("darker", (np.minimum(left, right) - thread) / bright),
        ("lighter", (thread - np.maximum(left, right)) / bright),
    ]


def _means(across: NDArray[np.float32], at: float, half: float) -> Floats:
    """For every column, the mean of the columns from ``at - half`` to ``at + half`` mm aside."""
    first, last = round((at - half) / STEP), round((at + half) / STEP)
    sums = np.pad(np.cumsum(across, axis=1, dtype=float), ((0, 0), (1, 0)))
    columns = np.arange(across.shape[1])
    low, high = (np.clip(columns + shift, 0, across.shape[1]) for shift in (first, last + 1))
    found: Floats = (sums[:, high] - sums[:, low]) / np.maximum(high - low, 1)
    return found


def _best(
    side: Side, far: Floats, aside: Floats, response: Floats, band: float, shade: Shade, apart: float = _APART
) -> Finding:
    noise = _scatter(response)
    clipped = response if apart > _APART else np.clip(response, -3 * noise, 6 * noise)  # a blot is no stitch
    share = far / side.length - 1 / 2
    tilts = np.arange(-round(_most_tilt(side) / _TILT), round(_most_tilt(side) / _TILT) + 1) * _TILT
    inner = np.flatnonzero(np.abs(aside) <= band + DIVISOR)
    table = np.stack([_sheared(clipped, inner, share * tilt).mean(axis=0) for tilt in tilts])
    k, j = np.unravel_index(int(table.argmax()), table.shape)
    offset, tilt, top = float(aside[inner[j]]), float(tilts[k]), float(table[k, j])
    others = table[:, np.abs(aside[inner] - offset) > apart]
    level, spread = (float(np.median(others)), _scatter(others)) if others.size else (0.0, top)
    spread = max(spread, noise / np.sqrt(len(far)), DIVISOR)
    sure = (top - level) / spread
    second = (float(others.max()) - level) / max(top - level, DIVISOR) if others.size else 0.0
    spots = _refined(response, aside, far, share, offset, tilt)
    offset, tilt, straight = _fitted(spots, side.length)
    unseen: Unseen = ""
    if sure < STANDS_OUT or len(spots) < 2:
        unseen = "no contrast"
    elif second > _SECOND:
        unseen = "two places"
    elif not _halves_agree(clipped, inner, share, aside, offset, tilt):
        unseen = "halves differ"
    return Finding(side, unseen, offset, tilt, straight, sure, shade, spots)


def _most_tilt(side: Side) -> float:
    return min(2.4, 0.6 + 0.03 * side.length)


def _scatter(values: Floats) -> float:
    """A robust standard deviation, never zero."""
    return scatter(values) + DIVISOR


def _sheared(response: Floats, inner: NDArray[np.int64], shift: Floats) -> Floats:
    """The columns ``inner`` of every row, shifted aside by ``shift`` mm."""
    columns = inner[None, :] + np.round(shift / STEP).astype(int)[:, None]
    return np.take_along_axis(response, np.clip(columns, 0, response.shape[1] - 1), axis=1)


def _refined(
    response: Floats, aside: Floats, far: Floats, share: Floats, offset: float, tilt: float
) -> Floats:
    """The position along the found line, point by point: mm along, mm aside."""
    many = max(round((far[-1] - far[0]) / _REFINED), 2)
    near = np.flatnonzero(np.abs(aside) <= _NEAR + DIVISOR) - len(aside) // 2
    start = len(aside) // 2 + np.round((offset + share * tilt) / STEP).astype(int)
    columns = np.clip(start[:, None] + near[None, :], 0, len(aside) - 1)
    straightened = np.take_along_axis(response, columns, axis=1)
    found = []
    for rows in np.array_split(np.arange(len(far)), many):
        profile = straightened[rows].mean(axis=0)
        peak = int(profile.argmax())
        weight = np.clip(profile - (profile.max() + np.median(profile)) / 2, 0, None)
        weight[np.abs(np.arange(len(profile)) - peak) > 4] = 0
        if weight.sum() <= DIVISOR:
            continue
        shift = float((weight * near).sum() / weight.sum()) * STEP
        base = offset + float(share[rows].mean()) * tilt
        rounding = float(np.mean(np.round((offset + share[rows] * tilt) / STEP) * STEP)) - base
        found.append((float(far[rows].mean()), base + rounding + shift))
    return np.array(found).reshape(-1, 2)


def _fitted(spots: Floats, length: float) -> tuple[float, float, float]:
    """Offset at the middle, tilt from end to end, and scatter about that line: a median of slopes (Theil-Sen)."""
    if len(spots) < 2:
        return (float(spots[0, 1]) if len(spots) else 0.0), 0.0, 0.0
    one, other = np.triu_indices(len(spots), 1)
    slopes = (spots[other, 1] - spots[one, 1]) / (spots[other, 0] - spots[one, 0])
    slope = float(np.median(slopes)) if len(spots) > 2 else float(slopes[0])
    offset = float(np.median(spots[:, 1] - slope * (spots[:, 0] - length / 2)))
    rest = spots[:, 1] - offset - slope * (spots[:, 0] - length / 2)
    return offset, slope * length, _scatter(rest) if len(spots) > 3 else float(np.abs(rest).mean())


def _halves_agree(
    clipped: Floats, inner: NDArray[np.int64], share: Floats, aside: Floats, offset: float, tilt: float
) -> bool:
    """Whether each half on its own has its best response where the whole has it."""
    straight = _sheared(clipped, inner, share * tilt)
    for half in (straight[: len(share) // 2], straight[len(share) // 2 :]):
        best = float(aside[inner[int(half.mean(axis=0).argmax())]])
        if abs(best - offset) > _HALVES:
            return False
    return True
