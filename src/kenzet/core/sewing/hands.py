"""Where the hand on the ruler moves on, along the way that is sewn."""

from __future__ import annotations

import numpy as np

from kenzet.core.geom.region import Floats
from kenzet.core.kit.kit import Kit
from kenzet.core.ruler.offset_sums import hand_stops
from kenzet.core.sewing.way import cut_out


def hand_spots(kit: Kit, path: Floats) -> list[Floats]:
    """Points of ``path`` (n, 2) mm, in order; none with the walking foot, which has no ruler."""
    if kit.sew_with == "walking foot":
        return []
    far = float(np.hypot(*np.diff(path, axis=0).T).sum())
    return [cut_out(path, 0.0, at)[-1] for at in hand_stops(far, float(kit.hand.mm))]
