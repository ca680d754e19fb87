"""The facts of a file: what it is, its size, rate and length, and a digest of its content."""

from __future__ import annotations

import os
from fractions import Fraction
from hashlib import blake2b
from pathlib import Path

import av
from av.container import InputContainer
from PIL import Image, ImageOps, UnidentifiedImageError

from rovix.media.errors import MediaError
from rovix.model import Media, new_id

_CHUNK = 1 << 20
_STILL = frozenset({".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".bmp"})


def probe(path: Path, base: Path | None = None) -> Media:
    """A file as project media, its path relative to the folder `base` (its own by default).

    Raises MediaError, naming the reason, for what is neither picture nor sound.
    """
    if not path.is_file():
        raise MediaError(path, "there is no such file")
    facts = _still_facts(path) if path.suffix.lower() in _STILL else _stream_facts(path)
    relative = os.path.relpath(path, base or path.parent)
    return Media(
        id=new_id(),
        path=Path(relative).as_posix(),
        digest=digest_of(path),
        bytes=path.stat().st_size,
        **facts,  # type: ignore[arg-type]
    )


def digest_of(path: Path) -> str:
    """`blake2b:` and 32 hexadecimal digits of the whole content."""
    digest = blake2b(digest_size=16)
    with path.open("rb") as file:
        while chunk := file.read(_CHUNK):
            digest.update(chunk)
    return f"blake2b:{digest.hexdigest()}"


def _still_facts(path: Path) -> dict[str, object]:
    try:
        with Image.open(path) as image:
            width, height = ImageOps.exif_transpose(image).size
    except (UnidentifiedImageError, OSError, Image.DecompressionBombError) as wrong:
        raise MediaError(path, f"it holds no picture ({wrong})") from wrong
    return {"kind": "still", "width": width, "height": height}


def _stream_facts(path: Path) -> dict[str, object]:
    try:
        with av.open(str(path)) as container:
            return _facts(path, container)
    except av.FFmpegError as wrong:
        raise MediaError(path, f"it holds neither picture nor sound ({wrong.strerror})") from wrong


def _facts(path: Path, container: InputContainer) -> dict[str, object]:
    video, sound = next(iter(container.streams.video), None), next(iter(container.streams.audio), None)
    stream = video or sound
    if stream is None:
        raise MediaError(path, "it holds neither picture nor sound")
    if next(container.decode(stream), None) is None:
        raise MediaError(path, "it holds no picture or sound that can be decoded")
    if stream.duration and stream.time_base:
        length = stream.duration * stream.time_base
    else:
        length = Fraction(container.duration or 0, av.time_base)
    facts: dict[str, object] = {"length": float(length), "has_sound": sound is not None}
    if video is None:
        return facts | {"kind": "sound"}
    rate = video.average_rate or video.guessed_rate
    return facts | {"kind": "footage", "width": video.width, "height": video.height, "rate": str(rate)}
