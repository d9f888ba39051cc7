"""The Flask application: blueprints, errors, security headers, and the built front end."""

from __future__ import annotations

import gzip
import logging
import mimetypes
import secrets
import uuid
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from flask import Flask, Response, g, request, send_from_directory
from werkzeug.exceptions import HTTPException

from tirante.api import (
    alignment,
    bench,
    brackets,
    built,
    catalogue,
    changes,
    designs,
    devices,
    ends,
    forms,
    gauges,
    jigs,
    jobs,
    lengths,
    loads,
    made,
    measured,
    order,
    packs,
    people,
    pictures,
    prints,
    rack,
    reviews,
    rights,
    sawing,
    screens,
    sizing,
    studies,
    survey,
    tasks,
    traveller,
)
from tirante.api.context import Answers, Lan, Services, over_lan, services
from tirante.api.problems import Problem, Refused, of_error
from tirante.api.routing import MAX_BODY, OPERATIONS
from tirante.api.signed_in import guard
from tirante.gauges.read import PORTS
from tirante.shipped import the_shelf
from tirante.storage.drafts import Stale
from tirante.storage.pool import Database

log = logging.getLogger("tirante")
NONCE_PLACE = "__NONCE__"  # what the built page holds where the nonce goes


@dataclass(frozen=True, slots=True, kw_only=True)
class Config:
    """What the application is started with."""

    database: Database
    answers: Answers  # the command line's calculations, so that a page shows what it gives
    static: Path | None = None
    address: str = ""  # of the shop, that codes on sheets open; empty: this machine's
    lan: Lan | None = None  # None: this machine alone is served
    gauges: Mapping[str, int] = field(default_factory=lambda: dict(PORTS))  # each with its port on this machine
    instance: str = ""  # told by who started it, so that it is not taken for another
    hosts: frozenset[str] = field(default_factory=lambda: frozenset({"127.0.0.1", "localhost", "[::1]"}))


_HTTP_WORDS = {
    400: ("bad_request", "The request could not be read."),
    404: ("not_found", "There is nothing at this address."),
    405: ("method_not_allowed", "This address does not do that."),
    408: ("timed_out", "The request took too long to arrive."),
    413: ("too_large", "That is larger than 1 MB. Split it, or remove what is not needed."),
}


def create_app(config: Config) -> Flask:
    """An application on a database; nothing global."""
    app = Flask("tirante", static_folder=None)
    app.config.update(MAX_CONTENT_LENGTH=MAX_BODY, PROPAGATE_EXCEPTIONS=False)
    app.url_map.strict_slashes = False
    app.extensions["tirante"] = Services(
        database=config.database,
        shelf=the_shelf(),
        answers=config.answers,
        address=config.address,
        lan=config.lan,
        gauges=config.gauges,
    )
    for module in (
        jobs,
        changes,
        bench,
        traveller,
        brackets,
        jigs,
        designs,
        ends,
        forms,
        studies,
        built,
        survey,
        loads,
        gauges,
        made,
        measured,
        alignment,
        screens,
        sizing,
        tasks,
        catalogue,
        lengths,
        packs,
        people,
        devices,
        pictures,
        rack,
        reviews,
        sawing,
        prints,
        order,
    ):
        app.register_blueprint(module.blueprint)
    rights.check()
    _guard(app, config)
    guard(app)
    _errors(app)

    @app.get("/api/health")
    def health() -> tuple[dict[str, Any], int]:
        good = services().database.answers()
        return {"database": good, "instance": config.instance}, 200 if good else 503

    _pages(app, config)
    return app


def _host_of(value: str) -> str:
    return value.rsplit(":", 1)[0] if not value.endswith("]") else value


def _netloc(origin: str) -> str | None:
    """Host and port of an Origin; None for what is no address."""
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None


def _is_own(origin: str, host: str) -> bool:
    """Whether a page's origin is this server as it was asked; over the shop's network with its scheme too."""
    return origin == f"https://{host}" if over_lan() else _netloc(origin) == host


