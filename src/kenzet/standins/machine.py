"""A simulated sewing machine: it sews the steps it is given, stitch by stitch, and reports them as JSON lines.

Its stitches wobble, its counter drifts, its thread breaks and its bobbin runs out, as configured. All it knows of
the quilt is the length of the present step.
"""

from __future__ import annotations

import json
import random
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

Line = dict[str, Any]
Told = Callable[[list[Line]], Line | None]
"""Sends lines; returns the present step, None if nothing is left."""
_BATCH = 25


@dataclass
class MachineStandIn:
    """Sews stitches of ``stitch`` mm with a relative error of ``wobble``; its counter has a relative error of
    ``drift``.

    The thread breaks ``breaks`` times a meter on average; a bobbin lasts ``bobbin`` mm. ``pace`` is mm a second, 0
    for as fast as possible.
    """

    stitch: float = 2.5
    wobble: float = 0.05
    drift: float = 0.0
    breaks: float = 0.0
    bobbin: float = 27_000.0
    pace: float = 0.0
    seed: int = 1
    name: str = "stand-in"
    clock: Callable[[], float] = time.time
    wait: Callable[[float], None] = time.sleep
    stitches: int = 0
    _seq: int = 0
    _left: float = 0.0
    _chance: random.Random = field(default_factory=random.Random)

    def __post_init__(self) -> None:
        self._chance.seed(self.seed)
        self._left = self.bobbin

    def sews(self, told: Told, steps: int | None = None) -> int:
        """Sews at most ``steps`` steps until nothing is left; returns their number."""
        self._seq = 0
        at_hand = told([self._line("hello", name=self.name)])
        many = 0
        while at_hand is not None and (steps is None or many < steps):
            for lines in self._step(at_hand):
                at_hand = told(lines)
            many += 1
        return many

    def _step(self, step: Line) -> Iterator[list[Line]]:
        """The messages of one step, in batches; it ends early if the thread breaks or the bobbin is empty."""
        far, batch, count, mm = float(step["mm"]) + float(step["travel"]), [], 0, 0.0
        sewn = 0.0
        while sewn < far - 0.05:
            long = min(max(self._chance.gauss(self.stitch, self.wobble * self.stitch), 0.3), far - sewn)
            sewn += long
            self._left -= long
            count, mm = count + 1, mm + long * (1 + self.drift)
            self.stitches += 1
            stops = self._stops(long)
            if stops or count == _BATCH or sewn >= far - 0.05:
                batch.append(self._line("stitches", count=count, mm=round(mm, 3)))
                if self.pace:
                    self.wait(mm / self.pace)
                    yield batch
                    batch = []
                count, mm = 0, 0.0
            if stops:
                yield [*batch, self._line(stops)]
                return
        yield [*batch, self._line("pedal")]

    def _stops(self, long: float) -> str:
        if self._left <= 0:
            self._left = self.bobbin
            return "bobbin"
        return "broke" if self._chance.random() < self.breaks * long / 1000 else ""

    def _line(self, kind: str, **more: Any) -> Line:
        line = {"kind": kind, "seq": self._seq, "at": round(self.clock(), 3), **more}
        self._seq += 1
        return line


def over_the_wire(base: str, quilt: str) -> Told:
    """Reports to the Kenzet at ``base`` for ``quilt`` (its id). Raises OSError if it does not answer."""

    def told(lines: list[Line]) -> Line | None:
        body = "".join(json.dumps(line) + "\n" for line in lines).encode()
        request = urllib.request.Request(
            f"{base}/api/quilts/{quilt}/machine", body, {"Content-Type": "application/x-ndjson"}
        )
        try:
            with urllib.request.urlopen(request) as answer:
                step: Line | None = json.load(answer)["step"]
                return step
        except urllib.error.HTTPError as error:
            raise OSError(json.load(error).get("detail", str(error))) from error

    return told


def quilt_called(base: str, name: str) -> str:
    """The id of the quilt with that name or id. Raises LookupError, OSError."""
    with urllib.request.urlopen(f"{base}/api/home") as answer:
        quilts = json.load(answer)["quilts"]
    for one in quilts:
        if name in (one["id"], one["name"]):
            return str(one["id"])
    names = ", ".join(f"“{one['name']}”" for one in quilts)
    raise LookupError(f"There is no quilt called “{name}”; there are {names}.")
