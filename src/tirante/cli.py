"""`./tirante calc`, `pack`, `cut`, `saw` and `bench`: the core from the command line, without web or database."""

from __future__ import annotations

import argparse
import json
import os
import sys
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from tirante.calc import TOPICS, Topic, calculate
from tirante.core.errors import NotApplicable, TiranteError
from tirante.core.problems import problem
from tirante.core.sources import cite

BAD_INPUT, NOT_COVERED = 2, 3


def _fields(schema: dict[str, Any], definitions: dict[str, Any], indent: str = "  ") -> list[str]:
    lines = []
    required = set(schema.get("required", ()))
    for name, field in schema.get("properties", {}).items():
        note = field.get("description", "")
        if "default" in field:
            note += f" (default {json.dumps(field['default'])})"
        elif name not in required:
            note += " (optional)"
        lines.append(f"{indent}{name:<24} {note.strip()}")
        reference = field.get("$ref") or field.get("items", {}).get("$ref")
        for option in field.get("anyOf", ()):
            reference = reference or option.get("$ref")
        if reference:
            lines += _fields(definitions[reference.rsplit("/", 1)[-1]], definitions, indent + "    ")
    return lines


def describe(topic: Topic) -> str:
    """What a topic takes and gives, with an example that runs."""
    schema = topic.model.model_json_schema()
    example = json.dumps(topic.example)
    return "\n".join(
        [
            f"{topic.name}: {topic.summary}",
            "",
            "In:",
            *_fields(schema, schema.get("$defs", {})),
            "",
            "Out:",
            *(f"  {name:<24} {meaning}" for name, meaning in topic.outputs.items()),
            "",
            "Source:",
            *(f"  {cite(key)}" for key in topic.sources),
            "",
            "Example:",
            f"  echo '{example}' | ./tirante calc {topic.name}",
        ]
    )


def answer(topic: str, payload: dict[str, Any]) -> dict[str, Any] | None:
    """What `./tirante calc TOPIC --working` gives, for whoever shows the working; None when there is no such topic.

    Args:
        topic: its name.
        payload: its input.

    Raises:
        ValidationError: the input's shape is wrong.
        TiranteError: the core refused it.
    """
    return calculate(topic, payload, working=True) if topic in TOPICS else None


def _calc(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="tirante calc", add_help=False)
    parser.add_argument("topic", nargs="?")
    parser.add_argument("--in", dest="source", type=Path)
    parser.add_argument("--working", action="store_true")
    parser.add_argument("-h", "--help", action="store_true")
    options = parser.parse_args(arguments)
    if options.topic is None:
        print("Topics (./tirante calc TOPIC --help for one of them):")
        for topic in TOPICS.values():
            print(f"  {topic.name:<16} {topic.summary}")
        return 0
    if options.topic not in TOPICS:
        message = f"There is no topic “{options.topic}”. Topics: {', '.join(TOPICS)}."
        print(json.dumps({"code": "unknown_topic", "message": message, "issues": []}, ensure_ascii=False))
        return BAD_INPUT
    if options.help:
        print(describe(TOPICS[options.topic]))
        return 0
    try:
        text = options.source.read_bytes() if options.source else sys.stdin.buffer.read()
    except OSError as error:
        message = f"The file cannot be read: {error.strerror}."
        print(json.dumps({"code": "unreadable", "message": message, "issues": []}, ensure_ascii=False))
        return BAD_INPUT
    try:
        result = calculate(options.topic, text, working=options.working)
    except NotApplicable as error:
        print(json.dumps(problem(error), ensure_ascii=False))
        return NOT_COVERED
    except (ValidationError, TiranteError) as error:
        print(json.dumps(problem(error), ensure_ascii=False))
        return BAD_INPUT
    print(json.dumps(result, ensure_ascii=False, allow_nan=False))
    return 0


def main(arguments: list[str]) -> int:
    """Run a command; returns the exit code. Whoever reads no further ends it quietly (`--help | head`)."""
    try:
        code = _run(arguments)
        sys.stdout.flush()
        return code
    except BrokenPipeError:
        # what Python still holds for its reader is let go, or it complains once more at the very end
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


def _run(arguments: list[str]) -> int:
    command, rest = (arguments[0], arguments[1:]) if arguments else ("", [])
    if command == "calc":
        return _calc(rest)
    if command == "bench":
        from tirante.bench import run_bench

        return int(run_bench())
    if command == "pack":
        from tirante.documents.command import run_pack

        return int(run_pack(rest))
    if command == "cut":
        from tirante.documents.command import run_cut

        return int(run_cut(rest))
    if command == "saw":
        from tirante.documents.command import run_saw

        return int(run_saw(rest))
    if command == "gauge":
        from tirante.gauges.simulated import run_gauge

        return run_gauge(rest)
    print("Commands: calc, pack, cut, saw, gauge, bench.", file=sys.stderr)
    return BAD_INPUT


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
