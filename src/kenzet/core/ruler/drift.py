"""Drift: how small errors grow when each line is placed from the last one, and how many marks limit them (F14, F36).

Glossary: the *bias* ε is the error of every single line, because foot and etched line do not add up exactly; the
*spread* σ is the scatter of hand and eye. After n lines the error is within n·|ε| + 2σ√n in 95 % of cases.
"""

from __future__ import annotations

import math

from kenzet.core.tolerances import ROUNDING

MOST = 10_000


def error_after(lines: int, bias: float, spread: float) -> float:
    """F36: the 95 % error of the line ``lines`` after an exact one, in the unit of ``bias`` and ``spread``.

    >>> error_after(8, -0.05315, 0.0)  # F47
    0.4252
    """
    return lines * abs(bias) + 2 * spread * math.sqrt(lines)


def anchor_every(bias: float, spread: float, tolerance: float) -> int:
    """F36: the number of lines after which one must be marked; 0 if even one line exceeds ``tolerance``.

    >>> anchor_every(0, 1/32, 1/8), anchor_every(0.02, 1/32, 1/8), anchor_every(0, 1/64, 1/8)
    (4, 1, 16)
    >>> anchor_every(0.2, 1/32, 1/8), anchor_every(0, 0, 1/8)
    (0, 10000)
    """
    under = spread + math.sqrt(spread**2 + abs(bias) * tolerance)
    return min(math.floor((tolerance / under) ** 2 + ROUNDING), MOST) if under else MOST


def askew(aside: float, length: float) -> float:
    """F14, A81: the angle in degrees of a ruler that is ``aside`` off at ``length``.

    >>> round(askew(1 / 16, 5), 3)
    0.716
    """
    return math.degrees(math.atan(aside / length))
