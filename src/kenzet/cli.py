"""The command line: ``kenzet plan FILE.json`` and ``kenzet schema``. Needs no database."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from kenzet.core.errors import KenzetError
from kenzet.core.top.laid import LaidQuilt
from kenzet.formats import plan_file
from kenzet.formats.plan_json import plan_json


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command; what is wrong is said in one sentence, with exit code 1."""
    parser = argparse.ArgumentParser(prog="kenzet", description="Plan, reckon and mark machine quilting.")
    commands = parser.add_subparsers(dest="command", required=True)
    plan = commands.add_parser("plan", help="read a quilt plan and print everything reckoned from it as JSON")
    plan.add_argument("file", type=Path)
    commands.add_parser("schema", help="print the JSON schema of the plan format")
    chosen = parser.parse_args(arguments)
    try:
        if chosen.command == "schema":
            sys.stdout.write(plan_file.schema().decode())
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


if __name__ == "__main__":
    sys.exit(main())
