"""Photos in the data folder, each under the SHA-256 of what is kept: whole, and small for lists.

What comes in is drawn anew and written as JPEG: no position, no maker's note and nothing hidden behind the picture is
left of what the phone sent.
"""

import contextlib
import hashlib
import io
import os
import re
import uuid
import warnings
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import Any, NamedTuple

from pydantic import BaseModel

from isotact.core.model.problems import NotFoundError, Problem, RefusedError, StoppedError
from isotact.store.log import PHOTO
from isotact.store.storage_errors import in_words

MOST_BYTES = 15_000_000
"""So much is taken of a phone's photo."""
# The largest pictures that phones make have 48 or 50 megapixels; they are reduced while they are decoded.
MOST_PIXELS = 60_000_000
MOST_WHOLE_PIXELS = 16_000_000
"""Of a PNG, a WebP or a progressive JPEG, which only come whole: four times a phone's screen, at four bytes 64 MB."""
LONGEST_PX, SMALL_PX = 2400, 320
# A marking on a port is still sharp, in a third of what a phone sends.
QUALITY = 88
UNFINISHED = ".new"
KINDS = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
"""What is taken, by what is in the file and not by what it is called."""


class Photo(BaseModel):
    """A photo that is kept, and how large it is."""

    id: str
    width_px: int
    height_px: int
    size_bytes: int


class Drawn(NamedTuple):
    """A photo as it is kept, the same small, and its size in pixels."""

    whole: bytes
    small: bytes
    size: tuple[int, int]


