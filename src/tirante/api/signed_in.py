"""Who asks: nobody is asked for a name while one person works here; once anybody has an account, everything but signing in asks for one."""

from __future__ import annotations

import hmac

from flask import Flask, g, request

from tirante.api.context import now, over_lan, services
from tirante.api.problems import Refused
from tirante.api.rights import MAY, ROLES, WORDS, right_of
from tirante.storage import devices, people
from tirante.storage.devices import Device
from tirante.storage.people import SignedIn

COOKIE = "tirante_session"
DEVICE = "__Host-tirante_device"  # what a paired phone has: over TLS alone, for this host alone
UNPAIRED = frozenset({"me", "pair", "authority"})  # asked before a phone is paired


def session_cookie() -> str:
    """Name of the session's cookie: over the shop's network one that a browser takes by TLS alone, and for this host alone."""
    return f"__Host-{COOKIE}" if over_lan() else COOKIE


def device() -> Device | None:
    """The paired phone that asks; None: it is not paired, or what asks is this machine itself."""
    found: Device | None = g.get("device")
    return found


def signed_in() -> SignedIn | None:
    """Who is signed in; None where nobody is, or nobody has an account."""
    found: SignedIn | None = g.get("signed_in")
    return found


def let_in(found: Device) -> None:
    """Take what asks for a phone that was paired just now.

    Args:
        found: which.
    """
    g.device = found


def must_be_signed_in() -> SignedIn:
    """Who is signed in.

    Raises:
        Refused: 403, nobody has an account here yet.
    """
    found = signed_in()
    if found is None:
        raise Refused(403, "no_accounts", "Signing needs people with accounts: a second one who looks, and a password each. Make them under People.")  # fmt: skip
    return found


def guard(app: Flask) -> None:
    """Look before every route of the API who asks, and whether that one may.

    Args:
        app: the application.
    """

    @app.before_request
    def look() -> None:
        g.signed_in = g.device = None
        if not request.path.startswith("/api/") or request.endpoint in (None, "health"):
            return
        name = str(request.endpoint).rpartition(".")[2]
        asked = right_of(name, request.method)
        token, held = request.cookies.get(session_cookie(), ""), request.cookies.get(DEVICE, "")
        with services().database.transaction() as connection:
            if not services().anybody:
                services().anybody = people.anybody(connection)
            if not services().anybody:
                if over_lan():  # it is not served without accounts; they may have gone with a backup that was put back
                    raise Refused(403, "no_accounts", "Nobody has an account here. Make the first owner at the machine itself.")  # fmt: skip
                return
            if over_lan():
                g.device = devices.known(connection, held, now()) if held.isascii() and held else None
                if g.device is None and name not in UNPAIRED:
                    raise Refused(401, "not_paired", "This phone is not let in, or not any more. Pair it with a code from an owner.")  # fmt: skip
            on = g.device.id if g.device else None
            listened = token.isascii() and token and (g.device is not None or not over_lan())
            found = people.who(connection, token, now(), on) if listened else None
        if found is None:
            if asked is None:
                return
            raise Refused(401, "sign_in", "Sign in first. What is on this page is kept.")
        g.signed_in = found
        unsafe = request.method not in ("GET", "HEAD", "OPTIONS")
        given = request.headers.get("X-Csrf", "")
        if unsafe and asked is not None and not hmac.compare_digest(given.encode(), found.csrf.encode()):
            raise Refused(403, "csrf", "That came without this session’s own mark. Load the page again.")
        if asked is not None and asked not in MAY[found.person.role]:
            may = ", ".join(ROLES[role] for role, rights in MAY.items() if asked in rights)
            raise Refused(403, "not_yours", f"{found.person.name} is signed in as {ROLES[found.person.role]}, who may not {WORDS[asked]}. That may: {may}.")  # fmt: skip
