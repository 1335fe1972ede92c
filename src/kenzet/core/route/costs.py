"""The cost of a route: the quilter's settings, expressed in mm of sewing."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import INCH
from kenzet.core.route.network import DITCH, EDGE, LINE, RIM, STEP, TEXTURE, Network


@dataclass(frozen=True, slots=True)
class Costs:
    """The cost of a mm along each kind of edge (None: not allowed); ``stop`` is the cost of a thread cut, mm."""

    ditch: float | None = 1.0
    edge: float | None = 1.0
    retrace: float | None = 2.0
    step: float | None = 2.0
    rim: float | None = 1.0
    texture: float | None = 1.2
    stop: float = 25 * INCH

    @property
    def factors(self) -> Floats:
        """The cost of a mm by kind of edge; infinite if not allowed."""
        found = {
            LINE: self.retrace, DITCH: self.ditch, EDGE: self.edge, STEP: self.step, RIM: self.rim, TEXTURE: self.texture,
        }  # fmt: skip
        return np.array([np.inf if (factor := found[kind]) is None else factor for kind in range(len(found))])

    def of(self, network: Network) -> Floats:
        """The cost of travelling each edge once, infinite if not allowed."""
        table = self.factors
        found: Floats = network.lengths * table[network.kinds] * network.travel_penalty
        return found
