"""The gate: what must not be sewn together, because it can hurt her (A79).

A ruler foot's sole stands higher than the plastic is thick only where both are made for one another. A thinner
ruler slides under the foot. Where the foot's own manual names other thicknesses, they are typed at the foot.
"""

from __future__ import annotations

from fractions import Fraction

from kenzet.core.kit.things.base import Edged
from kenzet.core.kit.things.machine import Machine, RulerFoot, Shank
from kenzet.core.numbers.measure import Length, in_words
from kenzet.texts import tr

THICK: dict[Shank, tuple[str, str]] = {"low": ("2.5 mm", "4.5 mm"), "high": ("5 mm", "7 mm")}
"""The thicknesses that feet of a shank are usually made for: about 1/8 in, and about 1/4 in."""
MANUAL = tr("Your foot's and your machine's manual have the last word.")


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
    """Why ``foot`` must not be put on ``machine``; empty where it may."""
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
