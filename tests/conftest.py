"""One throw-away database for the whole run, and the demo quilt."""

from __future__ import annotations

import tempfile
from importlib import resources
from pathlib import Path

import pytest
from hypothesis import settings

from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.formats import plan_file
from kenzet.store.instance import Logins, running
from kenzet.store.migrate import migrate
from kenzet.store.pool import Pool, connect

settings.register_profile("kenzet", deadline=None)  # no test asserts a time
settings.load_profile("kenzet")

DEMO = resources.files("kenzet.demo") / "harbour-lights.json"


@pytest.fixture(scope="session")
def demo():
    return plan_file.load(DEMO.read_bytes())


@pytest.fixture(scope="session")
def laid(demo):
    return QuiltLayout(demo)


@pytest.fixture(scope="session")
def logins() -> Logins:
    with tempfile.TemporaryDirectory(prefix="kenzet-test-") as home, running(Path(home)) as found:
        builder = connect(found.builder)
        migrate(builder)
        builder.close()
        yield found


@pytest.fixture(scope="session")
def pool(logins):
    return Pool(logins.app)


@pytest.fixture
def conn(logins):
    connection = connect(logins.app)
    yield connection
    connection.close()
