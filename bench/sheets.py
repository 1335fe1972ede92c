"""Printing the mark sheet of a block, every line drawn, against loading the page twice: the app's files, its quilts and the quilt."""

from __future__ import annotations

import tempfile
import urllib.request
from pathlib import Path
from statistics import median
from time import perf_counter

from tests.served import Served

ROUNDS = 9


def main() -> None:
    with tempfile.TemporaryDirectory(prefix="kenzet-bench-") as home:
        app = Served(Path(home))
        try:
            measure(app.url)
        finally:
            app.stop()


def measure(url: str) -> None:
    def get(path: str) -> bytes:
        return urllib.request.urlopen(url.rstrip("/") + path).read()

    quilt = next(line for line in get("/api/home").decode().split('"id":"')[1:])[:12]
    page = get("/").decode()
    files = ["/" + part.split('"')[0] for part in page.split('="/')[1:] if part.startswith("assets/")]
    load = ["/", *files, "/api/home", f"/api/quilts/{quilt}", f"/api/quilts/{quilt}/top"]
    sheet = f"/api/quilts/{quilt}/zones/star-background/sheet.pdf?method=all%20lines&of=block"
    loads, sheets, jobs = [], [], []
    for _ in range(ROUNDS):
        for paths, times in ((load, loads), ([sheet], sheets), ([f"/api/quilts/{quilt}/job.pdf"], jobs)):
            began = perf_counter()
            for path in paths:
                get(path)
            times.append(perf_counter() - began)
    ratio = median(sheets) / (2 * median(loads))
    print(
        f"sheets: a block's mark sheet {median(sheets) * 1e3:.0f} ms, a page load {median(loads) * 1e3:.0f} ms: "
        f"ratio to two {ratio:.2f} (wanted about 1); the job sheet {median(jobs) * 1e3:.0f} ms"
    )


if __name__ == "__main__":
    main()
