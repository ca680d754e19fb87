"""Values that can be kept: numbers within limits, texts that are text. Checked where a project changes."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from itertools import chain
from math import isfinite
from operator import is_
from typing import Any, TypeVar

import msgspec

from rovix.errors import RovixError
from rovix.model.node import Node
from rovix.model.project import Project, Sequence
from rovix.model.track import Track

replace = msgspec.structs.replace
Kept = TypeVar("Kept", bound=Node)


class Unkeepable(RovixError):
    """A value that no project file could hold."""

    def __init__(self, reason: str) -> None:
        super().__init__(f"That cannot be kept in a project: {reason} Nothing was changed.")


def mended_text(text: str) -> str:
    """Text without halves of characters, which no file can hold: each becomes U+FFFD."""
    if text.isascii():
        return text
    made = text.encode("utf-16-le", "surrogatepass").decode("utf-16-le", "replace")
    return text if made == text else made


def mended_path(path: str) -> str:
    """A path whose halves stand for bytes, as it is (PEP 383); any other half becomes U+FFFD."""
    try:
        path.encode("utf-8", "surrogateescape")
    except UnicodeEncodeError:
        return mended_text(path)
    return path


def with_sound_values(project: Project, before: Project | None = None) -> Project:
    """The project with all texts mended; itself where there was nothing to mend.

    Only what is not the very same struct in `before` is looked at. Raises :class:`Unkeepable` for a
    number without end.
    """
    mended: Project = _mended(project, before)
    return mended


def sound_part(part: Kept) -> Kept:
    """A part of a project with all its texts mended; Unkeepable for a number without end."""
    mended: Kept = _mended(part, None)
    return mended


def keepable(project: Project, before: Project | None = None) -> Project:
    """Like :func:`with_sound_values`; Unkeepable also for what lies beyond the limits of its field."""
    if project is before:
        return project
    mended = with_sound_values(project, before)
    for part in _changed_parts(mended, before):
        _check_limits(part)
    return mended


def _changed_parts(project: Project, before: Project | None) -> Iterator[Node]:
    """Clips, and everything else without its clips, that is not in the project before."""
    tracks = _tracks(before) if before is not None else {}
    now = _tracks(project)
    old = {id(clip) for own, track in tracks.items() if own not in now for clip in track.clips}
    new = (track for own, track in now.items() if own not in tracks)
    yield from [clip for track in new for clip in track.clips if id(clip) not in old]
    bare = tuple(_bare(sequence) for sequence in project.sequences)
    yield replace(project, sequences=bare)


def _tracks(project: Project) -> dict[int, Track]:
    """By their identity."""
    return {id(track): track for sequence in project.sequences for track in sequence.tracks}


def _bare(sequence: Sequence) -> Sequence:
    return replace(sequence, tracks=tuple(replace(track, clips=()) for track in sequence.tracks))


def _check_limits(part: Node) -> None:
    try:
        msgspec.convert(msgspec.to_builtins(part), type(part))
    except (msgspec.ValidationError, ValueError, TypeError, RecursionError) as wrong:
        name = getattr(part, "name", "") or getattr(part, "id", "")
        raise Unkeepable(f"{name}: {wrong}.") from wrong


def _mended(value: Any, before: Any) -> Any:
    if value is before:
        return value
    if isinstance(value, str):
        return mended_text(value)
    if isinstance(value, float):
        if value - value != 0:  # only infinity and no number differ from themselves like this
            raise Unkeepable("a number has no end.")
        return value
    if isinstance(value, tuple):
        return _mended_items(value, before if isinstance(before, tuple) else ())
    return _mended_node(value, before) if isinstance(value, Node) else value


def _mended_items(items: tuple[Any, ...], before: tuple[Any, ...]) -> tuple[Any, ...]:
    numbers = _numbers(items)
    if numbers is not None:
        if not all(map(isfinite, numbers)):
            raise Unkeepable("a number has no end.")
        return items
    if len(items) == len(before):
        made = tuple([a if a is b else _mended(a, b) for a, b in zip(items, before, strict=True)])
    else:
        known = set(map(id, before))
        made = tuple(item if id(item) in known else _mended(item, None) for item in items)
    return items if all(map(is_, made, items)) else made


def _numbers(items: tuple[Any, ...]) -> Collection[float] | None:
    """What is numbers alone, such as a point, or points alone, such as a line: these come by the thousand."""
    if items and type(items[0]) is tuple and set(map(type, items)) == {tuple}:
        items = tuple(chain.from_iterable(items))
    return items if items and type(items[0]) is float and set(map(type, items)) == {float} else None


def _mended_node(node: Node, before: Any) -> Node:
    other = before if type(before) is type(node) else None
    changes = {}
    for name in node.__struct_fields__:
        value = getattr(node, name)
        if isinstance(value, str) and name in _AS_THE_SYSTEM_HAS_IT.get(type(node).__name__, ()):
            made: Any = mended_path(value)
        else:
            made = _mended(value, getattr(other, name, None)) if name != "extra" else mended_data(value)
        if made is not value:
            changes[name] = made
    return replace(node, **changes) if changes else node


def mended_data(value: Any) -> Any:
    """What JSON gave, such as unknown fields, with its texts mended; Unkeepable for numbers without end."""
    if isinstance(value, dict) and value:
        made: Any = {mended_text(name): mended_data(item) for name, item in value.items()}
        return value if made == value else made
    if isinstance(value, list):
        made = [mended_data(item) for item in value]
        return value if made == value else made
    return value if isinstance(value, dict) else _mended(value, None)


# A file's name is bytes to the system; what is no text in it is kept as Python does (PEP 383).
_AS_THE_SYSTEM_HAS_IT = {"Media": ("path",)}
