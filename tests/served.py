"""The app as ./start serves it, for tests and benches that drive the real thing."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import urllib.request
from contextlib import suppress
from pathlib import Path
from time import monotonic, sleep
from typing import ClassVar


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Served:
    """The app as ./start serves it, on a data folder of its own."""

    made: ClassVar[list[Served]] = []

    def __init__(self, home: Path, *more: str, language: str = "en") -> None:
        """On ``home``, with ``more`` arguments, in a language."""
        self.language = language
        self.port = free_port()
        self.home = home
        self.more = more
        self._log = home.with_name(f"{home.name}.log")
        self.url = f"http://127.0.0.1:{self.port}"
        Served.made.append(self)
        self.begin()

    def begin(self) -> None:
        """Start it, also after a stop: at the same address."""
        command = [sys.executable, "-m", "kenzet", "--port", str(self.port), "--data", str(self.home)]
        command += self.more
        with self._log.open("w") as log:  # a pipe that nobody reads would hold the app when it is full
            self.process = subprocess.Popen(
                command,
                stdout=log,
                stderr=subprocess.STDOUT,
                env={**os.environ, "KENZET_LANGUAGE": self.language},
            )
        deadline = monotonic() + 60
        while monotonic() < deadline and self.process.poll() is None:
            with suppress(OSError):
                urllib.request.urlopen(f"{self.url}/api/health", timeout=2).close()
                return
            sleep(0.05)
        raise AssertionError(f"not up: {self.said() if self.process.poll() is not None else 'no answer'}")

    def said(self) -> str:
        """What it has written so far."""
        return self._log.read_text()

    def stop(self, with_signal: int = signal.SIGTERM) -> str:
        self.process.send_signal(with_signal)
        self.process.wait(timeout=60)
        return self.said()