class Photos:
    """The photos of one data folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        # One at a time, and all in one thread: a large one takes a hundred megabytes while it is drawn, and what a
        # thread has taken of memory it keeps for its next.
        self._drawing = ThreadPoolExecutor(1, thread_name_prefix="isotact-photos")

    def close(self) -> None:
        """Draw no more: those that wait for their turn are given up, so that the laptop can be stopped at once."""
        self._drawing.shutdown(wait=False, cancel_futures=True)

    def sweep(self) -> None:
        """Remove what was being written when the laptop went off."""
        for left in self.folder.glob(f"??/.*{UNFINISHED}"):
            left.unlink(missing_ok=True)

    def add(self, sent: bytes) -> Photo:
        """Keep a photo; it is on the disk when this returns. Raises RefusedError for what is none."""
        return self.keep(self.draw(sent).result())

    def draw(self, sent: bytes) -> "Future[Drawn]":
        """Draw a photo anew, once those before it are drawn. The answer raises RefusedError for what is none."""
        try:
            return self._drawing.submit(_drawn_anew, sent)
        except RuntimeError:  # closed since it was sent
            raise StoppedError(
                "Isotact is being stopped on the laptop. Send the photo again once it is back."
            ) from None

    def keep(self, drawn: Drawn) -> Photo:
        """Keep what was drawn; it is on the disk when this returns."""
        key = hashlib.sha256(drawn.whole).hexdigest()
        self._keep(key, drawn)
        return Photo(id=key, width_px=drawn.size[0], height_px=drawn.size[1], size_bytes=len(drawn.whole))

    def take(self, key: str, whole: bytes) -> None:
        """Keep one that another folder of ours kept. Raises RefusedError for what is not what it is called by."""
        if hashlib.sha256(whole).hexdigest() != key:
            raise _refused(f"found a photo that is not what its name says: {key}.", "It was damaged or changed.")
        self._keep(key, self.draw(whole).result()._replace(whole=whole))

    def _keep(self, key: str, drawn: Drawn) -> None:
        with in_words(self.folder):
            self._write(self._small(key), drawn.small)
            self._write(self.file(key), drawn.whole)

    def has(self, key: str) -> bool:
        """Whether a photo of that id is kept."""
        return self.file(key).is_file()

    def read(self, key: str, small: bool = False) -> bytes:
        """A photo as JPEG. Raises NotFoundError."""
        file = self._small(key) if small else self.file(key)
        if not file.is_file():
            raise NotFoundError("photo", key, ())
        with in_words(file):
            return file.read_bytes()

    def all(self) -> Iterator[str]:
        """The ids of all photos that are kept."""
        return (file.stem for file in sorted(self.folder.glob("??/*.jpg")) if re.match(PHOTO, file.stem))

    def file(self, key: str) -> Path:
        """Where a photo is kept. Ids are checked before they come here: a path is made of them."""
        if not re.match(PHOTO, key):
            raise NotFoundError("photo", key[:80], ())
        return self.folder / key[:2] / f"{key}.jpg"

    def _small(self, key: str) -> Path:
        file = self.file(key)
        return file.with_name(f"{key}-small.jpg")

    def _write(self, file: Path, data: bytes) -> None:
        """The file appears whole or not at all, and is on the disk when this returns."""
        if file.is_file():
            return
        file.parent.mkdir(parents=True, exist_ok=True)
        new = file.with_name(f".{file.name}.{uuid.uuid4().hex}{UNFINISHED}")
        try:
            with new.open("wb") as out:
                out.write(data)
                out.flush()
                os.fsync(out.fileno())
            new.replace(file)
            folder = os.open(file.parent, os.O_RDONLY)
            try:
                os.fsync(folder)
            finally:
                os.close(folder)
        finally:
            new.unlink(missing_ok=True)


def _drawn_anew(sent: bytes) -> Drawn:
    """The picture as JPEG, upright, no longer than we keep."""
    from PIL import Image, UnidentifiedImageError

    if len(sent) > MOST_BYTES:
        raise _refused(f"found {len(sent):,} bytes; a photo has at most {MOST_BYTES:,}.", "Take it smaller.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # what a photo says of itself may be damaged: that is nobody's news
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(sent), formats=tuple(KINDS)) as found:
                _must_be_small_enough(found)
                # Of a JPEG every second, fourth or eighth pixel, so that it is still no smaller than what is kept.
                found.draft("RGB", (LONGEST_PX, LONGEST_PX))
                plain = _upright(_on_white(found))
    except RefusedError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError,
            Image.DecompressionBombWarning) as error:  # fmt: skip
        raise _refused("found no photo; expected a JPEG, PNG or WebP file.", "Send the photo itself.") from error
    small = plain.copy()
    small.thumbnail((SMALL_PX, SMALL_PX))
    return Drawn(_jpeg(plain), _jpeg(small), plain.size)


def _must_be_small_enough(found: Any) -> None:
    comes_whole = found.format != "JPEG" or "progressive" in found.info
    if found.width * found.height > (MOST_WHOLE_PIXELS if comes_whole else MOST_PIXELS):
        kind = "progressive JPEG" if found.format == "JPEG" else found.format
        most = f"; a {kind} has at most {MOST_WHOLE_PIXELS // 1_000_000} million" if comes_whole else ""
        raise _refused(f"found {found.width} x {found.height} pixels; that is too many{most}.", "Take it smaller.")


def _upright(picture: Any) -> Any:
    """As it was held; what says nothing that makes sense of that is left as it is."""
    from PIL import ImageOps

    # What stands in EXIF is written by whoever made the picture: the library fails at it in a dozen ways.
    with contextlib.suppress(Exception):
        return ImageOps.exif_transpose(picture)
    return picture


def _on_white(found: Any) -> Any:
    """The pixels alone, no more of them than are kept: what is transparent stands on white."""
    from PIL import Image

    seen = "A" in found.getbands() or "transparency" in found.info
    picture = found if found.mode in ("RGB", "RGBA", "L") else found.convert("RGBA" if seen else "RGB")
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    plain = Image.new("RGB", picture.size, "white")
    plain.paste(picture, mask=picture.getchannel("A") if picture.mode == "RGBA" else None)
    with contextlib.suppress(Exception):
        plain.info["exif"] = found.info.get("exif", b"")
    return plain


def _jpeg(picture: Any) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()


def _refused(found: str, hint: str) -> RefusedError:
    return RefusedError([Problem(code="no-photo", path="photo", message=found, hint=hint)])
