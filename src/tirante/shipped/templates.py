"""The suspension templates that ship, read from their files once."""

from __future__ import annotations

from functools import cache, lru_cache
from pathlib import Path

from pydantic import ValidationError

from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.suspension.template import Addition, Template, with_addition

ADDITIONS = Path(__file__).resolve().parents[3] / "data" / "additions"


FOLDER = Path(__file__).resolve().parents[3] / "data" / "templates"


def read_templates(folder: Path) -> dict[str, Template]:
    """Every template of a folder by its name; a new one is a new file."""
    found = [Template.model_validate_json(path.read_bytes()) for path in sorted(folder.glob("*.json"))]
    return {template.name: template for template in found}


@cache
def shipped_templates() -> dict[str, Template]:
    """The templates that ship."""
    return read_templates(FOLDER)


def template_named(name: str) -> Template:
    """A template by its name.

    Raises:
        InputError: there is none.
    """
    known = shipped_templates()
    if name not in known:
        raise InputError(
            f"There is no template “{name[:40]}”. Templates: {', '.join(known)}.",
            code="unknown_template",
            fields=("template",),
        )
    return known[name]


def read_additions(folder: Path) -> dict[str, Addition]:
    """Every addition of a folder by its name."""
    found = [Addition.model_validate_json(path.read_bytes()) for path in sorted(folder.glob("*.json"))]
    return {addition.name: addition for addition in found}


@cache
def shipped_additions() -> dict[str, Addition]:
    """The additions that ship."""
    return read_additions(ADDITIONS)


def template_of(end: End) -> Template:
    """An end's template with its additions put on.

    Raises:
        InputError: one of them is unknown, or they do not go together.
    """
    return _put_together(end.template, tuple(sorted((n, a.on, a.carrier, a.side) for n, a in end.additions.items())))


@lru_cache(maxsize=64)
def _put_together(name: str, wanted: tuple[tuple[str, str | None, str, str], ...]) -> Template:
    template, known = template_named(name), shipped_additions()
    for addition, on, carrier, side in wanted:
        field = f"additions.{addition}"
        if addition not in known:
            raise InputError(
                f"There is nothing called “{addition[:40]}” to add. Additions: {', '.join(known)}.",
                code="unknown_addition", fields=(field,),
            )  # fmt: skip
        if "on" in known[addition].asks and on is None:
            raise InputError(
                f"{known[addition].title}: say which body it is fastened to. Bodies: {', '.join(template.bodies)}.",
                code="missing", fields=(f"{field}.on",),
            )  # fmt: skip
        try:
            template = with_addition(
                template, known[addition], {"on": on or "ground", "carrier": carrier, "side": side}
            )
        except ValueError as error:
            said = (
                str(error.errors()[0]["msg"]).removeprefix("Value error, ")
                if isinstance(error, ValidationError)
                else str(error)
            )
            raise InputError(
                f"{known[addition].title} does not go on here: {said}.", code="unfit", fields=(field,)
            ) from error
    return template
