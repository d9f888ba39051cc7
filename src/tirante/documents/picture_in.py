"""Pictures that come in: decoded within limits, turned upright, made smaller, and written anew, so that nothing of the file that came is kept."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps

from tirante.core.errors import InputError

FORMATS = ("JPEG", "PNG", "WEBP")
MOST_BYTES = 15_000_000  # of a file that comes in
MOST_PIXELS = {
    "JPEG": 60_000_000,
    "PNG": 25_000_000,
    "WEBP": 25_000_000,
}  # looked at before it is decoded; a JPEG is decoded no larger than it is needed
LONGEST = 2400  # px of what is kept
QUALITY = 85


@dataclass(frozen=True, slots=True, kw_only=True)
class Picture:
    """A picture as it is kept."""

    jpeg: bytes
    wide: int  # px
    high: int


def picture_of(data: bytes) -> Picture:
    """A picture as it is kept: JPEG, upright, at most 2400 px long, without place, time, camera or anything else that was written into it.

    Args:
        data: of the file that came.

    Raises:
        InputError: it is none, cut off, too large, or of a format that is not read.
    """
    if len(data) > MOST_BYTES:
        raise InputError(f"That is larger than {MOST_BYTES // 1_000_000} MB. Take it with less resolution.", code="picture_too_large", fields=("picture",))  # fmt: skip
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # limits of our own are looked at before anything is decoded
            with Image.open(io.BytesIO(data), formats=FORMATS) as found:
                wide, high = found.size
                most = MOST_PIXELS[found.format or "PNG"]
                if wide * high > most:
                    raise InputError(f"{wide} × {high} pixels are more than {most // 1_000_000} million. Take it with less resolution.", code="picture_too_large", fields=("picture",))  # fmt: skip
                found.draft("RGB", (LONGEST, LONGEST))
                upright = ImageOps.exif_transpose(found)
                if upright.mode in ("RGBA", "LA", "PA", "P"):
                    behind = Image.new("RGBA", upright.size, "white")
                    upright = Image.alpha_composite(behind, upright.convert("RGBA"))
                small = upright.convert("RGB")
    except InputError:
        raise
    except Image.DecompressionBombError as error:
        raise InputError("That has far more pixels than a camera makes. Take it with less resolution.", code="picture_too_large", fields=("picture",)) from error  # fmt: skip
    except (OSError, ValueError, SyntaxError, EOFError, KeyError, IndexError, TypeError) as error:  # fmt: skip
        raise InputError("That is no picture that can be read: a JPEG, PNG or WebP is taken, whole as the camera made it.", code="no_picture", fields=("picture",)) from error  # fmt: skip
    small.thumbnail((LONGEST, LONGEST), Image.Resampling.LANCZOS)
    kept = Image.new("RGB", small.size)  # of its dots alone
    kept.paste(small)
    out = io.BytesIO()
    kept.save(out, "JPEG", quality=QUALITY, optimize=True)
    return Picture(jpeg=out.getvalue(), wide=kept.width, high=kept.height)
