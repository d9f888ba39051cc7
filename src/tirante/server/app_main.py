"""The web server's process: `python -m tirante.server.app_main`, configured by its environment, started by the supervisor."""

from __future__ import annotations

import faulthandler
import gc
import importlib
import logging
import os
import signal
import ssl
import sys
import threading
from collections.abc import Iterable
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import TYPE_CHECKING, Any
from wsgiref.types import StartResponse, WSGIEnvironment

from flask import Flask

from tirante.api.app import Config, create_app
from tirante.api.context import OVER_LAN, Lan
from tirante.cli import answer
from tirante.gauges.read import ports
from tirante.storage.pool import Credentials, Database

if TYPE_CHECKING:
    from waitress.server import BaseWSGIServer

LIMITS: dict[str, Any] = {"ident": None, "channel_request_lookahead": 1, "max_request_body_size": 16_000_000, "channel_timeout": 60}  # fmt: skip


def credentials_from_environment() -> Credentials:
    """As the supervisor passes them."""
    return Credentials(
        host=os.environ.get("TIRANTE_DB_HOST", "127.0.0.1"),
        port=int(os.environ["TIRANTE_DB_PORT"]),
        user=os.environ["TIRANTE_DB_USER"],
        password=os.environ["TIRANTE_DB_PASSWORD"],
        database=os.environ["TIRANTE_DB_NAME"],
    )


ASKED_FIRST = (
    "tirante.core.suspension.shown.drawn", "tirante.core.suspension.shown.scene", "tirante.core.suspension.shown.lengths", "tirante.core.suspension.shown.measures_shown",
    "tirante.core.loads.end_loads", "tirante.core.job.evaluate",
)  # fmt: skip


def log_to(file: str | None, name: str) -> None:
    """Write the log to a file; each process to its own, since one turns it over by itself.

    Args:
        file: of the web server; None: no log.
        name: of the process.
    """
    if file:
        path = Path(file).with_stem(name)
        handler = RotatingFileHandler(path, maxBytes=1_000_000, backupCount=3)
        handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
        logging.basicConfig(level=logging.INFO, handlers=[handler])


def tell_threads_to(file: str | None) -> None:
    """On SIGUSR1 what every thread is at goes to a file beside the log, `threads.txt`: for a server that does not answer.

    Args:
        file: the log; None: there is none.
    """
    if file:
        told = Path(file).with_name("threads.txt").open("a")
        faulthandler.register(signal.SIGUSR1, told, all_threads=True)


def warm() -> None:
    """Load what the first page will ask for, and keep it out of the collector's rounds.

    A full round over the code of numpy and the core takes tens of milliseconds, in the middle of somebody's edit; none of it
    is ever garbage.
    """
    for name in ASKED_FIRST:
        importlib.import_module(name)
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 20)  # results are many small objects that live long: rounds over them find nothing


def lan_from_environment() -> Lan | None:
    """The shop's network, as the supervisor passes it; None: it is not served."""
    host = os.environ.get("TIRANTE_LAN", "")
    if not host:
        return None
    return Lan(host=host, authority=ssl.PEM_cert_to_DER_cert(Path(os.environ["TIRANTE_LAN_AUTHORITY"]).read_text()))


def serve_lan(app: Flask, path: str) -> BaseWSGIServer:
    """Serve the shop's network, beside this machine itself: what TLS hands on comes by a socket that nobody else may open, and is marked so.

    Args:
        app: the application.
        path: of the socket.
    """
    from waitress import create_server

    def marked(environ: WSGIEnvironment, start_response: StartResponse) -> Iterable[bytes]:
        return app(environ | {OVER_LAN: True}, start_response)

    Path(path).unlink(missing_ok=True)
    server: BaseWSGIServer = create_server(marked, unix_socket=path, unix_socket_perms="600", url_scheme="https", threads=6, **LIMITS)  # fmt: skip
    threading.Thread(target=server.run, name="lan", daemon=True).start()
    return server


def main() -> int:
    """Serve until told to stop."""
    from waitress import create_server

    log_to(os.environ.get("TIRANTE_LOG"), "server")
    tell_threads_to(os.environ.get("TIRANTE_LOG"))
    sys.setswitchinterval(0.001)  # a short request beside a long one waits a millisecond for its turn, not five
    static = os.environ.get("TIRANTE_STATIC")
    database = Database(credentials_from_environment())
    app = create_app(
        Config(
            database=database,
            answers=answer,
            static=Path(static) if static else None,
            gauges=ports(os.environ.get("TIRANTE_GAUGES", "")),
            instance=os.environ.get("TIRANTE_INSTANCE", ""),
            address=os.environ.get("TIRANTE_SHOP_ADDRESS", "").rstrip("/"),
            lan=lan_from_environment(),
        )
    )
    server = create_server(app, host="127.0.0.1", port=int(os.environ["TIRANTE_PORT"]), threads=6, **LIMITS)
    lan = serve_lan(app, os.environ["TIRANTE_LAN_SOCKET"]) if os.environ.get("TIRANTE_LAN_SOCKET") else None

    def stop(_signal: int, _frame: object) -> None:
        raise SystemExit(0)

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the supervisor stops this process, in order
    threading.Thread(target=warm, name="warm", daemon=True).start()
    try:
        server.run()
    except SystemExit:
        pass
    finally:
        server.close()
        if lan is not None:
            lan.close()
        database.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
