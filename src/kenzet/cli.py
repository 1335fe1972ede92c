"""The command line: ``kenzet plan FILE.json``, ``kenzet schema`` and ``kenzet print FILE.pdf``. Needs no database."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from kenzet.core.errors import BadValue, KenzetError
from kenzet.core.top.laid import LaidQuilt
from kenzet.formats import plan_file
from kenzet.formats.plan_json import plan_json
from kenzet.standins.printer import PrinterStandIn, png


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; what is wrong is said in one sentence, with exit code 1."""
    parser = argparse.ArgumentParser(prog="kenzet", description="Plan, reckon and mark machine quilting.")
    commands = parser.add_subparsers(dest="command", required=True)
    plan = commands.add_parser("plan", help="read a quilt plan and print everything reckoned from it as JSON")
    plan.add_argument("file", type=Path)
    commands.add_parser("schema", help="print the JSON schema of the plan format")
    printing = commands.add_parser(
        "print", help="print a PDF on the stand-in of a printer, page by page, as PNG"
    )
    printing.add_argument("file", type=Path)
    printing.add_argument("--out", type=Path, default=Path(), help="folder for the pages (default: here)")
    printing.add_argument("--scale", type=float, default=100.0, help="prints everything so large, per cent")
    printing.add_argument("--up", type=float, help="the same upwards, where it differs")
    printing.add_argument("--skew", type=float, default=0.0, help="degrees askew")
    printing.add_argument("--margin", type=float, default=4.0, help="mm that cannot be printed")
    printing.add_argument("--dpi", type=int, default=300)
    chosen = parser.parse_args(arguments)
    try:
        if chosen.command == "schema":
            sys.stdout.write(plan_file.schema().decode())
        elif chosen.command == "print":
            _print(chosen)
        else:
            quilt = plan_file.load(chosen.file.read_bytes())
            print(json.dumps(plan_json(LaidQuilt(quilt)), indent=1))
    except OSError as error:
        print(f"kenzet: {chosen.file}: {error.strerror}", file=sys.stderr)
        return 1
    except KenzetError as error:
        where = f"{error.field}: " if error.field else ""
        print(f"kenzet: {where}{error.message}", file=sys.stderr)
        return 1
    return 0


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


if __name__ == "__main__":
    sys.exit(main())
