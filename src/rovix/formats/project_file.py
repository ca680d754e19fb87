"""Reading and writing `.rovix` project files."""

from __future__ import annotations

import json
from functools import lru_cache
from pathlib import Path
from typing import Any

import msgspec
import msgspec.inspect as inspect

from rovix.errors import RovixError
from rovix.formats.schema import FORMAT, VERSION, project_schema
from rovix.formats.schema_problems import schema_problems
from rovix.formats.upgrades import upgraded
from rovix.formats.whole_file import write_whole
from rovix.model import Node, Project
from rovix.model.consistency import Problem, inconsistencies

SUFFIX = ".rovix"


class ProjectFileError(RovixError):
    """A project file that cannot be opened: every problem on its own line, then one sentence."""

    def __init__(self, path: Path, problems: list[Problem], sentence: str) -> None:
        self.path, self.problems, self.sentence = path, problems, sentence
        super().__init__("\n".join([*map(str, problems), sentence]))


def read_project(path: Path) -> Project:
    """The project in a file. Raises ProjectFileError, naming all problems, when it is no sound one."""
    return parse_project(path, _bytes(path))


def parse_project(path: Path, content: bytes) -> Project:
    """The project in a file's content; `path` names it in errors, which are those of reading."""
    data = _json(path, content)
    _check_head(path, data)
    data = upgraded(data)
    # A head that is none is for the schema to name; the structs know nothing of it.
    problems = [] if data.get("version") == VERSION else schema_problems(data, project_schema())
    try:
        project = msgspec.convert(_with_extra(data, _root_type()), Project)
    except msgspec.ValidationError as wrong:
        # It stops at the first problem; the schema, which takes its time, names them all.
        problems = schema_problems(data, project_schema()) or [Problem("$", str(wrong))]
    else:
        problems = problems or inconsistencies(project)
        if not problems:
            return project
    count = "one problem" if len(problems) == 1 else f"{len(problems)} problems"
    raise ProjectFileError(
        path, problems, f"{path.name} has {count}, so it was not opened; it was left as it is."
    )


def write_project(path: Path, project: Project) -> None:
    """Write a project whole or not at all; raises RovixError when the place cannot be written to."""
    try:
        write_whole(path, project_bytes(project))
    except OSError as wrong:
        raise RovixError(
            f"{path.name} could not be saved: {wrong.strerror}. What was there before is unchanged; "
            "save it in another place."
        ) from wrong


def project_bytes(project: Project) -> bytes:
    """The file's content: UTF-8 JSON, the same for equal projects."""
    data = {"format": FORMAT, "version": VERSION} | _plain(project)
    return (json.dumps(data, indent=1, ensure_ascii=False, allow_nan=False) + "\n").encode()


def _bytes(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as wrong:
        raise RovixError(
            f"{path} could not be opened: {wrong.strerror}. Check the name and the folder."
        ) from wrong


def _json(path: Path, content: bytes) -> Any:
    try:
        return json.loads(content.decode("utf-8"), parse_constant=_no_number)
    except UnicodeDecodeError as wrong:
        problem = Problem("$", f"byte {wrong.start} is not UTF-8 text")
    except json.JSONDecodeError as wrong:
        problem = Problem("$", f"line {wrong.lineno}, column {wrong.colno}: {wrong.msg}")
    except (ValueError, RecursionError) as wrong:
        problem = Problem("$", str(wrong))
    raise ProjectFileError(
        path, [problem], f"{path.name} is damaged or is no Rovix project, so it was not opened."
    )


def _no_number(text: str) -> float:
    raise ValueError(f"{text} is no number that a project can hold")


def _check_head(path: Path, data: Any) -> None:
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        problem = Problem("$.format", f"it is not '{FORMAT}'")
        raise ProjectFileError(path, [problem], f"{path.name} is not a Rovix project, so it was not opened.")
    version = data.get("version")
    if isinstance(version, int) and version > VERSION:
        raise ProjectFileError(
            path,
            [Problem("$.version", f"{version} is newer than {VERSION}")],
            f"{path.name} was saved by a newer Rovix; open it with that one, it was left as it is.",
        )


def _plain(value: Any) -> Any:
    """Structs as dicts in the order of their fields, unknown fields back among them."""
    if isinstance(value, Node):
        config = value.__struct_config__
        tag = {config.tag_field: config.tag} if config.tag_field else {}
        known = {name: _plain(getattr(value, name)) for name in value.__struct_fields__ if name != "extra"}
        return tag | known | value.extra
    return [_plain(item) for item in value] if isinstance(value, tuple) else value


@lru_cache(maxsize=1)
def _root_type() -> inspect.Type:
    return inspect.type_info(Project)


def _with_extra(data: Any, info: inspect.Type) -> Any:
    """The data with unknown fields of each struct moved into its `extra`."""
    if isinstance(info, inspect.UnionType):
        info = _alternative(data, info)
    if isinstance(info, inspect.StructType) and isinstance(data, dict):
        return _struct_data(data, info)
    if isinstance(info, inspect.VarTupleType) and isinstance(data, list):
        return [_with_extra(item, info.item_type) for item in data]
    return data


def _struct_data(data: dict[str, Any], info: inspect.StructType) -> dict[str, Any]:
    fields = {field.encode_name: field.type for field in info.fields if field.name != "extra"}
    head = {info.tag_field} if info.tag_field else {"format", "version"} if info.cls is Project else set()
    known = {name: _with_extra(value, fields[name]) for name, value in data.items() if name in fields}
    tag = {info.tag_field: data[info.tag_field]} if info.tag_field else {}
    unknown = {name: value for name, value in data.items() if name not in fields and name not in head}
    return tag | known | {"extra": unknown}


def _alternative(data: Any, union: inspect.UnionType) -> inspect.Type:
    structs = [option for option in union.types if isinstance(option, inspect.StructType)]
    for option in structs:
        if isinstance(data, dict) and (option.tag_field is None or data.get(option.tag_field) == option.tag):
            return option
    return inspect.AnyType()
