"""A user of a Tirante that runs, as its page would be one: JSON over HTTP, by the standard library alone."""

from __future__ import annotations

import json
import urllib.request
import uuid
from http.client import HTTPException
from typing import Any


def new() -> str:
    """An id, made by the client."""
    return str(uuid.uuid4())


class Client:
    """Asks a server at an address."""

    def __init__(self, address: str, timeout: float = 30.0) -> None:
        self.address, self.timeout = address.rstrip("/"), timeout

    def ask(self, method: str, path: str, body: Any = None, **headers: str) -> Any:
        """The answer's JSON.

        Raises:
            OSError: no answer, or one that is no success (urllib's `HTTPError`).
        """
        request = urllib.request.Request(
            self.address + path, None if body is None else json.dumps(body).encode(), method=method,
            headers={"Content-Type": "application/json", **{name.replace("_", "-"): value for name, value in headers.items()}},
        )  # fmt: skip
        try:
            with urllib.request.urlopen(request, timeout=self.timeout) as answer:
                return json.loads(answer.read())
        except HTTPException as error:  # an answer that broke off
            raise OSError(str(error)) from error

    def get(self, path: str) -> Any:
        """Ask for something."""
        return self.ask("GET", path)

    def post(self, path: str, body: Any) -> Any:
        """Have something done."""
        return self.ask("POST", path, body)

    def save(self, job_id: str, version: int, design: Any, save_id: str) -> int:
        """Save a draft; its new version."""
        found = self.ask(
            "PUT", f"/api/jobs/{job_id}/draft", {"save_id": save_id, "design": design}, If_Match=str(version)
        )
        return int(found["version"])
