"""Robust statistics, which a few outliers do not move: a scatter and a straight trend."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Values = NDArray[np.float64]
_NORMAL = 1.4826  # standard deviations in a median absolute deviation, where values are normal


def scatter(values: Values) -> float:
    """A standard deviation estimated from the median absolute deviation, in the unit of ``values`` (at least one).

    >>> round(scatter(np.array([1.0, 2.0, 3.0, 4.0, 90.0])), 4)
    1.4826
    """
    return float(_NORMAL * np.median(np.abs(values - np.median(values))))


def trend(at: Values, values: Values) -> tuple[float, float]:
    """Slope and intercept (at 0) of a line: the median slope over all pairs of different places (Theil-Sen). Needs
    at least two places.

    >>> trend(np.array([0.0, 1.0, 2.0, 3.0, 4.0]), np.array([1.0, 3.0, 5.0, 7.0, 90.0]))
    (2.0, 1.0)
    """
    one, other = np.triu_indices(len(at), 1)
    apart = at[one] != at[other]
    slope = float(np.median((values[other] - values[one])[apart] / (at[other] - at[one])[apart]))
    return slope, float(np.median(values - slope * at))
