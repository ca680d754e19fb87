"""Files that tests make: videos, sounds, and forty that are broken, lying or far too large."""

from __future__ import annotations

import io
import struct
import wave
import zlib
from fractions import Fraction

import av
import numpy as np
from PIL import Image


def video(path, pictures, codec="libx264", pix_fmt="yuv444p", times=None, rate=30, **options):
    """Write pictures (RGB arrays) to a file; `times` are milliseconds for an uneven rate."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream(
            codec, rate=rate, options={"qp": "0", **options} if codec == "libx264" else {}
        )
        stream.height, stream.width = pictures[0].shape[:2]
        stream.pix_fmt = pix_fmt
        stream.codec_context.colorspace, stream.codec_context.color_range = 1, 1  # BT.709, narrow range
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        for number, picture in enumerate(pictures):
            frame = av.VideoFrame.from_ndarray(picture, "rgb24").reformat(
                format=pix_fmt, dst_colorspace="ITU709", dst_color_range="MPEG"
            )
            frame.colorspace = 1
            frame.time_base = Fraction(1, 1000)
            frame.pts = times[number] if times else round(number * 1000 / rate)
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return path


def plain(colour_, size=(64, 48)):
    return np.full((size[1], size[0], 3), colour_, dtype=np.uint8)


def square_wave(path, seconds, loud=0.5, rate=48_000):
    """A square wave, so that each hundredth of a second has its full level."""
    values = np.where(np.arange(int(rate * seconds)) // 24 % 2, loud, -loud)
    with wave.open(str(path), "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(2)
        out.setframerate(rate)
        out.writeframes((values * 32767).astype("<i2").tobytes())
    return path


def png_bomb(side):
    """A PNG that says it is `side` px square, of one colour: a few kB that would unfold to gigabytes."""

    def chunk(name, data):
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

    rows = zlib.compress(b"\0" * 4_000_000, 9)
    head = struct.pack(">IIBBBBB", side, side, 8, 6, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


def encoded(suffix, size=(32, 24)):
    buffer = io.BytesIO()
    Image.fromarray(plain((9, 99, 199), size), "RGB").save(
        buffer, {"jpg": "JPEG", "tif": "TIFF"}.get(suffix, suffix.upper())
    )
    return buffer.getvalue()


def silence(seconds=0.1):
    buffer = io.BytesIO()
    with wave.open(buffer, "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(2)
        out.setframerate(8000)
        out.writeframes(b"\0\0" * int(8000 * seconds))
    return buffer.getvalue()


SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="{w}" height="{h}"><rect width="9" height="9"/></svg>'


def hostile_files(folder):
    """Forty files: broken off, empty, not what they say, far too large, or merely odd."""
    clip = video(folder / "whole.mp4", [plain(50 + n) for n in range(8)]).read_bytes()
    files = {f"empty.{s}": b"" for s in ("png", "jpg", "svg", "mp4", "wav", "tif")}
    for suffix in ("png", "jpg", "webp", "tif", "bmp"):
        files[f"half.{suffix}"] = encoded(suffix)[: len(encoded(suffix)) // 2]
    for suffix in ("png", "mp4", "wav", "svg", "mp3", "tif"):
        files[f"text.{suffix}"] = b"This is a shopping list, not a picture.\n" * 20
    files |= {
        "half.mp4": clip[: len(clip) // 2], "head-only.mp4": clip[:40], "no-suffix": clip,
        "video.png": clip, "picture.mp4": encoded("png"), "sound.jpg": silence(), "picture.wav": encoded("jpg"),
        "bomb.png": png_bomb(60_000), "wide-bomb.png": png_bomb(100_000), "one.png": encoded("png", (1, 1)),
        "wide.png": encoded("png", (20_000, 2)), "noise.mp4": bytes(range(256)) * 40, "noise.png": b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 9,
        "half.wav": silence()[:30], "no-samples.wav": silence(0), "list.mp4": b"#EXTM3U\n#EXTINF:5,\nwhole.mp4\n",
        "script.txt": b"ffconcat version 1.0\nfile whole.mp4\n", "huge.svg": SVG.format(w=10**6, h=10**6).encode(),
        "laughs.svg": b'<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>' + SVG.format(w=9, h=9).encode(),
        "broken.svg": SVG.format(w=9, h=9).encode()[:-9], "zero.svg": SVG.format(w=0, h=9).encode(),
        "page.svg": b"<html><body/></html>",
    }  # fmt: skip
    for name, content in files.items():
        (folder / name).write_bytes(content)
    return [folder / "whole.mp4", *(folder / name for name in files)]
