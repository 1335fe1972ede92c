"""Everything in one file and back on an empty machine; a damaged file changes nothing."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import zipfile
from datetime import date, datetime
from pathlib import Path

import pytest

from kenzet.core.errors import BadValue, Unavailable
from kenzet.demo import demo_swatches
from kenzet.serve import main
from kenzet.store import photos, quilts, swatches
from kenzet.store.backup import KEPT_DAYS, TABLES, backup, checked, last_copy, nightly, restore
from kenzet.store.instance import running
from kenzet.store.migrate import migrate
from kenzet.store.pool import connect

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def kept(conn, demo):
    """A quilt with a change, and a photograph with every byte in it."""
    quilt = quilts.add(conn, quilts.LOCAL_OWNER, demo)
    quilts.change(
        conn,
        quilts.LOCAL_OWNER,
        quilt,
        1,
        [quilts.Made(demo.model_copy(update={"name": "Żółć 'n' \u2603"}), "name", "Key-1")],
    )
    photo = photos.add(conn, quilts.LOCAL_OWNER, photos.KeptPhoto(bytes(range(256)) * 40, 10, 10))
    with conn.cursor() as cursor:  # a zone that is being marked has a day
        cursor.execute(
            "INSERT INTO marked (quilt_id, zone_key, done, put_on) VALUES (%s, 'star', 3, '2026-03-01')",
            (quilt,),
        )
    conn.commit()
    swatches.add(conn, quilts.LOCAL_OWNER, demo_swatches())
    return quilt, photo


def test_every_table_is_in_the_backup(conn):
    """Only the migrations are not: the manifest names them."""
    with conn.cursor() as cursor:
        cursor.execute("SHOW TABLES")
        there = {name for row in cursor.fetchall() for name in row.values()}
    assert there - {"migration"} == set(TABLES)


def test_the_swatch_book_is_back_after_a_restore(kept, conn, tmp_path):
    file = tmp_path / "all.zip"
    backup(conn, file)
    with running(tmp_path / "new") as logins:
        builder = connect(logins.builder)
        migrate(builder)
        restore(builder, file)
        before, back = (swatches.listed(one, quilts.LOCAL_OWNER) for one in (conn, builder))
        assert back == before and len(back) >= len(demo_swatches()) > 0
        builder.close()


def test_a_backup_from_before_swatches_were_in_it_is_restored_and_says_so(kept, conn, tmp_path, capsys):
    file, old = tmp_path / "all.zip", tmp_path / "old.zip"
    backup(conn, file)
    with zipfile.ZipFile(file) as good, zipfile.ZipFile(old, "w") as other:
        for name in good.namelist():
            data = good.read(name)
            if name == "manifest.json":
                manifest = json.loads(data)
                del manifest["tables"]["swatch"]
                data = json.dumps(manifest).encode()
            if name != "swatch.jsonl":
                other.writestr(name, data)
    assert main(["--data", str(tmp_path / "home"), "--restore", str(old)]) == 0
    told = capsys.readouterr().out
    assert "0 swatches are back" in told and "older Kenzet" in told


def test_what_is_backed_up_is_back_on_an_empty_machine(kept, conn, tmp_path):
    quilt, photo = kept
    file = tmp_path / "all.zip"
    told = backup(conn, file)
    assert told == checked(file) and told["revision"] >= 2 and set(told) == set(TABLES)
    with running(tmp_path / "new") as logins:
        builder = connect(logins.builder)
        migrate(builder)
        assert restore(builder, file) == told
        back = quilts.load(builder, quilts.LOCAL_OWNER, quilt)
        assert back.quilt == quilts.load(
            conn, quilts.LOCAL_OWNER, quilt
        ).quilt and back.quilt.name.startswith("Żółć")
        assert photos.load(builder, quilts.LOCAL_OWNER, photo).jpeg == bytes(range(256)) * 40
        with builder.cursor() as cursor:
            cursor.execute("SELECT put_on, taken_off FROM marked WHERE quilt_id = %s", (quilt,))
            assert cursor.fetchone() == {"put_on": date(2026, 3, 1), "taken_off": None}
        undone = quilts.undo(builder, quilts.LOCAL_OWNER, quilt, back.version)
        assert undone.quilt.name != back.quilt.name
        again = tmp_path / "again.zip"
        backup(builder, again)
        with pytest.raises(BadValue, match="holds quilts already"):
            restore(builder, file)
        builder.close()
    assert checked(again)["revision"] == told["revision"]


def test_a_damaged_backup_is_refused_and_changes_nothing(kept, conn, tmp_path):
    file, bad = tmp_path / "all.zip", tmp_path / "bad.zip"
    backup(conn, file)
    with zipfile.ZipFile(file) as good, zipfile.ZipFile(bad, "w") as spoilt:
        for name in good.namelist():
            data = good.read(name)
            spoilt.writestr(name, data.replace(b"Harbour", b"Harbor!") if name == "revision.jsonl" else data)
    with pytest.raises(BadValue, match="damaged: its revision rows"):
        checked(bad)
    for content, says in ((b"PK", "not a complete"), (b"", "not a complete")):
        bad.write_bytes(content)
        with pytest.raises(BadValue, match=says):
            restore(conn, bad)
    with pytest.raises(BadValue, match="no file"):
        checked(tmp_path / "nowhere.zip")


def test_a_backup_of_a_newer_kenzet_says_so(kept, conn, tmp_path):
    file, newer = tmp_path / "all.zip", tmp_path / "newer.zip"
    backup(conn, file)
    with zipfile.ZipFile(file) as good, zipfile.ZipFile(newer, "w") as other:
        for name in good.namelist():
            data = good.read(name)
            if name == "manifest.json":
                manifest = json.loads(data)
                manifest["migrations"].append("9999_of_tomorrow")
                data = json.dumps(manifest).encode()
            other.writestr(name, data)
    with pytest.raises(BadValue, match="newer Kenzet"):
        checked(newer)


def test_a_copy_a_day_is_kept_for_a_week(kept, conn, tmp_path):
    for day in range(1, KEPT_DAYS + 4):
        assert nightly(conn, tmp_path, datetime(2026, 3, day, 3)) is not None
    assert nightly(conn, tmp_path, datetime(2026, 3, KEPT_DAYS + 3, 20)) is None
    left = sorted(path.name for path in tmp_path.glob("*.zip"))
    assert len(left) == KEPT_DAYS and left[0] == "kenzet-2026-03-04.zip"
    assert last_copy(tmp_path).name == left[-1]


@pytest.mark.skipif(os.geteuid() == 0 and not os.path.exists("/dev/full"), reason="no full disk to write to")
def test_a_disk_that_is_full_leaves_the_last_backup_as_it_is(kept, conn, tmp_path):
    file = tmp_path / "all.zip"
    backup(conn, file)
    before = file.read_bytes()
    (tmp_path / ".all.zip.part").symlink_to("/dev/full")
    with pytest.raises(Unavailable, match="last one is untouched"):
        backup(conn, file)
    assert file.read_bytes() == before


def test_both_commands_work_without_a_running_app(tmp_path, capsys):
    home, file = tmp_path / "home", tmp_path / "all.zip"
    assert main(["--data", str(home), "--backup", str(file)]) == 0
    assert "0 quilts" in capsys.readouterr().out
    assert main(["--data", str(tmp_path / "other"), "--restore", str(file)]) == 0
    assert main(["--data", str(tmp_path / "other"), "--restore", str(tmp_path / "nowhere.zip")]) == 1
    assert "no file" in capsys.readouterr().err


def test_while_it_runs_everything_is_backed_up_by_the_command(tmp_path):
    home, file = tmp_path / "home", tmp_path / "all.zip"
    with running(home) as logins:
        builder = connect(logins.builder)
        migrate(builder)
        builder.close()
        command = [sys.executable, "-m", "kenzet", "--data", str(home), "--backup", str(file)]
        done = subprocess.run(command, capture_output=True, text=True, check=False, cwd=ROOT)
        assert done.returncode == 0, done.stderr
    assert checked(file)["owner"] == 1
