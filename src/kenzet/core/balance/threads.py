"""Whether thread shows: CIEDE2000 of each thread on each fabric, and which thread suits best.

Below ``HIDES`` the line is hardly visible at arm's length, above ``SHOWS`` it stands out; between, it blends. The
limits are our choice. The color difference is a library's; the tests check it against the published pairs.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Literal

from coloraide import Color

from kenzet.core.kit.things.supplies import Thread
from kenzet.core.tolerances import DIVISOR
from kenzet.core.top.blocks import Fabric, luminance

HIDES, SHOWS = 8.0, 20.0
Look = Literal["hides", "blends", "shows"]
LOOKS: tuple[Look, ...] = ("hides", "blends", "shows")
_DARK, _LIGHT = 0.16, 0.45  # relative luminance: a dark thread inside can be seen through a light cloth


@lru_cache(maxsize=4096)
def difference(one: str, other: str) -> float:
    """CIEDE2000 of two colors as #rrggbb.

    >>> round(difference("#ffffff", "#000000")), difference("#336699", "#336699")
    (100, 0.0)
    """
    return float(Color(one).delta_e(other, method="2000"))


def look(far: float) -> Look:
    """How visible a thread with that difference is.

    >>> look(3), look(12), look(40)
    ('hides', 'blends', 'shows')
    """
    return "hides" if far < HIDES else "blends" if far < SHOWS else "shows"


@dataclass(frozen=True, slots=True)
class ThreadOn:
    """A thread on every quilted fabric: CIEDE2000 by fabric (``on``), the ``mean`` by area, the ``most`` on any
    fabric, and the light fabrics ``through`` which a dark thread may be visible."""

    key: str
    thread: Thread
    on: Mapping[str, float]
    mean: float
    most: float
    through: tuple[str, ...]


def compared(
    threads: Mapping[str, Thread], fabrics: Mapping[str, Fabric], areas: Mapping[str, float]
) -> list[ThreadOn]:
    """Each thread on the fabrics of ``areas`` (quilted mm² of each), the least visible first."""
    cloths = {key: fabric for key, fabric in fabrics.items() if areas.get(key)}
    whole = max(sum(areas[key] for key in cloths), DIVISOR)
    found = []
    for key, thread in threads.items():
        on = {name: difference(thread.colour, fabric.colour) for name, fabric in cloths.items()}
        dark = luminance(thread.colour) < _DARK
        through = tuple(name for name, fabric in cloths.items() if dark and luminance(fabric.colour) > _LIGHT)
        mean = sum(far * areas[name] for name, far in on.items()) / whole
        found.append(ThreadOn(key, thread, on, mean, max(on.values(), default=0.0), through))
    return sorted(found, key=lambda one: (one.mean, one.key))


def on_cloth(colour: str, fabrics: Mapping[str, Fabric], areas: Mapping[str, float]) -> float:
    """The mean CIEDE2000 of a thread on a zone's cloth, by area; 0 if the zone has no cloth."""
    known = [
        (difference(colour, fabrics[name].colour), area) for name, area in areas.items() if name in fabrics
    ]
    whole = sum(area for _, area in known)
    return sum(far * area for far, area in known) / whole if whole > 0 else 0.0


@dataclass(frozen=True, slots=True)
class ByZone:
    """``choice`` is the least visible thread for each zone, ``changes`` how often the thread is changed if the
    zones are sewn in turn, ``saves`` the reduction of the mean CIEDE2000 compared with the best single thread."""

    choice: Mapping[str, str]
    changes: int
    saves: float


def by_zone(
    threads: Mapping[str, Thread],
    fabrics: Mapping[str, Fabric],
    zones: Mapping[str, Mapping[str, float]],
    best: str,
    places: Sequence[str] = (),
) -> ByZone:
    """``zones`` has mm² of each fabric by zone; ``best`` is the best single thread. ``places`` are zones in sewing
    order."""
    choice, saves, whole = {}, 0.0, 0.0
    for zone, areas in zones.items():
        far = {key: on_cloth(thread.colour, fabrics, areas) for key, thread in threads.items()}
        area = sum(areas.values())
        choice[zone] = min(far, key=lambda key: (far[key], key != best, key))
        saves += (far[best] - far[choice[zone]]) * area
        whole += area
    order = [choice[zone] for zone in places or zones if zone in choice]
    changes = sum(one != other for one, other in pairwise(order))
    return ByZone(choice, changes, saves / max(whole, DIVISOR))
