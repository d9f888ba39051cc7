"""Who asks: nobody is asked for a name while one person works here; once anybody has an account, everything but signing in asks for one."""

from __future__ import annotations

import hmac

from flask import Flask, g, request

from tirante.api.context import now, services
from tirante.api.problems import Refused
from tirante.api.rights import MAY, ROLES, WORDS, right_of
from tirante.storage import people
from tirante.storage.people import SignedIn

COOKIE = "tirante_session"


def signed_in() -> SignedIn | None:
    """Who is signed in; None where nobody is, or nobody has an account."""
    found: SignedIn | None = g.get("signed_in")
    return found


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
        g.signed_in = None
        if not request.path.startswith("/api/") or request.endpoint in (None, "health"):
            return
        asked = right_of(str(request.endpoint).rpartition(".")[2], request.method)
        token = request.cookies.get(COOKIE, "")
        with services().database.transaction() as connection:
            if not services().anybody:
                services().anybody = people.anybody(connection)
            if not services().anybody:
                return
            found = people.who(connection, token, now()) if token.isascii() and token else None
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
