"""Files that keep one thing by name, such as a look or a move: open JSON, read and written as a whole."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any, Generic, Protocol, TypeVar

import msgspec

from rovix.errors import RovixError
from rovix.files import read_regular
from rovix.formats.json_text import parsed, written
from rovix.formats.schema import without_extra
from rovix.formats.schema_problems import schema_problems
from rovix.formats.structs import plain, with_extra
from rovix.formats.whole_file import write_whole
from rovix.model.node import Node
from rovix.model.values import mended_data

VERSION = 2
_MOST = 16 << 20


class Saved(Protocol):
    """A thing with the name that it is kept by."""

    @property
    def name(self) -> str: ...


S = TypeVar("S", bound=Saved)


@dataclass(frozen=True)
class Kind(Generic[S]):
    """What is kept: its `noun`, the `struct` below that noun in the file, and fields beside it.

    `facts` are those fields by name with their JSON Schema; `made` builds the thing from its name,
    the struct and the facts; `content` takes it apart again, into struct and facts; `wrong` says
    what a schema cannot see; `upgrade` brings the struct of a file of version 1 to today's.
    """

    noun: str
    struct: type[Node]
    made: Callable[..., S]
    content: Callable[[S], tuple[Node, dict[str, Any]]]
    facts: tuple[tuple[str, str], ...] = ()
    wrong: Callable[[S], list[str]] = lambda _: []
    upgrade: Callable[[dict[str, Any]], dict[str, Any]] = lambda data: data

    @property
    def format(self) -> str:
        return f"rovix-{self.noun}"

    def write(self, path: Path, saved: S) -> None:
        """Write it whole or not at all; RovixError when the place cannot be written to, and for numbers
        without end."""
        try:
            write_whole(path, self.bytes_of(saved))
        except OSError as wrong:
            raise RovixError(
                f"The {self.noun} could not be saved as {path.name}: {wrong.strerror}."
            ) from wrong

    def bytes_of(self, saved: S) -> bytes:
        """The file's content: UTF-8 JSON. RovixError for numbers without end."""
        node, facts = self.content(saved)
        head = {"format": self.format, "version": VERSION, "name": saved.name, **facts}
        return written(mended_data(head | {self.noun: plain(node)}))

    def read(self, path: Path) -> S:
        """What a file keeps; RovixError, naming what is wrong, when it holds none."""
        try:
            content = read_regular(path, _MOST)
        except OSError as wrong:
            raise RovixError(f"{path.name} could not be opened: {wrong.strerror}.") from wrong
        return self.parse(path.name, content)

    def parse(self, name: str, content: bytes) -> S:
        """What a file's content keeps; `name` names it in errors, which are those of reading."""
        try:
            data = parsed(content)
        except ValueError as wrong:
            raise RovixError(f"{name} is damaged or is no {self.noun}: {wrong}.") from wrong
        self._bring_up(data)
        self._refuse(name, self._problems(data))
        try:
            node = msgspec.convert(with_extra(data[self.noun], self.struct), self.struct)
        except (msgspec.ValidationError, RecursionError) as wrong:
            # A schema takes 2.0 for a whole number; the struct does not.
            raise RovixError(f"{name} is no {self.noun} that can be used here: {wrong}.") from wrong
        saved = self.made(str(data["name"]), node, **{fact: float(data[fact]) for fact, _ in self.facts})
        self._refuse(name, self.wrong(saved))
        return saved

    def _bring_up(self, data: Any) -> None:
        """Make data of a file of version 1 such as a file of today has."""
        if isinstance(data, dict) and data.get("version") == 1 and isinstance(data.get(self.noun), dict):
            data |= {"version": VERSION, self.noun: self.upgrade(data[self.noun])}

    def _refuse(self, name: str, problems: list[str]) -> None:
        if problems:
            raise RovixError(f"{name} is no {self.noun} that can be used here: {'; '.join(problems)}.")

    def _problems(self, data: Any) -> list[str]:
        if not isinstance(data, dict) or data.get("format") != self.format:
            return [f"its format is not '{self.format}'"]
        if isinstance(data.get("version"), int) and data["version"] > VERSION:
            return ["it was saved by a newer Rovix"]
        return [str(problem) for problem in schema_problems(data, self.schema())]

    def schema(self) -> dict[str, Any]:
        """JSON Schema (draft 2020-12) of such a file. Fields it does not name are let through."""
        return _schema(self.noun, self.struct, self.facts)


@cache
def _schema(noun: str, struct: type[Node], facts: tuple[tuple[str, str], ...]) -> dict[str, Any]:
    (reference,), definitions = msgspec.json.schema_components([struct], ref_template="#/$defs/{name}")
    for definition in definitions.values():
        without_extra(definition)
    properties = {
        "format": {"const": f"rovix-{noun}"},
        "version": {"const": VERSION},
        "name": {"type": "string", "minLength": 1},
        **{fact: json.loads(schema) for fact, schema in facts},
        noun: reference,
    }
    return {"type": "object", "properties": properties, "required": sorted(properties), "$defs": definitions}
