"""The register of topics, and how a bad input becomes a problem that names its field."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from pydantic import BaseModel

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
_NOTCHES, _SHEET, _FAMILIES, _FEET = "notch_topics", "sheet_topics", "family_topics", "foot_topics"
_CLAMPS, _CUTTING, _JIGS, _SURVEY = "clamp_topics", "cutting_topics", "jig_topics", "survey_topics"
_AS_BUILT = "as_built_topics"


_MODULES = {
    "column": _MEMBERS, "stepped-column": _MEMBERS, "beam-column": _MEMBERS, "net-section": _MEMBERS, "local-wall": _MEMBERS,
    "thread": _MEMBERS, "thread-strip": _MEMBERS, "link-stack": _MEMBERS, "rod-end": _MEMBERS, "insert-weld": _MEMBERS,
    "reducer-neck": _MEMBERS, "shank-bending": _MEMBERS, "slotted-tube": _FEET, "bump-stop": _MEMBERS, "pin": _BRACKETS, "lug": _BRACKETS, "plug-eye": _FEET, "saddle-box": _FEET, "strap-weld": _FEET, "tab-bending": _BRACKETS, "mount-wall": _BRACKETS, "saddle": _BRACKETS, "slot": _FEET, "bearing-pad": _FEET, "leaf-perch": _FEET, "two-feet": _FEET, "lightened-tab": _FEET, "holed-tab": _FEET, "lapped-holed": _FEET, "lapped-root": _FEET, "rail-sleeve": _FEET, "split-clamp": _CLAMPS, "bolted-foot": _FEET, "crush-sleeve": _FEET, "weld": _BRACKETS,
    "plate-arm": _BRACKETS, "plate-link": _BRACKETS, "boss-weld": _BRACKETS, "root-bolts": _BRACKETS, "hub-flange": _BRACKETS, "strike-pad": _BRACKETS, "torsion-bar": _FRAMES, "stress-life": _FRAMES,
    "cycle": _ENDS, "freedom": _ENDS, "loads": _ENDS, "turns": _ENDS, "arm": _FRAMES, "boxed-link": _FRAMES, "splice": _FRAMES, "clevis-pin": _FRAMES, "life": _FRAMES,
    "fatigue": _FRAMES, "size": _FRAMES, "notch": _NOTCHES, "bend": _SHEET, "joggle": _SHEET, "springback": _SHEET, "bracket": _FAMILIES, "sticks": _CUTTING, "nest": _CUTTING, "jig": _JIGS, "hub-stand": _JIGS, "survey": _SURVEY, "reconcile": _AS_BUILT, "made": "made_topics",
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


__all__ = ["TOPICS", "Topic", "calculate", "step", "topic"]
