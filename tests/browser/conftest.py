"""The real thing: the start command on a throw-away data folder, and Debian's Chromium."""

from __future__ import annotations

import signal
import socket
import subprocess
import sys
import tempfile
import urllib.request
from contextlib import suppress
from pathlib import Path
from time import monotonic, sleep

import pytest

ROOT = Path(__file__).resolve().parents[2]
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Served:
    """The app as ./start serves it, on a data folder of its own."""

    def __init__(self, home: Path, *more: str) -> None:
        self.port = free_port()
        self.home = home
        command = [sys.executable, "-m", "kenzet.serve", "--port", str(self.port), "--data", str(home), *more]
        self.process = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        self.url = f"http://127.0.0.1:{self.port}"
        deadline = monotonic() + 60
        while monotonic() < deadline and self.process.poll() is None:
            with suppress(OSError):
                urllib.request.urlopen(f"{self.url}/api/health", timeout=2).close()
                return
            sleep(0.05)
        raise AssertionError(
            f"not up: {self.process.stdout.read() if self.process.poll() is not None else 'no answer'}"
        )

    def stop(self, with_signal: int = signal.SIGTERM) -> str:
        self.process.send_signal(with_signal)
        said, _ = self.process.communicate(timeout=60)
        return said


@pytest.fixture(scope="module")
def served():
    with tempfile.TemporaryDirectory(prefix="kenzet-browser-") as home:
        app = Served(Path(home))
        yield app
        app.stop()


@pytest.fixture(scope="session")
def browser_type_launch_args():
    return {"executable_path": "/usr/bin/chromium", "args": FLAGS}


@pytest.fixture(scope="session")
def browser_context_args():
    return {"viewport": {"width": 1280, "height": 800}, "accept_downloads": True}


@pytest.fixture
def table(page, served):
    """The open demo quilt; a complaint of the page or a call to another host fails the test."""
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    page.on(
        "console",
        lambda said: (
            faults.append(said.text)
            if said.type in ("error", "warning") and "422" not in said.text and "409" not in said.text
            else None
        ),
    )
    page.on(
        "request",
        lambda sent: None if sent.url.startswith((served.url, "data:", "blob:")) else faults.append(sent.url),
    )
    page.goto(served.url)
    page.get_by_test_id("canvas").wait_for()
    yield page
    assert faults == []
