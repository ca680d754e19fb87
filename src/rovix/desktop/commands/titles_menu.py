"""Titles: put at the playhead, and made of the selected layers."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog

from rovix.desktop.commands.command import Command, layer
from rovix.desktop.dialogs.title_asked import TitleAsked
from rovix.desktop.shelf.title_deck import TitleDeck
from rovix.edit.titles import filled, put_title, updated
from rovix.edit.tree import clip_by_id
from rovix.engine.titles import title_for
from rovix.model import GroupClip, Project, Track
from rovix.model.identity import RecentCache

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _deck(window: Frame) -> TitleDeck:
    deck = window.shelf.decks["title"]
    assert isinstance(deck, TitleDeck)
    return deck


def _put(window: Frame) -> None:
    """Ask which, and put it at the playhead."""
    document, deck = window.document, _deck(window)
    asked = TitleAsked(window, deck.items)
    taken = bool(asked.exec())
    item, values, at, made = asked.item, asked.values, document.playhead, [""]
    asked.deleteLater()
    if not taken:
        return

    def edit(project: Project) -> Project:
        title = filled(title_for(item, document.base), values, like=project.sequence.size)
        project, made[0] = put_title(project, item.saved.name, title, at, values=values)
        return project

    if document.do(f"Put {item.saved.name}", edit):
        document.select(made[0])


def put_dropped(window: Frame, path: str, start: int, track: int | None) -> None:
    """Put the title in a file of the shelf into the sequence as it is, from a frame on, on a track or above
    all."""
    document = window.document
    item = next((one for one in _deck(window).items if str(one.path) == path), None)
    if item is None:
        document.problem.emit(f"The title in {Path(path).name} is not in the shelf any more.")
        return
    made: list[str] = []

    def edit(project: Project) -> Project:
        title = filled(title_for(item, document.base), {}, like=project.sequence.size)
        project, identity = put_title(project, item.saved.name, title, start, track)
        made.append(identity)
        return project

    if document.do(f"Put {item.saved.name}", edit):
        document.select(made[-1])


def _fill(window: Frame) -> None:
    """Ask for a table, and for the title that its rows fill."""
    from rovix.desktop.filling import fill_from_table  # what exports is not loaded before it is needed

    asked, _ = QFileDialog.getOpenFileName(
        window, "A table whose rows fill a title", "", "Tables (*.csv *.tsv *.txt);;All files (*)"
    )
    if asked:
        fill_from_table(window, Path(asked), _deck(window).items)


def _keep(window: Frame) -> None:
    """Ask for a name, and keep the selected layers as a title."""
    window.shelf.keeping.keep_title(_deck(window))


def _made_of_titles(window: Frame) -> list[str]:
    """The groups that were made of titles: those selected, or all where none is."""
    project, chosen = window.document.project, set(window.document.selection)
    groups = [one for track in project.sequence.tracks if not track.locked for one in _made_on(track)]
    return [one for one in groups if one in chosen] or groups


_made: RecentCache[list[str]] = RecentCache(256)


def _made_on(track: Track) -> list[str]:
    # Asked after each step, to say whether the command can be run.
    clips = track.clips
    return _made.get(
        clips, lambda: [c.id for c in clips if isinstance(c, GroupClip) and c.made_of is not None]
    )


def _update(window: Frame) -> None:
    """Make groups anew of the titles that they were made of, where these have a later version."""
    document, known = window.document, {item.saved.name: item for item in _deck(window).shelf.all()}
    late, gone = [], set()
    for identity in _made_of_titles(window):
        use = getattr(clip_by_id(document.project, identity), "made_of", None)
        assert use is not None
        if use.name not in known:
            gone.add(use.name)
        elif known[use.name].saved.title.version > use.version:
            late.append((identity, known[use.name]))

    def edit(project: Project) -> Project:
        for identity, item in late:
            project = updated(project, identity, title_for(item, document.base))
        return project

    if late:
        document.do("Bring titles up to date", edit)
    names = f" Not in the shelf any more: {', '.join(sorted(gone))}." if gone else ""
    window.say(f"{len(late)} brought up to date, the words kept.{names}" if late else f"Up to date.{names}")


def _has_titles(window: Frame) -> bool:
    return bool(_made_of_titles(window))


TITLES = (
    Command("put-title", "Title at the playhead…", "Insert", "", _put, under="Title"),
    Command("fill-titles", "Fill a title from a table…", "Insert", "", _fill, under="Title"),
    Command("update-titles", "Bring titles up to date", "Insert", "", _update, _has_titles, under="Title"),
    Command("keep-title", "Keep as a title…", "Clip", "", _keep, layer),
)
