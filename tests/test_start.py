"""Starting, stopping, and everything that can be in the way: a sentence each, nothing lost."""

from __future__ import annotations

import io
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import urllib.request
from collections import namedtuple
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path
from time import monotonic, sleep

import pytest
from PIL import Image

from kenzet.core.errors import Unavailable
from kenzet.store import instance
from tests.served import Served, free_port


@pytest.fixture(autouse=True)
def _none_left_running():
    """A failed test leaves no app behind."""
    before = len(Served.made)
    yield
    for app in Served.made[before:]:
        if app.process.poll() is None:
            app.process.kill()
            app.process.wait()


def home_of(app: Served):
    with urllib.request.urlopen(f"{app.url}/api/home", timeout=20) as answer:
        return json.load(answer)


def rename(app: Served, name: str, version: int = 1) -> None:
    quilt = home_of(app)["quilts"][0]["id"]
    body = json.dumps(
        {"version": version, "changes": [{"key": f"rename-{name}", "change": {"kind": "name", "name": name}}]}
    )
    request = urllib.request.Request(
        f"{app.url}/api/quilts/{quilt}/changes", body.encode(), {"Content-Type": "application/json"}
    )
    urllib.request.urlopen(request, timeout=20).close()


def database_of(home: Path) -> int:
    return int((home / "run" / "mariadbd.pid").read_text())


def gone(pid: int) -> bool:
    deadline = monotonic() + 20
    while monotonic() < deadline:
        with suppress(OSError):
            if Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z":
                sleep(0.05)
                continue
        return True
    return False


def refused(home: Path, *more: str) -> str:
    """What a start says that cannot be."""
    command = [sys.executable, "-m", "kenzet", "--data", str(home), *more]
    done = subprocess.run(command, capture_output=True, text=True, timeout=60, check=False)
    assert done.returncode in (1, 2)
    assert "Traceback" not in done.stderr
    return done.stderr


def test_ctrl_c_stops_both_and_a_second_start_keeps_everything(tmp_path):
    app = Served(tmp_path / "data")
    rename(app, "Kept")
    database = database_of(tmp_path / "data")
    assert "everything is saved" in app.stop(signal.SIGINT)
    assert gone(database)
    again = Served(tmp_path / "data")
    assert [q["name"] for q in home_of(again)["quilts"]][:2] == ["Kept", "Kelp Garden"]
    again.stop()


def test_what_was_saved_outlives_kills_of_app_and_database(tmp_path):
    app = Served(tmp_path)
    rename(app, "Kept")
    database = database_of(tmp_path)
    app.stop(signal.SIGKILL)
    assert gone(database)  # it ends with the app that was killed
    app = Served(tmp_path)
    before = database_of(tmp_path)
    os.kill(before, signal.SIGKILL)
    with pytest.raises(urllib.request.HTTPError) as error:
        home_of(app)
    assert error.value.code == 503
    assert "nothing was changed" in json.load(error.value)["detail"]
    deadline = monotonic() + 30
    while monotonic() < deadline:  # it is started again
        with suppress(urllib.request.HTTPError):
            home_of(app)
            break
        sleep(0.2)
    rename(app, "Kept-on", version=2)
    assert before != database_of(tmp_path)
    database = database_of(tmp_path)
    assert "everything is saved" in app.stop()
    assert gone(database)
    app = Served(tmp_path)
    assert [q["name"] for q in home_of(app)["quilts"]][:2] == ["Kept-on", "Kelp Garden"]
    app.stop()


def test_an_empty_start_holds_no_quilt(tmp_path):
    app = Served(tmp_path, "--empty")
    assert home_of(app)["quilts"] == []
    app.stop()


def test_a_taken_port_a_wrong_port_and_data_in_use_are_said(tmp_path):
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        port = other.getsockname()[1]
        assert f"Port {port} is taken by another program" in refused(tmp_path, "--port", str(port))
    assert "is not a port" in refused(tmp_path, "--port", "70000")
    assert not (tmp_path / "mariadb").exists()
    app = Served(tmp_path)
    assert "already running on the data" in refused(tmp_path, "--port", str(free_port()))
    assert home_of(app)["quilts"]
    app.stop()


def test_a_half_made_data_folder_is_made_anew_and_a_damaged_one_left_alone(tmp_path):
    (tmp_path / "mariadb.new").mkdir()
    (tmp_path / "mariadb.new" / "half").write_text("made")
    app = Served(tmp_path)
    app.stop()
    assert not (tmp_path / "mariadb.new").exists()
    shutil.move(tmp_path / "mariadb" / "ibdata1", tmp_path / "kept")
    said = refused(tmp_path, "--port", str(free_port()))
    assert "is damaged, so it is left as it is" in said
    shutil.move(tmp_path / "kept", tmp_path / "mariadb" / "ibdata1")
    app = Served(tmp_path)
    assert home_of(app)["quilts"]
    app.stop()


def test_a_file_in_the_place_of_the_data_folder_is_said(tmp_path):
    (tmp_path / "file").write_text("x")
    assert "cannot be used" in refused(tmp_path / "file", "--port", str(free_port()))


def test_a_full_disk_is_said_before_anything_is_written(tmp_path, monkeypatch):
    usage = namedtuple("usage", "total used free")
    monkeypatch.setattr(instance.shutil, "disk_usage", lambda _: usage(10**9, 10**9, 10**6))
    with pytest.raises(Unavailable, match="Make room"), instance.running(tmp_path):
        pass
    assert not (tmp_path / "mariadb").exists()


def test_a_very_long_path_gets_a_short_socket(tmp_path):
    app = Served(tmp_path / ("long" * 20))
    assert home_of(app)["quilts"]
    app.stop()


