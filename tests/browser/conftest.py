"""The real thing: the start command on a throw-away data folder, and Debian's Chromium."""

from __future__ import annotations

import json
import os
import tempfile
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.served import Served

expect.set_options(timeout=40_000)  # a busy machine is slow, not wrong

FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip

FOLDS = (
    "Sashes", "Borders",
    "Compare and reuse", "Direction", "Position", "Rows", "Small pieces", "Sewing", "Figures", "Method", "Mark sheet", "Marking tool",
    "balance-firmness", "balance-gaps", "balance-standing", "balance-seen", "balance-accents", "balance-thread", "balance-time", "balance-light", "balance-wash",
    "log-sittings", "log-blocks", "log-todo", "log-swatches", "log-tape", "log-schedule", "log-learnt", "log-zones", "log-tools", "log-files", "inspect-sets", "inspect-points", "inspect-gaps",
    "Ticks along the edges", "Order", "Threads", "Travelling", "Limits", "Your speed", "Change this route", "Save",
)  # fmt: skip
OPEN = json.dumps(dict.fromkeys(FOLDS, True))
"""She has opened every fold before."""

MEANT = ("422", "409", "net::ERR_FAILED", "Service Worker registration blocked")
"""What tests bring about on purpose: refusals, a server that is lost, a browser that keeps no pages."""


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
    """Only the test of a server that is away lets the browser keep the pages: the others are to hear the server."""
    return {
        "viewport": {"width": 1280, "height": 800},
        "accept_downloads": True,
        "service_workers": "block",
    }


@pytest.fixture
def page(page):
    """Where KENZET_SLOW_MS is set, every answer comes that much later: races show that a quick machine hides."""
    if slow := os.environ.get("KENZET_SLOW_MS"):
        tools = page.context.new_cdp_session(page)
        tools.send("Network.enable")
        through = {"downloadThroughput": -1, "uploadThroughput": -1}
        tools.send("Network.emulateNetworkConditions", {"offline": False, "latency": int(slow), **through})
    return page


@pytest.fixture
def table(page, served):
    """The open demo quilt; a complaint of the page or a call to another host fails the test."""
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    page.on(
        "console",
        lambda said: (
            faults.append(said.text)
            if said.type in ("error", "warning") and not any(meant in said.text for meant in MEANT)
            else None
        ),
    )
    page.on(
        "request",
        lambda sent: None if sent.url.startswith((served.url, "data:", "blob:")) else faults.append(sent.url),
    )
    page.add_init_script(
        f"localStorage.getItem('kenzet-folds') ?? localStorage.setItem('kenzet-folds', '{OPEN}')"
    )
    page.goto(served.url)
    canvas, listed = page.get_by_test_id("canvas"), page.get_by_role("button", name="Harbour Lights")
    canvas.or_(listed).first.wait_for()
    if listed.first.is_visible():  # several quilts are here
        listed.first.click()
    canvas.wait_for()
    yield page
    assert faults == []
