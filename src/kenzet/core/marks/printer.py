"""Corrects a printer that prints a little too small or too large, so that a sheet comes out at true size.

Glossary: a *fit* of 1.03 across draws everything 3 % wider, for a printer that prints it 3 % too narrow.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from kenzet.core.errors import BadValue
from kenzet.core.numbers.measure import Length, Unit, in_words
from kenzet.texts import tr

BARS: dict[Unit, Length] = {"in": Length.parse("6 in"), "mm": Length.parse("150 mm")}
"""Length of the bars on the check page."""
NEAR_ENOUGH = 0.03
"""From this correction on, ask whether the page was printed with "fit to page"."""
_LEAST, _MOST = 0.5, 1.6


@dataclass(frozen=True, slots=True)
class Printer:
    """``across`` and ``up`` are the factors by which a sheet is stretched."""

    name: str
    across: float = 1.0
    up: float = 1.0

    @property
    def asks(self) -> bool:
        """Whether the error is so large that the page was more likely printed with "fit to page"."""
        return max(abs(self.across - 1), abs(self.up - 1)) > NEAR_ENOUGH


def corrected(printer: Printer, across: Length, up: Length, unit: Unit) -> Printer:
    """The printer after the bars of a check page, printed with the present correction, have been measured.

    Raises BadValue at ``across`` or ``up`` for impossible readings.

    >>> found = corrected(Printer("mine"), Length.parse("5.82 in"), Length.parse("6 in"), "in")
    >>> round(found.across, 4), found.up, found.asks
    (1.0309, 1.0, True)
    """
    return Printer(
        printer.name,
        printer.across * _by(across, "across", unit),
        printer.up * _by(up, "up", unit),
    )


def _by(read: Length, way: Literal["across", "up"], unit: Unit) -> float:
    true = BARS[unit]
    share = float(read.mm / true.mm)
    if not _LEAST < share < _MOST:
        hint = ""
        other: Unit = "mm" if read.unit == "in" else "in"
        number = read.text.split(" ")[0]
        try:
            told = Length.parse(number, other)
            if 0.9 < float(told.mm / true.mm) < 1.1:
                hint = tr(" Did you mean {told}?", told=told.text)
        except BadValue:
            hint = ""
        raise BadValue(
            tr(
                "At true size that bar is {true} long; {mm} is not possible.{hint} Measure from end to end.",
                true=true.text,
                mm=in_words(read.mm, read.unit),
                hint=hint,
            ),
            way,
        )
    return 1 / share
