"""Runs the checks of one part or of all. Closes with the ten slowest tests, the time, and one line of counts."""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from xml.etree import ElementTree as ET

ROOT = Path(__file__).resolve().parent.parent
BIN = ROOT / ".venv" / "bin"
UI = ROOT / "ui"
WORKERS = min(os.cpu_count() or 1, 4)
PYTEST = [
    str(BIN / "python"),
    "-m",
    "pytest",
    "-q",
    "-n",
    str(WORKERS),
    "--dist",
    "loadfile",
    "--durations=10",
]
LINT = [
    [str(BIN / "ruff"), "check", "-q", "."],
    [str(BIN / "ruff"), "format", "-q", "--check", "."],
    [str(BIN / "mypy"), "--no-error-summary"],
]
OF_THE_APP = ["tests/test_cli.py", "tests/test_start.py"]
OF_THE_CORE = sorted({f"tests/{file.name}" for file in (ROOT / "tests").glob("test_*.py")} - set(OF_THE_APP))
"""Every other file of tests that lies in no folder, so that none is left out."""
CHECKS = {
    "core": ([*LINT], ["tests/core", *OF_THE_CORE, "src"]),
    "app": ([], ["tests/store", "tests/formats", "tests/web", *OF_THE_APP]),
    "ui": ([["npm", "run", "-s", "lint"], ["npm", "run", "-s", "types"], ["npm", "run", "-s", "test"]], []),
    "browser": ([], ["tests/browser"]),
}


def main(parts: list[str]) -> int:
    """Everything runs even where something failed before; the exit code tells."""
    unknown = [part for part in parts if part not in CHECKS]
    if unknown:
        print(f"./test: there is no part {unknown[0]}; there are {', '.join(CHECKS)}", file=sys.stderr)
        return 2
    chosen = parts or list(CHECKS)
    began, failed = time.monotonic(), 0
    with tempfile.TemporaryDirectory() as reports:
        os.environ["VITEST_JUNIT"] = f"{reports}/ui.xml"
        for part in chosen:
            for command in CHECKS[part][0]:
                failed += _run(command, UI if command[0] == "npm" else ROOT)
        files = [
            file for part in reversed(chosen) for file in CHECKS[part][1]
        ]  # browsers first: the longest files
        if files:
            failed += _run([*PYTEST, f"--junitxml={reports}/python.xml", *files], ROOT)
        passed, broken, skipped = _counts(Path(reports))
    broken = max(broken, 1 if failed else 0)
    used = resource.getrusage(resource.RUSAGE_CHILDREN)
    print(
        f"{', '.join(chosen)}: {time.monotonic() - began:.0f} s, {used.ru_utime + used.ru_stime:.0f} s of processors"
    )
    print(f"{passed} passed, {broken} failed" + (f", {skipped} skipped" if skipped else ""))
    return 1 if broken else 0


def _run(command: list[str], cwd: Path) -> int:
    print("·", " ".join(Path(word).name if word.startswith("/") else word for word in command), flush=True)
    return 1 if subprocess.run(command, cwd=cwd, check=False).returncode else 0


def _counts(reports: Path) -> tuple[int, int, int]:
    passed = broken = skipped = 0
    for report in reports.glob("*.xml"):
        for case in ET.parse(report).iter("testcase"):
            if case.find("failure") is not None or case.find("error") is not None:
                broken += 1
            elif case.find("skipped") is not None:
                skipped += 1
            else:
                passed += 1
    return passed, broken, skipped


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
