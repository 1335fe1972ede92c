"""What a fill asks of her, and how variants compare."""

from __future__ import annotations

from collections.abc import Sequence

from kenzet.core.advice.suited_fills import Effort
from kenzet.core.tolerances import ROUNDING


def marks_words(cost: Effort) -> str:
    """How many of the lines are drawn."""
    return f"{cost.marks:,} of {cost.lines:,}" if cost.lines else "nothing"


def about_minutes(number: float) -> str:
    """
    >>> about_minutes(0.4), about_minutes(12.4), about_minutes(150)
    ('under 1 min', 'about 12 min', 'about 2 h 30 min')
    """
    if number < 1:
        return "under 1 min"
    if number < 60:
        return f"about {number:.0f} min"
    return f"about {int(number // 60)} h {round(number % 60 / 5) * 5:.0f} min".replace(" 0 min", "")


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
            said.append("from none")
        else:
            said.append(f"{100 * (number - first) / first:+.0f} %".replace("-", "−"))
    return said
