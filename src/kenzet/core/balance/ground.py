"""The raster that the whole quilt is weighed on: which zone each pixel belongs to, and how high the cloth stands there.

Glossary: *label* k of a pixel says that the k-th zone of the quilt lies there, ``NONE`` that none does; what is sewn on top
of another zone is labeled only where no other lies.
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
"""mm: zones with so much between them that is in no zone still lie beside each other."""
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
    """A quilt on its raster: ``keys`` are the zones by label."""

    laid: QuiltLayout
    raster: Raster

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """Every zone of the cloth that lies anywhere."""
        return cloth_zones(self.laid)

    @cached_property
    def labels(self) -> Labels:
        """(rows, columns)."""
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
        """mm over the stitches at every pixel, of the whole quilt."""
        return self._cloth[0]

    @cached_property
    def beside(self) -> NDArray[np.int64]:
        """How many pixel sides each zone shares with each other, over a strip in no zone too: (zones, zones), symmetrical."""
        many, labels = len(self.keys), self._grown()
        found = np.zeros((many, many), dtype=np.int64)
        for one, other in ((labels[:, 1:], labels[:, :-1]), (labels[1:], labels[:-1])):
            meets = (one != other) & (one != NONE) & (other != NONE)
            np.add.at(found, (one[meets], other[meets]), 1)
        return np.asarray(found + found.T)

    def _grown(self) -> Labels:
        """The labels, each spread over cloth in no zone for half of ``STRIP``."""
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
        """mm that the batting rises to at most."""
        return float(self.laid.quilt.kit.batting.thickness.mm)

    @property
    def pixel(self) -> float:
        """mm² of a pixel."""
        return self.raster.wide**2


def weighed(laid: QuiltLayout, longer: int = _LONGER) -> Weighed:
    """A quilt on a raster of ``longer`` pixels along its longer side."""
    return Weighed(laid, Raster.over(laid, longer))
