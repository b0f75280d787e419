"""Pictures and PDF pages as they are read to lie behind drawings."""

import hashlib
import io

import numpy as np
import pytest
from PIL import Image

from zygon.errors import ImportFileError
from zygon.exchange.picture_in import read_picture
from zygon.limits import MAX_PICTURE


def sheet(wide, high, marks, size=3):
    """A white sheet with dark dots (pixels from its upper left corner)."""
    page = np.full((high, wide), 255, np.uint8)
    y, x = np.mgrid[0:high, 0:wide]
    for cx, cy in marks:
        page[(x - cx) ** 2 + (y - cy) ** 2 <= size**2] = 0
    return Image.fromarray(page)


def seen(found):
    return Image.open(io.BytesIO(found.data))


def centroids(picture, n):
    """Middles of the dark dots of a picture, from left to right."""
    from scipy import ndimage

    dark = 255.0 - np.asarray(picture.convert("L"), float)
    spots, count = ndimage.label(dark > 60)
    assert count == n
    return sorted((x, y) for y, x in ndimage.center_of_mass(dark, spots, range(1, n + 1)))


def test_a_scanned_sheet_says_how_large_it_is(tmp_path):
    path = tmp_path / "scan.png"
    sheet(800, 500, [(100, 100), (700, 100)]).save(path, dpi=(300, 300))
    found = read_picture(path)
    assert (found.wide, found.high, found.pages, found.media) == (800, 500, 1, "image/png")
    assert found.scale == pytest.approx(25.4 / 300, rel=1e-4)
    assert found.picture == hashlib.sha256(found.data).hexdigest()
    (ax, _), (bx, _) = centroids(seen(found), 2)
    assert (bx - ax) * found.scale == pytest.approx(600 / 300 * 25.4, abs=0.01)


@pytest.mark.parametrize("dpi", [(72, 72), (96, 96), (300, 600), (5000, 5000)])
def test_what_was_not_measured_is_not_believed(tmp_path, dpi):
    path = tmp_path / "x.png"
    sheet(60, 40, []).save(path, dpi=dpi)
    assert read_picture(path).scale is None


def test_a_large_scan_is_made_smaller_and_stays_as_large_in_mm(tmp_path):
    path = tmp_path / "large.png"
    sheet(4500, 3000, [(450, 1500), (4050, 1500)], 12).save(path, dpi=(600, 600))
    found = read_picture(path)
    assert (found.wide, found.high) == (MAX_PICTURE, 2000)
    assert found.wide * found.scale == pytest.approx(4500 / 600 * 25.4, rel=1e-4)
    (ax, _), (bx, _) = centroids(seen(found), 2)
    assert (bx - ax) * found.scale == pytest.approx(3600 / 600 * 25.4, abs=0.02)


@pytest.mark.parametrize(
    "turned, corner", [(1, (0, 0)), (2, (1, 0)), (3, (1, 1)), (4, (0, 1)), (5, (0, 0)), (6, (1, 0)), (7, (1, 1)), (8, (0, 1))]
)
def test_a_photo_lies_as_its_camera_was_held(tmp_path, turned, corner):
    """Orientation of EXIF (CIPA DC-008): where the stored picture's first row and column are seen."""
    page = Image.new("RGB", (80, 60), "white")
    page.paste("black", (0, 0, 20, 15))
    exif = page.getexif()
    exif[0x0112] = turned
    path = tmp_path / "photo.jpg"
    page.save(path, exif=exif, quality=95)
    found = read_picture(path)
    assert (found.wide, found.high) == ((80, 60) if turned < 5 else (60, 80)) and found.media == "image/jpeg"
    after = seen(found).convert("L")
    x, y = (3 + corner[0] * (found.wide - 7), 3 + corner[1] * (found.high - 7))
    assert after.getpixel((x, y)) < 60
    assert after.getpixel((found.wide - 1 - x, found.high - 1 - y)) > 200
    assert not after.getexif()


@pytest.mark.parametrize("mode", ["1", "L", "LA", "P", "RGB", "RGBA", "I;16", "CMYK"])
def test_every_kind_of_picture_comes_on_white(tmp_path, mode):
    clear = Image.new("RGBA", (40, 30), (255, 255, 255, 0) if mode in ("LA", "RGBA") else "white")
    clear.paste("black", (10, 10, 20, 20))
    path = tmp_path / f"x.{'jpg' if mode == 'CMYK' else 'png'}"
    if mode == "I;16":
        Image.fromarray(np.asarray(clear.convert("L")).astype(np.uint16) * 257).save(path)
    else:
        clear.convert("RGB" if mode == "CMYK" else mode).convert(mode).save(path)
    after = seen(read_picture(path)).convert("L")
    assert after.getpixel((2, 2)) > 240 and after.getpixel((15, 15)) < 20


