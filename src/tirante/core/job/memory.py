"""Results kept by the text of all they depend on: bounded, the least recently used leave first, safe between threads."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import Generic, TypeVar

T = TypeVar("T")


class Memory(Generic[T]):
    """What was worked out, by the text of its inputs."""

    def __init__(self, size: int = 512) -> None:
        self._size = size
        self._lock = Lock()
        self._kept: OrderedDict[str, T] = OrderedDict()

    def get(self, key: str) -> T | None:
        """What is kept; None when it is not (any more)."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        return None

    def put(self, key: str, value: T) -> None:
        """Keep a result."""
        with self._lock:
            self._kept[key] = value
            while len(self._kept) > self._size:
                self._kept.popitem(last=False)
