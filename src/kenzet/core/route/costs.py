"""What a way costs: her settings, weighed in mm of sewing."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.numbers.measure import INCH
from kenzet.core.route.network import DITCH, EDGE, LINE, RIM, STEP, TEXTURE, Network


@dataclass(frozen=True, slots=True)
class Costs:
    """Per mm along a lane of each kind (None: never); ``stop`` is what ending the thread and beginning again is worth, mm."""

    ditch: float | None = 1.0
    edge: float | None = 1.0
    retrace: float | None = 2.0
    step: float | None = 2.0
    rim: float | None = 1.0
    texture: float | None = 1.2
    stop: float = 25 * INCH

    @property
    def factors(self) -> Floats:
        """Per mm, by kind of lane; infinite where it is not allowed."""
        found = {
            LINE: self.retrace, DITCH: self.ditch, EDGE: self.edge, STEP: self.step, RIM: self.rim, TEXTURE: self.texture,
        }  # fmt: skip
        return np.array([np.inf if (factor := found[kind]) is None else factor for kind in range(len(found))])

    def of(self, network: Network) -> Floats:
        """What travelling each edge once costs, infinite where it is not allowed."""
        table = self.factors
        found: Floats = network.lengths * table[network.kinds] * network.travel_penalty
        return found
