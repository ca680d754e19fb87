"""What a command is, and the few shapes that most of them have."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from rovix.edit.each import ClipEdit
from rovix.edit.tracks import track_of_clip
from rovix.model import Clip, Project, Track
from rovix.model.clip_kinds import has_words, is_heard, is_layer, is_played

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

Run = Callable[["Frame"], None]
When = Callable[["Frame"], bool]
ManyEdit = Callable[[Project, tuple[str, ...]], Project]


@dataclass(frozen=True, slots=True)
class Command:
    """`shortcut` is Qt's portable text; `title` may be a function of the window where it changes."""

    id: str
    title: str | Callable[[Frame], str]
    menu: str
    shortcut: str
    run: Run
    when: When = lambda window: True
    checked: When | None = None
    ruled: bool = False
    """Whether a rule stands above it in its menu."""
    under: str = ""
    """The submenu that it stands in."""

    def said(self, window: Frame) -> str:
        return self.title if isinstance(self.title, str) else self.title(window)


def selected(window: Frame) -> bool:
    """Whether a clip is selected."""
    return window.document.clip is not None


def layer(window: Frame) -> bool:
    """Whether a clip with a picture is selected."""
    clip = window.document.clip
    return is_layer(clip)


def words(window: Frame) -> bool:
    """Whether a text layer is selected."""
    return has_words(window.document.clip)


def timed(window: Frame) -> bool:
    """Whether a clip that plays material is selected."""
    return is_played(window.document.clip)


def heard(window: Frame) -> bool:
    """Whether a clip with a sound of its own is selected."""
    return is_heard(window.document.clip)


def several(window: Frame) -> bool:
    """Whether two clips or more are selected."""
    return len(window.document.selection) > 1


def called(window: Frame) -> str:
    """What the selection is called in the name of a step."""
    document = window.document
    if len(document.selection) > 1:
        return f"{len(document.selection)} clips"
    clip: Clip | None = document.clip
    return clip.title if clip else "clip"


def on_selection(title: str, edit: ManyEdit) -> Run:
    """A command that edits the selected clips as one step."""

    def run(window: Frame) -> None:
        chosen = window.document.selection
        if chosen:
            window.document.do(f"{title} {called(window)}", lambda project: edit(project, chosen))

    return run


def on_each(title: str, edit: ClipEdit) -> Run:
    """A command that does one edit to each selected clip, as one step; those that cannot stay."""

    def run(window: Frame) -> None:
        document = window.document
        said = title if len(document.selection) > 1 else f"{title} {called(window)}"
        document.do_each(said, document.selection, edit)

    return run


def making(
    title: str, edit: Callable[[Project, tuple[str, ...]], tuple[Project, list[str]]], named: bool = True
) -> Run:
    """A command that makes clips of the selected ones, and selects what it made."""

    def run(window: Frame) -> None:
        chosen = window.document.selection
        made: list[str] = []

        def edited(project: Project) -> Project:
            project, new = edit(project, chosen)
            made[:] = new
            return project

        if window.document.do(f"{title} {called(window)}" if named else title, edited):
            window.document.select(*made)

    return run


def selected_track(window: Frame) -> Track | None:
    """The track whose header was clicked last, else that of the clip selected last."""
    pointed = window.timeline.canvas.pointed_track
    return pointed or track_of_clip(window.document.project, window.document.selected)


def has_track(window: Frame) -> bool:
    """Whether a track is there to be changed."""
    return selected_track(window) is not None


def done(_: object) -> None:
    """A command gives nothing back."""
