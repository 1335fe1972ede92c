"""How long a start takes, and what the app holds under many hands: against bare Python in the same run, and its own first minute."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import threading
import urllib.request
from pathlib import Path
from statistics import median
from time import monotonic, perf_counter

from kenzet.core.top.document import write
from tests.jobs import block, whole
from tests.served import Served

_TIMES = 5
_CLIENTS = 50


def _took(*command: str) -> float:
    times = []
    for _ in range(_TIMES):
        begin = perf_counter()
        subprocess.run(command, check=True, capture_output=True)
        times.append(perf_counter() - begin)
    return median(times)


def _rss(pid: int) -> float:
    """MB."""
    pages = int(Path(f"/proc/{pid}/statm").read_text().split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE") / 1e6


def starts(home: Path) -> None:
    """The second start, and the command line on a small file."""
    bare = _took(sys.executable, "-c", "")
    loaded = _took(sys.executable, "-c", "import kenzet.serve")
    plan = home / "plan.json"
    plan.write_text(
        json.dumps(write(whole(block("Plain", "8 in"), {"kind": "lines", "spacing": "1/2 in"}).quilt))
    )
    told = _took(sys.executable, "-m", "kenzet.cli", "plan", str(plan))
    ready = []
    served = Served(home / "data")
    for _ in range(_TIMES):
        served.stop()
        begin = perf_counter()
        served.begin()
        ready.append(perf_counter() - begin)
    served.stop()
    print(
        f"start: bare Python {bare:.2f} s; all that a start loads {loaded:.2f} s, {loaded / bare:.0f} times that"
    )
    print(f"start: ready on data that is there after {median(ready):.2f} s (wanted 2.5)")
    print(f"start: kenzet plan of a block {told:.2f} s (wanted 1)")


def memory(home: Path, minutes: float) -> None:
    """What the app holds while fifty pages ask at once."""
    served = Served(home / "busy")
    with urllib.request.urlopen(f"{served.url}/api/home") as answer:
        quilts = [quilt["id"] for quilt in json.load(answer)["quilts"]]
    until, asked, lock = monotonic() + 60 * minutes, 0, threading.Lock()

    def ask(number: int) -> None:
        nonlocal asked
        while monotonic() < until:
            for path in (f"/api/quilts/{quilts[number % len(quilts)]}", "/api/home", "/api/backups"):
                with urllib.request.urlopen(f"{served.url}{path}", timeout=60) as answer:
                    answer.read()
                with lock:
                    asked += 1

    clients = [threading.Thread(target=ask, args=(k,)) for k in range(_CLIENTS)]
    for client in clients:
        client.start()
    held = []
    while monotonic() < until:
        threading.Event().wait(min(15.0, 60 * minutes / 6))
        held.append(_rss(served.process.pid))
    for client in clients:
        client.join()
    served.stop()
    print(
        f"memory: {_CLIENTS} clients, {minutes:g} minutes, {asked:,} requests: {held[0]:.0f} MB at first, {max(held):.0f} MB at most, "
        f"{held[-1]:.0f} MB in the end, {held[-1] / held[0]:.2f} times the first"
    )


def main() -> None:
    """Both."""
    with tempfile.TemporaryDirectory(prefix="kenzet-start-") as home:
        starts(Path(home))
        memory(Path(home), float(os.environ.get("MINUTES", "5")))


if __name__ == "__main__":
    main()
