"""Reading and writing looks as open JSON files."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

import msgspec

from rovix.errors import RovixError
from rovix.formats.schema import without_extra
from rovix.formats.schema_problems import schema_problems
from rovix.formats.structs import plain, with_extra
from rovix.formats.whole_file import write_whole
from rovix.model import Look

FORMAT, VERSION = "rovix-look", 1


@dataclass(frozen=True, slots=True)
class SavedLook:
    """A look by name, made for words of `size` px."""

    name: str
    size: float
    look: Look


def write_look(path: Path, saved: SavedLook) -> None:
    """Write a look whole or not at all; RovixError when the place cannot be written to."""
    try:
        write_whole(path, look_bytes(saved))
    except OSError as wrong:
        raise RovixError(f"The look could not be saved as {path.name}: {wrong.strerror}.") from wrong


def look_bytes(saved: SavedLook) -> bytes:
    """The file's content: UTF-8 JSON."""
    head = {"format": FORMAT, "version": VERSION, "name": saved.name, "size": saved.size}
    return (json.dumps(head | {"look": plain(saved.look)}, indent=1, ensure_ascii=False) + "\n").encode()


def read_look(path: Path) -> SavedLook:
    """The look in a file; RovixError, naming what is wrong, when it holds none."""
    try:
        content = path.read_bytes()
    except OSError as wrong:
        raise RovixError(f"{path.name} could not be opened: {wrong.strerror}.") from wrong
    return parse_look(path.name, content)


def parse_look(name: str, content: bytes) -> SavedLook:
    """The look in a file's content; `name` names it in errors, which are those of reading."""
    try:
        data = json.loads(content.decode("utf-8"))
    except (UnicodeDecodeError, ValueError, RecursionError) as wrong:
        raise RovixError(f"{name} is damaged or is no look: {wrong}.") from wrong
    problems = _problems(data)
    if problems:
        raise RovixError(f"{name} is no look that can be used here: {'; '.join(problems)}.")
    look = msgspec.convert(with_extra(data["look"], Look), Look)
    return SavedLook(str(data["name"]), float(data["size"]), look)


def _problems(data: Any) -> list[str]:
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        return [f"its format is not '{FORMAT}'"]
    if isinstance(data.get("version"), int) and data["version"] > VERSION:
        return ["it was saved by a newer Rovix"]
    return [str(problem) for problem in schema_problems(data, look_schema())]


@lru_cache(maxsize=1)
def look_schema() -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of a look file. Fields it does not name are let through."""
    (reference,), definitions = msgspec.json.schema_components([Look], ref_template="#/$defs/{name}")
    for definition in definitions.values():
        without_extra(definition)
    properties = {
        "format": {"const": FORMAT},
        "version": {"const": VERSION},
        "name": {"type": "string", "minLength": 1},
        "size": {"type": "number", "exclusiveMinimum": 0},
        "look": reference,
    }
    return {"type": "object", "properties": properties, "required": sorted(properties), "$defs": definitions}
