"""The start command's second half: the private database, the migrations, the demo quilts, the server."""

from __future__ import annotations

import argparse
import gc
import signal
import socket
import sys
from collections.abc import Sequence
from pathlib import Path

import pymysql
import waitress

from kenzet.core.errors import KenzetError, Unavailable
from kenzet.demo import demo_quilts
from kenzet.store import quilts
from kenzet.store.instance import Logins, running
from kenzet.store.migrate import migrate
from kenzet.store.pool import Pool, connect
from kenzet.web.app import Settings, create_app

ROOT = Path(__file__).resolve().parents[2]
HOST = "127.0.0.1"
PORT = 8420
RARELY = (50_000, 20, 100)
"""Going through all that is kept for cycles takes as long as a plan, and there are next to none."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Serve until Ctrl-C or SIGTERM; whatever stops it before is said in one sentence."""
    chosen = _arguments(arguments)
    signal.signal(signal.SIGTERM, _stop)
    signal.signal(signal.SIGINT, signal.default_int_handler)  # a shell may have set it to be ignored
    try:
        _check_port(chosen.port)
        home = (chosen.data or ROOT / "var" / "data").resolve()
        with running(home) as logins:
            _prepare(logins, demo=not chosen.empty)
            _serve(logins, chosen.port)
    except KeyboardInterrupt:
        pass
    except KenzetError as error:
        print(f"kenzet: {error.message}", file=sys.stderr)
        return 1
    except (OSError, pymysql.err.Error) as error:
        print(f"kenzet: stopped: {error}. Nothing that was saved is lost; start it again.", file=sys.stderr)
        return 1
    print("\nkenzet: stopped; everything is saved")
    return 0


def _arguments(arguments: Sequence[str] | None) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Kenzet on this machine, until Ctrl-C.")
    parser.add_argument("--port", type=_port, default=PORT, help=f"port on {HOST} (default {PORT})")
    parser.add_argument("--data", type=Path, help="folder for everything that is saved (default var/data)")
    parser.add_argument("--empty", action="store_true", help="begin without the demo quilts")
    parser.add_argument("--setup-only", action="store_true", help="set up what is missing, then stop")
    return parser.parse_args(arguments)


def _port(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 65535:
        raise argparse.ArgumentTypeError(f"{text} is not a port; it is a number from 1 to 65535")
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
                f"Port {port} is reserved for the system. Choose another with --port."
            ) from error
        except OSError as error:
            raise Unavailable(
                f"Port {port} is taken by another program. Choose another: ./start --port {port % 65535 + 1}"
            ) from error


def _prepare(logins: Logins, demo: bool) -> None:
    builder = connect(logins.builder)
    try:
        migrate(builder)
        if demo and not quilts.listed(builder, quilts.LOCAL_OWNER):
            for quilt in reversed(demo_quilts()):  # the first is listed first
                quilts.add(builder, quilts.LOCAL_OWNER, quilt)
    finally:
        builder.close()


def _serve(logins: Logins, port: int) -> None:
    gc.set_threshold(*RARELY)
    app = create_app(Settings(Pool(logins.app), ROOT / "ui" / "dist"))
    server = waitress.create_server(app, host=HOST, port=port, threads=6, ident=None)
    print(f"Kenzet is ready: http://{HOST}:{port}   (Ctrl-C stops it)", flush=True)
    try:
        server.run()
    finally:
        server.close()


if __name__ == "__main__":
    sys.exit(main())
