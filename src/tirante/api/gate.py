"""A gate before the work of the core: one at a time (two would only take turns), and of those that wait the newest goes first.

Who has gone (a page that asks anew aborts what it asked before) is not worked for.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager, nullcontext

from flask import has_request_context, request

from tirante.api.problems import Refused

LOOK_S = 0.1  # how often one that waits is looked after


def gone() -> bool:
    """Whether whoever asked does not listen any more, where the web server can tell; what is to be saved is saved all the same."""
    if not has_request_context() or (request.method != "GET" and request.path.startswith("/api/jobs")):
        return False
    told = request.environ.get("waitress.client_disconnected")
    return bool(told and told())


class Gate:
    """Lets `places` callers in at once; waiting what-ifs are served newest first, and only `queue` may wait."""

    def __init__(self, places: int = 1, queue: int = 16) -> None:
        self.waiting: Callable[[], AbstractContextManager[None]] = nullcontext  # held while one waits here
        self._free = places
        self._queue = queue
        self._waiting: list[threading.Event] = []
        self._lock = threading.Lock()

    @contextmanager
    def enter(self) -> Iterator[None]:
        """Hold a place.

        Raises:
            Refused: 503, too many wait already; 499, nobody listens any more.
        """
        if gone():
            raise _nobody()
        turn: threading.Event | None = None
        with self._lock:
            if self._free:
                self._free -= 1
            elif len(self._waiting) >= self._queue:
                raise Refused(503, "busy", "Too much is being worked out at once. It will be tried again.")
            else:
                turn = threading.Event()
                self._waiting.append(turn)
        if turn is not None:
            with self.waiting():
                self._wait(turn)
        try:
            yield
        finally:
            with self._lock:
                if self._waiting:
                    self._waiting.pop().set()  # the place passes on
                else:
                    self._free += 1

    def _wait(self, turn: threading.Event) -> None:
        while not turn.wait(LOOK_S):
            if gone():
                with self._lock:
                    if turn in self._waiting:
                        self._waiting.remove(turn)
                        raise _nobody()


def _nobody() -> Refused:
    return Refused(499, "gone", "Whoever asked has gone; nothing was worked out.")
