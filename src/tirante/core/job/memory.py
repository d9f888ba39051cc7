"""The one memory of results: by stage and by the fingerprint of all they depend on, bounded, the least recently used leave first.

Who asks for what is being worked out already waits for it: five who ask at once cost one.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from concurrent.futures import Future
from contextlib import AbstractContextManager, nullcontext
from threading import Lock
from typing import Any, TypeVar, cast

from cachetools import LRUCache

T = TypeVar("T")
SIZES = {
    "loads": 48,
    "ride": 24,
    "swept": 24,
    "part": 1024,
    "shown": 1024,
    "turns": 16,
    "study": 64,
    "bind": 8,
    "still": 16,
    "survey": 16,
}  # results a stage keeps
OTHER = 64


class Abandoned(Exception):  # noqa: N818
    """Nobody waits any more for what is being worked out."""


class Memory:
    """What was worked out."""

    def __init__(
        self, sizes: Mapping[str, int] = SIZES, *, pause: Callable[[], None] | None = None, waiting: Callable[[], AbstractContextManager[None]] = nullcontext
    ) -> None:  # fmt: skip
        """
        Args:
            sizes: results that a stage keeps.
            pause: called before a stage is worked out, where heavier work gives way, or is `Abandoned`; None: neither ever.
            waiting: held while one waits for another's result.
        """
        self._pause, self._waiting = pause, waiting
        self._sizes = dict(sizes)
        self._lock = Lock()
        self._kept: dict[str, LRUCache[object, Any]] = {}
        self._flights: dict[tuple[str, object], Future[Any]] = {}

    def get(self, stage: str, key: object, work: Callable[[], T]) -> T:
        """The result of a stage, from memory or worked out now.

        Args:
            stage: what is asked for; its results are bounded by themselves.
            key: everything that the result depends on.
            work: gives it; what it raises is raised to all who wait, and not kept; what is abandoned the next of them takes over.
        """
        while True:
            if self.known(stage, key) is None:
                self.pause()  # before it is begun: who waits for it would wait for the pause too
            with self._lock:
                kept = self._stage(stage)
                if key in kept:
                    return cast("T", kept[key])
                flight = self._flights.get((stage, key))
                if flight is None:
                    flight = self._flights[stage, key] = Future()
                    break
            with self._waiting():
                try:
                    return cast("T", flight.result())
                except Abandoned:
                    continue
        try:
            value = work()
        except BaseException as error:
            with self._lock:
                del self._flights[stage, key]
            flight.set_exception(error)
            flight.exception()  # seen, should nobody wait for it
            raise
        with self._lock:
            self._stage(stage)[key] = value
            del self._flights[stage, key]
        flight.set_result(value)
        return value

    def pause(self) -> None:
        """Give way to what goes first; `Abandoned` where nobody waits for this thread's work any more."""
        if self._pause is not None:
            self._pause()

    def known(self, stage: str, key: object) -> Any | None:
        """What is kept; None when it is not (any more)."""
        with self._lock:
            return self._stage(stage).get(key)

    def forget(self) -> None:
        """Keep nothing: to measure what everything costs anew."""
        with self._lock:
            self._kept.clear()

    def _stage(self, stage: str) -> LRUCache[object, Any]:
        return self._kept.setdefault(stage, LRUCache(self._sizes.get(stage, OTHER)))
