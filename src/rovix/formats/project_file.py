"""Reading and writing `.rovix` project files."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import msgspec

from rovix.errors import RovixError
from rovix.formats.schema import FORMAT, VERSION, project_schema
from rovix.formats.schema_problems import schema_problems
from rovix.formats.structs import plain, with_extra
from rovix.formats.upgrades import upgraded
from rovix.formats.whole_file import write_whole
from rovix.model import Project
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
        project = msgspec.convert(with_extra(data, Project), Project)
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
    data = {"format": FORMAT, "version": VERSION} | plain(project)
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
