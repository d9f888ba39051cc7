"""How a design stands in a column: its JSON deflated, with a digest of the text."""

from __future__ import annotations

import hashlib
import zlib

from tirante.core.document.design import Design
from tirante.core.document.upgrades import dump_design, load_design, open_design


def pack(design: Design) -> tuple[bytes, str]:
    """Deflated text and its SHA-256."""
    text = dump_design(design).encode()
    return zlib.compress(text, 6), hashlib.sha256(text).hexdigest()


def unpack(blob: bytes) -> Design:
    """The design; validated and, when older, upgraded on the way out."""
    return load_design(zlib.decompress(blob))


def unpack_told(blob: bytes) -> tuple[Design, tuple[str, ...]]:
    """The design likewise, with what it says otherwise since it was saved."""
    return open_design(zlib.decompress(blob))
