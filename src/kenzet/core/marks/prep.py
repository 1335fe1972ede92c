"""From the pressed top to the basted quilt: what is done in which order. Schools differ: both are here."""

from __future__ import annotations

from collections.abc import Sequence

from kenzet.core.kit.things.supplies import Marker
from kenzet.core.marks.tools import care
from kenzet.core.top.document import Basted, Layered

_BASTE: dict[Basted, str] = {
    "pins": "Pin from the middle outwards, a hand apart{clear}. Count the pins.",
    "thread": "Baste with long stitches from the middle outwards, a hand apart{clear}.",
    "spray glue": "Spray with the window open or outdoors, away from flames, as the can says; smooth from the middle outwards.",
}
_SEWING: dict[Basted, str] = {
    "pins": "Take each pin out before the needle reaches it; count them back into the box.",
    "thread": "Cut and draw the basting out as you come to it, the needle up and the machine stopped.",
    "spray glue": "If the needle gets sticky, wipe it with the machine switched off.",
}


def prep(layered: Layered, basted: Basted, marking: str, markers: Sequence[Marker]) -> list[str]:
    """The steps in order; ``marking`` says what is drawn, ``markers`` with what."""
    careful = list(dict.fromkeys(f"{marker.name}: {care(marker)[1]}" for marker in markers))
    press = "Press the top, and let it cool: seams flat, bulky crossings spread."
    layer = (
        "Lay the backing face down and smooth, then batting, then the top; both reach beyond it all round."
    )
    if layered == "after marking":
        steps = [press, f"Mark it flat on the table, no pin in the ruler’s way: {marking}.", *careful, layer]
        steps.append(_BASTE[basted].format(clear=", clear of the marked lines"))
    else:
        steps = [press, layer, _BASTE[basted].format(clear=", clear of where the ruler will lie")]
        steps += [
            f"Mark on all layers, zone by zone as you come to each, on something hard: {marking}.",
            *careful,
        ]
    return [*steps, _SEWING[basted], "When it is sewn: marks, tape and pins off first, then wash or press."]
