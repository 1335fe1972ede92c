"""Reads files from elsewhere in a separate process, so that a small file cannot exhaust the server.

The process has limited time and memory; if it exceeds them it is killed, and the file is refused. It is forked
from a server process without threads, database or secrets that has the readers loaded, and imports nothing itself:
that would be the program's main module, unless it is called ``__main__.py`` as ours is.
"""

from __future__ import annotations

import multiprocessing
import resource
import time
from collections.abc import Callable
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TypeVar

from kenzet.core import errors
from kenzet.core.errors import BadValue, KenzetError, Unavailable
from kenzet.texts import tr

SECONDS = 4.0
MEMORY = 500_000_000
_START_S = 30.0  # for the server to be loaded, once
_PRELOAD = [f"kenzet.formats.{name}" for name in ("apart", "readers", "svg_in", "dxf_in", "photo")]
T = TypeVar("T")


def apart(read: Callable[..., T], *args: Any, what: str = tr("This file"), seconds: float = SECONDS) -> T:
    """The result of ``read(*args)``; function, arguments and result are pickled.

    Raises what it raises of our own errors, and BadValue at ``file`` if it takes longer than ``seconds`` or more
    than ``MEMORY`` bytes.
    """
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(_PRELOAD)
    receive, send = context.Pipe(duplex=False)
    process = context.Process(target=_run, args=(send, read, args), daemon=True)
    process.start()
    send.close()
    try:
        if not receive.poll(_START_S) or _received(receive) != ("begun",):
            raise Unavailable(tr("{what} could not be read just now. Please try again.", what=what))
        if not receive.poll(seconds):
            raise BadValue(
                tr(
                    "{what} takes longer than {seconds} seconds to read. Make it simpler.",
                    what=what,
                    seconds=f"{seconds:g}",
                ),
                "file",
            )
        told = _received(receive)
    finally:
        process.kill()
        process.join()
        receive.close()
    if told is None or told[0] == "large":
        raise BadValue(tr("{what} needs more memory than there is. Make it simpler.", what=what), "file")
    if told[0] == "refused":
        raise getattr(errors, told[1])(told[2], told[3])
    if told[0] == "fault":
        raise BadValue(tr("{what} cannot be read.", what=what), "file")
    found: T = told[1]
    return found


def _received(receive: Connection) -> Any:
    """The received value; None if the process ended without sending one."""
    try:
        return receive.recv()
    except EOFError:
        return None


def _run(send: Connection, read: Callable[..., Any], args: tuple[Any, ...]) -> None:
    """Runs in the process: sets the limits, then reads."""
    pages = int(Path("/proc/self/statm").read_text(encoding="ascii").split()[0])
    most = pages * resource.getpagesize() + MEMORY
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    send.send(("begun",))
    told: tuple[Any, ...]
    try:
        told = ("read", read(*args))
    except KenzetError as error:
        told = ("refused", type(error).__name__, error.message, error.field)
    except (MemoryError, RecursionError):
        told = ("large",)
    except Exception:  # a library's own words help nobody
        told = ("fault",)
    send.send(told)
    time.sleep(0)
