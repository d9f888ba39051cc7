"""Errors to HTTP: one shape, {code, message, issues by path, request_id}; never the exception's own text."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel, Field, ValidationError

from tirante.core.errors import NotApplicable, TiranteError
from tirante.core.job.memory import Abandoned
from tirante.core.problems import problem as as_problem
from tirante.storage.drafts import NotFound, OfAnotherJob, Stale
from tirante.storage.pool import Full, Unavailable


class Issue(BaseModel):
    """One fault, at a field."""

    path: str
    code: str
    params: dict[str, Any] = Field(default={})
    message: str


class Problem(BaseModel):
    """What every error answers."""

    code: str
    message: str
    issues: list[Issue] = []
    request_id: str | None = None
    current: dict[str, Any] | None = Field(default=None, description="with code stale: the newer draft")


class Refused(Exception):  # noqa: N818
    """A request that is refused with a status and a sentence."""

    def __init__(self, status: int, code: str, message: str, path: str = "", lines: Sequence[str] = ()) -> None:
        """
        Args:
            status: of HTTP.
            code: for programs.
            message: for people.
            path: of the field that it is about.
            lines: what stands in the way, a sentence each, in place of the message at that field.
        """
        super().__init__(code)
        self.status, self.code, self.message, self.path, self.lines = status, code, message, path, tuple(lines)


def of_error(error: BaseException) -> tuple[int, Problem] | None:
    """Status and problem of an error that is known; None for one that is not."""
    if isinstance(error, ValidationError):
        return 422, Problem.model_validate(as_problem(error))
    if isinstance(error, NotApplicable):
        return 422, Problem.model_validate(as_problem(error))
    if isinstance(error, TiranteError):
        if error.code == "bad_rows" and isinstance(error.value, list):
            issues = [
                Issue(path=path, code="bad_row", message=str(message))
                for path, message in zip(error.fields, error.value, strict=True)
            ]
            return 422, Problem(code=error.code, message=error.message, issues=issues)
        return 422, Problem.model_validate(as_problem(error))
    if isinstance(error, Refused):
        told = error.lines or ((error.message,) if error.path else ())
        issues = [Issue(path=error.path, code=error.code, message=line) for line in told]
        return error.status, Problem(code=error.code, message=error.message, issues=issues)
    if isinstance(error, Abandoned):
        return 499, Problem(code="gone", message="Whoever asked has gone; it was not worked out to its end.")
    if isinstance(error, NotFound):
        return 404, Problem(
            code="not_found", message="There is no such job or revision here. Go back to the list of jobs."
        )
    if isinstance(error, OfAnotherJob):
        message = "A save of another job has this id already. Make a new one for each save."
        return 422, Problem(
            code="id_taken", message=message, issues=[Issue(path="save_id", code="id_taken", message=message)]
        )
    if isinstance(error, Full):
        message = (
            "The disk is full: nothing was saved. Your work is kept on this page; make room, and it is saved by itself."
        )
        return 507, Problem(code="disk_full", message=message)
    if isinstance(error, Unavailable):
        message = (
            "The database does not answer just now. Nothing is lost: keep this page open, it tries again by itself."
        )
        return 503, Problem(code="database_away", message=message)
    if isinstance(error, Stale):
        message = "Somebody saved this job after you opened it. Both versions are kept: take theirs, or keep yours as a branch."
        return 409, Problem(code="stale", message=message)
    return None
