"""View and Help: zoom, overlays, finding commands."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run, done
from rovix.desktop.sheet.shown_unit import FIRST
from rovix.edit.shutter import blur_while_editing

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _toggle(name: str) -> Run:
    def run(window: Frame) -> None:
        setattr(window.viewer, name, not getattr(window.viewer, name))
        window.viewer.update()
        window.refresh_commands()

    return run


def _follow(window: Frame) -> None:
    window.timeline.canvas.follows = not window.timeline.canvas.follows
    window.refresh_commands()


def _tall(side: str) -> Run:
    def run(window: Frame) -> None:
        window.places.turn_tall(side)
        window.refresh_commands()

    return run


def _turn_blur(window: Frame) -> None:
    blurs = not window.document.project.sequence.blur_while_editing
    title = "Show motion blur while editing" if blurs else "Leave motion blur out while editing"
    window.document.do(title, lambda project: blur_while_editing(project, blurs))


def _turn_contrast(window: Frame) -> None:
    window.viewer.contrast.turn(not window.viewer.contrast.on)
    window.refresh_commands()


def _times(first: str) -> Command:
    name = {"": "own", "s": "seconds", "f": "frames"}[first]
    return Command(
        f"times-{name}", FIRST[first], "View", "", lambda w: w.prefer_times(first),
        checked=lambda w: w.first_of_times() == first, under="Times in fields",
    )  # fmt: skip


VIEW = (
    Command("fit", "Fit the picture", "View", "F", lambda w: w.viewer.fit()),
    Command("zoom-in", "Zoom the picture in", "View", "Ctrl++", lambda w: w.viewer.zoom_to(w.viewer.view.scale * 1.25), under="Zoom"),
    Command("zoom-out", "Zoom the picture out", "View", "Ctrl+-", lambda w: w.viewer.zoom_to(w.viewer.view.scale / 1.25), under="Zoom"),
    Command("zoom-100", "Actual size", "View", "Ctrl+1", lambda w: w.viewer.zoom_to(1.0), under="Zoom"),
    Command("timeline-fit", "Fit the timeline", "View", "Shift+F", lambda w: w.timeline.canvas.fit(), under="Zoom"),
    Command("timeline-in", "Zoom the timeline in", "View", "+", lambda w: w.timeline.zoom(1.4), under="Zoom"),
    Command("timeline-out", "Zoom the timeline out", "View", "-", lambda w: w.timeline.zoom(1 / 1.4), under="Zoom"),
    Command("safe", "Safe areas", "View", "Alt+S", _toggle("show_safe"), checked=lambda w: w.viewer.show_safe),
    Command("ghost", "Rest ghost", "View", "G", _toggle("show_ghost"), checked=lambda w: w.viewer.show_ghost),
    Command("neighbours", "Ghosts of neighbouring frames", "View", "Shift+G", _toggle("show_neighbours"),
            checked=lambda w: w.viewer.show_neighbours),
    Command("motion-path", "Motion path", "View", "Shift+P", _toggle("show_path"), checked=lambda w: w.viewer.show_path),
    Command("blur", "Motion blur while editing", "View", "Alt+B", _turn_blur,
            checked=lambda w: w.document.project.sequence.blur_while_editing),
    Command("follow", "Timeline follows the playhead", "View", "Shift+L", _follow,
            checked=lambda w: w.timeline.canvas.follows),
    *map(_times, FIRST),
    Command("tall-sheet", "Sheet as high as the window", "View", "", _tall("sheet"),
            checked=lambda w: w.places.is_tall("sheet"), ruled=True),
    Command("tall-shelf", "Shelf as high as the window", "View", "", _tall("shelf"),
            checked=lambda w: w.places.is_tall("shelf")),
    Command("contrast", "Contrast of the words", "View", "Shift+K", _turn_contrast, checked=lambda w: w.viewer.contrast.on),
    Command("checks", "Checks…", "View", "Alt+K", lambda w: w.open_checks()),
    Command("media-list", "Show the media", "View", "Ctrl+M", lambda w: w.shelf.open_media()),
)  # fmt: skip

HELP = (
    Command("find", "Find anything…", "Help", "Ctrl+K", lambda w: w.open_finder()),
    Command("guide", "Guide", "Help", "Ctrl+F1", lambda w: done(w.open_guide())),
    Command("shortcuts", "Shortcuts", "Help", "F1", lambda w: w.open_shortcuts()),
    Command("credits", "Credits", "Help", "", lambda w: w.open_credits()),
)  # fmt: skip
