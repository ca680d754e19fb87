"""The project's list of files: names, what is used, and files that went elsewhere."""

from __future__ import annotations

from collections import Counter

from rovix.edit.tree import replace
from rovix.errors import RovixError
from rovix.model import Media, Project
from rovix.model.references import targets


def rename_media(project: Project, identity: str, name: str) -> Project:
    """Call a file something else in the project; the file itself keeps its name."""
    _media(project, identity)
    renamed = (replace(m, name=name) if m.id == identity else m for m in project.media)
    return replace(project, media=tuple(renamed))


def used_media(project: Project) -> Counter[str]:
    """How often clips of all sequences, and their moves, play each media id."""
    return Counter(targets(project, "media"))


def remove_media(project: Project, identity: str) -> Project:
    """Take a file off the list; RovixError while a clip plays it."""
    item = _media(project, identity)
    count = used_media(project)[identity]
    if count:
        clips = "one clip plays" if count == 1 else f"{count} clips play"
        raise RovixError(f"'{item.title}' stays on the list: {clips} it. Remove that first.")
    return replace(project, media=tuple(m for m in project.media if m.id != identity))


def relink(project: Project, found: dict[str, Media]) -> Project:
    """Let media be other files: `found` gives, by media id, the facts of the file it now is.

    Ids and names stay, so clips play on. RovixError for a file of another kind.
    """
    media = []
    for item in project.media:
        new = found.get(item.id)
        if new is not None and new.kind != item.kind:
            raise RovixError(f"{new.path} is {new.kind}; '{item.title}' is {item.kind}. Choose another file.")
        media.append(item if new is None else _instead(item, new))
    return replace(project, media=tuple(media))


def _instead(item: Media, new: Media) -> Media:
    return replace(
        new,
        id=item.id,
        name=item.name,
        deinterlaced=item.deinterlaced and new.interlaced,
        cut_out=item.cut_out,
    )


def set_deinterlaced(project: Project, identity: str, on: bool) -> Project:
    """Show interlaced footage by its first fields, made whole, or as it is; RovixError for any other."""
    item = _media(project, identity)
    if not item.interlaced:
        raise RovixError(f"'{item.title}' is not interlaced; there is nothing to be done to it.")
    made = (replace(m, deinterlaced=on) if m.id == identity else m for m in project.media)
    return replace(project, media=tuple(made))


def _media(project: Project, identity: str) -> Media:
    found = next((item for item in project.media if item.id == identity), None)
    if found is None:
        raise RovixError("That file is not on the list any more.")
    return found
