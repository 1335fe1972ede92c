"""A simulated camera: it sews a block with given errors, puts it on a table and photographs it.

It knows what was sewn, so that measurements in its pictures can be compared with the truth. Fabric, thread, light,
lens and sensor are rendered simply: a weave, a print, stitches with their shadow, cloth that stands up between
them, light from the side, perspective, lens distortion, blur and noise.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Picture = NDArray[np.uint8]
Raised = Callable[[NDArray[np.bool_], float], NDArray[np.float32]]
"""Maps the pixels where stitches hold the cloth (rows, columns) and the mm of a pixel to the height of the cloth,
mm."""

PX = 8.0
"""Pixels a mm of the cloth before it is photographed."""
TABLE = 45.0
"""mm of table around the block."""
_COARSE = 4  # px of the cloth, as its height is computed
_ALONG = 0.5  # mm


@dataclass(frozen=True, eq=False)
class PlannedSide:
    """A side to sew: its identity, for the truth; its ``rank`` in its set, from 0; its path (n, 2), mm, y up from
    the lower left."""

    who: dict[str, Any]
    rank: int
    path: Floats


@dataclass(frozen=True, eq=False)
class Card:
    """A printed card on the table: its ``black`` cells, ``size`` mm wide and high on white paper of ``paper`` mm,
    with the paper's lower left corner ``at`` mm from the block's."""

    black: NDArray[np.bool_]
    size: float
    paper: float
    at: tuple[float, float]


@dataclass(frozen=True, eq=False)
class Block:
    """``fabric`` (rows, columns, 3) at ``PX`` pixels a mm over ``width`` by ``height`` mm, ``busy`` where its
    print is; and its sides."""

    width: float
    height: float
    fabric: Picture
    busy: NDArray[np.bool_]
    sides: Sequence[PlannedSide]
    raised: Raised
    cards: Sequence[Card] = ()
    PX: ClassVar[float] = PX


@dataclass(frozen=True, slots=True)
class CameraStandIn:
    """The errors of sewing and photographing.

    Every side is ``bias`` mm left of its plan, plus ``drift`` mm for each side before it in its set; sides scatter
    by ``offset``, their ends by ``tilt``, and they wander by ``wobble`` (standard deviations, mm). ``missing`` is
    the share of sides that are not sewn, in per cent. ``contrast`` is how much darker the thread is than the
    cloth, as a share, if it has no color of its own. ``perspective`` and ``light`` are shares, ``fills`` is the
    share of the picture that the block fills, ``bend`` the distortion of the lens, ``noise`` a share of white,
    ``clicks`` the error of clicked corners, mm.
    """

    bias: float = 0.0
    drift: float = 0.0
    offset: float = 0.6
    tilt: float = 0.6
    wobble: float = 0.2
    missing: float = 0.0
    contrast: float = 0.25
    thread: tuple[int, int, int] | None = None
    print: float = 0.18
    perspective: float = 0.05
    bend: float = 0.0
    light: float = 0.2
    relief: float = 1.0
    noise: float = 0.02
    clicks: float = 0.3
    fills: float = 0.84
    size: tuple[int, int] = (3264, 2448)
    quality: int = 88
    seed: int = 1

    def photograph(self, block: Block) -> tuple[bytes, dict[str, Any]]:
        """A JPEG and the truth about it: the true and the clicked corners in px, and every side as sewn."""
        chance = np.random.default_rng(self.seed)
        sewn = [self._sewn(side, chance) for side in block.sides]
        cloth = self._cloth(block, [path for path, _ in sewn if path is not None], chance)
        photo, corners = self._shot(cloth, block, chance)
        scale = float(np.hypot(*(corners[1] - corners[0]))) / block.width
        clicked = corners + chance.normal(0, self.clicks * scale, corners.shape)
        done, jpeg = cv2.imencode(
            ".jpg", np.ascontiguousarray(photo[:, :, ::-1]), [cv2.IMWRITE_JPEG_QUALITY, self.quality]
        )
        if not done:
            raise ValueError("The picture could not be written.")
        truth = {
            "size": list(self.size),
            "corners": corners.round(2).tolist(),
            "clicked": clicked.round(2).tolist(),
            "sides": [{**side.who, **told} for side, (_, told) in zip(block.sides, sewn, strict=True)],
        }
        return jpeg.tobytes(), truth

    def _sewn(self, side: PlannedSide, chance: np.random.Generator) -> tuple[Floats | None, dict[str, Any]]:
        """A side as sewn, and the truth about it."""
        offset = self.bias + self.drift * side.rank + chance.normal(0, self.offset)
        tilt = chance.normal(0, self.tilt)
        steps = np.diff(side.path, axis=0)
        long = np.hypot(*steps.T)
        at = np.concatenate([[0.0], np.cumsum(long)])
        far = np.linspace(0, at[-1], max(int(at[-1] / _ALONG), 2))
        waves = sum(
            chance.normal(0, self.wobble)
            * np.sin(2 * np.pi * far / chance.uniform(25, 60) + chance.uniform(0, 7))
            for _ in range(2)
        )
        aside = offset + tilt * (far / at[-1] - 1 / 2) + waves
        if chance.uniform() < self.missing / 100:
            return None, {"sewn": False}
        points = np.stack([np.interp(far, at, side.path[:, k]) for k in (0, 1)], axis=1)
        which = np.clip(np.searchsorted(at, far, side="right") - 1, 0, len(steps) - 1)
        ways = steps[which] / np.maximum(long[which, None], 1e-9)
        path = points + aside[:, None] * np.stack([-ways[:, 1], ways[:, 0]], axis=1)
        slope, _ = np.polyfit(far, aside, 1)
        return path, {
            "sewn": True,
            "offset": round(float(aside.mean()), 4),
            "tilt": round(float(slope * at[-1]), 4),
        }

    def _cloth(
        self, block: Block, paths: Sequence[Floats], chance: np.random.Generator
    ) -> NDArray[np.float32]:
        """The block on its table, (rows, columns, 3), 0 to 255, before it is photographed."""
        rim = round(TABLE * PX)
        cloth = np.pad(block.fabric, ((rim, rim), (rim, rim), (0, 0)), constant_values=120).astype(np.float32)
        busy = np.pad(block.busy, rim)
        rows, columns = busy.shape
        cloth *= (1 + chance.normal(0, 0.03, (rows, columns)).astype(np.float32))[:, :, None]
        blobs = _noise(chance, rows, columns, 14) + _noise(chance, rows, columns, 40)
        cloth *= np.where(busy, 1 + self.print * np.sign(blobs), 1).astype(np.float32)[:, :, None]
        stitches = np.zeros((rows, columns), np.uint8)
        held = np.zeros((-(-rows // _COARSE), -(-columns // _COARSE)), np.uint8)
        for path in paths:
            cells = np.column_stack([path[:, 0] + TABLE, block.height + TABLE - path[:, 1]]) * PX
            cv2.polylines(held, [np.round(cells / _COARSE).astype(np.int32)], False, 1)
            _draw_stitches(stitches, cells)
        inside = np.zeros_like(held, dtype=bool)
        inner = round(TABLE * PX / _COARSE)
        inside[inner:-inner, inner:-inner] = True
        raised = block.raised((held > 0) | ~inside, _COARSE / PX)
        cloth *= self._lit(raised, rows, columns, chance)[:, :, None]
        for card in block.cards:
            _lay(cloth, card, block.height)
        cover = stitches.astype(np.float32)[:, :, None] / 255
        shadow = cv2.GaussianBlur(stitches, (0, 0), PX / 3).astype(np.float32)[:, :, None] / 255
        cloth *= 1 - 0.12 * self.relief * shadow
        color = (
            np.array(self.thread, np.float32) * np.float32(0.9)
            if self.thread
            else cloth * np.float32(1 - self.contrast)
        )
        cloth += (color - cloth) * cover * np.float32(0.95)
        return np.clip(cloth, 0, 255)

    def _lit(
        self, raised: NDArray[np.float32], rows: int, columns: int, chance: np.random.Generator
    ) -> NDArray[np.float32]:
        """The brightness of the cloth, lit from one side."""
        up, across = np.gradient(raised, _COARSE / PX)
        angle = chance.uniform(0, 2 * np.pi)
        shade = 1 + 0.5 * self.relief * (-across * np.cos(angle) + up * np.sin(angle))
        found = cv2.resize(
            np.clip(shade, 0.4, 1.6).astype(np.float32), (columns, rows), interpolation=cv2.INTER_CUBIC
        )
        x, y = np.meshgrid(np.linspace(-1, 1, columns), np.linspace(-1, 1, rows))
        slant = 1 + self.light * (x * np.cos(angle) + y * np.sin(angle)) / 2
        return np.asarray(found * slant, dtype=np.float32)

    def _shot(
        self, cloth: NDArray[np.float32], block: Block, chance: np.random.Generator
    ) -> tuple[Picture, Floats]:
        """The cloth after perspective, lens and sensor, and its corners in the picture, px."""
        wide, high = self.size
        fills = self.fills * min(wide / block.width, high / block.height)
        middle = np.array([wide / 2, high / 2])
        half_block = np.array([block.width, block.height]) / 2 * fills
        square = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]], float) * half_block
        turn = chance.uniform(-0.05, 0.05)
        turned = square @ np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
        ideal = middle + turned * (1 + chance.uniform(-self.perspective, self.perspective, (4, 2)))
        rim = TABLE * PX
        corner_px = (
            np.array([[0, 0], [block.width, 0], [block.width, block.height], [0, block.height]]) * PX + rim
        )
        back = cv2.getPerspectiveTransform(ideal.astype(np.float32), corner_px.astype(np.float32))
        half = float(np.hypot(wide, high)) / 2
        x, y = np.meshgrid(np.arange(wide, dtype=np.float64), np.arange(high, dtype=np.float64))
        away_x, away_y = (x - middle[0]) / half, (y - middle[1]) / half
        found_x, found_y = away_x, away_y
        for _ in range(6 if self.bend else 0):
            far = 1 + self.bend * (found_x**2 + found_y**2)
            found_x, found_y = away_x / far, away_y / far
        x, y = middle[0] + half * found_x, middle[1] + half * found_y
        under = back[2, 0] * x + back[2, 1] * y + back[2, 2]
        from_x = ((back[0, 0] * x + back[0, 1] * y + back[0, 2]) / under).astype(np.float32)
        from_y = ((back[1, 0] * x + back[1, 1] * y + back[1, 2]) / under).astype(np.float32)
        shot = cv2.remap(cloth, from_x, from_y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        shot = cv2.GaussianBlur(shot, (0, 0), 0.8)
        shot = shot + chance.normal(0, 255 * self.noise, (high, wide, 1)).astype(np.float32)
        away = (ideal - middle) / half
        corners = middle + half * away * (1 + self.bend * (away**2).sum(axis=1, keepdims=True))
        return np.clip(shot, 0, 255).astype(np.uint8), corners


def _lay(cloth: NDArray[np.float32], card: Card, height: float) -> None:
    """Puts a printed card on the table."""
    side, mark = round(card.paper * PX), round(card.size * PX)
    paper = np.full((side, side), 235, np.float32)
    cells = cv2.resize(card.black.astype(np.uint8), (mark, mark), interpolation=cv2.INTER_NEAREST)
    inset = (side - mark) // 2
    paper[inset : inset + mark, inset : inset + mark] -= 205 * cells
    left, low = card.at
    row, column = round((height + TABLE - low - card.paper) * PX), round((left + TABLE) * PX)
    cloth[row : row + side, column : column + side] = paper[:, :, None]


def _noise(chance: np.random.Generator, rows: int, columns: int, wide: int) -> NDArray[np.float32]:
    small = chance.normal(0, 1, (rows // wide + 2, columns // wide + 2)).astype(np.float32)
    return np.asarray(cv2.resize(small, (columns, rows), interpolation=cv2.INTER_CUBIC), dtype=np.float32)


def _draw_stitches(onto: NDArray[np.uint8], cells: Floats) -> None:
    """Draws the stitches along a path, px."""
    far = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(cells, axis=0).T))])
    stitch, hole = 2.5 * PX, 0.35 * PX
    for begin in np.arange(0, far[-1] - hole, stitch):
        ends = np.array([begin, min(begin + stitch - hole, far[-1])])
        at = np.stack([np.interp(ends, far, cells[:, 0]), np.interp(ends, far, cells[:, 1])], axis=1)
        (x0, y0), (x1, y1) = np.round(at * 16).astype(int).tolist()
        cv2.line(onto, (x0, y0), (x1, y1), 255, round(0.5 * PX), cv2.LINE_AA, 4)
