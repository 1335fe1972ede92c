"""What a click on a patch selects: one patch, all alike, the whole block, or a continuous background.

Patches are named place/patch, as in the whole top.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

import numpy as np
import shapely

from kenzet.core.errors import Unknown
from kenzet.core.tolerances import SAME_PLACE
from kenzet.core.top.layout import TopPatch
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.texts import tr

How = Literal["patch", "alike", "block", "background", "background across"]


def picked(laid: QuiltLayout, ref: str, how: How) -> list[str]:
    """The patches selected by a click on ``ref``.

    ``background``: patches of its fabric in the block that are connected, if only at a corner; ``across``: the
    same over blocks, sashing and borders. Raises Unknown.
    """
    place, _, name = ref.partition("/")
    part = laid.top.at.get(place)
    if part is None or name not in part.patches:
        raise Unknown(tr("There is no patch {ref} in this top.", ref=ref), "ref")
    if how == "patch":
        return [ref]
    if how == "background across":
        return _flood(laid.top.whole.patches, ref)
    if how == "block":
        names: Iterable[str] = part.patches
    elif how == "alike":
        names = [key for key, patch in part.patches.items() if patch.alike(part.patches[name])]
    else:
        names = _flood(part.patches, name)
    return [f"{place}/{key}" for key in names]


def _flood(patches: dict[str, TopPatch], start: str) -> list[str]:
    """All patches of the fabric of ``start`` that are connected to it by touching patches; one tree query."""
    names = [
        key for key, patch in patches.items() if patch.fabric == patches[start].fabric and not patch.applique
    ]
    if start not in names:
        return [start]
    areas = np.array([patches[key].area for key in names])
    one, other = shapely.STRtree(areas).query(areas, predicate="dwithin", distance=SAME_PLACE)
    beside: dict[int, list[int]] = {}
    for k, n in zip(one.tolist(), other.tolist(), strict=True):
        beside.setdefault(k, []).append(n)
    found, edge = {names.index(start)}, [names.index(start)]
    while edge:
        new = set(beside.get(edge.pop(), ())) - found
        found |= new
        edge += new
    return [names[k] for k in sorted(found)]
