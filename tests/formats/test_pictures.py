"""Pictures that come from anywhere: what can be opened is, upright and grey; all else is refused."""

from __future__ import annotations

import io
import struct
import zlib

import numpy as np
import pillow_heif
import pypdfium2 as pdfium
import pytest
from PIL import Image

from firstloop.formats.pictures import (
    PAGES,
    PictureError,
    count_pictures,
    read_picture,
    read_pictures,
)

SHAPE = (90, 60)


def page() -> Image.Image:
    """White, with a dark corner at the top left."""
    grey = np.full(SHAPE, 255, dtype=np.uint8)
    grey[:30, :20] = 40
    return Image.fromarray(grey)


def saved(image: Image.Image, kind: str, **how) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **how)
    return out.getvalue()


def pdf(pages: int = 1) -> bytes:
    return saved(page(), "PDF", save_all=True, append_images=[page()] * (pages - 1), resolution=200)


def is_the_page(grey: np.ndarray) -> bool:
    tall, wide = grey.shape
    return grey[tall // 6, wide // 6] < 80 and grey[-tall // 6, -wide // 6] > 230


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF", "HEIF", "PDF"])
def test_every_kind_of_picture_is_opened(kind):
    data = pdf() if kind == "PDF" else saved(page().convert("RGB"), kind)
    (shot,) = read_pictures(data)
    assert shot.number == 1
    assert shot.grey.dtype == np.uint8
    assert is_the_page(shot.grey)


@pytest.mark.parametrize("mode", ["1", "L", "LA", "P", "RGB", "RGBA", "CMYK", "I;16"])
def test_pictures_of_every_depth_become_grey(mode):
    if mode == "I;16":
        image = Image.fromarray(np.asarray(page()).astype(np.uint16) * 257)
    else:
        image = page().convert(mode)
    (shot,) = read_pictures(saved(image, "TIFF" if mode == "CMYK" else "PNG"))
    assert is_the_page(shot.grey)


def test_what_is_clear_is_paper():
    image = Image.new("RGBA", (60, 90), (0, 0, 0, 0))
    image.paste((30, 30, 30, 255), (0, 0, 20, 30))
    (shot,) = read_pictures(saved(image, "PNG"))
    assert is_the_page(shot.grey)


@pytest.mark.parametrize("turn", [1, 3, 6, 8])
def test_a_picture_is_turned_as_it_says(turn):
    upright = page()
    lying = {1: 0, 3: 180, 6: 90, 8: 270}[turn]
    exif = Image.Exif()
    exif[0x0112] = turn
    exif[0x010E] = "a place nobody should keep"
    (shot,) = read_pictures(saved(upright.rotate(lying, expand=True), "JPEG", exif=exif))
    assert shot.grey.shape == SHAPE
    assert is_the_page(shot.grey)


def test_all_pages_of_a_file_come_in_order():
    many = saved(page(), "TIFF", save_all=True, append_images=[page(), page()])
    assert [shot.number for shot in read_pictures(many)] == [1, 2, 3]
    assert [shot.number for shot in read_pictures(pdf(3))] == [1, 2, 3]


def test_of_an_animated_picture_the_first_is_the_page():
    moving = saved(page(), "PNG", save_all=True, append_images=[Image.new("L", (60, 90), 0)])
    (shot,) = read_pictures(moving)
    assert is_the_page(shot.grey)


def chunk(name: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))


def png_bomb(wide: int, tall: int) -> bytes:
    head = chunk(b"IHDR", struct.pack(">IIBBBBB", wide, tall, 8, 0, 0, 0, 0))
    rows = chunk(b"IDAT", zlib.compress(b"\0" * 100_000))
    return b"\x89PNG\r\n\x1a\n" + head + rows + chunk(b"IEND", b"")


def locked_pdf() -> bytes:
    from reportlab.lib import pdfencrypt
    from reportlab.pdfgen.canvas import Canvas

    out = io.BytesIO()
    canvas = Canvas(out, encrypt=pdfencrypt.StandardEncryption("secret"))
    canvas.drawString(50, 50, "n")
    canvas.save()
    return out.getvalue()


def pdf_of_size(points: float) -> bytes:
    document = pdfium.PdfDocument.new()
    document.new_page(points, points)
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


JPEG, TIFF = saved(page(), "JPEG"), saved(page(), "TIFF")
HOSTILE = {
    "nothing": b"",
    "text": b"n n n n",
    "html": b"<html><script>alert(1)</script></html>",
    "svg": b"<svg xmlns='http://www.w3.org/2000/svg'><rect width='1e9' height='1e9'/></svg>",
    "zip": b"PK\x03\x04" + bytes(400),
    "gif": saved(page(), "GIF"),
    "bmp": saved(page(), "BMP"),
    "program": b"\x7fELF" + bytes(300),
    "noise": bytes(np.random.default_rng(1).integers(0, 256, 5000, dtype=np.uint8)),
    "zeros": bytes(10_000),
    "png cut off": saved(page(), "PNG")[:60],
    "png of half a billion pixels": png_bomb(30_000, 20_000),
    "png a hundred thousand wide": png_bomb(100_000, 100_000),
    "png of no size": png_bomb(0, 5),
    "png with nothing in it": b"\x89PNG\r\n\x1a\n" + chunk(b"IEND", b""),
    "png with wrong sums": saved(page(), "PNG").replace(b"IDAT", b"IDAX"),
    "jpeg cut off": JPEG[:200],
    "jpeg head only": JPEG[:4],
    "tiff cut off": TIFF[:50],
    "tiff that points at itself": b"II*\x00\x08\x00\x00\x00\x00\x00\x08\x00\x00\x00",
    "heic cut off": saved(page().convert("RGB"), "HEIF")[:120],
    "pdf cut off": pdf()[:80],
    "pdf head only": b"%PDF-1.7\n%%EOF",
    "pdf with a password": locked_pdf(),
    "pdf of an endless page": pdf_of_size(100_000),
    "pdf of too many pages": pdf(PAGES + 1),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_what_cannot_be_used_is_refused_in_one_line(name):
    with pytest.raises(PictureError) as refused:
        for _ in read_pictures(HOSTILE[name]):
            pass
    said = str(refused.value)
    assert said
    assert "\n" not in said
    assert "/" not in said


@pytest.mark.parametrize("name", HOSTILE)
def test_one_picture_alone_is_refused_as_the_whole_file_is(name):
    with pytest.raises(PictureError):
        read_picture(HOSTILE[name], count_pictures(HOSTILE[name]))


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF", "HEIF", "PDF"])
def test_pictures_are_counted_and_opened_one_by_one(kind):
    several = kind in ("TIFF", "PDF")
    if kind == "TIFF":
        data = saved(page(), "TIFF", save_all=True, append_images=[page().rotate(180), page()])
    else:
        data = pdf(3) if kind == "PDF" else saved(page().convert("RGB"), kind)
    assert count_pictures(data) == (3 if several else 1)
    together = list(read_pictures(data))
    for shot in together:
        assert np.array_equal(read_picture(data, shot.number), shot.grey)


def test_a_heif_file_with_the_wrong_ending_is_told_by_its_content():
    assert pillow_heif.is_supported(io.BytesIO(saved(page().convert("RGB"), "HEIF")))
