"""A raster of the whole quilt: which zone each pixel belongs to, and how high the cloth stands there.

Glossary: a pixel's *label* k means that the k-th zone of the quilt lies there, ``NONE`` that none does. A zone
sewn on top of another is labeled only where no other zone lies.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from kenzet.core.balance.density import cloth_zones
from kenzet.core.balance.raster import pixels
from kenzet.core.numbers.measure import INCH
from kenzet.core.relief.cloth import Raster, cloth_heights
from kenzet.core.relief.heights import Heights, Mask
from kenzet.core.top.quilt_layout import QuiltLayout

Labels = NDArray[np.int16]
NONE = -1
STRIP = INCH
"""mm: zones no farther apart than this, with cloth of no zone between them, still count as neighbors."""
_ALL, _ON, _BACK = slice(None), slice(1, None), slice(None, -1)
_SHIFTS = (
    ((_ALL, _ON), (_ALL, _BACK)),
    ((_ALL, _BACK), (_ALL, _ON)),
    ((_ON, _ALL), (_BACK, _ALL)),
    ((_BACK, _ALL), (_ON, _ALL)),
)
_LONGER = 640  # pixels along the longer side


@dataclass(frozen=True)
class Weighed:
    """A quilt on its raster. The label of a zone is its index in ``keys``."""

    laid: QuiltLayout
    raster: Raster

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """The zones that hold cloth and have at least one place."""
        return cloth_zones(self.laid)

    @cached_property
    def labels(self) -> Labels:
        """The label of each pixel, (rows, columns)."""
        found: Labels = np.full((self.raster.rows, self.raster.columns), NONE, dtype=np.int16)
        for k in sorted(range(len(self.keys)), key=lambda k: self.laid.zone(self.keys[k]).on_top):
            for shape in self.laid.shapes(self.laid.zone(self.keys[k])):
                for rows, columns, inside in pixels(self.raster, shape, shape.places):
                    mine = found[rows, columns]
                    mine[inside & (mine == NONE)] = k
        return found

    @cached_property
    def _cloth(self) -> tuple[Heights, Mask]:
        return cloth_heights(self.laid, self.raster)

    @property
    def heights(self) -> Heights:
        """How high the cloth stands above the stitches at every pixel, mm."""
        return self._cloth[0]

    @cached_property
    def beside(self) -> NDArray[np.int64]:
        """The number of pixel sides that each two zones share, also across a strip of no zone: (zones, zones),
        symmetric."""
        many, labels = len(self.keys), self._grown()
        found = np.zeros((many, many), dtype=np.int64)
        for one, other in ((labels[:, 1:], labels[:, :-1]), (labels[1:], labels[:-1])):
            meets = (one != other) & (one != NONE) & (other != NONE)
            np.add.at(found, (one[meets], other[meets]), 1)
        return np.asarray(found + found.T)

    def _grown(self) -> Labels:
        """The labels, each spread by half of ``STRIP`` into the cloth that is in no zone."""
        labels = self.labels.copy()
        for _ in range(max(round(STRIP / 2 / self.raster.wide), 1)):
            before = labels.copy()
            for to, of in _SHIFTS:
                mine, its = labels[to], before[of]
                free = (mine == NONE) & (its != NONE)
                mine[free] = its[free]
        return labels

    @property
    def loft(self) -> float:
        """The greatest height of the batting, mm."""
        return float(self.laid.quilt.kit.batting.thickness.mm)

    @property
    def pixel(self) -> float:
        """The area of a pixel, mm²."""
        return self.raster.wide**2


def weighed(laid: QuiltLayout, longer: int = _LONGER) -> Weighed:
    """A quilt on a raster of ``longer`` pixels along its longer side."""
    return Weighed(laid, Raster.over(laid, longer))
