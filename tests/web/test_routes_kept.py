"""The last route of a quilt is kept between starts, and used only for the plan and the program that it was found for."""

from __future__ import annotations

import pytest

from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.now import now
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store import quilts
from kenzet.web.state import routes as state
from kenzet.web.state.routes import Routes


@pytest.fixture
def kept(conn, demo):
    key = quilts.add(conn, quilts.LOCAL_OWNER, demo)
    return quilts.load(conn, quilts.LOCAL_OWNER, key)


@pytest.fixture
def searched(monkeypatch):
    """How often a route was looked for."""
    found, real = [], state._found
    monkeypatch.setattr(state, "_found", lambda laid, quick: found.append(quick) or real(laid, quick))
    return found


def test_a_start_takes_up_the_route_of_yesterday(tmp_path, kept, searched):
    laid = QuiltLayout(kept.quilt)
    one = Routes(tmp_path).ways(kept, laid)
    other = Routes(tmp_path).ways(kept, laid)
    assert searched == [False]
    assert [visit.place for visit in other.route.visits] == [visit.place for visit in one.route.visits]
    steps = [now(ways, Sewn()).steps for ways in (one, other)]
    assert [step.sewn for step in steps[0]] == [step.sewn for step in steps[1]]


@pytest.mark.parametrize("spoil", ["cut", "other program", "other plan", "gone"])
def test_anything_else_is_looked_for_anew(tmp_path, kept, searched, spoil, monkeypatch):
    laid = QuiltLayout(kept.quilt)
    Routes(tmp_path).ways(kept, laid)
    (file,) = tmp_path.iterdir()
    if spoil == "cut":
        file.write_bytes(file.read_bytes()[:-500])
    elif spoil == "gone":
        file.unlink()
    elif spoil == "other program":
        monkeypatch.setattr(state, "_program", lambda: "another")
    else:
        file.write_bytes(file.read_bytes().replace(f" {kept.revision}\n".encode(), b" 99\n", 1))
    assert Routes(tmp_path).ways(kept, laid).route.visits
    assert searched == [False, False]
