"""Routes that state what they take and give, and the OpenAPI 3.1 description made from that.

Bodies are validated from the JSON text itself, since the documents' types are strict (a list in JSON stands for a
tuple, a string never for a number).
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import wraps
from typing import Any

from flask import Blueprint, Response, request
from pydantic import BaseModel
from pydantic.json_schema import GenerateJsonSchema, models_json_schema

from tirante.api.problems import Problem, Refused

MAX_BODY = 1_000_000  # bytes


@dataclass(frozen=True, slots=True, kw_only=True)
class Operation:
    """One route as it is described."""

    name: str
    method: str
    path: str
    summary: str
    body: type[BaseModel] | None
    answer: type[BaseModel] | None
    media: str
    headers: tuple[str, ...]
    query: dict[str, str]
    takes: tuple[str, ...]


OPERATIONS: list[Operation] = []


def _text_body() -> bytes:
    body = request.get_data(cache=False)
    if len(body) > MAX_BODY:
        raise Refused(413, "too_large", "That is larger than 1 MB. Split it, or remove what is not needed.")
    return body


def _reply(value: Any) -> Any:
    if isinstance(value, BaseModel):
        return Response(value.model_dump_json(), mimetype="application/json")
    return value


def operation(
    blueprint: Blueprint, method: str, path: str, *, body: type[BaseModel] | None = None,
    answer: type[BaseModel] | None = None, media: str = "application/json", headers: tuple[str, ...] = (),
    query: dict[str, str] | None = None, takes: tuple[str, ...] = (),
) -> Callable[[Callable[..., Any]], Callable[..., Any]]:  # fmt: skip
    """Register a route; `takes` are the media types of a file that it takes in place of JSON; with `body` the parsed model is the view's keyword argument `data`."""

    def register(view: Callable[..., Any]) -> Callable[..., Any]:
        OPERATIONS.append(
            Operation(
                name=view.__name__,
                method=method.lower(),
                path=path,
                summary=(view.__doc__ or "").strip().split("\n")[0],
                body=body,
                answer=answer,
                media=media,
                headers=headers,
                query=query or {},
                takes=takes,
            )
        )

        @wraps(view)
        def handle(**values: Any) -> Any:
            if body is not None:
                values["data"] = body.model_validate_json(_text_body())
            return _reply(view(**values))

        blueprint.add_url_rule(path, endpoint=view.__name__, view_func=handle, methods=[method])
        return view

    return register


class _Complete(GenerateJsonSchema):
    """Every field of an answer is there, its default filled in; and a client sends whole documents back."""

    def field_is_required(self, field: Any, total: bool) -> bool:
        return True


def _parameters(entry: Operation) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    for part in entry.path.split("/"):
        if part.startswith("<"):
            kind, _, name = part.strip("<>").rpartition(":")
            schema = {"type": "integer" if kind == "int" else "string"}
            found.append({"name": name, "in": "path", "required": True, "schema": schema})
    found += [{"name": h, "in": "header", "required": True, "schema": {"type": "string"}} for h in entry.headers]
    found += [
        {"name": n, "in": "query", "required": False, "schema": {"type": kind}} for n, kind in entry.query.items()
    ]
    return found


def _url(path: str) -> str:
    return "/".join(
        "{" + part.strip("<>").rpartition(":")[2] + "}" if part.startswith("<") else part for part in path.split("/")
    )


def openapi() -> dict[str, Any]:
    """The OpenAPI 3.1 document of every route registered."""
    models = {m for entry in OPERATIONS for m in (entry.body, entry.answer) if m is not None} | {Problem}
    ordered = sorted(models, key=lambda m: m.__name__)
    refs, schema = models_json_schema(
        [(model, "serialization") for model in ordered],
        ref_template="#/components/schemas/{model}",
        schema_generator=_Complete,
    )
    paths: dict[str, Any] = {}
    error = {
        "description": "what is wrong, where, and the cure",
        "content": {"application/json": {"schema": refs[Problem, "serialization"]}},
    }
    for entry in sorted(OPERATIONS, key=lambda e: (e.path, e.method)):
        content: dict[str, Any] = {"schema": refs[entry.answer, "serialization"]} if entry.answer else {"schema": {}}
        described: dict[str, Any] = {
            "operationId": entry.name,
            "summary": entry.summary,
            "parameters": _parameters(entry),
            "responses": {"200": {"description": "done", "content": {entry.media: content}}, "default": error},
        }
        if entry.body:
            described["requestBody"] = {
                "required": True,
                "content": {"application/json": {"schema": refs[entry.body, "serialization"]}},
            }
        if entry.takes:
            file: dict[str, Any] = {"schema": {"type": "string", "format": "binary"}}
            described["requestBody"] = {"required": True, "content": dict.fromkeys(entry.takes, file)}
        paths.setdefault(_url(entry.path), {})[entry.method] = described
    return {
        "openapi": "3.1.0",
        "info": {"title": "Tirante", "version": "0.1.0"},
        "paths": paths,
        "components": {"schemas": schema["$defs"]},
    }


def openapi_text() -> str:
    """As it is checked in: sorted, two spaces, a final newline."""
    return json.dumps(openapi(), indent=2, sort_keys=True, ensure_ascii=False) + "\n"
