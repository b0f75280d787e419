"""Pictures and pages of PDF files read as what lies behind a drawing: upright, on white, of a size that a screen can hold; nothing in a file is ever run."""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass
from pathlib import Path

import pypdfium2
from PIL import Image, ImageOps, UnidentifiedImageError

from zygon.errors import ImportFileError
from zygon.limits import MAX_PICTURE
from zygon.measure.units import INCH

__all__ = ["PictureIn", "read_picture"]

#: A PDF page is drawn with so many pixels an inch, where it is not too large for that.
PDF = 200
#: Pixels of a picture that is read at all: an A4 sheet at 600 pixels an inch.
MOST = 40_000_000
#: What a file says of its pixels an inch is believed from here on: less is what cameras and screens write without measuring.
SCANNED = (100.0, 2400.0)
#: Of a PDF document so many pages can be chosen from.
PAGES = 500
#: A PNG file of more bytes is kept as a JPEG.
HEAVY = 3_000_000
PDF_POINT = INCH / 72
#: How a camera was held, as EXIF says it (CIPA DC-008), and what brings its picture upright.
ORIENTATION = 0x0112
TURNED = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}


@dataclass(frozen=True)
class PictureIn:
    """A picture as it is kept: its file (``data``, PNG or JPEG by ``media``), pixels, mm a pixel where the file says it, and the pages that there were."""

    picture: str
    media: str
    data: bytes
    wide: int
    high: int
    scale: float | None
    pages: int


def read_picture(path: Path, name: str = "", page: int = 1) -> PictureIn:
    """A PNG or JPEG picture, or a page of a PDF. Raises ImportFileError, with the rule, for what is none or is too large."""
    name = name or path.name
    head = path.read_bytes()[:1024]
    if b"%PDF-" in head:
        return _page(path, name, page)
    Image.MAX_IMAGE_PIXELS = None  # the bound below is told in our own words
    try:
        with Image.open(path, formats=("PNG", "JPEG")) as found:
            if found.width * found.height > MOST:
                told = f"{name} has {found.width} × {found.height} pixels"
                raise ImportFileError(told, entry="file", value=name, rule=f"at most {MOST // 1_000_000} million pixels")
            scale = _said(found)
            photo = found.format == "JPEG"
            long, turned = max(found.size), found.getexif().get(ORIENTATION, 1)
            picture = _on_white(found)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        rule = "a PNG or JPEG picture, or a PDF"
        raise ImportFileError(f"{name} is no picture that can be read", entry="file", value=name, rule=rule) from error
    how = TURNED.get(turned)
    upright = picture.transpose(how) if how is not None else picture
    return _kept(upright, scale * long / max(upright.size) if scale else None, 1, photo=photo)


def _said(found: Image.Image) -> float | None:
    """Mm a pixel, as a scanner writes it into the file."""
    dpi = found.info.get("dpi")
    try:
        across, up = (float(x) for x in dpi or ())
    except (TypeError, ValueError, ZeroDivisionError):
        return None
    return INCH / across if SCANNED[0] <= across <= SCANNED[1] and abs(across - up) < 1 else None


def _on_white(found: Image.Image) -> Image.Image:
    if found.mode.startswith("I;16"):
        return _fitted(found.point(lambda v: v / 257).convert("L"))
    if found.mode in ("RGB", "L"):
        return _fitted(found)
    # made smaller first: the copies that follow are not of the whole scan
    clear = _fitted(found if found.mode == "RGBA" else found.convert("RGBA"))
    white = Image.new("RGBA", clear.size, "white")
    white.alpha_composite(clear)
    return white.convert("RGB")


def _fitted(picture: Image.Image) -> Image.Image:
    if max(picture.size) <= MAX_PICTURE:
        picture.load()
        return picture
    return ImageOps.contain(picture, (MAX_PICTURE, MAX_PICTURE), Image.Resampling.LANCZOS)


def _page(path: Path, name: str, page: int) -> PictureIn:
    try:
        document = pypdfium2.PdfDocument(path)
        pages = len(document)
    except pypdfium2.PdfiumError as error:
        rule = "a PDF without a password"
        raise ImportFileError(f"{name} is no PDF that can be read", entry="file", value=name, rule=rule) from error
    if not 1 <= page <= min(pages, PAGES):
        told = f"{name} has no page {page}"
        raise ImportFileError(told, entry="page", value=page, rule=f"a page from 1 to {min(pages, PAGES)}")
    sheet = document[page - 1]
    wide, high = sheet.get_size()  # in points, turned as it is read
    if not (wide > 0 and high > 0):
        raise ImportFileError(f"Page {page} of {name} has no size", entry="page", value=page, rule="a page with a size")
    by = min(PDF / 72, MAX_PICTURE / max(wide, high))
    drawn = sheet.render(scale=by, may_draw_forms=False).to_pil().convert("RGB")
    return _kept(drawn, PDF_POINT * wide / drawn.width, pages, photo=False)


def _kept(picture: Image.Image, scale: float | None, pages: int, *, photo: bool) -> PictureIn:
    """Written anew, so that nothing but the picture is kept of the file."""
    clean = Image.new(picture.mode, picture.size)
    clean.paste(picture)
    data = b"" if photo else _file(clean, "PNG")
    # a photo that came as a PNG is a photo all the same
    photo = photo or len(data) > HEAVY
    if photo:
        data = _file(clean, "JPEG", quality=85)
    return PictureIn(
        hashlib.sha256(data).hexdigest(),
        "image/jpeg" if photo else "image/png",
        data,
        clean.width,
        clean.height,
        scale,
        pages,
    )


def _file(picture: Image.Image, kind: str, **how: int) -> bytes:
    to = io.BytesIO()
    picture.save(to, kind, **how)
    return to.getvalue()