def pdf(wide, high, marks, turned=0, pages=1):
    """A PDF of sheets that are so many points wide and high, with dots (points from the low left corner)."""
    dots = " ".join(f"{x - 3} {y - 3} 6 6 re f" for x, y in marks).encode()
    objects = [b"<</Type/Catalog/Pages 2 0 R>>", b""]
    kids = []
    for _ in range(pages):
        n = len(objects) + 1
        kids.append(f"{n} 0 R")
        objects.append(f"<</Type/Page/Parent 2 0 R/MediaBox[0 0 {wide} {high}]/Rotate {turned}/Contents {n + 1} 0 R>>".encode())
        objects.append(b"<</Length %d>>stream\n%s\nendstream" % (len(dots), dots))
    objects[1] = f"<</Type/Pages/Count {pages}/Kids[{' '.join(kids)}]>>".encode()
    out, places = io.BytesIO(), []
    out.write(b"%PDF-1.4\n")
    for n, body in enumerate(objects, 1):
        places.append(out.tell())
        out.write(b"%d 0 obj%s endobj\n" % (n, body))
    start = out.tell()
    out.write(b"xref\n0 %d\n0000000000 65535 f \n" % (len(objects) + 1))
    for place in places:
        out.write(b"%010d 00000 n \n" % place)
    out.write(b"trailer<</Size %d/Root 1 0 R>>\nstartxref\n%d\n%%%%EOF" % (len(objects) + 1, start))
    return out.getvalue()


@pytest.mark.parametrize("turned", [0, 90, 180, 270])
def test_a_page_is_as_large_as_it_is_printed(tmp_path, turned):
    """A page's unit is 1/72 inch (ISO 32000-1, 8.3.2.3)."""
    path = tmp_path / "sheet.pdf"
    path.write_bytes(pdf(842, 595, [(100, 300), (100 + 200 / 25.4 * 72, 300)], turned))
    found = read_picture(path)
    across = found.wide if turned in (0, 180) else found.high
    assert across * found.scale == pytest.approx(842 / 72 * 25.4, abs=0.1)
    ends = centroids(seen(found), 2)
    assert float(np.hypot(*np.subtract(*ends))) * found.scale == pytest.approx(200.0, abs=0.1)


def test_a_page_is_chosen(tmp_path):
    path = tmp_path / "three.pdf"
    path.write_bytes(pdf(200, 100, [(50, 50)], pages=3))
    assert read_picture(path, page=3).pages == 3
    for page in (0, 4, -1):
        with pytest.raises(ImportFileError) as refused:
            read_picture(path, page=page)
        assert refused.value.entry == "page" and "from 1 to 3" in refused.value.rule


@pytest.mark.parametrize(
    "data", [b"", b"no picture", b"%PDF-1.4 but nothing else", b"\x89PNG\r\n\x1a\nbroken", b"\xff\xd8\xff\xe0cut off", b"GIF89a..."]
)
def test_what_is_none_is_refused(tmp_path, data):
    path = tmp_path / "x.png"
    path.write_bytes(data)
    with pytest.raises(ImportFileError) as refused:
        read_picture(path, "mine.png")
    assert "mine.png" in refused.value.message and refused.value.rule


def test_a_picture_that_would_fill_the_memory_is_refused_unread(tmp_path):
    path = tmp_path / "x.png"
    Image.new("1", (20_000, 20_000)).save(path)
    with pytest.raises(ImportFileError) as refused:
        read_picture(path)
    assert "20000 × 20000 pixels" in refused.value.message and "million" in refused.value.rule


def test_a_photo_that_came_as_a_png_is_kept_small(tmp_path):
    path = tmp_path / "photo.png"
    grain = np.random.default_rng(1).integers(0, 255, (1200, 1600, 3), dtype=np.uint8)
    Image.fromarray(grain).save(path)
    found = read_picture(path)
    assert found.media == "image/jpeg" and seen(found).format == "JPEG" and seen(found).size == (1600, 1200)
    assert len(found.data) < path.stat().st_size / 2
