"""Rhythms: a repeating list of gaps between lines, in multiples of the spacing (L3, L20).

Glossary: a *beat* is one gap of a rhythm.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from kenzet.core.errors import BadValue
from kenzet.texts import tr

EVEN = (Fraction(1),)
_MOST_BEATS = 24


def check_rhythm(text: str | None) -> str | None:
    """A rhythm in its stored form, or None. Raises BadValue.

    >>> check_rhythm(" 1, 2 2  4.5 ")
    '1 2 2 4.5'
    """
    if text is None or not text.strip():
        return None
    beats = text.replace(",", " ").replace(";", " ").split()
    wanted = tr("A rhythm is numbers above 0 with spaces between, like 1 2 2 4.")
    if len(beats) > _MOST_BEATS:
        raise BadValue(tr("{wanted} At most {most_beats} of them.", wanted=wanted, most_beats=_MOST_BEATS))
    for beat in beats:
        try:
            value = Fraction(beat)
        except (ValueError, ZeroDivisionError):
            raise BadValue(tr("“{beat}” is not a number. {wanted}", beat=beat[:20], wanted=wanted)) from None
        if not Fraction(1, 16) <= value <= 100:
            raise BadValue(
                tr("{beat} cannot be a step of it: from 1/16 to 100. {wanted}", beat=beat[:20], wanted=wanted)
            )
    return " ".join(beats)


def beats_of(rhythm: str | None) -> tuple[Fraction, ...]:
    """The beats of a rhythm; a single beat of 1 if there is none."""
    return tuple(Fraction(beat) for beat in rhythm.split()) if rhythm else EVEN


def at_beat(number: int, beats: Sequence[Fraction]) -> Fraction:
    """The distance of row ``number`` from row 0, in multiples of the spacing.

    >>> [int(at_beat(k, (Fraction(1), Fraction(2), Fraction(2)))) for k in range(-1, 5)]
    [-2, 0, 1, 3, 5, 6]
    """
    whole, rest = divmod(number, len(beats))
    return whole * sum(beats, Fraction(0)) + sum(beats[:rest], Fraction(0))
