"""The work that a fill needs, and comparisons of variants."""

from __future__ import annotations

from collections.abc import Sequence

from kenzet.core.advice.suited_fills import Effort
from kenzet.core.tolerances import ROUNDING
from kenzet.texts import tr


def marks_words(cost: Effort) -> str:
    """How many of the lines are marked."""
    return (
        tr("{marks} of {lines}", marks=f"{cost.marks:,}", lines=f"{cost.lines:,}")
        if cost.lines
        else tr("nothing")
    )


def about_minutes(number: float) -> str:
    """
    >>> about_minutes(0.4), about_minutes(12.4), about_minutes(150), about_minutes(179)
    ('under 1 min', 'about 12 min', 'about 2 h 30 min', 'about 3 h')
    """
    if number < 1:
        return tr("under 1 min")
    if number < 60:
        return tr("about {number} min", number=f"{number:.0f}")
    hours, rest = divmod(round(number / 5) * 5, 60)
    return (
        tr("about {hours} h {minutes} min", hours=hours, minutes=rest)
        if rest
        else tr("about {hours} h", hours=hours)
    )


def against(numbers: Sequence[float]) -> list[str]:
    """
    >>> against([10.0, 15.0, 10.0]), against([0.0, 3.0])
    (['', '+50 %', ''], ['', 'from none'])
    """
    if not numbers:
        return []
    first = numbers[0]
    said = [""]
    for number in numbers[1:]:
        if abs(number - first) < ROUNDING:
            said.append("")
        elif first == 0:
            said.append(tr("from none"))
        else:
            said.append(f"{100 * (number - first) / first:+.0f} %".replace("-", "−"))
    return said
