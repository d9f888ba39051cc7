"""Field types of saved documents: strict, finite, bounded, in the units of their names."""

from __future__ import annotations

import re
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

_F: dict[str, Any] = {"allow_inf_nan": False}


Positive = Annotated[float, Field(gt=0, le=100_000, **_F)]


NotNegative = Annotated[float, Field(ge=0, le=100_000, **_F)]


Signed = Annotated[float, Field(ge=-100_000, le=100_000, **_F)]


Force = Annotated[float, Field(ge=-1e7, le=1e7, **_F)]


PositiveForce = Annotated[float, Field(gt=0, le=1e7, **_F)]


Strength = Annotated[float, Field(gt=0, le=5_000, **_F)]


Angle = Annotated[float, Field(ge=-180, le=180, **_F)]


Factor = Annotated[float, Field(ge=1, le=20, **_F)]


# control characters but the line's end, halves of characters, and code points that Unicode promises never to make a character of,
# which XML and DXF cannot hold
_NOT_TEXT = re.compile(
    "[\x00-\x09\x0b-\x1f\x7f-\x9f\ud800-\udfff\ufdd0-\ufdef"
    + "".join(chr(p * 0x10000 + n) for p in range(17) for n in (0xFFFE, 0xFFFF))
    + "]"
)


def _plain_text(text: str) -> str:
    if _NOT_TEXT.search(text):
        raise ValueError("this holds a control character or half of a character; type it again")
    return text


def _name(text: str) -> str:
    if not text.strip():
        raise ValueError("a name is needed")
    return _plain_text(text.replace("\n", " "))


Name = Annotated[str, Field(min_length=1, max_length=80), AfterValidator(_name)]


Said = Annotated[str, Field(max_length=200), AfterValidator(_plain_text)]


Note = Annotated[str, Field(max_length=2_000), AfterValidator(_plain_text)]


Key = Annotated[str, Field(min_length=1, max_length=80, pattern=r"^[A-Za-z0-9][A-Za-z0-9._+\-]*$")]


Id = Annotated[
    str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}$", description="UUID")
]


Point = Annotated[tuple[Signed, Signed, Signed], Field(strict=False, description="mm: x forward, y left, z up")]


Direction = Annotated[
    tuple[Signed, Signed, Signed], Field(strict=False, description="car axes; its length does not count")
]


PointName = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}$")]


class Document(BaseModel):
    """Base of everything saved: frozen, extra fields refused, strict types, no NaN."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)


class Length(Document):
    """A length with what was typed for it kept beside."""

    mm: Positive
    typed: Annotated[str, Field(max_length=80), AfterValidator(_plain_text)] | None = None


class Coordinate(Document):
    """A coordinate with what was typed for it kept beside."""

    mm: Signed
    typed: Annotated[str, Field(max_length=80), AfterValidator(_plain_text)] | None = None
