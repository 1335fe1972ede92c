"""Two hundred files that mean harm, or were damaged on the way, sent to every door that takes a file: what the app answers, how long
it takes and how much it and its readers hold.
"""

from __future__ import annotations

import io
import json
import random
import struct
import sys
import tempfile
import threading
import urllib.error
import urllib.request
import zipfile
import zlib
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from time import perf_counter

from ezdxf import filemanagement
from PIL import Image

from tests.served import Served

SEED = 2026
MOST = 200
_SLOW_S, _LARGE_MB = 5.0, 700.0

DOORS = {
    "svg": "/api/read-drawing?name=a.svg&unit=in",
    "dxf": "/api/read-drawing?name=a.dxf&unit=in",
    "picture": "/api/photos",
    "things": "/api/things/import?unit=in",
    "plan": "/api/quilts",
    "recipes": "/api/recipes/import",
}
SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="8in" height="8in" viewBox="0 0 8 8">%s<path d="M0 0H8V8H0Z"/>'
    b'<path d="M0 0L8 8"/></svg>'
)


def _svgs() -> Iterator[bytes]:
    yield SVG % (b"<g>" * 100_000)
    yield SVG % (b"<g>" * 300 + b"</g>" * 300)
    entities = b"".join(b'<!ENTITY e%d "%s">' % (k, b"&e%d;" % (k - 1) * 10) for k in range(1, 12))
    yield b'<!DOCTYPE svg [<!ENTITY e0 "x">' + entities + b"]>" + SVG % b"<text>&e11;</text>"
    yield b'<!DOCTYPE svg [<!ENTITY e SYSTEM "file:///etc/passwd">]>' + SVG % b"<text>&e;</text>"
    yield SVG % b"".join(b'<g id="g%d">%s</g>' % (k, b'<use href="#g%d"/>' % (k - 1) * 9) for k in range(9))
    yield SVG % b'<g id="r"><use href="#r"/></g>'
    yield SVG % (b'<path d="M0 0' + b"L8 8L0 1" * 400_000 + b'"/>')
    yield SVG % b'<path d="M0 0L1e308 1e308L-1e308 nan"/>'
    yield SVG % (b'<g transform="scale(1e300)">' * 3 + b'<path d="M1 1L2 3"/>' + b"</g>" * 3)
    yield SVG % (b'<path d="M0 0' + b"A1e9 1e-9 0 0 0 1 1" * 5000 + b'"/>')
    yield SVG % (b"<style>" + b"a{" * 50_000 + b"</style>")
    yield SVG % b"".join(b'<path d="M%d 0L%d 8"/>' % (k % 8, k % 7) for k in range(19_000))
    yield b"\xff\xfe" + (SVG % b"").decode().encode("utf-16-le")
    yield b"\x1f\x8b" + zlib.compress(b"\0" * 40_000_000)


def _pictures() -> Iterator[bytes]:
    header = b"\x89PNG\r\n\x1a\n"

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    for side in (30_000, 60_000, 2**31 - 1):  # a few bytes that say they are thousands of steps wide
        yield (
            header
            + chunk(b"IHDR", struct.pack(">IIBBBBB", side, side, 8, 2, 0, 0, 0))
            + chunk(b"IDAT", zlib.compress(b"\0" * 2_000_000))
        )
    yield (
        header
        + chunk(b"IHDR", struct.pack(">IIBBBBB", 8, 8, 8, 2, 0, 0, 0))
        + chunk(b"zTXt", b"k\0\0" + zlib.compress(b"x" * 60_000_000))
    )
    yield b"GIF89a" + b"\xff\xff" * 2000
    yield b"II*\0" + b"\x08\0\0\0" + b"\xff" * 4000
    yield b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 9999 9999\n" + b"0 " * 9999
    wide = io.BytesIO()
    Image.new("RGB", (12_000, 12_000)).save(wide, "PNG")
    yield wide.getvalue()


def _plans(plan: dict) -> Iterator[bytes]:
    yield b'{"plan":' + b"[" * 200_000 + b"]" * 200_000 + b"}"
    yield b'{"plan":' + b'{"a":' * 50_000 + b"1" + b"}" * 50_000 + b"}"
    yield json.dumps({"plan": {**plan, "columns": [1] * 100_000}}).encode()
    yield b'{"plan": ' + b"9" * 100_000 + b"}"
    for word in ("1e999 in", "NaN", "-8 in", "9" * 400 + " in", "8 in\0", "1/0 in", "٣ in"):
        yield json.dumps(
            {"plan": json.loads(json.dumps(plan).replace("12 in", json.dumps(word)[1:-1]))}
        ).encode()


def _things() -> Iterator[bytes]:
    yield b"[" * 100_000
    yield b'{"things":' + b"[" * 100_000
    yield b"name,kind,length\n" + b'"' * 500_000
    yield b"name,kind\n" + b"x,straight ruler\n" * 200_000
    yield b"\0" * 10_000
    yield b"\xff\xfe" + "name,kind\n".encode("utf-16-le") * 1000


def _zips() -> Iterator[bytes]:
    bomb = io.BytesIO()
    with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as kept:
        kept.writestr("a.svg", b"\0" * 100_000_000)
    yield bomb.getvalue()


