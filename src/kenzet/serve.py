"""The second half of the start command: the private database, the migrations, the demo quilts, the server."""

from __future__ import annotations

import argparse
import gc
import logging
import signal
import socket
import sys
import threading
import time
from collections.abc import Sequence
from datetime import datetime
from pathlib import Path

import pymysql
import waitress

from kenzet.core.errors import KenzetError, Unavailable
from kenzet.demo import demo_quilts, demo_swatches
from kenzet.formats import photo
from kenzet.store import quilts, room, swatches
from kenzet.store.backup import backup, nightly, restore
from kenzet.store.instance import COPIES, Logins, of_running, running, why_it_fails
from kenzet.store.migrate import migrate
from kenzet.store.pool import Pool, connect
from kenzet.texts import tr
from kenzet.web.app import Settings, create_app

ROOT = Path(__file__).resolve().parents[2]
HOST = "127.0.0.1"
PORT = 8420
LARGEST_BODY = photo.MOST_BYTES + 1_000_000
"""Bytes: a larger body is refused because of its announced length, before anything is stored."""
CONNECTIONS, SLOW_S = 800, 30
"""A client that does not finish its request occupies one of many connections, for a limited time."""
RARELY = (50_000, 20, 100)
"""Garbage collection thresholds: a full collection takes as long as a plan, and there are hardly any cycles."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Serve until Ctrl-C or SIGTERM; any reason not to start is told in one sentence."""
    chosen = _arguments(arguments)
    signal.signal(signal.SIGTERM, _stop)
    signal.signal(signal.SIGHUP, _stop)  # the window was closed
    signal.signal(signal.SIGINT, signal.default_int_handler)  # a shell may have set it to be ignored
    home = (chosen.data or ROOT / "var" / "data").resolve()
    try:
        if not (chosen.backup or chosen.restore):
            _check_port(chosen.port)
        if chosen.backup:
            return _backup(home, chosen.backup.resolve())
        with running(home) as logins:
            if chosen.restore:
                return _restore(logins, chosen.restore.resolve())
            _prepare(logins, demo=not chosen.empty)
            room.watch(home)
            _serve(logins, chosen.port, home)
    except KeyboardInterrupt:
        pass
    except KenzetError as error:
        print(tr("kenzet: {message}", message=error.message), file=sys.stderr)
        return 1
    except pymysql.err.Error as error:
        print(tr("kenzet: {message}", message=why_it_fails(home, error)), file=sys.stderr)
        return 1
    except OSError as error:
        print(
            tr(
                "kenzet: stopped: {error}. Start it again; if that does not help, restore the last backup.",
                error=error,
            ),
            file=sys.stderr,
        )
        return 1
    print(tr("\nkenzet: stopped; everything is saved"))
    return 0


def _arguments(arguments: Sequence[str] | None) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description=tr("Kenzet on this machine, until Ctrl-C."))
    parser.add_argument(
        "--port", type=_port, default=PORT, help=tr("port on {host} (default {port})", host=HOST, port=PORT)
    )
    parser.add_argument(
        "--data", type=Path, help=tr("folder for everything that is saved (default var/data)")
    )
    parser.add_argument("--empty", action="store_true", help=tr("begin without the demo quilts"))
    parser.add_argument(
        "--backup",
        type=Path,
        metavar="FILE",
        help=tr("write everything that is kept to FILE, also while Kenzet runs"),
    )
    parser.add_argument(
        "--restore",
        type=Path,
        metavar="FILE",
        help=tr("put a backup into a data folder that has no quilts yet"),
    )
    parser.add_argument("--setup-only", action="store_true", help=tr("set up what is missing, then stop"))
    return parser.parse_args(arguments)


def _port(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 65535:
        raise argparse.ArgumentTypeError(
            tr("{text_} is not a port; it is a number from 1 to 65535", text_=text)
        )
    return int(text)


def _stop(signum: int, frame: object) -> None:
    raise SystemExit(0)


def _check_port(port: int) -> None:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except PermissionError as error:
            raise Unavailable(
                tr("Port {port} is reserved for the system. Choose another with --port.", port=port)
            ) from error
        except OSError as error:
            raise Unavailable(
                tr(
                    "Port {port} is taken by another program. Choose another: ./start --port {port2}",
                    port=port,
                    port2=port % 65535 + 1,
                )
            ) from error


def _prepare(logins: Logins, demo: bool) -> None:
    builder = connect(logins.builder)
    try:
        migrate(builder)
        if demo and not quilts.listed(builder, quilts.LOCAL_OWNER):
            for quilt in reversed(demo_quilts()):  # the first is listed first
                quilts.add(builder, quilts.LOCAL_OWNER, quilt)
            swatches.add(builder, quilts.LOCAL_OWNER, demo_swatches())
    finally:
        builder.close()


def _backup(home: Path, into: Path) -> int:
    """From the running database, or from one started for it."""
    login = of_running(home)
    if login is not None:
        conn = connect(login)
        told = backup(conn, into)
        conn.close()
    else:
        with running(home) as logins:
            migrate(builder := connect(logins.builder))
            told = backup(builder, into)
            builder.close()
    print(tr("kenzet: {content} are in {into}", content=_content(told), into=into))
    return 0


def _restore(logins: Logins, file: Path) -> int:
    builder = connect(logins.builder)
    try:
        migrate(builder)
        told = restore(builder, file)
    finally:
        builder.close()
    print(tr("kenzet: {content} are back", content=_content(told)))
    if "swatch" not in told:
        print(
            tr("kenzet: this backup was made by an older Kenzet, which did not put the swatch book into it")
        )
    return 0


def _content(rows: dict[str, int]) -> str:
    """What a backup holds, in words, from the rows of its tables."""
    return tr(
        "{quilts} quilts with {revisions} revisions, {photographs} photographs and {swatches} swatches",
        quilts=rows["quilt"],
        revisions=rows["revision"],
        photographs=rows["photo"],
        swatches=rows.get("swatch", 0),
    )


def _keep_copies(pool: Pool, home: Path) -> None:
    """A daily copy of everything, kept for a week; checked every hour. A full disk stops only the copy."""
    while True:
        try:
            with pool.connection() as conn:
                nightly(conn, home / COPIES, datetime.now())
        except Exception as error:  # whatever it is, the app goes on and the next hour tries again
            why = why_it_fails(home, error) if isinstance(error, pymysql.err.Error) else error
            print(tr("kenzet: no copy could be made today: {error}", error=why), file=sys.stderr, flush=True)
        time.sleep(3600)


def _serve(logins: Logins, port: int, home: Path) -> None:
    gc.set_threshold(*RARELY)
    pool = Pool(logins.app)
    threading.Thread(target=_keep_copies, args=(pool, home), daemon=True).start()
    app = create_app(Settings(pool, ROOT / "ui" / "dist", home / COPIES, home / "routes"))
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)  # that requests wait is nothing to tell
    server = waitress.create_server(
        app,
        host=HOST,
        port=port,
        threads=6,
        ident=None,
        max_request_body_size=LARGEST_BODY,
        connection_limit=CONNECTIONS,
        channel_timeout=SLOW_S,
        cleanup_interval=5,
    )
    print(tr("Kenzet is ready: http://{host}:{port}   (Ctrl-C stops it)", host=HOST, port=port), flush=True)
    try:
        server.run()
    finally:
        server.close()
