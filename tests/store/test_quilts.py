"""Revisions, undo and redo, locking and idempotence, on the real database."""

from __future__ import annotations

import json
import threading
from collections import namedtuple

import pymysql
import pytest

from kenzet.core.changes.quilt import Rename
from kenzet.core.errors import Stale, Unavailable, Unknown
from kenzet.core.top.quilt_layout import QuiltLayout
from kenzet.store import quilts, room
from kenzet.store.migrate import migrate
from kenzet.store.pool import Pool, atomic, connect

ME = quilts.LOCAL_OWNER


@pytest.fixture
def quilt_id(conn, demo):
    return quilts.add(conn, ME, demo)


def rename(conn, quilt_id, version, name, key=None, joins=False):
    quilt, what = Rename(name=name).apply(QuiltLayout(quilts.load(conn, ME, quilt_id).quilt))
    return quilts.change(conn, ME, quilt_id, version, [quilts.Made(quilt, what, key or name, joins)])


def test_a_document_comes_back_as_it_was(conn, quilt_id, demo):
    assert quilts.load(conn, ME, quilt_id).quilt == demo
    assert quilt_id in [listed.id for listed in quilts.listed(conn, ME)]


def test_undo_and_redo_walk_the_revisions(conn, quilt_id):
    rename(conn, quilt_id, 1, "One")
    rename(conn, quilt_id, 2, "Two")
    assert quilts.undo(conn, ME, quilt_id, 3).quilt.name == "One"
    kept = quilts.undo(conn, ME, quilt_id, 4)
    assert (kept.quilt.name, kept.undo, kept.redo) == ("Harbour Lights", None, "name")
    assert quilts.undo(conn, ME, quilt_id, 5).version == 5  # nothing before the first
    assert quilts.redo(conn, ME, quilt_id, 5).quilt.name == "One"
    assert quilts.redo(conn, ME, quilt_id, 6).quilt.name == "Two"


def test_redo_never_leads_into_what_was_left_behind(conn, quilt_id):
    rename(conn, quilt_id, 1, "One")
    quilts.undo(conn, ME, quilt_id, 2)
    rename(conn, quilt_id, 3, "Other")
    assert quilts.redo(conn, ME, quilt_id, 4).quilt.name == "Other"
    quilts.undo(conn, ME, quilt_id, 4)
    assert quilts.redo(conn, ME, quilt_id, 5).quilt.name == "Other"


def test_steps_that_join_are_undone_together(conn, quilt_id):
    rename(conn, quilt_id, 1, "A")
    rename(conn, quilt_id, 2, "AB", joins=True)
    rename(conn, quilt_id, 3, "ABC", joins=True)
    assert quilts.undo(conn, ME, quilt_id, 4).quilt.name == "Harbour Lights"
    assert quilts.redo(conn, ME, quilt_id, 5).quilt.name == "ABC"


def test_a_stale_change_is_refused_and_writes_nothing(conn, quilt_id):
    rename(conn, quilt_id, 1, "Mine")
    with pytest.raises(Stale, match="another window"):
        rename(conn, quilt_id, 1, "Theirs")
    assert quilts.load(conn, ME, quilt_id).quilt.name == "Mine"


def test_a_change_sent_twice_is_made_once(conn, quilt_id):
    first = rename(conn, quilt_id, 1, "Once", key="k")
    assert rename(conn, quilt_id, 1, "Once", key="k").version == first.version == 2


def test_changes_sent_together_are_kept_in_order_all_or_none(conn, quilt_id, demo):
    made = [
        quilts.Made(demo.model_copy(update={"name": n}), n, f"key-{n}", joins)
        for n, joins in (("A", False), ("B", False), ("C", True))
    ]
    assert quilts.change(conn, ME, quilt_id, 1, made).version == 4
    assert quilts.change(conn, ME, quilt_id, 1, made).version == 4  # a retry of all
    more = [*made[2:], quilts.Made(demo.model_copy(update={"name": "D"}), "D", "key-D")]
    assert quilts.change(conn, ME, quilt_id, 3, more).version == 5  # a retry of some
    with pytest.raises(Stale):
        quilts.change(
            conn, ME, quilt_id, 4, [quilts.Made(demo, "E", "key-E"), quilts.Made(demo, "F", "key-F")]
        )
    assert [quilts.undo(conn, ME, quilt_id, v).quilt.name for v in (5, 6, 7)] == ["C", "A", "Harbour Lights"]


