"""The last route of a quilt is kept between starts, and used only for the plan and the program that it was found for."""

from __future__ import annotations

import os

import pytest

from kenzet.core.sewing.log import Sewn
from kenzet.core.sewing.now import now
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store import quilts
from kenzet.web.state import routes as state
from kenzet.web.state.contents import plan_hash
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
        file.write_bytes(file.read_bytes().replace(plan_hash(kept).encode(), b"99", 1))
    assert Routes(tmp_path).ways(kept, laid).route.visits
    assert searched == [False, False]


def test_a_copy_under_another_name_has_the_route_at_once_and_a_change_has_not(tmp_path, conn, kept, searched):
    kept_routes = Routes(tmp_path)
    found = kept_routes.ways(kept, QuiltLayout(kept.quilt))

    def added(**changes):
        quilt = kept.quilt.model_copy(update=changes)
        return quilts.load(conn, quilts.LOCAL_OWNER, quilts.add(conn, quilts.LOCAL_OWNER, quilt))

    copy = added(name="Copy")
    assert kept_routes.ways(copy, QuiltLayout(copy.quilt)) is found and searched == [False]
    other = added(zones={key: zone for key, zone in kept.quilt.zones.items() if key != "sashing"})
    assert kept_routes.ways(other, QuiltLayout(other.quilt)) is not found and searched == [False, False]


def test_of_many_plans_the_last_are_kept_on_disk(tmp_path, kept, monkeypatch):
    monkeypatch.setattr(state, "MOST_FILES", 3)
    for number in range(5):
        (tmp_path / f"old-{number}.route").write_bytes(b"")
        os.utime(tmp_path / f"old-{number}.route", (number, number))
    Routes(tmp_path).ways(kept, QuiltLayout(kept.quilt))
    left = sorted(file.name for file in tmp_path.iterdir())
    assert left == sorted([f"{plan_hash(kept)}.route", "old-3.route", "old-4.route"])