def _guard(app: Flask, config: Config) -> None:
    @app.before_request
    def begin() -> None:
        if request.path in PICTURES:
            services().first.begin()
        elif request.method == "POST":
            services().first.anew()
            services().first.pause()  # reading a job takes as long as drawing it

    @app.teardown_request
    def end(_error: BaseException | None) -> None:
        services().first.end()

    @app.before_request
    def check() -> None:
        g.request_id = uuid.uuid4().hex[:12]
        g.nonce = secrets.token_urlsafe(16)
        host = request.headers.get("Host", "")
        if over_lan():
            if config.lan is None or host != config.lan.host:
                raise Refused(421, "wrong_host", "This server answers to its own address only.")
        elif _host_of(host) not in config.hosts:
            raise Refused(421, "wrong_host", "This server answers on this machine only.")
        own = request.headers.get("Sec-Fetch-Site", "same-origin") in ("same-origin", "none")
        if request.method in ("GET", "HEAD", "OPTIONS"):
            # a link on a foreign page may open this one, and make no pack: that would seal a revision
            if not own and request.path.startswith("/api/"):
                raise Refused(403, "wrong_origin", "That came from another page.")
            return
        origin = request.headers.get("Origin")
        if not own or (origin is not None and not _is_own(origin, host)):
            raise Refused(403, "wrong_origin", "That came from another page.")
        takes = TAKES.get(str(request.endpoint).rpartition(".")[2], ("application/json",))
        if request.routing_exception is None and request.mimetype not in takes:
            if request.endpoint == "pictures.add_picture":
                raise Refused(415, "no_picture", "Send a JPEG, PNG or WebP, with its type as Content-Type.", "picture")
            raise Refused(415, "not_json", "Send JSON, with Content-Type: application/json.")

    @app.after_request
    def harden(response: Response) -> Response:
        headers = response.headers
        headers["X-Content-Type-Options"] = "nosniff"
        headers["X-Frame-Options"] = "DENY"
        headers["Referrer-Policy"] = "no-referrer"
        headers["Cross-Origin-Opener-Policy"] = "same-origin"
        headers["Cross-Origin-Resource-Policy"] = "same-origin"
        headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()"
        headers["Content-Security-Policy"] = (
            f"default-src 'self'; style-src 'self' 'nonce-{g.nonce}'; img-src 'self' data:; object-src 'none'; "
            "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
        )
        if request.path.startswith("/api/"):
            headers["Cache-Control"] = "no-store"
            _packed(response)
        headers["X-Request-Id"] = g.request_id
        return response


TAKES = {entry.name: entry.takes for entry in OPERATIONS if entry.takes}  # by the route’s name, files in place of JSON
PICTURES = ("/api/study/drawing", "/api/draw")  # what an edit waits for
PACK_FROM = 4096  # bytes: what is smaller comes in a packet or three anyway


def _packed(response: Response) -> None:
    """What is read and is long goes over the line packed: a phone at the saw is on the shop's wireless. Answers to an edit do not wait for it."""
    if (
        request.method == "GET"
        and response.status_code == 200
        and response.mimetype == "application/json"
        and not response.direct_passthrough
        and "Content-Encoding" not in response.headers
        and "gzip" in request.headers.get("Accept-Encoding", "")
        and (response.content_length or 0) > PACK_FROM
    ):
        response.set_data(gzip.compress(response.get_data(), 5, mtime=0))
        response.headers["Content-Encoding"] = "gzip"
        response.headers.add("Vary", "Accept-Encoding")


def _errors(app: Flask) -> None:
    def answer(status: int, found: Problem) -> Response:
        found = found.model_copy(update={"request_id": g.get("request_id")})
        return Response(found.model_dump_json(), status=status, mimetype="application/json")

    @app.errorhandler(Exception)
    def handle(error: Exception) -> Response:
        if isinstance(error, HTTPException):
            status = error.code or 500
            code, message = _HTTP_WORDS.get(status, ("refused", "That is not possible here."))
            return answer(status, Problem(code=code, message=message))
        known = of_error(error)
        if known is None:
            log.exception("request %s failed", g.get("request_id"))
            message = "Something went wrong here, not with what you typed. Your work is kept on this page; try again."
            return answer(500, Problem(code="internal", message=message))
        status, found = known
        if isinstance(error, Stale):
            current = jobs.draft_out(error.current).model_dump(mode="json")
            found = found.model_copy(update={"current": current})
        return answer(status, found)


def _pages(app: Flask, config: Config) -> None:
    static = config.static

    @app.get("/assets/<path:name>")
    def asset(name: str) -> Response:
        if static is None:
            raise Refused(404, "not_found", "There is nothing at this address.")
        packed = f"{name}.gz"
        if "gzip" in request.headers.get("Accept-Encoding", "") and (static / "assets").joinpath(packed).is_file():
            response = send_from_directory(static / "assets", packed, mimetype=mimetypes.guess_type(name)[0])
            response.headers["Content-Encoding"] = "gzip"
        else:
            response = send_from_directory(static / "assets", name)
        response.headers["Vary"] = "Accept-Encoding"
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response

    @app.get("/")
    @app.get("/<path:path>")
    def page(path: str = "") -> Response:
        if path.startswith(("api/", "assets/")) or static is None:
            raise Refused(404, "not_found", "There is nothing at this address.")
        if path in ("favicon.svg", "favicon.ico"):
            return send_from_directory(static, "favicon.svg")
        if path == "away.js":  # what a phone keeps for when the server is away; looked after at every visit
            kept = send_from_directory(static, path, mimetype="text/javascript")
            kept.headers["Cache-Control"] = "no-cache"
            return kept
        text = (static / "index.html").read_text().replace(NONCE_PLACE, g.nonce)
        response = Response(text, mimetype="text/html")
        response.headers["Cache-Control"] = "no-cache"
        return response
