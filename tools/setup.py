"""Sets up everything that ./start and ./test need. Standard library only: it runs before the venv is there.

Each step is skipped when its stamp says that nothing changed since; a stamp is removed before its step
and written after it, so a step that was cut off is done again.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import shutil
import subprocess
import sys
import time
from collections.abc import Iterable
from importlib.util import find_spec
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VAR = ROOT / "var"
UI = ROOT / "ui"
PYTHON = ROOT / ".venv" / "bin" / "python"
UV = ROOT / ".venv" / "bin" / "uv"
SERVER = ["mariadb-server-core", "mariadb-client-core"]
BROWSER = ["chromium"]
VENV = ["python3-venv"]  # only where the running Python has none
NODE = (20, 19)


class Sentence(Exception):
    """Why the set-up cannot go on, for a person to read."""


def main(tests: bool) -> None:
    """Do what is missing, in order; one set-up at a time."""
    try:
        VAR.mkdir(exist_ok=True)
        with (VAR / "setup.lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            debian(SERVER + (BROWSER if tests else []) + ([] if find_spec("ensurepip") else VENV))
            python("requirements-dev.lock" if tests else "requirements.lock")
            compiled()
            node_modules()
            pages()
    except Sentence as sentence:
        sys.exit(f"kenzet: {sentence}")
    except KeyboardInterrupt:
        sys.exit("kenzet: the set-up was stopped; the next start goes on with it.")
    except OSError as error:
        sys.exit(
            f"kenzet: the set-up stopped: {error.filename or ''} {error.strerror or error}. Run it again."
        )


def debian(packages: list[str]) -> None:
    """Install Debian packages that are missing, as root or through sudo."""
    missing = [name for name in packages if not _installed(name)]
    if not missing:
        return
    install = [
        "apt-get",
        "install",
        "-y",
        "-qq",
        "--no-install-recommends",
        "-o",
        "DPkg::Lock::Timeout=600",
        *missing,
    ]
    if os.geteuid() != 0:
        if (
            not shutil.which("sudo")
            or subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode
        ):
            raise Sentence(
                f"please install these first: sudo apt-get install --no-install-recommends {' '.join(missing)}"
            )
        install = ["sudo", "-n", "env", "DEBIAN_FRONTEND=noninteractive", *install]
    say(f"installing {', '.join(missing)}")
    update = [*install[: install.index("apt-get") + 1], "update", "-qq"]
    for pause in (2, 5, 10, 20, 0):  # update does not wait for its lock
        if not run(update, fails=True):
            break
        time.sleep(pause)
    run(install, what="the Debian packages could not be installed")


def _installed(name: str) -> bool:
    if not shutil.which("dpkg-query"):
        raise Sentence("this needs Debian, with dpkg and apt")
    asked = ["dpkg-query", "-W", "-f=${db:Status-Status}", name]
    return subprocess.run(asked, capture_output=True, text=True, check=False).stdout == "installed"


def python(lock: str) -> None:
    """The venv with what ``lock`` names, and this project in it; what the tests need holds all the rest."""
    stamps = {
        name: (Stamp(f"python-{name}"), _python_state(name)) for name in (lock, "requirements-dev.lock")
    }
    works = PYTHON.exists() and not run([str(PYTHON), "-c", "import kenzet"], fails=True, quiet=True)
    if works and any(stamp.says(state) for stamp, state in stamps.values()):
        return
    stamp, wanted = stamps[lock]
    stamp.remove()
    say("installing the Python packages")
    if not PYTHON.exists() or run([str(PYTHON), "-c", ""], fails=True, quiet=True):
        shutil.rmtree(ROOT / ".venv", ignore_errors=True)
        run(
            [sys.executable, "-m", "venv", str(ROOT / ".venv")],
            what="no venv could be made; on Debian: apt-get install python3-venv",
        )
    os.environ["UV_PYTHON_DOWNLOADS"] = "never"
    hashed = ["install", "-q", "--require-hashes", "-r"]
    what = "the Python packages could not be installed"
    if not UV.exists():
        run(
            [
                str(PYTHON),
                "-m",
                "pip",
                "--disable-pip-version-check",
                *hashed,
                str(ROOT / "requirements-uv.lock"),
            ],
            what=what,
        )
    uv = [str(UV), "pip"]
    run([*uv, *hashed, str(ROOT / lock), "--python", str(PYTHON)], what=what)
    run(
        [*uv, "install", "-q", "--no-deps", "--no-build-isolation", "--python", str(PYTHON), "-e", str(ROOT)],
        what=what,
    )
    stamp.write(wanted)


def _python_state(lock: str) -> str:
    return digest([ROOT / lock, ROOT / "requirements-uv.lock", ROOT / "pyproject.toml", Path(sys.executable)])


def compiled() -> None:
    """Bytecode of all that a start loads: where Python is told to write none, every start would compile it again."""
    packages = next((ROOT / ".venv" / "lib").glob("python*/site-packages"))
    source = ROOT / "src"
    files = sorted(path for path in source.rglob("*.py"))
    times = "".join(f"{path.relative_to(ROOT)} {path.stat().st_mtime_ns}\n" for path in files)
    wanted = f"{digest([ROOT / 'requirements-dev.lock', ROOT / 'requirements.lock', Path(sys.executable)])}\n{times}"
    stamp = Stamp("compiled")
    if stamp.says(wanted):
        return
    stamp.remove()
    # a package may hold a file for another Python: what cannot be compiled is left as it is
    run(
        [str(PYTHON), "-m", "compileall", "-q", "-j", "0", str(source), str(packages)], fails=True, quiet=True
    )
    stamp.write(wanted)


def node_modules() -> None:
    """What package-lock.json names."""
    _check_node()
    wanted, stamp = digest([UI / "package.json", UI / "package-lock.json"]), Stamp("node")
    if stamp.says(wanted) and (UI / "node_modules" / ".bin" / "vite").exists():
        return
    stamp.remove()
    say("installing the front end's packages")
    run(["npm", "ci", "--no-audit", "--no-fund", "--loglevel=error"], cwd=UI, what="npm ci failed")
    stamp.write(wanted)


def _check_node() -> None:
    wanted = ".".join(str(part) for part in NODE)
    if not shutil.which("node") or not shutil.which("npm"):
        raise Sentence(f"please install Node.js {wanted} or newer with npm first")
    version = subprocess.run(["node", "--version"], capture_output=True, text=True, check=True).stdout.strip()
    if tuple(int(part) for part in version.lstrip("v").split(".")[:2]) < NODE:
        raise Sentence(f"Node.js {version} is too old; {wanted} or newer is wanted")


def pages() -> None:
    """The built front end."""
    sources = [
        p
        for p in UI.rglob("*")
        if p.is_file() and not {"node_modules", "dist"} & set(p.relative_to(UI).parts)
    ]
    wanted, stamp = digest(sorted(sources)), Stamp("pages")
    if stamp.says(wanted) and (UI / "dist" / "index.html").exists():
        return
    stamp.remove()
    say("building the pages")
    run(
        ["npm", "run", "build", "--silent", "--", "--logLevel", "error"],
        cwd=UI,
        what="the pages could not be built",
    )
    stamp.write(wanted)


class Stamp:
    """A note that a step is done for a certain state of its sources."""

    def __init__(self, name: str) -> None:
        self._path = VAR / "stamps" / name

    def says(self, wanted: str) -> bool:
        """Whether the step was finished for ``wanted``."""
        return self._path.is_file() and self._path.read_text() == wanted

    def remove(self) -> None:
        """Forget it."""
        self._path.unlink(missing_ok=True)

    def write(self, wanted: str) -> None:
        """The step is finished for ``wanted``."""
        self._path.parent.mkdir(parents=True, exist_ok=True)
        self._path.write_text(wanted)


def digest(files: Iterable[Path]) -> str:
    """One hash over names and contents."""
    found = hashlib.sha256()
    for file in files:
        found.update(str(file).encode() + b"\0" + hashlib.sha256(file.read_bytes()).digest())
    return found.hexdigest()


def run(
    command: list[str], cwd: Path = ROOT, what: str = "", fails: bool = False, quiet: bool = False
) -> int:
    """Run a step; its output is shown only when it fails. With ``fails`` the exit code is given back."""
    done = subprocess.run(command, cwd=cwd, capture_output=True, text=True, check=False, env=_env())
    if done.returncode and not fails:
        sys.stderr.write(done.stdout[-3000:] + done.stderr[-3000:])
        raise Sentence(f"{what or ' '.join(command)}; what it said is above")
    if done.returncode and not quiet:
        sys.stderr.write(done.stderr[-500:])
    return done.returncode


def _env() -> dict[str, str]:
    return {**os.environ, "DEBIAN_FRONTEND": "noninteractive", "npm_config_update_notifier": "false"}


def say(words: str) -> None:
    """One line of progress."""
    print(f"kenzet: {words} …", flush=True)


if __name__ == "__main__":
    if sys.version_info < (3, 11):  # noqa: UP036
        sys.exit("kenzet: Python 3.11 or newer is wanted; on Debian 12: apt-get install python3 python3-venv")
    main(tests="--tests" in sys.argv[1:])