def _damaged(good: bytes, chance: random.Random) -> bytes:
    """A file cut off, doubled, with bytes changed, or with numbers made large."""
    how = chance.randrange(4)
    data = bytearray(good)
    if how == 0:
        return bytes(data[: chance.randrange(1, len(data))])
    if how == 1:
        at = chance.randrange(len(data))
        return bytes(data[:at] + data[at : at + 4000] * chance.randrange(2, 200) + data[at:])
    if how == 2:
        for _ in range(chance.choice((1, 8, 200))):
            data[chance.randrange(len(data))] = chance.randrange(256)
        return bytes(data)
    digits = [k for k, byte in enumerate(data) if 48 <= byte < 58]
    for at in sorted(chance.sample(digits, min(len(digits), 5)), reverse=True):
        data[at : at + 1] = chance.choice((b"9" * 30, b"1e300", b"-0", b"nan", b"1/0"))
    return bytes(data)


def files(served: Served) -> list[tuple[str, bytes]]:
    """Door and bytes of each; the same at every run."""
    chance = random.Random(SEED)
    with (
        urllib.request.urlopen(f"{served.url}/api/files.zip") as answer,
        zipfile.ZipFile(io.BytesIO(answer.read())) as archive,
    ):
        plan = json.loads(
            archive.read(next(name for name in archive.namelist() if name.endswith("/plan.json")))
        )
        things = archive.read("tools-and-supplies.csv")
    drawing, text = filemanagement.new(), io.StringIO()
    for k in range(8):
        drawing.modelspace().add_line((0, k), (8, k + 1))
        drawing.modelspace().add_circle((4, 4), k + 1)
    drawing.write(text)
    photo = io.BytesIO()
    Image.effect_noise((400, 300), 60).convert("RGB").save(photo, "JPEG")
    told = [
        *(("svg", data) for data in _svgs()),
        *(("picture", data) for data in _pictures()),
        *(("plan", data) for data in _plans(plan)),
        *(("things", data) for data in _things()),
        *((door, data) for data in _zips() for door in DOORS),
        ("dxf", b"0\nSECTION\n" * 400_000),
        ("dxf", text.getvalue().replace("8.0", "1e300").encode()),
        ("recipes", b'{"book":' + b"[" * 100_000),
    ]
    good = {
        "svg": SVG % b"<circle cx='4' cy='4' r='2'/>",
        "dxf": text.getvalue().encode(),
        "picture": photo.getvalue(),
        "things": things,
        "plan": json.dumps({"plan": plan}).encode(),
        "recipes": json.dumps({"book": {"recipes": [{"name": "a", "fill": {"kind": "lines"}}]}}).encode(),
    }
    while len(told) < MOST:
        door = list(good)[len(told) % len(good)]
        told.append((door, _damaged(good[door], chance)))
    return told


def _answer(url: str, door: str, data: bytes) -> int:
    """The status; 0 where there was none."""
    kind = "application/json" if door in ("plan", "recipes") else "application/octet-stream"
    asked = urllib.request.Request(url + DOORS[door], data, {"Content-Type": kind}, method="POST")
    try:
        with urllib.request.urlopen(asked, timeout=30) as answer:
            return int(answer.status)
    except urllib.error.HTTPError as error:
        return error.code
    except OSError:
        return 0


class Watch(threading.Thread):
    """The most MB that the app or any process below it held."""

    def __init__(self, pid: int) -> None:
        super().__init__(daemon=True)
        self.family, self.most, self.over = {pid}, 0.0, threading.Event()

    def run(self) -> None:
        while not self.over.wait(0.02):
            told = [_status(folder) for folder in Path("/proc").iterdir() if folder.name.isdecimal()]
            grown = True
            while grown:
                found = {one["Pid"] for one in told if one.get("PPid") in self.family}
                grown = not found <= self.family
                self.family |= found
            self.most = max(
                [self.most, *(one.get("VmHWM", 0) / 1000 for one in told if one.get("Pid") in self.family)]
            )


def _status(folder: Path) -> dict[str, int]:
    """Numbers of a process, kB; empty where it has ended."""
    try:
        lines = (folder / "status").read_text().splitlines()
    except OSError:
        return {}
    pairs = (line.split(":", 1) for line in lines if line.startswith(("Pid:", "PPid:", "VmHWM:")))
    return {name: int(value.split()[0]) for name, value in pairs}


def main() -> int:
    """Every file in turn; 1 where one got an error of the server, an answer after 5 s or more than 700 MB."""
    with tempfile.TemporaryDirectory(prefix="kenzet-hostile-") as home:
        served = Served(Path(home) / "data")
        told, watch, bad, slowest = Counter[int](), Watch(served.process.pid), [], 0.0
        watch.start()
        sent = files(served)
        for k, (door, data) in enumerate(sent):
            begin = perf_counter()
            status = _answer(served.url, door, data)
            took = perf_counter() - begin
            told[status] += 1
            slowest = max(slowest, took)
            if not 200 <= status < 500 or took > _SLOW_S:
                bad.append((k, door, len(data), status, round(took, 1)))
        alive = _answer(served.url, "svg", SVG % b"") == 200
        watch.over.set()
        served.stop()
    print(
        f"hostile: {len(sent)} files, answers {dict(sorted(told.items()))}, the slowest after {slowest:.1f} s"
    )
    print(
        f"hostile: no process held more than {watch.most:.0f} MB; a good file afterwards: {'read' if alive else 'NOT READ'}"
    )
    for number, door, size, status, took in bad:
        print(f"hostile: file {number} at {door}, {size} bytes: {status} after {took} s")
    return 1 if bad or not alive or watch.most > _LARGE_MB else 0


if __name__ == "__main__":
    sys.exit(main())
