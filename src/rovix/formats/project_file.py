"""Reading and writing `.rovix` project files."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any, Literal

import msgspec

from rovix.errors import RovixError
from rovix.files import read_regular
from rovix.formats.json_text import MOST_BYTES, compact, in_lines, parsed
from rovix.formats.schema import FORMAT, VERSION, project_schema
from rovix.formats.schema_problems import schema_problems
from rovix.formats.structs import plain, with_extra
from rovix.formats.upgrades import upgraded
from rovix.formats.whole_file import replacing, write_whole
from rovix.model import Clip, Project, Sequence
from rovix.model.consistency import Problem, inconsistencies
from rovix.model.identity import IdentityCache, without_collecting
from rovix.model.node import EXTRA
from rovix.model.values import sound_part, with_sound_values

SUFFIX = ".rovix"
replace = msgspec.structs.replace
_TEXTS = 192 << 20
"""Bytes of clips as they stand in files: some 40,000 of usual ones."""


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
    with without_collecting():
        project = _plainly_read(content)
        problems = inconsistencies(project) if project is not None else []
    if project is None or problems:
        return _read_with_care(path, content)
    return project


class _ProjectFile(Project, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A file of today's version as its structs, head and all."""

    format: Literal["rovix-project"]
    version: int


def _plainly_read(content: bytes) -> Project | None:
    """The project of a file of today's version without fields unknown to it; None for any other.

    Most files are such, and read so in a fraction of the time.
    """
    if EXTRA.encode() in content:
        return None  # a field of that name is unknown like any other
    try:
        file = msgspec.json.decode(content, type=_ProjectFile)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return None
    if file.version != VERSION:
        return None
    return Project(**{name: getattr(file, name) for name in Project.__struct_fields__})


def _read_with_care(path: Path, content: bytes) -> Project:
    """A file of any version, with unknown fields kept and every problem named."""
    data = _json(path, content)
    _check_head(path, data)
    try:
        data = upgraded(data)
        # A head that is none is for the schema to name; the structs know nothing of it.
        problems = [] if data.get("version") == VERSION else schema_problems(data, project_schema())
        project, found = _converted(data)
        problems = problems or found
    except RecursionError:
        problems, project = [Problem("$", "it is nested too deeply")], None
    if not problems and project is not None:
        return project
    count = "one problem" if len(problems) == 1 else f"{len(problems)} problems"
    raise ProjectFileError(
        path, problems, f"{path.name} has {count}, so it was not opened; it was left as it is."
    )


def _converted(data: Any) -> tuple[Project | None, list[Problem]]:
    try:
        project = msgspec.convert(with_extra(data, Project), Project)
    except msgspec.ValidationError as wrong:
        # It stops at the first problem; the schema, which takes its time, names them all.
        return None, schema_problems(data, project_schema()) or [Problem("$", str(wrong))]
    return project, inconsistencies(project)


def write_project(path: Path, project: Project) -> None:
    """Write a project whole or not at all, once what was written reads back as the same project.

    RovixError when the place cannot be written to, or the project would not open again.
    """
    try:
        with replacing(path) as part:
            part.write_bytes(project_bytes(project))
            _check_reads_back(path, part.read_bytes(), project)
    except OSError as wrong:
        raise RovixError(
            f"{path.name} could not be saved: {wrong.strerror}. What was there before is unchanged; "
            "save it in another place."
        ) from wrong


def _check_reads_back(path: Path, content: bytes, project: Project) -> None:
    try:
        same = parse_project(path, content) == project
    except ProjectFileError as wrong:
        reasons = "\n".join(map(str, wrong.problems[:4]))
        raise RovixError(
            f"{reasons}\n{path.name} was not saved, as it would not open again; what was there before is "
            "unchanged. Undo the last steps, then save."
        ) from wrong
    if not same:
        raise RovixError(
            f"{path.name} was not saved: what was written reads back as another project. What was there "
            "before is unchanged; save it in another place."
        )


def keep_work(path: Path, project: Project) -> None:
    """Write unsaved work, also such as would not open again: better kept than lost.

    RovixError when the place cannot be written to, or its values are none that can be kept.
    """
    try:
        write_whole(path, _compact_bytes(project))  # which nobody reads in an editor
    except OSError as wrong:
        raise RovixError(f"{path.name} could not be written: {wrong.strerror}.") from wrong


def preparing(project: Project) -> Iterator[None]:
    """Put clips into the words of a file, one at each step, so that keeping or saving work takes no longer
    for a project of thousands that was just opened."""
    for sequence in project.sequences:
        for track in sequence.tracks:
            for clip in track.clips:
                _clip_text(clip)
                yield


def project_bytes(project: Project) -> bytes:
    """The file's content: UTF-8 JSON, the same for equal projects. RovixError for numbers without end."""
    return in_lines(_compact_bytes(project))


def _compact_bytes(project: Project) -> bytes:
    bare = replace(project, sequences=tuple(map(_without_clips, project.sequences)))
    data = {"format": FORMAT, "version": VERSION} | plain(with_sound_values(bare))
    sequences = zip(data["sequences"], project.sequences, strict=True)
    laid = _laid(data, "sequences", [_sequence_data(own, sequence) for own, sequence in sequences])
    return msgspec.json.encode(laid)


def _sequence_data(data: dict[str, Any], sequence: Sequence) -> dict[str, Any]:
    """A sequence's plain data with the clips that it was made without."""
    tracks = zip(data["tracks"], sequence.tracks, strict=True)
    return _laid(data, "tracks", [_laid(own, "clips", list(map(_clip_text, t.clips))) for own, t in tracks])


def _laid(data: dict[str, Any], name: str, value: Any) -> dict[str, Any]:
    """A struct's fields as the text that stands in the file, but for one, which is given."""
    return {own: value if own == name else msgspec.Raw(compact(kept)) for own, kept in data.items()}


def _without_clips(sequence: Sequence) -> Sequence:
    return replace(sequence, tracks=tuple(replace(track, clips=()) for track in sequence.tracks))


_clip_texts: IdentityCache[msgspec.Raw] = IdentityCache(_TEXTS)


def _clip_text(clip: Clip) -> msgspec.Raw:
    """A clip as it stands in a file. Kept as long as it lives: of thousands an edit changes a few, and work
    is kept safe after each."""
    return _clip_texts.get(clip, lambda: msgspec.Raw(compact(plain(sound_part(clip)))))


def _bytes(path: Path) -> bytes:
    try:
        return read_regular(path, MOST_BYTES)
    except OSError as wrong:
        raise RovixError(
            f"{path} could not be opened: {wrong.strerror}. Check the name and the folder."
        ) from wrong


def _json(path: Path, content: bytes) -> Any:
    try:
        return parsed(content)
    except ValueError as wrong:
        raise ProjectFileError(
            path,
            [Problem("$", str(wrong))],
            f"{path.name} is damaged or is no Rovix project, so it was not opened.",
        ) from None


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
