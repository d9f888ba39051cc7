"""`./tirante demo | serve | backup | restore`: starts MariaDB and the web server, watches them, stops them in order.

One runs at a time on a folder: a second start prints where the first one runs. Whatever way this process ends, its
children end too.
"""

from __future__ import annotations

import argparse
import fcntl
import json
import os
import secrets
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from tirante.server.authority import Address
from tirante.server.lan import PORT as LAN_PORT
from tirante.server.lan import NotServed, Tls, address_of, must_be_free
from tirante.server.mariadb import DATABASE, BadDump, Instance, StartFailed, die_with_parent, free_port
from tirante.storage import deeds, people
from tirante.storage.pool import Credentials, Database

ROOT = Path(__file__).resolve().parents[3]
PREFERRED_PORT = 8720
SERVER, WORKER = "tirante.server.app_main", "tirante.server.worker"


def home() -> Path:
    """The one folder that holds everything made here."""
    return Path(os.environ.get("TIRANTE_HOME", ROOT / ".tirante"))


def _say(text: str) -> None:
    print(text, flush=True)


class _Stop(Exception):  # noqa: N818
    """A signal asked for the end."""


def _raise_stop(_signal: int, _frame: object) -> None:
    raise _Stop


def _take_lock(folder: Path) -> IO[str] | None:
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    stream = (folder / "run.lock").open("a+")
    try:
        fcntl.flock(stream, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        stream.close()
        return None
    return stream


def _running(folder: Path) -> dict[str, Any] | None:
    """What a running one says of itself: address, socket, processes."""
    try:
        found = json.loads((folder / "run.json").read_text())
    except (OSError, ValueError):
        return None
    return found if isinstance(found, dict) else None


def _running_at(folder: Path) -> str | None:
    found = _running(folder)
    return str(found.get("address")) if found else None


def _choose_port(asked: int | None) -> int:
    if asked:
        if not _free(asked):
            raise StartFailed(
                f"Port {asked} is taken by another program. Give another one, or none: then a free one is found."
            )
        return asked
    return PREFERRED_PORT if _free(PREFERRED_PORT) else free_port()


def _free(port: int) -> bool:
    import socket

    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _port(text: str) -> int:
    """A port as the command line takes it.

    Raises:
        ArgumentTypeError: no number from 1 to 65535.
    """
    if not (text.isascii() and text.isdigit() and 1 <= int(text[:6]) <= 65_535):
        raise argparse.ArgumentTypeError(
            f"“{text[:20]}” is no port. Give a whole number from 1 to 65535, 1024 or more for an ordinary user."
        )
    return int(text)


def _address(text: str) -> Address:
    """An address as the command line takes it.

    Raises:
        ArgumentTypeError: it is not served.
    """
    try:
        return address_of(text)
    except NotServed as error:
        raise argparse.ArgumentTypeError(str(error)) from None


def environment_of(credentials: Credentials, port: int, folder: Path) -> dict[str, str]:
    """What a process of the server is told: its database, its port, where its log goes.

    Args:
        credentials: of the database.
        port: where the web server listens.
        folder: of the logs.
    """
    return {
        **os.environ,
        "TIRANTE_DB_PORT": str(credentials.port),
        "TIRANTE_DB_USER": credentials.user,
        "TIRANTE_DB_PASSWORD": credentials.password,
        "TIRANTE_DB_NAME": credentials.database,
        "TIRANTE_PORT": str(port),
        "TIRANTE_LOG": str(folder / "server.log"),
        "OPENBLAS_NUM_THREADS": "1",
        "PYTHONPATH": str(ROOT / "src"),
    }


def start_process(environment: dict[str, str], module: str = SERVER) -> subprocess.Popen[bytes]:
    """A process of the server; it ends with this one."""
    return subprocess.Popen(
        [sys.executable, "-m", module],
        env=environment,
        stdin=subprocess.DEVNULL,
        preexec_fn=die_with_parent,
        start_new_session=True,
    )


def await_server(process: subprocess.Popen[bytes], port: int, token: str) -> None:
    """Wait until the web server answers.

    Args:
        process: the web server's.
        port: where it listens.
        token: what it was told to call itself: another program may hold the port.

    Raises:
        StartFailed: it ended, or does not answer.
    """
    end = time.monotonic() + 30
    while time.monotonic() < end:
        if process.poll() is not None:
            break
        if _answers(port, token, seconds=2):
            return
        time.sleep(0.05)
    raise StartFailed(f"The web server did not start on port {port}; see its log in {home()}.")


def _answers(port: int, token: str, seconds: float) -> bool:
    """Whether the web server answers, and is the one started here: another program may hold the port by now."""
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=seconds) as answer:
            return bool(json.loads(answer.read()).get("instance") == token)
    except urllib.error.HTTPError as error:  # it answers, and the database does not
        return error.code == 503
    except (urllib.error.URLError, OSError, ValueError):
        return False


