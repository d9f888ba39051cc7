"""What every kind of part is saved with, and how a saved part is read: by its kind, whichever kinds there are.

A kind's saved model is a subclass of `SavedPart` in a file of its own beside this one; `document.parts` finds it there, so
that a new kind needs no other line here.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Self

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from tirante.core.document.end import End
from tirante.core.document.fields import Document, Id, Name, Note
from tirante.core.document.parts.common import Side

UsedRow = tuple[str, str, str]  # catalogue table, key, field of the part


class SavedPart(Document):
    """A part as a user keeps it: what it is, never what was worked out of it."""

    KINDS: ClassVar[dict[str, type[SavedPart]]] = {}

    kind: str
    id: Id
    name: Name
    side: Side = "pair"
    note: Note = ""

    @classmethod
    def __pydantic_init_subclass__(cls, **_given: Any) -> None:
        """A subclass is the saved model of the kind that its `kind` defaults to; one that has none is what several have in common."""
        if not cls.model_fields["kind"].is_required():
            SavedPart.KINDS[cls.model_fields["kind"].default] = cls

    @property
    def of_end(self) -> str | None:
        """Id of the suspension end that it belongs to; None when it stands by itself."""
        return None

    @property
    def stands_for(self) -> str | None:
        """What of that end it is, as the template calls it; None when it is none of its moving members."""
        return None

    @property
    def plate_of(self) -> tuple[str, str] | None:
        """Of a plate on something that is not made here: that body of its end, and the joint's point; None of others."""
        return None

    @property
    def made_for(self) -> str | None:
        """Id of the part that it holds while that is made; None of all that is no jig of one."""
        return None

    @property
    def lies_under(self) -> str | None:
        """Id of the part that lies on it without a joint, as a rack on its pads; None of all others."""
        return None

    @property
    def count(self) -> int:
        """How many are made: a pair is two."""
        return 2 if self.side == "pair" else 1

    def used_rows(self) -> list[UsedRow]:
        """Catalogue rows that it uses."""
        return []

    def tied(self, ends: Mapping[str, End]) -> Self:
        """As the points of the ends that it belongs to now make it.

        Args:
            ends: the design's, by id.
        """
        del ends
        return self

    def stiffens(self, ends: Mapping[str, End]) -> tuple[str, str, float] | None:
        """Of a part that an end turns against: the end, the addition that it is of, and its own rate [N·m/°]; None of others.

        Args:
            ends: the design's, by id.
        """
        del ends
        return None

    def lost(self, ends: Mapping[str, End]) -> str | None:
        """What it was tied to and is not there any more, in words; None when nothing is missing.

        Args:
            ends: the design's, by id.
        """
        del ends
        return None


def _of_its_kind(value: Any) -> SavedPart:
    """Read a part by the saved model of its kind.

    Raises:
        PydanticCustomError: there is no such kind; faults of the part itself keep their own fields.
    """
    if isinstance(value, SavedPart):
        return value
    if not isinstance(value, dict):
        raise PydanticCustomError("model_type", "a part must be an object with named fields")
    model = SavedPart.KINDS.get(value["kind"]) if isinstance(value.get("kind"), str) else None
    if model is None:
        known = ", ".join(sorted(SavedPart.KINDS))
        raise PydanticCustomError("unknown_kind", f"kind: there is no such kind of part; kinds are {known}")
    return model.model_validate(value)


class _ByKind:
    """Validates, writes and describes a part by its kind, for kinds that may be added later."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        del source, handler
        written = core_schema.plain_serializer_function_ser_schema(
            lambda part, info: part.model_dump(mode=info.mode), info_arg=True
        )
        return core_schema.no_info_plain_validator_function(_of_its_kind, serialization=written)

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        del schema
        choices = {kind: model.__pydantic_core_schema__ for kind, model in sorted(SavedPart.KINDS.items())}
        return handler(core_schema.tagged_union_schema(choices=choices, discriminator="kind"))


AnyPart = Annotated[SavedPart, _ByKind()]
