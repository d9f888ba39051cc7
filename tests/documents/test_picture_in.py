"""Pictures that come in: upright, small, of their dots alone; what is too large or none is refused before it is decoded."""

from __future__ import annotations

import io
import struct
import zlib

import numpy as np
import pytest
from PIL import Image

from tirante.core.errors import InputError
from tirante.documents.picture_in import LONGEST, MOST_BYTES, picture_of

RED, BLUE = (220, 20, 30), (20, 40, 210)


def halves(wide: int, high: int) -> Image.Image:
    """Red on the left, blue on the right."""
    found = Image.new("RGB", (wide, high), BLUE)
    found.paste(RED, (0, 0, wide // 2, high))
    return found


def as_file(picture: Image.Image, kind: str = "JPEG", **more: object) -> bytes:
    out = io.BytesIO()
    picture.save(out, kind, **more)
    return out.getvalue()


def with_camera(orientation: int = 1) -> Image.Exif:
    exif = Image.Exif()
    exif[0x0112] = orientation
    exif[0x010F] = "A camera of the shop"
    exif[0x9003] = "2026:03:04 10:11:12"
    exif.get_ifd(0x8825).update({1: "N", 2: (51.0, 30.0, 12.0), 3: "W", 4: (0.0, 7.0, 39.0)})
    return exif


def opened(jpeg: bytes) -> Image.Image:
    found = Image.open(io.BytesIO(jpeg))
    found.load()
    return found


def near(picture: Image.Image, at: tuple[float, float], colour: tuple[int, int, int]) -> bool:
    dot = picture.getpixel((int(at[0] * (picture.width - 1)), int(at[1] * (picture.height - 1))))
    return bool(np.allclose(dot, colour, atol=25))


def test_nothing_that_a_camera_writes_into_it_is_kept() -> None:
    came = as_file(halves(800, 600), exif=with_camera(), comment=b"taken at home", icc_profile=b"x" * 300) + b"<script>behind its end</script>"  # fmt: skip
    assert b"camera of the shop" in came
    kept = picture_of(came)
    for secret in (b"camera of the shop", b"2026:03:04", b"taken at home", b"script", b"Exif", b"ICC_PROFILE"):
        assert secret not in kept.jpeg, secret
    found = opened(kept.jpeg)
    assert (found.format, found.size, dict(found.getexif())) == ("JPEG", (800, 600), {})
    assert (kept.wide, kept.high) == (800, 600)
    assert near(found, (0.1, 0.5), RED)
    assert near(found, (0.9, 0.5), BLUE)


@pytest.mark.parametrize(("orientation", "red_at"), [(1, (0.05, 0.5)), (3, (0.95, 0.5)), (6, (0.5, 0.05)), (8, (0.5, 0.95)), (2, (0.95, 0.5)), (5, (0.5, 0.05))])  # fmt: skip
def test_it_is_turned_upright(orientation: int, red_at: tuple[float, float]) -> None:
    # EXIF 2.3, orientation: 6 is shown turned a quarter to the right, 8 to the left, 3 by half
    found = opened(picture_of(as_file(halves(600, 400), exif=with_camera(orientation))).jpeg)
    assert found.size == ((400, 600) if orientation >= 5 else (600, 400))
    assert near(found, red_at, RED)
    assert near(found, (1 - red_at[0], 1 - red_at[1]), BLUE)


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_it_is_made_smaller_and_never_larger(kind: str) -> None:
    kept = picture_of(as_file(halves(4800, 1200), kind))
    assert (kept.wide, kept.high) == (LONGEST, 600)
    assert opened(kept.jpeg).size == (kept.wide, kept.high)
    small = picture_of(as_file(halves(30, 20), kind))
    assert (small.wide, small.high) == (30, 20)


def test_what_is_clear_is_white() -> None:
    clear = Image.new("RGBA", (40, 40), (0, 0, 0, 0))
    assert near(opened(picture_of(as_file(clear, "PNG")).jpeg), (0.5, 0.5), (255, 255, 255))


def said_to_be(wide: int, high: int) -> bytes:
    """A PNG that says it is so large, and holds nothing."""

    def chunk(name: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))

    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", wide, high, 8, 2, 0, 0, 0)) + chunk(b"IDAT", zlib.compress(b"")) + chunk(b"IEND", b"")  # fmt: skip


def test_limits_are_its_own_and_looked_at_before_anything_is_decoded() -> None:
    with pytest.raises(InputError, match="far more pixels than a camera makes"):
        picture_of(said_to_be(30_000, 30_000))
    with pytest.raises(InputError, match="5001 × 5000 pixels are more than 25 million"):
        picture_of(said_to_be(5001, 5000))
    with pytest.raises(InputError, match="larger than 15 MB"):
        picture_of(b"\xff\xd8" + bytes(MOST_BYTES))


@pytest.mark.parametrize(
    "data",
    [
        b"", b"no picture", b"<svg xmlns='http://www.w3.org/2000/svg'/>", as_file(halves(90, 60), "GIF"), as_file(halves(90, 60), "TIFF"), as_file(halves(90, 60), "BMP"),
        as_file(halves(900, 600))[:2000], as_file(halves(900, 600), "PNG")[:400], said_to_be(40, 40), b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 9 9\n",
    ],
)  # fmt: skip
def test_what_is_no_whole_picture_of_a_kind_that_is_read_is_refused(data: bytes) -> None:
    with pytest.raises(InputError, match="no picture that can be read"):
        picture_of(data)