class _Watched:
    """The web server as it is watched: whether it still answers, and how long it has not."""

    LOOK_EVERY, HANGS_AFTER = 5.0, 45.0  # [s] a search of the whole catalogue is no hang: it yields to short requests

    def __init__(self, port: int, token: str) -> None:
        self.port, self.token = port, token
        self.rest()

    def rest(self) -> None:
        """It was just started."""
        self.looked = self.good = time.monotonic()

    def hangs(self) -> bool:
        """Whether it has not answered for so long that it will not."""
        now = time.monotonic()
        if now - self.looked >= self.LOOK_EVERY:
            if _answers(self.port, self.token, seconds=self.LOOK_EVERY):
                self.good = time.monotonic()
            self.looked = time.monotonic()
        return self.looked - self.good > self.HANGS_AFTER


def _again(what: str, start: Callable[[], None]) -> None:
    """Start something until it starts: a full disk or a short memory may pass, and what runs must not end with it."""
    pause = 0.5
    while True:
        try:
            start()
        except (StartFailed, OSError) as error:
            _say(f"{what} does not start yet: {error} Trying again in {pause:g} s.")
            time.sleep(pause)
            pause = min(30.0, pause * 2)
        else:
            return


def stop_process(process: subprocess.Popen[bytes] | None) -> None:
    """End a process, by force where it does not end by itself."""
    if process and process.poll() is None:
        process.terminate()
        try:
            process.wait(10)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()


def _lan(folder: Path, credentials: Credentials, at: tuple[Address, int], socket: str) -> Tls:
    """The shop's network, ready to be served.

    Raises:
        NotServed: nobody has an account, or the address is not this machine's.
    """
    must_be_free(*at)
    store = Database(credentials, connections=1)
    try:
        with store.transaction() as connection:
            if not people.anybody(connection):
                raise NotServed(
                    "A network is served only with accounts, and nobody has one yet. Start without --lan, make the first owner under People, and start again."
                )
    finally:
        store.close()
    return Tls(folder, at[0], at[1], socket)


def _told(tls: Tls) -> dict[str, str]:
    """What the web server is told of the network."""
    host = tls.host
    return {"TIRANTE_LAN": host, "TIRANTE_LAN_SOCKET": tls.to, "TIRANTE_LAN_AUTHORITY": str(tls.made.authority), "TIRANTE_SHOP_ADDRESS": f"https://{host}"}  # fmt: skip


