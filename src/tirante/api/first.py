"""What an edit waits for goes first: while a picture is drawn, heavier work of the same process pauses between two of its stages.

Python's threads take turns at the processor, so that an evaluation beside a drawing makes that twice as long; a pause gives it all of it. A pause
is short and never holds up what the picture itself waits for: while that waits for a stage that another works out, nobody pauses.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

MOST_S = 0.15  # that others pause at most at once, however long a picture takes
ALL_S = 0.3  # and one request altogether: what holds up a picture by a lock of its own does so no longer than that


class First:
    """Who goes first, and who pauses."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._count = 0
        self._clear = threading.Event()
        self._clear.set()
        self._own = threading.local()

    @property
    def mine(self) -> bool:
        """Whether this thread goes first."""
        return bool(getattr(self._own, "goes", False))

    def begin(self) -> None:
        """This thread goes first from now on."""
        if not self.mine:
            self._own.goes = True
            self._step(1)

    def end(self) -> None:
        """It does no longer."""
        if self.mine:
            self._own.goes = False
            self._step(-1)

    def anew(self) -> None:
        """A request begins: it may pause again."""
        self._own.left = ALL_S

    def pause(self) -> None:
        """Wait while another goes first, for a short while; at once where nobody does, or this thread does itself."""
        left = getattr(self._own, "left", ALL_S)
        if self._clear.is_set() or self.mine or left <= 0:
            return
        since = time.monotonic()
        self._clear.wait(min(MOST_S, left))
        self._own.left = left - (time.monotonic() - since)

    @contextmanager
    def waiting(self) -> Iterator[None]:
        """While this thread waits for another's result nobody pauses for it."""
        own = self.mine
        if own:
            self._step(-1)
        try:
            yield
        finally:
            if own:
                self._step(1)

    def _step(self, by: int) -> None:
        with self._lock:
            self._count += by
            if self._count:
                self._clear.clear()
            else:
                self._clear.set()