def test_two_windows_at_once_one_wins(logins, quilt_id):
    outcomes = []

    def write(name):
        mine = connect(logins.app)
        try:
            outcomes.append(rename(mine, quilt_id, 1, name).quilt.name)
        except Stale:
            outcomes.append("stale")
        mine.close()

    threads = [threading.Thread(target=write, args=(n,)) for n in "abcd"]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert outcomes.count("stale") == 3


@pytest.mark.parametrize("call", [quilts.undo, quilts.redo])
def test_an_unknown_quilt_or_owner_is_said(conn, quilt_id, call):
    with pytest.raises(Unknown, match="no such quilt"):
        call(conn, ME, "nosuchquilt0", 1)
    with pytest.raises(Unknown):
        quilts.load(conn, ME + 1, quilt_id)


def test_the_app_cannot_change_tables_and_migrations_run_again(conn, logins):
    with pytest.raises(pymysql.err.OperationalError), conn.cursor() as cursor:
        cursor.execute("DROP TABLE revision")
    builder = connect(logins.builder)
    assert migrate(builder) == []
    with atomic(builder) as cursor:
        cursor.execute("INSERT INTO migration (name) VALUES ('9999_later')")
    with pytest.raises(Unavailable, match="newer Kenzet"):
        migrate(builder)
    with atomic(builder) as cursor:
        cursor.execute("DELETE FROM migration WHERE name = '9999_later'")
    builder.close()


def test_a_lost_connection_loses_the_whole_change_not_half_of_it(logins, quilt_id, demo):
    pool = Pool(logins.app, most=1)
    with pytest.raises(Unavailable), pool.connection() as mine, atomic(mine) as cursor:  # noqa: PT012
        cursor.execute("UPDATE quilt SET version = version + 100 WHERE id = %s", (quilt_id,))
        cursor.execute("SELECT CONNECTION_ID() AS id")
        number = cursor.fetchone()["id"]
        with connect(logins.app) as other, other.cursor() as killer:
            killer.execute(f"KILL {number}")
        cursor.execute("UPDATE quilt SET version = version + 1000 WHERE id = %s", (quilt_id,))
    with pool.connection() as mine:
        assert quilts.load(mine, ME, quilt_id).version == 1


def test_nothing_is_written_on_a_disk_that_is_all_but_full_and_the_disk_is_named(
    conn, quilt_id, monkeypatch, tmp_path
):
    usage = namedtuple("usage", "total used free")
    monkeypatch.setattr(room, "_watched", [tmp_path])
    monkeypatch.setattr(room.shutil, "disk_usage", lambda _: usage(10**9, 10**9, 3 * 1024**2))
    with pytest.raises(Unavailable, match=f"{tmp_path} has 3 MB free; 150 MB are needed"), atomic(conn):
        pytest.fail("nothing is begun")
    monkeypatch.setattr(room.shutil, "disk_usage", lambda _: usage(10**9, 0, 10**9))
    with atomic(conn) as cursor:
        cursor.execute("SELECT 1")


def test_a_quilt_whose_name_was_kept_before_names_were_checked_opens(conn, quilt_id):
    with atomic(conn) as cursor:
        cursor.execute("SELECT document FROM revision WHERE quilt_id = %s", (quilt_id,))
        document = json.loads(cursor.fetchone()["document"])
        document["name"] = "Star\nof \u202eElla"
        cursor.execute(
            "UPDATE revision SET document = %s WHERE quilt_id = %s", (json.dumps(document), quilt_id)
        )
    assert quilts.load(conn, ME, quilt_id).quilt.name == "Starof Ella"
