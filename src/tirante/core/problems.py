"""Errors as every client is told them: code, message, and issues by the path of their field."""

from __future__ import annotations

import re
from typing import Any

from pydantic import ValidationError

from tirante.core.errors import TiranteError

_NAMED = re.compile(r"([a-z_]+(?:\.[a-z0-9_]+)+|[a-z]+_[a-z_]+): (.*)", re.DOTALL)


MOST = 100  # faults that are told of one input; more of them help nobody and cost a server its memory


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
    """Every fault of an input by its path, in words that name the cure; never the input itself. Of very many the first, and how many more."""
    issues = []
    count = error.error_count()
    for fault in error.errors(include_url=False, include_input=False, include_context=True)[:MOST]:
        context = {k: v for k, v in (fault.get("ctx") or {}).items() if isinstance(v, int | float | str | bool)}
        message = _WORDS.get(fault["type"])
        if message is None:
            message = str(fault["msg"]).removeprefix("Value error, ")
            message = (
                message.replace("Input should be", "This must be")
                .replace("String should", "This must")
                .replace("a valid number", "a number")
            )
            message = message if message.endswith((".", "?", "!")) else f"{message}."
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
    if count > MOST:
        message = f"{count - MOST} more faults follow these. Put the first right, and send it again."
        issues.append({"path": "", "code": "more", "params": {"count": count - MOST}, "message": message})
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
