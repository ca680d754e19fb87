"""Keys of channels as CSV (RFC 4180), a row a key: for tables, scripts and other programs."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Callable, Mapping
from itertools import pairwise
from typing import Any

import msgspec

from rovix.edit.channels import AnyKey, shifted_keys
from rovix.edit.key_clips import CopiedKeys, as_copied
from rovix.errors import RovixError
from rovix.formats.path_data import line_of, path_data
from rovix.model import ColourKey, ColourKeys, ContourKey, ContourKeys, Key, Keys, MotionPath, PathKey
from rovix.model.contour import Contour
from rovix.model.fields import Animated
from rovix.time import Rate

COLUMNS = (
    "channel", "frame", "seconds", "value", "y", "curve", "before_1", "before_2", "after_1", "after_2",
)  # fmt: skip
"""Of a path `value` and `y` are its two px; of a mask's line `value` is path data
of SVG. Tangents are frames and value, of a path its two px; empty where
there is none. `seconds` is for who reads it; what counts is the frame of the layer."""
_NEEDED = ("channel", "frame", "value")
_MOST = 200_000


def keys_csv(copied: CopiedKeys, first: int, rate: Rate) -> str:
    """Copied keys, the first of them on a frame of the layer, as CSV with a head; lines end in CR LF."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for address, held in copied.channels.items():
        for key in held.keys:
            frame = key.frame + first
            seconds = f"{float(rate.seconds(frame)):.6f}"
            writer.writerow([address, frame, seconds, *_cells(key)])
    return out.getvalue()


def _cells(key: AnyKey) -> list[object]:
    if isinstance(key, ColourKey):
        return [key.value, "", key.curve, "", "", "", ""]
    if isinstance(key, ContourKey):
        return [path_data(key.value), "", key.curve, "", "", "", ""]
    values = (key.x, key.y) if isinstance(key, PathKey) else (key.value, "")
    return [*values, key.curve, *(key.before or ("", "")), *(key.after or ("", ""))]


def parse_keys_csv(text: str) -> tuple[CopiedKeys, int]:
    """The keys in a CSV, and the frame of the layer that the first of them is on.

    Separated by commas, semicolons or tabs, columns by their names in any order. RovixError, naming the row,
    the column and the reason.
    """
    reader = csv.DictReader(io.StringIO(text.removeprefix("\ufeff")), dialect=_dialect(text), strict=True)
    found: dict[str, list[AnyKey]] = {}
    try:
        missing = [name for name in _NEEDED if name not in (reader.fieldnames or ())]
        if missing:
            raise RovixError(f"The table has no column '{missing[0]}'; it needs {', '.join(_NEEDED)}.")
        for row in reader:
            if any(value for value in row.values() if isinstance(value, str)):
                address, key = _key(row, reader.line_num)
                found.setdefault(address, []).append(key)
            if reader.line_num > _MOST:
                raise RovixError(f"The table has more than {_MOST:,} rows.")
    except csv.Error as wrong:
        raise RovixError(f"Row {reader.line_num} is no CSV: {wrong}.") from wrong
    if not found:
        raise RovixError("The table holds no keys.")
    first = min(key.frame for keys in found.values() for key in keys)
    channels = {address: shifted_keys(_held(address, keys), -first) for address, keys in found.items()}
    return as_copied(channels), first


class _Comma(csv.excel):
    """RFC 4180."""


class _Semicolon(csv.excel):
    delimiter = ";"


def _dialect(text: str) -> type[csv.Dialect]:
    head = text.split("\n", 1)[0]
    marks = {",": _Comma, ";": _Semicolon, "\t": csv.excel_tab}
    return marks[max(marks, key=head.count)]


def _key(row: Mapping[str, Any], line: int) -> tuple[str, AnyKey]:
    cell = _reader(row, line)
    address, colour = str(row["channel"] or "").strip(), str(row["value"] or "").strip()
    frame = cell("frame")
    curve = str(row.get("curve") or "linear").strip()
    if not address or frame is None or frame != int(frame):
        raise RovixError(f"Row {line}: it needs a channel, and a whole frame.")
    made: dict[str, Any] = {"frame": int(frame), "curve": curve}
    kind: type[AnyKey]
    if colour.startswith("#"):
        kind, made["value"] = ColourKey, colour
    elif colour[:1] in ("M", "m"):
        kind, made["value"] = ContourKey, _line(colour, line)
    else:
        value, y = cell("value"), cell("y")
        if value is None:
            raise RovixError(f"Row {line}: it has no value.")
        kind = Key if y is None else PathKey
        made |= {"value": value} if y is None else {"x": value, "y": y}
        for side in ("before", "after"):
            ends = cell(f"{side}_1"), cell(f"{side}_2")
            made[side] = None if None in ends else ends
    try:
        return address, msgspec.convert(made, kind)
    except msgspec.ValidationError as wrong:
        raise RovixError(f"Row {line}: {wrong}.") from wrong


def _line(text: str, row: int) -> Contour:
    try:
        return line_of(text)
    except RovixError as wrong:
        raise RovixError(f"Row {row}: {wrong}") from wrong


def _reader(row: Mapping[str, Any], line: int) -> Callable[[str], float | None]:
    """What reads a number of a row; None where its cell is empty."""

    def cell(name: str) -> float | None:
        text = str(row.get(name) or "").strip()
        try:
            value = float(text.replace(",", ".")) if text else None
        except ValueError:
            raise RovixError(f"Row {line}: '{text}' under {name} is no number.") from None
        if value is not None and not math.isfinite(value):
            raise RovixError(f"Row {line}: '{text}' under {name} is no number that a key can have.")
        return value

    return cell


_KINDS: dict[type, type] = {Key: Keys, ColourKey: ColourKeys, PathKey: MotionPath, ContourKey: ContourKeys}


def _held(address: str, keys: list[AnyKey]) -> Animated:
    """A channel of keys in order; RovixError where they are of several kinds, or two on one frame."""
    ordered = sorted(keys, key=lambda key: key.frame)
    if len({type(key) for key in ordered}) > 1:
        raise RovixError(
            f"The values of '{address}' are numbers, colours, points or lines, but not of one kind."
        )
    twice = next((a.frame for a, b in pairwise(ordered) if a.frame == b.frame), None)
    if twice is not None:
        raise RovixError(f"Two keys of '{address}' are on frame {twice}.")
    held: Animated = _KINDS[type(ordered[0])](keys=tuple(ordered))
    return held
