"""Blocks photographed by the stand-in of a camera, for tests and the bench."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from typing import Any

import numpy as np

from kenzet.core.inspect.card import CARD, MARK, lies_at, mark_cells
from kenzet.core.inspect.sides import frame_at
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.demo import demo_quilts
from kenzet.formats.photo import colors
from kenzet.formats.sewn_block import sewn_block_parts
from kenzet.standins.camera import Block, CameraStandIn, Card, PlannedSide

LAID = tuple(QuiltLayout(quilt) for quilt in demo_quilts())


@cache
def block_at(quilt: int, place: str, busy: bool | None = None, cards: bool = False) -> Block:
    """What lies at a place of a demo quilt, its print as planned, busy all over or nowhere."""
    laid = LAID[quilt]
    frame = frame_at(laid, place)
    parts = sewn_block_parts(laid, frame, Block.PX)
    sides = [PlannedSide(**told) for told in parts.pop("sides")]
    block = Block(**parts, sides=sides)
    if busy is not None:
        block = replace(block, busy=np.full_like(block.busy, busy))
    if cards:
        lie = [Card(mark_cells(k), MARK, CARD, lies_at(k, frame.width, frame.height)) for k in range(4)]
        block = replace(block, cards=lie)
    return block


def photographed(block: Block, **camera: Any) -> tuple[np.ndarray, dict[str, Any]]:
    """The picture, (rows, columns, 3), and the truth."""
    jpeg, truth = CameraStandIn(**camera).photograph(block)
    return colors(jpeg), truth


def errors_of(findings, truth) -> tuple[list[float], int]:
    """By how many mm each side that was seen was measured wrong, and how many sides were seen that are not sewn."""
    true = {(one["drawing"], one["line"], one["side"]): one for one in truth["sides"]}
    found, phantoms = [], 0
    for one in findings:
        told = true[one.side.word, one.side.line, one.side.number]
        if one.unseen:
            continue
        if told["sewn"]:
            found.append(abs(one.offset - told["offset"]))
        else:
            phantoms += 1
    return found, phantoms
