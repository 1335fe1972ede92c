"""The command line: ``kenzet plan FILE.json``, ``kenzet steps FILE.json``, ``kenzet relief FILE.json OUT.png``, ``kenzet propose FILE.json --out DIR``, ``kenzet photograph FILE.json OUT.jpg``, ``kenzet measure PHOTO.jpg FILE.json``, ``kenzet schema``, ``kenzet print FILE.pdf`` and ``kenzet sew QUILT``. Needs no
database.
"""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any, get_args

from kenzet import cli_camera
from kenzet.core.errors import BadValue, KenzetError
from kenzet.core.proposals.candidates import SKILLS
from kenzet.core.proposals.propose import AIMS, Proposal, Wish, open_zones, propose
from kenzet.core.relief.cloth import Light
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats import plan_file
from kenzet.formats.plan_json import plan_json
from kenzet.formats.relief_picture import longer_side, relief_picture
from kenzet.say.proposal_words import proposal_figures, proposal_view
from kenzet.say.words import plain
from kenzet.standins.machine import MachineStandIn, over_the_wire, quilt_called
from kenzet.standins.printer import PrinterStandIn, png
from kenzet.web.dry_run import Mishaps, dry_run


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; errors are one sentence, with exit code 1."""
    chosen = _parser().parse_args(arguments)
    try:
        if chosen.command == "schema":
            sys.stdout.write(plan_file.schema().decode())
        elif chosen.command == "print":
            _print(chosen)
        elif chosen.command == "sew":
            _sew(chosen)
        elif chosen.command == "steps":
            _steps(chosen)
        elif chosen.command == "relief":
            _relief(chosen)
        elif chosen.command == "propose":
            _propose(chosen)
        elif chosen.command == "photograph":
            cli_camera.photograph(chosen)
        elif chosen.command == "measure":
            cli_camera.measure(chosen)
        else:
            quilt = plan_file.load(chosen.file.read_bytes())
            print(json.dumps(plan_json(QuiltLayout(quilt)), indent=1))
    except OSError as error:
        what = (
            f"{error.filename or chosen.file}: {error.strerror}"
            if chosen.command != "sew"
            else f"no Kenzet answers at {chosen.at}: {error}"
        )
        print(f"kenzet: {what}", file=sys.stderr)
        return 1
    except KenzetError as error:
        where = f"{error.field}: " if error.field else ""
        print(f"kenzet: {where}{error.message}", file=sys.stderr)
        return 1
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="kenzet", description="Plan and mark machine quilting.")
    commands = parser.add_subparsers(dest="command", required=True)
    plan = commands.add_parser(
        "plan", help="read a quilt plan and print everything worked out from it as JSON"
    )
    plan.add_argument("file", type=Path)
    _asks_steps(
        commands.add_parser(
            "steps", help="print what the machine screen would say, step by step, as lines of JSON"
        )
    )
    _asks_relief(
        commands.add_parser("relief", help="draw the quilted surface of a plan under raking light, as PNG")
    )
    _asks_proposals(
        commands.add_parser(
            "propose", help="write whole plans for a quilt, each a plan file, and print their figures as JSON"
        )
    )
    cli_camera.asks_photograph(
        commands.add_parser("photograph", help="photograph a sewn block with the stand-in of a camera")
    )
    cli_camera.asks_measure(
        commands.add_parser("measure", help="measure a sewn block from a photograph and print it as JSON")
    )
    commands.add_parser("schema", help="print the JSON schema of the plan format")
    _asks_print(
        commands.add_parser("print", help="print a PDF on the stand-in of a printer, page by page, as PNG")
    )
    _asks_sew(
        commands.add_parser(
            "sew",
            help="sew a quilt of a running Kenzet on the stand-in of a machine, and tell it stitch by stitch",
        )
    )
    return parser


def _asks_relief(relief: argparse.ArgumentParser) -> None:
    relief.add_argument("file", type=Path)
    relief.add_argument("out", type=Path, metavar="OUT.png")
    relief.add_argument("--px", type=float, default=20, help="pixels an inch, 2 to 20")
    relief.add_argument(
        "--light", choices=get_args(Light), default="upper left", help="where the light comes from"
    )
    relief.add_argument("--back", action="store_true", help="the back, mirrored")


def _relief(chosen: argparse.Namespace) -> None:
    if not 2 <= chosen.px <= 20:
        raise BadValue("A relief is drawn with 2 to 20 pixels an inch.")
    laid = QuiltLayout(plan_file.load(chosen.file.read_bytes()))
    longer = longer_side(laid, chosen.px)
    chosen.out.write_bytes(relief_picture(laid, longer, chosen.light, chosen.back, "png"))


def _asks_proposals(propose: argparse.ArgumentParser) -> None:
    propose.add_argument("file", type=Path)
    propose.add_argument("--out", type=Path, required=True, metavar="DIR", help="where the plan files go")
    propose.add_argument("--hours", type=float, help="at most so many")
    propose.add_argument("--kinds", type=int, default=3, help="so many kinds of fill at most, 1 to 12")
    propose.add_argument(
        "--skill", choices=SKILLS, action="append", help="what you sew; given again for more"
    )
    propose.add_argument("--all", action="store_true", help="zones that have a fill get another one too")
    propose.add_argument("--unit", choices=("in", "mm"), default="in")


def _propose(chosen: argparse.Namespace) -> None:
    if not 1 <= chosen.kinds <= 12 or (chosen.hours is not None and chosen.hours <= 0):
        raise BadValue("Wanted are 1 to 12 kinds of fill, and more than 0 hours.")
    laid = QuiltLayout(plan_file.load(chosen.file.read_bytes()))
    zones = open_zones(laid, everything=chosen.all)
    skills = frozenset(chosen.skill or ("straight", "curves"))
    chosen.out.mkdir(parents=True, exist_ok=True)
    found: list[Proposal] = []
    told: list[dict[str, Any]] = []
    with _solver_on_stderr():
        for aim in AIMS:
            try:
                one = propose(laid, Wish(aim, zones, chosen.hours, chosen.kinds, skills), found)
            except BadValue as none:
                if not found:
                    raise
                told.append({"aim": aim, "none": none.message})
                continue
            found.append(one)
            view, file = proposal_view(one, {}, chosen.unit), chosen.out / f"{aim}.json"
            file.write_bytes(plan_file.dump(one.laid.quilt))
            rows = [*proposal_figures(one), *view.rows]
            figures = {plain(row.label): plain(row.words) for row in rows}
            fills = {zone.zone: plain(zone.words) for zone in view.zones}
            told.append(
                {
                    "aim": aim,
                    "file": str(file),
                    "says": view.sentence,
                    "figures": figures,
                    "fills": fills,
                    "from_best": round(one.choice.gap, 6),
                }
            )
    print(json.dumps(told, indent=1))


def _asks_steps(steps: argparse.ArgumentParser) -> None:
    steps.add_argument("file", type=Path)
    steps.add_argument(
        "--skip", type=int, action="append", default=[], metavar="N", help="skip the N-th line that is told"
    )
    steps.add_argument(
        "--break", dest="breaks", type=_break, action="append", default=[], metavar="N:40%%",
        help="the thread breaks when so much of the N-th line is sewn",
    )  # fmt: skip
    steps.add_argument(
        "--unpick",
        type=int,
        action="append",
        default=[],
        metavar="N",
        help="unpick the N-th line when it is sewn",
    )
    steps.add_argument("--unit", choices=("in", "mm"), default="in")


def _break(text: str) -> tuple[int, float]:
    number, _, share = text.partition(":")
    try:
        found = int(number), float(share.removesuffix("%") or "50") / 100
    except ValueError as error:
        raise argparse.ArgumentTypeError(f"{text}: the number of a line and a share, as 12:40%") from error
    if found[0] < 1 or not 0 < found[1] < 1:
        raise argparse.ArgumentTypeError(f"{text}: lines count from 1, and between 0 and 100% of one is sewn")
    return found


def _steps(chosen: argparse.Namespace) -> None:
    laid = QuiltLayout(plan_file.load(chosen.file.read_bytes()))
    mishaps = Mishaps(chosen.skip, dict(chosen.breaks), chosen.unpick)
    with _solver_on_stderr():
        told = list(dry_run(laid, mishaps, chosen.unit))
    for step in told:
        print(json.dumps(step))


@contextmanager
def _solver_on_stderr() -> Iterator[None]:
    """HiGHS prints a banner to standard output at its first use, which other programs read here."""
    sys.stdout.flush()
    out = os.dup(1)
    os.dup2(2, 1)
    try:
        yield
    finally:
        os.dup2(out, 1)
        os.close(out)


def _asks_print(printing: argparse.ArgumentParser) -> None:
    printing.add_argument("file", type=Path)
    printing.add_argument("--out", type=Path, default=Path(), help="folder for the pages (default: here)")
    printing.add_argument("--scale", type=float, default=100.0, help="prints everything so large, per cent")
    printing.add_argument("--up", type=float, help="the same upwards, where it differs")
    printing.add_argument("--skew", type=float, default=0.0, help="degrees askew")
    printing.add_argument("--margin", type=float, default=4.0, help="mm that cannot be printed")
    printing.add_argument("--dpi", type=int, default=300)


def _asks_sew(sewing: argparse.ArgumentParser) -> None:
    sewing.add_argument("quilt", help="the quilt's name")
    sewing.add_argument("--at", default="http://127.0.0.1:8420", help="where Kenzet is (default %(default)s)")
    sewing.add_argument("--steps", type=int, help="so many steps (default: until all is sewn)")
    sewing.add_argument("--pace", type=float, default=15.0, help="mm a second, 0 as fast as it can")
    sewing.add_argument("--stitch", type=float, default=2.5, help="mm")
    sewing.add_argument("--wobble", type=float, default=5.0, help="per cent of a stitch")
    sewing.add_argument("--drift", type=float, default=0.0, help="per cent that its counter is out by")
    sewing.add_argument("--breaks", type=float, default=0.0, help="broken threads in 100 m")
    sewing.add_argument("--bobbin", type=float, default=27.0, help="m of seam that a bobbin lasts for")
    sewing.add_argument("--seed", type=int, default=1)


def _print(chosen: argparse.Namespace) -> None:
    up = chosen.scale if chosen.up is None else chosen.up
    if not (min(chosen.scale, up) >= 20 and max(chosen.scale, up) <= 200 and 50 <= chosen.dpi <= 1200):
        raise BadValue("A printer prints between 20 and 200 per cent, at 50 to 1200 dots an inch.")
    printer = PrinterStandIn(chosen.scale / 100, up / 100, chosen.skew, chosen.margin, chosen.dpi)
    chosen.out.mkdir(parents=True, exist_ok=True)
    try:
        for number, page in enumerate(printer.prints(chosen.file.read_bytes()), 1):
            file = chosen.out / f"{chosen.file.stem}-{number}.png"
            file.write_bytes(png(page, chosen.dpi))
            print(file)
    except ValueError as error:
        raise BadValue(str(error)) from error


def _sew(chosen: argparse.Namespace) -> None:
    fit = chosen.stitch > 0.3 and chosen.pace >= 0 and 0 <= chosen.wobble <= 50 and abs(chosen.drift) <= 50
    if not (fit and chosen.breaks >= 0 and chosen.bobbin > 0):
        raise BadValue(
            "Stitches are longer than 0.3 mm; wobble and drift at most 50 per cent; nothing below 0."
        )
    stand_in = MachineStandIn(
        chosen.stitch, chosen.wobble / 100, chosen.drift / 100, chosen.breaks / 100, 1000 * chosen.bobbin, chosen.pace, chosen.seed
    )  # fmt: skip
    base = chosen.at.rstrip("/")
    try:
        many = stand_in.sews(over_the_wire(base, quilt_called(base, chosen.quilt)), chosen.steps)
    except LookupError as error:
        raise BadValue(str(error)) from error
    except KeyboardInterrupt:
        return
    print(f"{many} steps, {stand_in.stitches:,} stitches")


if __name__ == "__main__":
    sys.exit(main())