def run(folder: Path, port: int | None, *, demo: bool, lan: tuple[Address, int] | None = None) -> int:
    """Serve until a signal; returns the exit code.

    Args:
        folder: of the installation.
        port: on this machine; None: one that is free.
        demo: whether the demo jobs are loaded.
        lan: address and port in the shop's network; None: this machine alone.
    """
    lock = _take_lock(folder)
    if lock is None:
        address = None
        for _ in range(100):  # the other one may be on its way up
            address = _running_at(folder)
            if address:
                break
            time.sleep(0.1)
        _say(f"Tirante runs already at {address}" if address else "Another start of Tirante is under way.")
        return 0
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _raise_stop)
    database = Instance(folder)
    server: subprocess.Popen[bytes] | None = None
    worker: subprocess.Popen[bytes] | None = None
    tls: Tls | None = None
    marker = folder / "run.json"
    marker.unlink(missing_ok=True)
    try:
        database.start()
        credentials, applied = database.bootstrap()
        if applied:
            _say(f"Database prepared: {len(applied)} migrations.")
        _fill(credentials, demo)
        chosen = _choose_port(port)
        token = secrets.token_urlsafe(16)
        environment = environment_of(credentials, chosen, folder) | {"TIRANTE_INSTANCE": token}
        if lan is not None:
            tls = _lan(folder, credentials, lan, f"{Path(database.socket).parent}/lan")
            environment |= _told(tls)
        server = start_process(environment)
        await_server(server, chosen, token)
        watched = _Watched(chosen, token)
        worker = start_process(environment, WORKER)
        address = f"http://127.0.0.1:{chosen}/"
        if tls is not None:
            tls.start()
        _mark(marker, address, database, server, worker, tls)
        _say(f"Tirante is ready: {address}")
        if tls is not None:
            _say(f"In the shop’s network: https://{tls.host}/ — let phones in under People.")
        _say("Ctrl-C stops it; what you saved stays.")
        while True:
            time.sleep(0.3)
            if not database.alive():
                _say("MariaDB stopped; starting it again.")
                _again("MariaDB", database.start)
                watched.rest()
                _mark(marker, address, database, server, worker, tls)
            if worker.poll() is not None:
                _say("The worker for searches stopped; starting it again.")
                time.sleep(0.5)
                worker = start_process(environment, WORKER)
                _mark(marker, address, database, server, worker, tls)
            renewed = tls is not None and tls.renewed()
            if tls is not None and (renewed or not tls.alive()):
                _say("The shop’s network is served anew.")
                if renewed:
                    stop_process(server)  # it tells phones the authority's fingerprint, which may be another now
                stop_process(tls.process)
                _again("The shop’s network", tls.start)
                _mark(marker, address, database, server, worker, tls)
            if server.poll() is None and watched.hangs():
                _say("The web server does not answer; starting it again.")
                stop_process(server)
            if server.poll() is not None:
                _say("The web server stopped; starting it again.")
                time.sleep(0.5)
                server = start_process(environment)
                watched.rest()
                _mark(marker, address, database, server, worker, tls)
    except (_Stop, KeyboardInterrupt):
        return 0
    except (StartFailed, NotServed) as error:
        print(str(error), file=sys.stderr)
        return 1
    finally:
        for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            signal.signal(number, signal.SIG_IGN)  # once is enough; the end runs to its end
        stop_process(tls.process if tls is not None else None)
        stop_process(worker)
        stop_process(server)
        database.stop()
        marker.unlink(missing_ok=True)
        lock.close()


def _mark(
    marker: Path, address: str, database: Instance, server: subprocess.Popen[bytes], worker: subprocess.Popen[bytes], tls: Tls | None = None
) -> None:  # fmt: skip
    """Say where it runs, whole or not at all, for a second start and for whoever watches."""
    processes = {
        "pid": os.getpid(),
        "database_pid": database.process.pid if database.process else None,
        "server_pid": server.pid,
        "worker_pid": worker.pid,
        "socket": database.socket,
        "lan": f"https://{tls.host}/" if tls else None,
        "lan_pid": tls.process.pid if tls and tls.process else None,
    }
    part = marker.with_suffix(".part")
    part.write_text(json.dumps({"address": address, **processes}))
    part.rename(marker)


