"""Searches that run in a request and may be looked at, and stopped, from another: how far they are, by an id that the page made."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock
from typing import TYPE_CHECKING

from flask import Blueprint
from pydantic import BaseModel, ConfigDict

from tirante.api.routing import operation

if TYPE_CHECKING:
    from collections.abc import Callable

blueprint = Blueprint("searches", __name__)


@dataclass(slots=True)
class _Search:
    done: int = 0
    of: int = 0
    stopped: bool = False


class Searches:
    """How far each search is; bounded, the oldest leave first."""

    def __init__(self, size: int = 64) -> None:
        self._size, self._lock = size, Lock()
        self._known: OrderedDict[str, _Search] = OrderedDict()

    def progress(self, search_id: str | None) -> Callable[[int, int], bool]:
        """What a search calls with how many parts are done of how many; False tells it to stop."""

        def step(done: int, of: int) -> bool:
            if search_id is None:
                return True
            with self._lock:
                found = self._known.setdefault(search_id, _Search())
                found.done, found.of = done, of
                while len(self._known) > self._size:
                    self._known.popitem(last=False)
                return not found.stopped

        return step

    def of(self, search_id: str) -> tuple[int, int]:
        """Parts done, of how many; nothing of nothing when it is not known (yet)."""
        with self._lock:
            found = self._known.get(search_id)
            return (found.done, found.of) if found else (0, 0)

    def stop(self, search_id: str) -> None:
        """Have it end after the part it is at; what is done stands."""
        with self._lock:
            self._known.setdefault(search_id, _Search()).stopped = True
            while len(self._known) > self._size:
                self._known.popitem(last=False)


_searches = Searches()


def searches() -> Searches:
    """Those of this server."""
    return _searches


class SearchOut(BaseModel):
    """How far a search is."""

    done: int
    of: int


@operation(blueprint, "GET", "/api/searches/<search_id>", answer=SearchOut)
def search_progress(search_id: str) -> SearchOut:
    """How many parts a search has done; nothing of nothing before it began."""
    done, of = _searches.of(search_id)
    return SearchOut(done=done, of=of)


class StopIn(BaseModel):
    """Nothing more to say."""

    model_config = ConfigDict(extra="forbid")


@operation(blueprint, "POST", "/api/searches/<search_id>/stop", body=StopIn, answer=SearchOut)
def stop_search(search_id: str, data: StopIn) -> SearchOut:
    """Have a search end after the part it is at; what is done stands."""
    del data
    _searches.stop(search_id)
    done, of = _searches.of(search_id)
    return SearchOut(done=done, of=of)
