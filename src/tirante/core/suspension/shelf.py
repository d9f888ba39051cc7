"""What ships with the application, handed in by whoever reads the files: the core reads none."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from pydantic import ValidationError

from tirante.core.document.end import End
from tirante.core.document.load_cases import LoadSet
from tirante.core.document.template import Addition, Template, with_addition
from tirante.core.errors import InputError


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Shelf:
    """Kinds of suspension, what can be put on them, and load sets, each by its name."""

    templates: Mapping[str, Template]
    additions: Mapping[str, Addition]
    load_sets: Mapping[str, LoadSet]
    _made: dict[object, Template] = field(default_factory=dict, repr=False)

    def template_named(self, name: str) -> Template:
        """A template by its name.

        Raises:
            InputError: there is none.
        """
        if name not in self.templates:
            raise InputError(
                f"There is no template “{name[:40]}”. Templates: {', '.join(self.templates)}.",
                code="unknown_template", fields=("template",),
            )  # fmt: skip
        return self.templates[name]

    def template_of(self, end: End) -> Template:
        """An end's template with its additions put on, made once.

        Raises:
            InputError: one of them is unknown, or they do not go together.
        """
        wanted = tuple(sorted((n, a.on, a.carrier, a.side) for n, a in end.additions.items()))
        key = (end.kind or end.template, wanted)
        if key not in self._made:
            if len(self._made) > 200:
                self._made.clear()
            self._made[key] = self._put_together(end, wanted)
        return self._made[key]

    def kind_of(self, end: End) -> Template:
        """An end's kind without its additions: its own, or the one that ships.

        Raises:
            InputError: none of that name ships.
        """
        return end.kind or self.template_named(end.template)

    def _put_together(self, end: End, wanted: tuple[tuple[str, str | None, str, str], ...]) -> Template:
        template = self.kind_of(end)
        for addition, on, carrier, side in wanted:
            where = f"additions.{addition}"
            known = self.additions.get(addition)
            if known is None:
                raise InputError(
                    f"There is nothing called “{addition[:40]}” to add. Additions: {', '.join(self.additions)}.",
                    code="unknown_addition", fields=(where,),
                )  # fmt: skip
            if "on" in known.asks and on is None:
                raise InputError(
                    f"{known.title}: say which body it is fastened to. Bodies: {', '.join(template.bodies)}.",
                    code="missing", fields=(f"{where}.on",),
                )  # fmt: skip
            try:
                template = with_addition(template, known, {"on": on or "ground", "carrier": carrier, "side": side})
            except ValueError as error:
                said = (
                    str(error.errors()[0]["msg"]).removeprefix("Value error, ")
                    if isinstance(error, ValidationError)
                    else str(error)
                )
                raise InputError(
                    f"{known.title} does not go on here: {said}.", code="unfit", fields=(where,)
                ) from error
        return template