def _fill(credentials: Credentials, demo: bool) -> None:
    # what this needs takes seconds to load, and most starts have all that ships already; the server loads it beside
    from tirante.server.demo import load_demo, load_seeds

    pool = Database(credentials, connections=1)
    now = datetime.now(UTC).replace(tzinfo=None)
    try:
        load_seeds(pool, ROOT / "data" / "catalogue", now)
        if demo:
            loaded = load_demo(pool, ROOT / "data" / "demo", now)
            if loaded:
                from tirante.server.halfway import load_halfway

                load_halfway(pool, ROOT / "data" / "demo", loaded, datetime.now(UTC).replace(tzinfo=None))
    finally:
        pool.close()


def _with_instance(folder: Path, work: Any) -> int:
    lock = _take_lock(folder)
    if lock is None:
        print("Stop the running Tirante first.", file=sys.stderr)
        return 1
    database = Instance(folder)
    try:
        database.start()
        database.bootstrap()
        work(database)
        return 0
    finally:
        database.stop()
        lock.close()


def new_password(folder: Path, name: str) -> int:
    """Give somebody a new password, for an only owner who has forgotten theirs: whoever may stop and start it may do that.

    Args:
        folder: of the installation.
        name: as it signs.
    """
    given: list[str] = []

    def give(database: Instance) -> None:
        store = Database(database.bootstrap(DATABASE)[0], connections=1)
        time_ = datetime.now(UTC).replace(tzinfo=None)
        with store.transaction() as connection:
            one = people.named(connection, name)
            if one is not None:
                given.append("-".join(secrets.token_hex(3) for _ in range(4)))
                people.change(connection, replace(one, active=True), given[0])
                deeds.add(connection, "new password at the machine", {"name": one.name}, None, time_)
        store.close()

    code = _with_instance(folder, give)
    if code == 0 and not given:
        print(f"Nobody here is called {name}.", file=sys.stderr)
        return 1
    if given:
        _say(f"{name} signs in with {given[0]} and takes another one then, under People.")
    return code


def main(arguments: list[str]) -> int:
    """Run a command; returns the exit code."""
    parser = argparse.ArgumentParser(prog="tirante")
    commands = parser.add_subparsers(dest="command", required=True)
    for name in ("demo", "serve"):
        one = commands.add_parser(name)
        one.add_argument("--port", type=_port)
        if name == "serve":
            one.add_argument("--lan", type=_address, metavar="ADDRESS")
            one.add_argument("--lan-port", type=_port, default=LAN_PORT)
    for name in ("backup", "restore"):
        one = commands.add_parser(name)
        one.add_argument("file", type=Path)
    commands.add_parser("new-password").add_argument("name")
    options = parser.parse_args(arguments)
    folder = home()
    if options.command in ("demo", "serve"):
        lan = (options.lan, options.lan_port) if options.command == "serve" and options.lan else None
        return run(folder, options.port, demo=options.command == "demo", lan=lan)
    if options.command == "new-password":
        return new_password(folder, options.name)
    if options.command == "backup":
        idle = _take_lock(folder)
        if idle is not None:
            idle.close()
        running = _running(folder) if idle is None else None
        if running and running.get("socket"):
            # a dump reads one moment of the database; who works meanwhile is not held up
            Instance(folder).running_at(Path(running["socket"])).dump(DATABASE, options.file.resolve())
            _say(f"Backed up to {options.file}")
            return 0
        code = _with_instance(folder, lambda database: database.dump(DATABASE, options.file.resolve()))
        _say(f"Backed up to {options.file}" if code == 0 else "Nothing was backed up.")
        return code
    if not options.file.is_file():
        print(f"There is no file {options.file}.", file=sys.stderr)
        return 2

    before = folder / "backups" / f"before-restore-{time.strftime('%Y%m%d-%H%M%S')}.sql"

    def restore(database: Instance) -> None:
        database.dump(DATABASE, before)
        database.load(DATABASE, options.file)

    try:
        code = _with_instance(folder, restore)
    except BadDump as error:
        print(f"{error}\nNothing was restored, and nothing was changed.", file=sys.stderr)
        return 1
    _say(f"Restored. What was there before is in {before}." if code == 0 else "Nothing was restored.")
    return code


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
