"""Names of edges, corners and crossings by where they lie: "upper left slanted edge"; of several alike "second lower level edge"."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from kenzet.core.geom.arcs import Point
from kenzet.core.tolerances import DIVISOR

_ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")
_SWAPPED = {"left": "right", "right": "left"}


def place_word(point: Point, bounds: tuple[float, float, float, float]) -> str:
    """In which ninth of ``bounds`` (left, low, right, high) a point lies.

    >>> place_word((1, 9), (0, 0, 10, 10)), place_word((5, 1), (0, 0, 10, 10)), place_word((5, 5), (0, 0, 10, 10))
    ('upper left', 'lower', 'middle')
    """
    left, low, right, high = bounds
    across = (point[0] - left) / max(right - left, DIVISOR)
    up = (point[1] - low) / max(high - low, DIVISOR)
    words = [
        "upper" if up > 2 / 3 else "lower" if up < 1 / 3 else "",
        "left" if across < 1 / 3 else "right" if across > 2 / 3 else "",
    ]
    return " ".join(filter(None, words)) or "middle"


def place_names(
    points: Sequence[Point], nouns: Sequence[str], bounds: tuple[float, float, float, float]
) -> list[str]:
    """A name for each, all different: those that would be called alike are counted from the left, then from above.

    >>> place_names([(1, 1), (9, 9), (2, 1)], ["corner"] * 3, (0, 0, 10, 10))
    ['first lower left corner', 'upper right corner', 'second lower left corner']
    """
    plain = [f"{place_word(point, bounds)} {noun}" for point, noun in zip(points, nouns, strict=True)]
    many, met = Counter(plain), Counter[str]()
    found = list(plain)
    for k in sorted(range(len(points)), key=lambda k: (round(points[k][0], 1), -round(points[k][1], 1))):
        if many[plain[k]] > 1:
            met[plain[k]] += 1
            found[k] = f"{ordinal(met[plain[k]])} {plain[k]}"
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
    last = "th" if 10 < number % 100 < 14 else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{last}"


def from_behind(name: str) -> str:
    """The name of the same as it is seen from the back, left and right changed over.

    >>> from_behind("upper left slanted edge")
    'upper right slanted edge'
    """
    return " ".join(_SWAPPED.get(word, word) for word in name.split(" "))
