"""Names of edges, corners and crossings by where they lie: "upper left slanted edge"; where several would be
equal, "second lower level edge"."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from kenzet.core.geom.arcs import Point
from kenzet.core.tolerances import DIVISOR
from kenzet.texts import tr

_ORDINALS = (
    tr("first"), tr("second"), tr("third"), tr("fourth"), tr("fifth"), tr("sixth"), tr("seventh"), tr("eighth"), tr("ninth"), tr("tenth"),
)  # fmt: skip
NINTHS = (
    (tr("lower left"), tr("lower"), tr("lower right")),
    (tr("left"), tr("middle"), tr("right")),
    (tr("upper left"), tr("upper"), tr("upper right")),
)
"""Rows from the bottom up, each from left to right."""


def place_word(point: Point, bounds: tuple[float, float, float, float], behind: bool = False) -> str:
    """The ninth of ``bounds`` (left, low, right, high) in which a point lies; with ``behind``, as seen from the
    back.

    >>> place_word((1, 9), (0, 0, 10, 10)), place_word((5, 1), (0, 0, 10, 10)), place_word((5, 5), (0, 0, 10, 10))
    ('upper left', 'lower', 'middle')
    >>> place_word((1, 9), (0, 0, 10, 10), behind=True)
    'upper right'
    """
    left, low, right, high = bounds
    across = (point[0] - left) / max(right - left, DIVISOR)
    up = (point[1] - low) / max(high - low, DIVISOR)
    row = NINTHS[2 if up > 2 / 3 else 0 if up < 1 / 3 else 1]
    return row[:: -1 if behind else 1][2 if across > 2 / 3 else 0 if across < 1 / 3 else 1]


def place_names(
    points: Sequence[Point],
    nouns: Sequence[str],
    bounds: tuple[float, float, float, float],
    behind: bool = False,
) -> list[str]:
    """A name for each point, all different. Names that would be equal are numbered from the left, then from above;
    with ``behind``, for the same points as seen from the back, in the same order.

    >>> place_names([(1, 1), (9, 9), (2, 1)], ["corner"] * 3, (0, 0, 10, 10))
    ['first lower left corner', 'upper right corner', 'second lower left corner']
    """
    plain = [
        tr("{place} {noun}", place=place_word(point, bounds, behind), noun=noun)
        for point, noun in zip(points, nouns, strict=True)
    ]
    many, met = Counter(plain), Counter[str]()
    found = list(plain)
    for k in sorted(range(len(points)), key=lambda k: (round(points[k][0], 1), -round(points[k][1], 1))):
        if many[plain[k]] > 1:
            met[plain[k]] += 1
            found[k] = tr("{nth} {name}", nth=ordinal(met[plain[k]]), name=plain[k])
    return found


def ordinal(number: int) -> str:
    """
    >>> ordinal(2), ordinal(12), ordinal(23)
    ('second', '12th', '23rd')
    """
    return _ORDINALS[number - 1] if number <= len(_ORDINALS) else nth(number)


def nth(number: int) -> str:
    """An ordinal in figures.

    >>> nth(1), nth(2), nth(13), nth(23)
    ('1st', '2nd', '13th', '23rd')
    """
    last = 0 if 10 < number % 100 < 14 else number % 10
    endings = {1: tr("{number}st"), 2: tr("{number}nd"), 3: tr("{number}rd")}
    return endings.get(last, tr("{number}th")).format(number=number)
