"""JSON in and out: numbers are finite, texts are text, names of files are the system's."""

from __future__ import annotations

import json
import re
from typing import Any

import msgspec

from rovix.errors import RovixError
from rovix.model.values import mended_data, mended_path

MOST_BYTES = 512 << 20
_HALVES = re.compile(rb"\\u[dD][89a-fA-F]")


def parsed(content: bytes) -> Any:
    """The data of UTF-8 JSON. ValueError, with the reason, for what is none.

    Halves of characters become U+FFFD, but in the paths of media, whose names need not be text.
    """
    if len(content) > MOST_BYTES:
        raise ValueError(f"it has {len(content) >> 20} MB; at most {MOST_BYTES >> 20} MB are read")
    try:
        data = json.loads(content.decode("utf-8"), parse_constant=_no_number, parse_float=_number)
    except UnicodeDecodeError as wrong:
        raise ValueError(f"byte {wrong.start} is not UTF-8 text") from None
    except json.JSONDecodeError as wrong:
        raise ValueError(f"line {wrong.lineno}, column {wrong.colno}: {wrong.msg}") from None
    except RecursionError:
        raise ValueError("it is nested too deeply") from None
    return _mended(data) if _HALVES.search(content) else data


def written(data: Any) -> bytes:
    """UTF-8 JSON, a field a line; a byte of a file's name that is no text is written as an escape."""
    return in_lines(compact(data))


def in_lines(text: bytes) -> bytes:
    """JSON of one line with a field a line."""
    try:
        return msgspec.json.format(text, indent=1) + b"\n"
    except msgspec.DecodeError:
        # The byte of a name that is no text, which only the slow way takes.
        return _escaped(json.dumps(json.loads(text), indent=1, ensure_ascii=False) + "\n")


def compact(data: Any) -> bytes:
    """The same on one line. ValueError for numbers without end."""
    return _escaped(json.dumps(data, ensure_ascii=False, allow_nan=False))


def _escaped(text: str) -> bytes:
    return text.encode(errors="backslashreplace")


def _number(text: str) -> float:
    number = float(text)
    return _no_number(text) if number - number else number


def _no_number(text: str) -> float:
    raise ValueError(f"{text} is no number that can be kept")


def _mended(data: Any) -> Any:
    try:
        media = data.get("media") if isinstance(data, dict) else None
        items = media if isinstance(media, list) else []
        paths = [item.get("path") if isinstance(item, dict) else None for item in items]
        made = mended_data(data)
    except RovixError as wrong:
        raise ValueError(str(wrong)) from None
    for item, path in zip(made["media"] if paths else (), paths, strict=True):
        if isinstance(path, str):
            item["path"] = mended_path(path)
    return made
