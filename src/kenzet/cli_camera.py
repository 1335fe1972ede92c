"""``kenzet photograph``: the camera stand-in takes a picture of a sewn block. ``kenzet measure``: measures a block
in any picture."""

from __future__ import annotations

import argparse
import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from kenzet.core.errors import BadValue
from kenzet.core.inspect.card import CARD, MARK, found_corners, lies_at, mark_cells
from kenzet.core.inspect.measure import measured
from kenzet.core.inspect.sides import frame_at
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats import photo, plan_file
from kenzet.formats.measured_json import measured_json
from kenzet.formats.sewn_block import sewn_block_parts
from kenzet.standins.camera import Block, CameraStandIn, Card, PlannedSide

ERRORS = ("bias", "drift", "offset", "tilt", "wobble", "missing")


def asks_photograph(command: argparse.ArgumentParser) -> None:
    """Its arguments."""
    command.add_argument("file", type=Path)
    command.add_argument(
        "out", type=Path, metavar="OUT.jpg", help="the truth is written beside it, as OUT.truth.json"
    )
    command.add_argument("--block", required=True, help="the place, as 1-1")
    command.add_argument(
        "--errors", default="", metavar="NAME=VALUE,…",
        help=f"mm, standard deviations where they scatter: {', '.join(ERRORS)} (missing: lines in a hundred)",
    )  # fmt: skip
    command.add_argument(
        "--contrast",
        type=float,
        default=0.25,
        help="how much darker the thread is, a share (negative: lighter)",
    )
    command.add_argument("--thread", metavar="#rrggbb", help="the thread’s color instead")
    command.add_argument("--bend", type=float, default=0.0, help="of the lens, a share")
    command.add_argument("--perspective", type=float, default=0.05)
    command.add_argument("--noise", type=float, default=0.02)
    command.add_argument("--cards", action="store_true", help="with the four corner cards")
    command.add_argument("--seed", type=int, default=1)


def photograph(chosen: argparse.Namespace) -> None:
    """Take it. Raises BadValue, Unknown."""
    if abs(chosen.bend) > 0.2 or not 0 <= chosen.perspective <= 0.2 or not 0 <= chosen.noise <= 0.3:
        raise BadValue("A lens bends by at most 0.2, perspective is 0 to 0.2, noise 0 to 0.3.")
    if not -1 <= chosen.contrast <= 0.95:
        raise BadValue("The contrast lies between -1 and 0.95.")
    truth_file = chosen.out.with_suffix(".truth.json")
    for file in (chosen.out, truth_file):
        if file.resolve() == chosen.file.resolve():
            raise BadValue(
                f"{file} is the plan itself; nothing was written. Choose another name for the photograph."
            )
    laid = QuiltLayout(plan_file.load(chosen.file.read_bytes()))
    frame = frame_at(laid, chosen.block)
    parts = sewn_block_parts(laid, frame, Block.PX)
    sides = [PlannedSide(**told) for told in parts.pop("sides")]
    cards = [
        Card(mark_cells(which), MARK, CARD, lies_at(which, frame.width, frame.height)) for which in range(4)
    ]
    block = Block(**parts, sides=sides, cards=cards if chosen.cards else ())
    camera = CameraStandIn(
        contrast=chosen.contrast, thread=_color(chosen.thread), bend=chosen.bend, perspective=chosen.perspective,
        noise=chosen.noise, seed=chosen.seed, fills=0.7 if chosen.cards else 0.84,
    )  # fmt: skip
    jpeg, truth = replace(camera, **_errors(chosen.errors)).photograph(block)
    chosen.out.write_bytes(jpeg)
    truth_file.write_text(json.dumps({"place": chosen.block, **truth}, indent=1) + "\n")


def _errors(told: str) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for part in filter(None, told.split(",")):
        name, _, value = part.strip().partition("=")
        try:
            found[name] = float(value)
        except ValueError as error:
            raise BadValue(f"{part}: errors are named with their mm, as offset=0.6.") from error
        if name not in ERRORS or abs(found[name]) > (100 if name == "missing" else 20):
            raise BadValue(f"{part}: known are {', '.join(ERRORS)}, up to 20 mm each.")
    return found


def _color(told: str | None) -> tuple[int, int, int] | None:
    if told is None:
        return None
    try:
        if len(told) != 7 or told[0] != "#":
            raise ValueError
        red, green, blue = bytes.fromhex(told[1:])
    except ValueError as error:
        raise BadValue("A color is # and six hexadecimal digits, like #ded9cb.") from error
    return red, green, blue


def asks_measure(command: argparse.ArgumentParser) -> None:
    """Its arguments."""
    command.add_argument("photo", type=Path)
    command.add_argument("file", type=Path)
    command.add_argument("--block", required=True, help="the place, as 1-1")
    command.add_argument(
        "--corners", metavar="X,Y X,Y X,Y X,Y",
        help="the block’s corners in the picture, px: upper left, upper right, lower right, lower left (default: by the corner cards)",
    )  # fmt: skip


def measure(chosen: argparse.Namespace) -> None:
    """Measure, and print every line’s figures. Raises BadValue, Unknown."""
    laid = QuiltLayout(plan_file.load(chosen.file.read_bytes()))
    given = _corners(chosen.corners) if chosen.corners else None
    kept = photo.kept(chosen.photo.read_bytes())
    picture = photo.colors(kept.jpeg)
    _, width, height = laid.frame_of(chosen.block)
    corners = found_corners(picture, width, height) if given is None else given * kept.scale
    print(
        json.dumps(
            {
                "corners": corners.round(2).tolist(),
                **measured_json(measured(picture, corners, laid, chosen.block)),
            },
            indent=1,
        )
    )


def _corners(told: str) -> np.ndarray:
    try:
        found = np.array([[float(value) for value in pair.split(",")] for pair in told.split()])
    except ValueError:
        found = np.empty((0, 2))
    if found.shape != (4, 2) or not np.isfinite(found).all():
        raise BadValue("Give four corners as X,Y with blanks between them.", "corners")
    return found
