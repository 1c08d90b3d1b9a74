"""Photos: by what is in them, drawn anew without where they were taken, small and large, under their digest."""

import hashlib
import io
from pathlib import Path

import pytest
from PIL import ExifTags, Image

from isotact.core.model import NotFoundError, RefusedError
from isotact.store.photos import LONGEST_PX, MOST_BYTES, SMALL_PX, Photos


def picture(kind: str = "JPEG", size: tuple[int, int] = (600, 400), exif: Image.Exif | None = None) -> bytes:
    out = io.BytesIO()
    drawn = Image.new("RGB", size, "black")
    drawn.paste("red", (0, 0, size[0] // 3, size[1] // 3))
    drawn.save(out, kind, **({"exif": exif} if exif else {}))
    return out.getvalue()


def from_a_phone() -> bytes:
    """Held upright, on a known quay, by a phone with a name."""
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = 6
    exif[ExifTags.Base.Model] = "A phone of somebody's"
    place = exif.get_ifd(ExifTags.IFD.GPSInfo)
    place[ExifTags.GPS.GPSLatitude] = (54.0, 10.0, 0.0)
    place[ExifTags.GPS.GPSLatitudeRef] = "N"
    return picture(exif=exif)


@pytest.fixture
def photos(tmp_path: Path) -> Photos:
    return Photos(tmp_path / "photos")


def opened(photos: Photos, key: str, small: bool = False) -> Image.Image:
    return Image.open(io.BytesIO(photos.read(key, small)))


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_photo_is_kept_under_the_digest_of_what_is_kept(photos: Photos, kind: str):
    kept = photos.add(picture(kind))
    assert (kept.width_px, kept.height_px) == (600, 400)
    whole = photos.read(kept.id)
    assert hashlib.sha256(whole).hexdigest() == kept.id
    assert len(whole) == kept.size_bytes
    assert opened(photos, kept.id).format == "JPEG"
    assert max(opened(photos, kept.id, small=True).size) == SMALL_PX
    assert list(photos.all()) == [kept.id]
    assert photos.add(picture(kind)) == kept, "the same picture is kept once"


def test_nothing_is_left_of_where_and_by_what_it_was_taken_and_it_stands_upright(photos: Photos):
    sent = from_a_phone()
    assert Image.open(io.BytesIO(sent)).getexif().get_ifd(ExifTags.IFD.GPSInfo), "the test is about a position"
    kept = photos.add(sent)
    for small in (False, True):
        assert not dict(opened(photos, kept.id, small).getexif())
        assert b"somebody" not in photos.read(kept.id, small)
    assert (kept.width_px, kept.height_px) == (400, 600)
    red, green, blue = opened(photos, kept.id).getpixel((390, 10))  # type: ignore[misc]
    assert red > 150 > green + blue, "turned by a quarter to the right, the corner is at the top right"


def test_a_large_one_is_kept_smaller_and_one_with_holes_stands_on_white(photos: Photos):
    kept = photos.add(picture(size=(5000, 1000)))
    assert (kept.width_px, kept.height_px) == (LONGEST_PX, LONGEST_PX // 5)
    out = io.BytesIO()
    Image.new("RGBA", (40, 40), (0, 0, 0, 0)).save(out, "PNG")
    assert opened(photos, photos.add(out.getvalue()).id).getpixel((20, 20)) == (255, 255, 255)


def bomb() -> bytes:
    out = io.BytesIO()
    Image.new("1", (12_000, 12_000)).save(out, "PNG")
    return out.getvalue()


NONE = {
    "nothing": b"",
    "text": b"<script>alert(1)</script>",
    "drawing": b"<svg xmlns='http://www.w3.org/2000/svg'/>",
    "cut off": picture()[:400],
    "only its first bytes": b"\xff\xd8\xff\xe0" + b"x" * 100,
    "another kind": picture("GIF"),
    "too many pixels": bomb(),
    "too many bytes": b"\xff" * (MOST_BYTES + 1),
}


@pytest.mark.parametrize("sent", NONE.values(), ids=NONE)
def test_what_is_no_photo_is_refused_and_nothing_is_kept(photos: Photos, sent: bytes):
    with pytest.raises(RefusedError) as refused:
        photos.add(sent)
    assert refused.value.problems[0].code == "no-photo"
    assert refused.value.problems[0].hint
    assert list(photos.all()) == []


@pytest.mark.parametrize("key", ["0" * 64, "../../etc/passwd", "A" * 64, ""])
def test_what_is_not_there_is_not_there(photos: Photos, key: str):
    with pytest.raises(NotFoundError):
        photos.read(key)


def test_one_that_was_changed_on_the_way_is_not_taken(photos: Photos, tmp_path: Path):
    kept = photos.add(picture())
    other = Photos(tmp_path / "other")
    other.take(kept.id, photos.read(kept.id))
    assert opened(other, kept.id, small=True).size == opened(photos, kept.id, small=True).size
    with pytest.raises(RefusedError):
        other.take(kept.id, photos.read(kept.id) + b" ")
