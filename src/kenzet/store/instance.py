"""A private MariaDB: its own data directory, reached through a socket only, stopped with the app.

Glossary: the *home* is the folder with everything of one instance: ``mariadb`` (the data), ``run`` (pid file, log,
temporary files) and ``lock``. Passwords are new at every start and are only written to a file that only its owner
can read and that is removed once it is read.
"""

from __future__ import annotations

import fcntl
import getpass
import os
import secrets
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

import pymysql

from kenzet.core.errors import Unavailable
from kenzet.store.pool import NAME, Login, connect
from kenzet.texts import tr

LOG, COPIES = Path("run", "mariadbd.log"), "backups"
"""In the data folder: what the database writes, and the daily copies."""
LEAST_FREE = 400 * 1024 * 1024
_LONGEST_SOCKET = 100
_PATIENCE = 60.0
_LEFTOVER_S = 10.0  # s: one that is only coming up does not listen to being told to stop
_STOP_S = 20.0
_STOP_EARLY_S = 4.0
_LOOK_S = 0.5
_MINUTE_S, _MOST_RESTARTS = 60.0, 5


@dataclass(frozen=True, slots=True)
class Logins:
    """The app may read and write rows; the builder may also change tables."""

    app: Login
    builder: Login


@contextmanager
def running(home: Path) -> Iterator[Logins]:
    """A database for as long as the block runs.

    Raises Unavailable with the reason: no server installed, already in use, damaged, no space, no permission to
    write.
    """
    server = shutil.which("mariadbd", path=f"{os.environ.get('PATH', '')}:/usr/sbin")
    if not server:
        raise Unavailable(tr("MariaDB is not installed; ./start --setup-only installs it."))
    _prepare(home)
    with _only_one(home), _socket_folder(home) as socket:
        _stop_leftover(home)
        config = _write_config(home, socket)
        _make_data(home, config)
        app, builder = (
            Login(socket, user, secrets.token_hex(24)) for user in ("kenzet_app", "kenzet_builder")
        )
        watched = _Watched(home, app, lambda: _start(server, home, config, [app, builder]))
        try:
            watched.begin()
            yield Logins(app, builder)
        finally:
            watched.end()


class _Watched:
    """A server that is restarted if it ends on its own: killed, out of memory, or crashed."""

    def __init__(self, home: Path, login: Login, start: Callable[[], subprocess.Popen[bytes]]) -> None:
        self._home, self._login, self._start = home, login, start
        self._process = start()
        self._ready, self._over, self._ended = False, threading.Event(), threading.Event()
        self._starting = threading.Lock()
        self._watch = threading.Thread(target=self._look, daemon=True)

    def begin(self) -> None:
        """Wait until it answers, then watch it. Raises Unavailable."""
        _wait_until_ready(self._process, self._home, self._login)
        self._ready = True
        self._watch.start()

    def end(self) -> None:
        """Shut it down cleanly."""
        self._over.set()
        with self._starting:
            _stop(self._process, _STOP_S if self._ready else _STOP_EARLY_S)
        self._ended.set()

    def _look(self) -> None:
        restarts: list[float] = []
        while not self._over.wait(_LOOK_S):
            if self._process.poll() is None:
                continue
            now = time.monotonic()
            restarts = [at for at in restarts if now - at < _MINUTE_S] + [now]
            if len(restarts) > _MOST_RESTARTS:
                print(
                    tr("kenzet: the database keeps stopping; start Kenzet again"), file=sys.stderr, flush=True
                )
                return
            print(tr("kenzet: the database has stopped; it is started again"), file=sys.stderr, flush=True)
            (self._home / "run" / "mariadbd.pid").unlink(missing_ok=True)
            with self._starting:
                if self._over.is_set():
                    break
                self._process = self._start()
            with suppress(Unavailable):
                _wait_until_ready(self._process, self._home, self._login)
        self._ended.wait()  # a server that this thread started is killed when it ends


def _prepare(home: Path) -> None:
    try:
        (home / "run" / "tmp").mkdir(parents=True, exist_ok=True)
        home.chmod(0o700)
        free = shutil.disk_usage(home).free
    except OSError as error:
        raise Unavailable(
            tr("The data folder {home} cannot be used: {strerror}.", home=home, strerror=error.strerror)
        ) from error
    if free < LEAST_FREE:
        raise Unavailable(
            tr(
                "The disk under {home} has {free} MB free; the database wants {least_free} MB. Make room, or choose another place with --data.",
                home=home,
                free=free // 1024**2,
                least_free=LEAST_FREE // 1024**2,
            )
        )


