"""The register of topics, and how a bad input becomes a problem that names its field."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from pydantic import BaseModel, ValidationError

from tirante.core.errors import TiranteError
from tirante.core.sources import SOURCES

Working = list[dict[str, Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Topic:
    """One calculation: its input, what it answers, and an example that runs."""

    name: str
    summary: str
    model: type[BaseModel]
    run: Callable[[Any], tuple[dict[str, Any], Working]]
    outputs: dict[str, str]
    example: dict[str, Any]
    sources: tuple[str, ...]


_MEMBERS, _BRACKETS, _ENDS, _FRAMES = "member_topics", "bracket_topics", "end_topics", "frame_topics"
_MODULES = {
    "column": _MEMBERS, "stepped-column": _MEMBERS, "beam-column": _MEMBERS, "net-section": _MEMBERS, "local-wall": _MEMBERS,
    "thread": _MEMBERS, "thread-strip": _MEMBERS, "link-stack": _MEMBERS, "rod-end": _MEMBERS, "insert-weld": _MEMBERS,
    "shank-bending": _MEMBERS, "bump-stop": _MEMBERS, "pin": _BRACKETS, "lug": _BRACKETS, "tab-bending": _BRACKETS, "weld": _BRACKETS,
    "cycle": _ENDS, "loads": _ENDS, "turns": _ENDS, "arm": _FRAMES, "boxed-link": _FRAMES, "splice": _FRAMES, "clevis-pin": _FRAMES,
    "fatigue": _FRAMES, "size": _FRAMES,
}  # fmt: skip


class _Topics(Mapping[str, "Topic"]):
    """Topics by name, each module read when one of its topics is first asked for: a small one does not wait for all."""

    def __init__(self) -> None:
        self.known: dict[str, Topic] = {}

    def __getitem__(self, name: str) -> Topic:
        if name not in self.known:
            import_module(f"tirante.calc.{_MODULES[name]}")
        return self.known[name]

    def __iter__(self) -> Iterator[str]:
        return iter(_MODULES)

    def __len__(self) -> int:
        return len(_MODULES)

    def __contains__(self, name: object) -> bool:
        return name in _MODULES


_topics = _Topics()
TOPICS: Mapping[str, Topic] = _topics


def topic(
    name: str, model: type[BaseModel], *, outputs: dict[str, str], example: dict[str, Any], sources: tuple[str, ...]
) -> Callable[[Callable[[Any], tuple[dict[str, Any], Working]]], Callable[[Any], tuple[dict[str, Any], Working]]]:
    """Register a calculation under `name`; its docstring's first line is the summary."""

    def register(
        function: Callable[[Any], tuple[dict[str, Any], Working]],
    ) -> Callable[[Any], tuple[dict[str, Any], Working]]:
        _topics.known[name] = Topic(
            name=name,
            summary=(function.__doc__ or "").strip().splitlines()[0],
            model=model,
            run=function,
            outputs=outputs,
            example=example,
            sources=sources,
        )
        return function

    return register


def step(name: str, formula: str, source: str, **values: float | str | bool | None) -> dict[str, Any]:
    """One line of working: what, by which formula, with which values, from which source."""
    known = SOURCES[source]
    return {"step": name, "formula": formula, "values": values, "source": known.title, "status": known.status}


def calculate(name: str, payload: object, *, working: bool = False) -> dict[str, Any]:
    """Run a topic on parsed JSON (or on JSON text).

    Args:
        name: a key of `TOPICS`.
        payload: a dict, or the JSON text itself.
        working: add the list of steps.

    Returns:
        The topic's output fields.

    Raises:
        ValidationError: the input's shape is wrong.
        TiranteError: the core refused it.
    """
    entry = TOPICS[name]
    if isinstance(payload, str | bytes):
        model = entry.model.model_validate_json(payload)
    else:
        # by way of JSON, so that lists stand for tuples as they do on the command line
        model = entry.model.model_validate_json(json.dumps(payload))
    result, steps = entry.run(model)
    return {**result, "working": steps} if working else result


_NAMED = re.compile(r"([a-z_]+(?:\.[a-z0-9_]+)+|[a-z]+_[a-z_]+): (.*)", re.DOTALL)
_WORDS = {
    "missing": "This field is missing. Give it a value.",
    "extra_forbidden": "There is no such field here. Remove it or check its spelling.",
    "float_type": "This must be a number, without quotes.",
    "int_type": "This must be a whole number, without quotes.",
    "bool_type": "This must be true or false.",
    "string_type": "This must be text.",
    "list_type": "This must be a list.",
    "dict_type": "This must be an object with named fields.",
    "model_type": "This must be an object with named fields.",
    "finite_number": "This must be a finite number.",
}


def validation_issues(error: ValidationError) -> list[dict[str, Any]]:
    """Every fault of an input by its path, in words that name the cure; never the input itself."""
    issues = []
    for fault in error.errors(include_url=False, include_input=False, include_context=True):
        context = {k: v for k, v in (fault.get("ctx") or {}).items() if isinstance(v, int | float | str | bool)}
        message = _WORDS.get(fault["type"])
        if message is None:
            message = str(fault["msg"]).removeprefix("Value error, ")
            message = (
                message.replace("Input should be", "This must be")
                .replace("String should", "This must")
                .replace("a valid number", "a number")
            )
        path = ".".join(str(part) for part in fault["loc"])
        # a rule of the whole names the field that it is about: "ends.0.end.ride: …"
        if fault["type"] == "value_error" and (named := _NAMED.match(message)):
            path = f"{path}.{named[1]}".lstrip(".")
            message = f"{named[2][:1].upper()}{named[2][1:]}"
        issues.append(
            {
                "path": path,
                "code": fault["type"],
                "params": context,
                "message": message,
            }
        )
    return issues


def problem(error: ValidationError | TiranteError) -> dict[str, Any]:
    """The one problem shape: code, message, issues by path."""
    if isinstance(error, ValidationError):
        issues = validation_issues(error)
        first = issues[0]
        return {
            "code": "invalid_input",
            "message": f"{first['path'] or 'The input'}: {first['message']}",
            "issues": issues,
        }
    params: dict[str, Any] = {}
    if error.limits:
        params["limits"] = list(error.limits)
    if isinstance(error.value, int | float | str):
        params["value"] = error.value
    return {
        "code": error.code,
        "message": error.message,
        "issues": [
            {"path": field, "code": error.code, "params": params, "message": error.message}
            for field in error.fields or ("",)
        ],
    }


__all__ = ["TOPICS", "Topic", "calculate", "problem", "step", "topic"]