@pytest.mark.parametrize(
    ("after", "how"), [(0.3, signal.SIGKILL), (1.2, signal.SIGKILL), (1.8, signal.SIGHUP)]
)
def test_killed_while_its_database_comes_up_the_next_start_is_not_locked_out(tmp_path, after, how):
    """A server that only comes up ignores SIGTERM and held the files for good."""
    Served(tmp_path).stop()
    command = [sys.executable, "-m", "kenzet", "--data", str(tmp_path), "--port", str(free_port())]
    app = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    deadline = monotonic() + 30
    while not instance._of_ours(tmp_path) and monotonic() < deadline:
        sleep(0.01)
    sleep(after / 10)
    app.send_signal(how)
    app.wait(30)
    again = Served(tmp_path)
    assert home_of(again)["quilts"]
    again.stop()
    assert not instance._of_ours(tmp_path)


def test_clients_that_never_end_their_requests_do_not_shut_the_door(tmp_path):
    served = Served(tmp_path / "home", "--empty")
    half = []
    try:
        for _ in range(250):
            client = socket.create_connection(("127.0.0.1", served.port), timeout=20)
            client.sendall(b"POST /api/quilts HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 500\r\n\r\n{")
            half.append(client)
        with urllib.request.urlopen(f"{served.url}/api/health", timeout=20) as answer:
            assert answer.status == 200
    finally:
        for client in half:
            client.close()
        served.stop()


def test_many_who_ask_at_once_wait_and_the_terminal_stays_quiet(tmp_path):
    app = Served(tmp_path / "data")
    with ThreadPoolExecutor(40) as pool:
        found = list(pool.map(lambda _: len(home_of(app)["quilts"]), range(200)))
    assert set(found) == {found[0]} and found[0] > 0
    said = app.stop(signal.SIGINT)
    assert "Kenzet is ready" in said and "queue" not in said


def test_a_body_that_is_announced_too_large_is_refused_before_it_is_read(tmp_path):
    served = Served(tmp_path / "home", "--empty")
    try:
        with socket.create_connection(("127.0.0.1", served.port), timeout=20) as client:
            client.sendall(
                b"POST /api/photos HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/octet-stream\r\n"
                b"Content-Length: 60000000\r\n\r\n" + b"x" * 1000
            )
            assert b" 413 " in client.recv(4000)
    finally:
        served.stop()


def test_damaged_data_is_told_in_our_words_with_the_way_back(tmp_path):
    app = Served(tmp_path, "--empty")
    app.stop()
    copy = tmp_path / "backups" / "kenzet-2026-05-31.zip"
    copy.parent.mkdir(exist_ok=True)
    copy.touch()
    with (tmp_path / "mariadb" / "ibdata1").open("r+b") as file:
        file.write(os.urandom(200_000))
    said = refused(tmp_path, "--port", str(free_port()))
    assert "cannot be read" in said
    assert "Nothing was changed" in said
    assert "--restore" in said
    assert "drop" not in said.lower()


@pytest.mark.parametrize("table", ["quilt", "owner"])
def test_a_damaged_table_is_told_in_our_words(tmp_path, table):
    """The database itself starts, and answers a request with an error of its own."""
    app = Served(tmp_path / "home", "--empty")
    app.stop()
    with (tmp_path / "home" / "mariadb" / "kenzet" / f"{table}.ibd").open("r+b") as file:
        file.write(os.urandom(60_000))
    said = refused(tmp_path / "home", "--port", str(free_port()))
    assert "is damaged" in said and "Nothing was changed" in said and "run/mariadbd.log" in said
    assert not any(word in said.lower() for word in ("drop", "innodb", "(1", "storage engine"))
    assert "kenzet [ERROR]" in (tmp_path / "home" / instance.LOG).read_text()


@pytest.mark.parametrize(
    ("error", "says"),
    [
        (
            "InnoDB: Table `kenzet`.`quilt` is corrupted. Please drop the table and recreate.",
            "cannot be read",
        ),
        ("Can't start server: Bind on unix socket: Permission denied", "stopped while starting"),
    ],
)
def test_what_the_database_says_of_itself_is_not_passed_on(tmp_path, error, says):
    log = tmp_path / instance.LOG
    log.parent.mkdir()
    log.write_text(f"2026-05-31 10:00:00 0 [ERROR] {error}\n")
    said = instance.why_it_fails(tmp_path)
    assert says in said
    assert "drop" not in said
    assert str(log) in said


def test_a_reader_of_files_imports_nothing_of_the_app(tmp_path, monkeypatch):
    """Every import of every process of the app is written down; after a photograph and a drawing are read, those
    of the web part stand there once: from the start."""
    monkeypatch.setenv("PYTHONPROFILEIMPORTTIME", "1")
    served = Served(tmp_path / "home", "--empty")
    try:
        out = io.BytesIO()
        Image.new("RGB", (200, 100), "white").save(out, "JPEG")
        drawn = b'<svg xmlns="http://www.w3.org/2000/svg" width="9in" height="9in" viewBox="0 0 9 9"><path d="M0 0H9V9H0Z M0 0L9 9" fill="none" stroke="#000"/></svg>'
        for path, data, kind in (
            ("photos", out.getvalue(), "application/octet-stream"),
            ("read-drawing?name=block.svg", drawn, "application/octet-stream"),
        ):
            sent = urllib.request.Request(f"{served.url}/api/{path}", data, {"Content-Type": kind})
            with urllib.request.urlopen(sent, timeout=60) as answer:
                assert answer.status == 200
    finally:
        said = served.stop()
    imports = [
        line.rsplit("|", 1)[-1].strip() for line in said.splitlines() if line.startswith("import time:")
    ]
    assert imports.count("kenzet.web.app") == 1
    assert imports.count("kenzet.formats.readers") >= 2  # by the app and by what the readers are forked from