@contextmanager
def _only_one(home: Path) -> Iterator[None]:
    with (home / "lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise Unavailable(
                tr(
                    "Kenzet is already running on the data in {home}. Use that one, or choose another place with --data.",
                    home=home,
                )
            ) from error
        yield


@contextmanager
def _socket_folder(home: Path) -> Iterator[str]:
    """A path for the socket that is short enough for the system."""
    usual = home / "run" / "db.sock"
    if len(str(usual)) < _LONGEST_SOCKET:
        yield str(usual)
        return
    with tempfile.TemporaryDirectory(prefix="kenzet-") as folder:
        yield str(Path(folder) / "db.sock")


def _stop_leftover(home: Path) -> None:
    """Stop every server of ours that outlived a killed app, even one that was still starting; its data is safe
    either way."""
    for pid in _of_ours(home):
        with suppress(OSError):
            os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + _LEFTOVER_S
        while Path(f"/proc/{pid}").exists() and time.monotonic() < deadline:
            time.sleep(0.05)
        with suppress(OSError):
            os.kill(pid, signal.SIGKILL)  # what was committed is recovered
        while Path(f"/proc/{pid}").exists() and time.monotonic() < deadline + _LEFTOVER_S:
            time.sleep(0.05)
    (home / "run" / "mariadbd.pid").unlink(missing_ok=True)


def _of_ours(home: Path) -> list[int]:
    """The servers that run with a configuration of this home, found by their command line, as a pid file may not
    exist yet."""
    ours = tuple(f"--defaults-file={home / 'run' / name}".encode() for name in ("my.cnf", "install.cnf"))
    found = []
    for folder in Path("/proc").iterdir():
        if not folder.name.isdigit() or int(folder.name) == os.getpid():
            continue
        with suppress(OSError):
            command = (folder / "cmdline").read_bytes().split(b"\0")
            if any(one in ours for one in command) and _state(folder) != "Z":
                found.append(int(folder.name))
    return found


def _state(folder: Path) -> str:
    return (folder / "stat").read_text(encoding="ascii", errors="replace").rsplit(")", 1)[1].split()[0]


def of_running(home: Path) -> Login | None:
    """The login for the database of a Kenzet that runs on ``home``, for the owner of its files; None if none runs."""
    config = home / "run" / "my.cnf"
    if not _of_ours(home) or not config.exists():
        return None
    socket = next(
        line.split("=", 1)[1] for line in config.read_text().splitlines() if line.startswith("socket=")
    )
    return Login(socket, "root", "") if Path(socket).exists() else None


def _write_config(home: Path, socket: str) -> Path:
    run, config = home / "run", home / "run" / "my.cnf"
    as_root = "user=root\n" if os.geteuid() == 0 else ""
    config.write_text(
        f"""[mysqld]
{as_root}datadir={home / "mariadb"}
socket={socket}
pid-file={run / "mariadbd.pid"}
tmpdir={run / "tmp"}
log-error={home / LOG}
skip-networking
skip-name-resolve
skip-log-bin
local-infile=0
character-set-server=utf8mb4
collation-server=utf8mb4_unicode_ci
default-time-zone=+00:00
sql-mode=STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION
performance-schema=0
innodb-buffer-pool-size=64M
innodb-buffer-pool-size-max=256M
innodb-log-file-size=64M
innodb-flush-log-at-trx-commit=1
innodb-buffer-pool-dump-at-shutdown=0
innodb-buffer-pool-load-at-startup=0
"""
    )
    return config


def _make_data(home: Path, config: Path) -> None:
    """The data directory, built beside its place and moved there when it is complete."""
    data, building = home / "mariadb", home / "mariadb.new"
    if data.exists():
        if not (data / "ibdata1").exists() or not (data / "mysql").is_dir():
            raise Unavailable(
                tr(
                    "The database in {data} is damaged, so it is left as it is. Restore a backup, or move that folder away to start again.",
                    data=data,
                )
            )
        return
    shutil.rmtree(building, ignore_errors=True)
    made = config.with_name("install.cnf")
    made.write_text(config.read_text().replace(f"datadir={data}\n", f"datadir={building}\n"))
    command = [
        "mariadb-install-db",
        f"--defaults-file={made}",
        "--auth-root-authentication-method=socket",
        f"--auth-root-socket-user={getpass.getuser()}",
        "--skip-test-db",
        "--skip-name-resolve",
        *(["--user=root"] if os.geteuid() == 0 else []),
    ]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    if done.returncode != 0:
        raise Unavailable(
            tr(
                "The database could not be made: {last_line}",
                last_line=_last_line(done.stderr or done.stdout),
            )
        )
    building.rename(data)


