"""The order of work from the pressed top to the basted quilt. Schools differ; both are supported."""

from __future__ import annotations

from collections.abc import Sequence

from kenzet.core.kit.things.supplies import Marker
from kenzet.core.marks.tools import care
from kenzet.core.top.document import Basted, Layered
from kenzet.texts import tr

_BASTE: dict[Basted, str] = {
    "pins": tr("Pin from the middle outwards, a hand apart{clear}. Count the pins."),
    "thread": tr("Baste with long stitches from the middle outwards, a hand apart{clear}."),
    "spray glue": tr(
        "Spray with the window open or outdoors, away from flames, as the can says; smooth from the middle outwards."
    ),
}
_SEWING: dict[Basted, str] = {
    "pins": tr("Take each pin out before the needle reaches it; count them back into the box."),
    "thread": tr(
        "Cut and pull out the basting thread as you come to it, with the needle up and the machine stopped."
    ),
    "spray glue": tr("If the needle gets sticky, wipe it with the machine switched off."),
}


def prep(layered: Layered, basted: Basted, marking: str, markers: Sequence[Marker]) -> list[str]:
    """The steps in order; ``marking`` says what is marked, ``markers`` with what."""
    careful = list(dict.fromkeys(f"{marker.name}: {care(marker)[1]}" for marker in markers))
    press = tr("Press the top, and let it cool: seams flat, bulky crossings spread.")
    layer = tr(
        "Lay the backing face down and smooth it, then the batting, then the top. Backing and batting reach beyond the top on all sides."
    )
    if layered == "after marking":
        steps = [
            press,
            tr("Mark it flat on the table, no pin in the ruler’s way: {marking}.", marking=marking),
            *careful,
            layer,
        ]
        steps.append(_BASTE[basted].format(clear=tr(", clear of the marked lines")))
    else:
        steps = [press, layer, _BASTE[basted].format(clear=tr(", clear of where the ruler will lie"))]
        steps += [
            tr(
                "Mark on all layers, zone by zone as you come to each, on something hard: {marking}.",
                marking=marking,
            ),
            *careful,
        ]
    return [
        *steps,
        _SEWING[basted],
        tr("When it is sewn: marks, tape and pins off first, then wash or press."),
    ]
