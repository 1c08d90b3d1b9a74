"""Photos: by what is in them, drawn anew without where they were taken, small and large, under their digest."""

import hashlib
import io
import subprocess
import sys
import threading
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from PIL import ExifTags, Image

from isotact.core.model import NotFoundError, RefusedError
from isotact.core.model.problems import StoppedError
from isotact.store.photos import LONGEST_PX, MOST_BYTES, MOST_WHOLE_PIXELS, SMALL_PX, Photos


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


TAKES = """
import pathlib, resource, sys
from isotact.store.photos import Photos
from isotact.core.model import RefusedError
from PIL import JpegImagePlugin, PngImagePlugin, WebPImagePlugin
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
try:
    Photos(pathlib.Path(sys.argv[1])).add(pathlib.Path(sys.argv[2]).read_bytes())
    print("kept", end=" ")
except RefusedError as error:
    print("refused", end=" ")
print((resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) // 1000)
"""


@pytest.mark.parametrize(
    ("kind", "size", "kept"),
    [
        ("JPEG", (8064, 6048), True),
        ("JPEG", (6048, 8064), True),
        ("PNG", (7700, 7700), False),
        ("WEBP", (4200, 4200), False),
        ("PNG", (4000, 4000), True),
    ],
)
def test_however_large_it_takes_no_more_memory_than_there_is(
    tmp_path: Path, kind: str, size: tuple[int, int], kept: bool
):
    """48 megapixels of a phone; and a drawing that packs to next to nothing."""
    sent = tmp_path / "sent"
    Image.new("RGB", size, "red").save(sent, kind)
    command = [sys.executable, "-c", TAKES, str(tmp_path / "photos"), str(sent)]
    said, megabytes = subprocess.run(command, capture_output=True, text=True, check=True).stdout.split()
    assert said == ("kept" if kept else "refused")
    assert int(megabytes) < 150


def test_one_that_only_comes_whole_says_how_many_pixels_it_may_have(photos: Photos):
    out = io.BytesIO()
    Image.new("RGB", (5000, 4000)).save(out, "JPEG", progressive=True)
    with pytest.raises(RefusedError, match=f"a progressive JPEG has at most {MOST_WHOLE_PIXELS // 1_000_000} million"):
        photos.add(out.getvalue())


@pytest.mark.parametrize(
    "exif", [b"Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x02\0\0\0\x04abc\0\0\0\0\0", b"Exif\0\0II*\0\xff\xff\xff\xff", b"Exif\0\0nonsense"]
)  # fmt: skip
def test_what_it_says_of_itself_may_be_nonsense(photos: Photos, exif: bytes):
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "red").save(out, "JPEG", exif=exif)
    kept = photos.add(out.getvalue())
    assert (kept.width_px, kept.height_px) == (60, 40)


def test_one_photo_that_is_sent_by_many_at_once_is_kept_for_all(photos: Photos):
    sent = [picture(size=(900, 600))] * 24
    with ThreadPoolExecutor(8) as pool:
        assert len({photo.id for photo in pool.map(photos.add, sent)}) == 1
    assert [file for file in photos.folder.rglob("*") if file.is_file() and file.name.startswith(".")] == []


def test_what_was_left_half_written_is_swept_up_and_nothing_else(photos: Photos):
    kept = photos.add(picture())
    left = photos.file(kept.id).with_name(f".{'a' * 64}.jpg.1234.new")
    left.write_bytes(b"half")
    photos.sweep()
    assert not left.exists()
    assert photos.read(kept.id)


def test_what_waits_to_be_drawn_holds_up_no_stop(photos: Photos, monkeypatch: pytest.MonkeyPatch):
    first_begun, may_end = threading.Event(), threading.Event()

    def slowly(sent: bytes) -> object:
        first_begun.set()
        may_end.wait(60)
        return sent

    monkeypatch.setattr("isotact.store.photos._drawn_anew", slowly)
    waiting = [photos.draw(b"") for _ in range(5)]
    assert first_begun.wait(60)
    photos.close()
    may_end.set()
    assert [one.cancelled() for one in waiting] == [False, True, True, True, True]
    with pytest.raises(StoppedError, match="is being stopped"):
        photos.draw(b"")
