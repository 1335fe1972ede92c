"""The safety gate: combinations that must not be sewn with, because they can hurt the quilter (A79).

A ruler foot clears the plastic, and holds it back, only if both are made for each other; a thinner ruler slides
under the foot. If the foot's own manual gives other thicknesses, they are entered with the foot.
"""

from __future__ import annotations

from fractions import Fraction

from kenzet.core.kit.things.base import Edged
from kenzet.core.kit.things.machine import Machine, RulerFoot, Shank
from kenzet.core.numbers.measure import Length, in_words
from kenzet.texts import tr

THICK: dict[Shank, tuple[str, str]] = {"low": ("2.5 mm", "4.5 mm"), "high": ("5 mm", "7 mm")}
"""The ruler thicknesses that feet of each shank are usually made for: about 1/8 in, and about 1/4 in."""
MANUAL = tr("Your foot's and your machine's manual have the last word.")


def takes(foot: RulerFoot) -> tuple[Fraction, Fraction]:
    """The least and the greatest thickness of a ruler for ``foot``, exact mm."""
    least, most = THICK[foot.shank]
    thin, thick = foot.thinnest or Length.parse(least), foot.thickest or Length.parse(most)
    return thin.mm, thick.mm


def ruler_fault(foot: RulerFoot, ruler: Edged) -> str:
    """Why ``ruler`` is not safe with ``foot``; empty if it is."""
    least, most = takes(foot)
    unit = ruler.thickness.unit
    if ruler.thickness.mm < least:
        return tr(
            "“{name}” is {thickness} thick; this foot wants at least {least}. A thinner one can slide under the foot: needle and ruler break, and pieces fly. {manual}",
            name=ruler.name,
            thickness=ruler.thickness.text,
            least=in_words(least, unit),
            manual=MANUAL,
        )
    if ruler.thickness.mm > most:
        return tr(
            "“{name}” is {thickness} thick; this foot takes at most {most}. The foot's shaft would strike it. {manual}",
            name=ruler.name,
            thickness=ruler.thickness.text,
            most=in_words(most, unit),
            manual=MANUAL,
        )
    return ""


def foot_fault(machine: Machine, foot: RulerFoot) -> str:
    """Why ``foot`` must not be mounted on ``machine``; empty if it may."""
    if foot.shank == machine.shank:
        return ""
    return tr(
        "“{name}” is made for a {shank} shank and “{name2}” takes a {shank2} one: it would sit at the wrong height, and rulers could slip under it. {manual}",
        name=foot.name,
        shank=tr(foot.shank),
        name2=machine.name,
        shank2=tr(machine.shank),
        manual=MANUAL,
    )