def _start(server: str, home: Path, config: Path, logins: list[Login]) -> subprocess.Popen[bytes]:
    grants = {"kenzet_app": "SELECT, INSERT, UPDATE, DELETE", "kenzet_builder": "ALL PRIVILEGES"}
    statements = [f"CREATE DATABASE IF NOT EXISTS {NAME};"]
    for login in logins:
        who = f"'{login.user}'@'localhost'"
        statements += [
            f"CREATE USER IF NOT EXISTS {who};",
            f"ALTER USER {who} IDENTIFIED BY '{login.password}';",
            f"GRANT {grants[login.user]} ON {NAME}.* TO {who};",
        ]
    first = home / "run" / "init.sql"
    first.unlink(missing_ok=True)
    with os.fdopen(os.open(first, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
        file.write("\n".join(statements) + "\n")
    # its own session: Ctrl-C is for the app, which then stops the server in good order;
    # should the app be killed, the server ends with it: what was committed is recovered
    with_parent = ["setpriv", "--pdeathsig", "KILL"] if shutil.which("setpriv") else []
    return subprocess.Popen(
        [*with_parent, server, f"--defaults-file={config}", f"--init-file={first}"],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )


def _wait_until_ready(process: subprocess.Popen[bytes], home: Path, login: Login) -> None:
    deadline = time.monotonic() + _PATIENCE
    log = home / LOG
    while time.monotonic() < deadline:
        if process.poll() is not None:
            raise Unavailable(why_it_fails(home))
        if _is_ours(process, home):
            with suppress(pymysql.err.MySQLError, OSError):
                connect(login).close()
                (home / "run" / "init.sql").unlink(missing_ok=True)
                return
        time.sleep(0.03)
    process.terminate()
    raise Unavailable(
        tr(
            "The database did not answer within {patience} seconds; see {log}.",
            patience=f"{_PATIENCE:.0f}",
            log=log,
        )
    )


def _is_ours(process: subprocess.Popen[bytes], home: Path) -> bool:
    """Whether the running server is the one we started: its pid file names our child."""
    with suppress(OSError, ValueError):
        return int((home / "run" / "mariadbd.pid").read_text()) == process.pid
    return False


def _stop(process: subprocess.Popen[bytes], patience: float) -> None:
    process.terminate()
    try:
        process.wait(patience)
    except subprocess.TimeoutExpired:
        process.kill()
        process.wait()


_DAMAGE = (
    "corrupt",
    "damaged",
    "checksum",
    "crashed",
    "tablespace",
    "missing",
    "cannot open",
    "can't open",
    "not found",
)


def why_it_fails(home: Path, error: Exception | None = None) -> str:
    """The reason in our words, from the database's log, to which the ``error`` that it gave to a request is added.
    Its own words are for its makers, and may advise deleting tables: nobody else sees them."""
    log = home / LOG
    if error is not None:
        with suppress(OSError), log.open("a", encoding="utf-8") as file:
            words = " ".join(map(str, error.args))
            file.write(f"{datetime.now():%Y-%m-%d %H:%M:%S} kenzet [ERROR] {words}\n")
    errors = []
    with suppress(OSError):
        errors = [line for line in log.read_text(errors="replace").splitlines() if "[ERROR]" in line]
    copies = sorted((home / COPIES).glob("kenzet-????-??-??.zip"))
    way = (
        tr(
            "The last copy is {copies}: ./start --data NEW-FOLDER --restore {copies} puts it beside this.",
            copies=copies[-1],
        )
        if copies
        else tr(
            "No copy was made here yet; with a backup of yours: ./start --data NEW-FOLDER --restore FILE."
        )
    )
    if any(word in line.lower() for line in errors for word in _DAMAGE):
        return tr(
            "The data in {home} cannot be read: a file there is damaged or not whole. Nothing was changed by this start. {way} What the database says of it is in {log}.",
            home=home / "mariadb",
            way=way,
            log=log,
        )
    if error is None:
        return tr(
            "The database stopped while starting. Nothing was changed. What it says of it is in {log}.",
            log=log,
        )
    return tr(
        "The database could not answer. Start Kenzet again; if that does not help, restore the last backup. What the database says of it is in {log}.",
        log=log,
    )


def _last_line(text: str) -> str:
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    return lines[-1] if lines else tr("no reason was given")
