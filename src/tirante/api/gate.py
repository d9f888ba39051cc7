"""A gate before the work of the core: a few at a time, and of those that wait the newest goes first."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from tirante.api.problems import Refused


class Gate:
    """Lets `places` callers in at once; waiting what-ifs are served newest first, and only `queue` may wait."""

    def __init__(self, places: int = 2, queue: int = 16) -> None:
        self._free = places
        self._queue = queue
        self._waiting: list[threading.Event] = []
        self._lock = threading.Lock()

    @contextmanager
    def enter(self) -> Iterator[None]:
        """Hold a place.

        Raises:
            Refused: 503, too many wait already.
        """
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
            turn.wait()
        try:
            yield
        finally:
            with self._lock:
                if self._waiting:
                    self._waiting.pop().set()  # the place passes on
                else:
                    self._free += 1
