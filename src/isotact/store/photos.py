"""Photos in the data folder, each under the SHA-256 of what is kept: whole, and small for lists.

What comes in is drawn anew and written as JPEG: no position, no maker's note and nothing hidden behind the picture is
left of what the phone sent.
"""

import hashlib
import io
import os
import re
import warnings
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from isotact.core.model.problems import NotFoundError, Problem, RefusedError
from isotact.store.log import PHOTO
from isotact.store.storage_errors import in_words

MOST_BYTES = 15_000_000
"""So much is taken of a phone's photo."""
# The largest pictures that phones make have 48 or 50 megapixels.
MOST_PIXELS = 60_000_000
LONGEST_PX, SMALL_PX = 2400, 320
# A marking on a port is still sharp, in a third of what a phone sends.
QUALITY = 88
KINDS = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
"""What is taken, by what is in the file and not by what it is called."""


class Photo(BaseModel):
    """A photo that is kept, and how large it is."""

    id: str
    width_px: int
    height_px: int
    size_bytes: int


class Photos:
    """The photos of one data folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def add(self, sent: bytes) -> Photo:
        """Keep a photo; it is on the disk when this returns. Raises RefusedError for what is none."""
        whole, small, size = _drawn_anew(sent)
        key = hashlib.sha256(whole).hexdigest()
        with in_words(self.folder):
            self._write(self._small(key), small)
            self._write(self.file(key), whole)
        return Photo(id=key, width_px=size[0], height_px=size[1], size_bytes=len(whole))

    def take(self, key: str, whole: bytes) -> None:
        """Keep one that another folder of ours kept. Raises RefusedError for what is not what it is called by."""
        if hashlib.sha256(whole).hexdigest() != key:
            raise _refused(f"found a photo that is not what its name says: {key}.", "It was damaged or changed.")
        _, small, _ = _drawn_anew(whole)
        with in_words(self.folder):
            self._write(self._small(key), small)
            self._write(self.file(key), whole)

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
        new = file.with_name(f".{file.name}.{os.getpid()}.new")
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


def _drawn_anew(sent: bytes) -> tuple[bytes, bytes, tuple[int, int]]:
    """The picture as JPEG, upright, no longer than we keep; the same small; and its size in pixels."""
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(sent) > MOST_BYTES:
        raise _refused(f"found {len(sent):,} bytes; a photo has at most {MOST_BYTES:,}.", "Take it smaller.")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(sent), formats=tuple(KINDS)) as found:
                if found.width * found.height > MOST_PIXELS:
                    raise _refused(
                        f"found {found.width} x {found.height} pixels; that is too many.", "Take it smaller."
                    )
                upright: Any = ImageOps.exif_transpose(found)
                plain = _on_white(upright)
    except RefusedError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError,
            Image.DecompressionBombWarning) as error:  # fmt: skip
        raise _refused("found no photo; expected a JPEG, PNG or WebP file.", "Send the photo itself.") from error
    plain.thumbnail((LONGEST_PX, LONGEST_PX))
    small = plain.copy()
    small.thumbnail((SMALL_PX, SMALL_PX))
    return _jpeg(plain), _jpeg(small), plain.size


def _on_white(picture: Any) -> Any:
    """The pixels alone: what is transparent stands on white."""
    from PIL import Image

    plain = Image.new("RGB", picture.size, "white")
    picture = picture.convert("RGBA") if "A" in picture.getbands() or "transparency" in picture.info else picture
    if picture.mode == "RGBA":
        plain.paste(picture, mask=picture.getchannel("A"))
    else:
        plain.paste(picture.convert("RGB"))
    return plain


def _jpeg(picture: Any) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()


def _refused(found: str, hint: str) -> RefusedError:
    return RefusedError([Problem(code="no-photo", path="photo", message=found, hint=hint)])
