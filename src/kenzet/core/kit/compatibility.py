"""The gate: what must not be sewn together, because it can hurt her (A79).

A ruler foot's sole stands higher than the plastic is thick only where both are made for one another. A thinner
ruler slides under the foot. Where the foot's own manual names other thicknesses, they are typed at the foot.
"""

from __future__ import annotations

from fractions import Fraction

from kenzet.core.kit.things.base import Edged
from kenzet.core.kit.things.machine import Machine, RulerFoot, Shank
from kenzet.core.numbers.measure import Length, in_words

THICK: dict[Shank, tuple[str, str]] = {"low": ("2.5 mm", "4.5 mm"), "high": ("5 mm", "7 mm")}
"""The thicknesses that feet of a shank are usually made for: about 1/8 in, and about 1/4 in."""
MANUAL = "Your foot's and your machine's manual have the last word."


def takes(foot: RulerFoot) -> tuple[Fraction, Fraction]:
    """The least and the most thickness of a ruler for ``foot``, exact mm."""
    least, most = THICK[foot.shank]
    thin, thick = foot.thinnest or Length.parse(least), foot.thickest or Length.parse(most)
    return thin.mm, thick.mm


def ruler_fault(foot: RulerFoot, ruler: Edged) -> str:
    """Why ``ruler`` is not safe with ``foot``; empty where it is."""
    least, most = takes(foot)
    unit = ruler.thickness.unit
    if ruler.thickness.mm < least:
        return (
            f"“{ruler.name}” is {ruler.thickness.text} thick; this foot wants at least {in_words(least, unit)}. "
            f"A thinner one can slide under the foot: needle and ruler break, and pieces fly. {MANUAL}"
        )
    if ruler.thickness.mm > most:
        return (
            f"“{ruler.name}” is {ruler.thickness.text} thick; this foot takes at most {in_words(most, unit)}. "
            f"The foot's shaft would strike it. {MANUAL}"
        )
    return ""


def foot_fault(machine: Machine, foot: RulerFoot) -> str:
    """Why ``foot`` must not be put on ``machine``; empty where it may."""
    if foot.shank == machine.shank:
        return ""
    return (
        f"“{foot.name}” is made for a {foot.shank} shank and “{machine.name}” takes a {machine.shank} one: it would sit "
        f"at the wrong height, and rulers could slip under it. {MANUAL}"
    )
