"""Every command of the window, as data: menus, shortcuts, finder and the table of F1 read this list."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from rovix.desktop import clipboard
from rovix.edit import (
    add_text,
    duplicate_clip,
    move_of,
    nudge_clip,
    remove_clip,
    remove_clip_and_gap,
    split_clip,
    take_on,
)
from rovix.edit.tracks import add_track, change_track, move_track, remove_track, track_of_clip
from rovix.model import Project, SoundClip, TextClip, Words, new_id
from rovix.motion import move_spans
from rovix.motion.ready_moves import reversed_move
from rovix.time import Span

if TYPE_CHECKING:
    from rovix.desktop.window import Window

Run = Callable[["Window"], None]
When = Callable[["Window"], bool]


@dataclass(frozen=True, slots=True)
class Command:
    """`shortcut` is Qt's portable text; `title` may be a function of the window where it changes."""

    id: str
    title: str | Callable[[Window], str]
    menu: str
    shortcut: str
    run: Run
    when: When = lambda window: True
    checked: When | None = None

    def said(self, window: Window) -> str:
        return self.title if isinstance(self.title, str) else self.title(window)


def _selected(window: Window) -> bool:
    return window.document.clip is not None


def _layer(window: Window) -> bool:
    clip = window.document.clip
    return clip is not None and not isinstance(clip, SoundClip)


def _words(window: Window) -> bool:
    return isinstance(window.document.clip, TextClip)


def _undo_title(window: Window) -> str:
    title = window.document.history.undo_title
    return f"Undo: {title}" if title else "Undo"


def _redo_title(window: Window) -> str:
    title = window.document.history.redo_title
    return f"Redo: {title}" if title else "Redo"


def _add_words(window: Window) -> None:
    document = window.document
    rate = document.rate
    clip = TextClip(id=new_id(), name="New words", words=Words(text="New words"))
    length = rate.length(4.0)
    start = document.playhead
    if document.do("Put words at the playhead", lambda p: add_text(p, start, length, clip)):
        document.select(clip.id)
        window.projector.stop()
        window.viewer.edit_words()


def _on_clip(title: str, edit: Callable[[Project, str], Project]) -> Run:
    def run(window: Window) -> None:
        clip = window.document.clip
        if clip is not None:
            window.document.do(f"{title} {clip.name or 'clip'}", lambda project: edit(project, clip.id))

    return run


def _cut(window: Window) -> None:
    if clipboard.copy(window.document):
        _on_clip("Cut", remove_clip)(window)


def _duplicate(window: Window) -> None:
    made: list[str] = []

    def edit(project: Project, identity: str) -> Project:
        project, copy = duplicate_clip(project, identity)
        made.append(copy)
        return project

    _on_clip("Duplicate", edit)(window)
    if made:
        window.document.select(made[-1])


def _reverse_entrance(window: Window) -> None:
    entrance = move_of(window.document.clip, "entrance")
    if entrance is not None:
        leaving = reversed_move(entrance)
        _on_clip("Entrance, reversed, for the exit of", lambda p, i: take_on(p, i, "exit", leaving))(window)


def _done(_: bool) -> None:
    """A command gives nothing back."""


_TURNS = {"hidden": ("Hide", "Show"), "muted": ("Mute", "Unmute"), "locked": ("Lock", "Unlock")}


def _turn_track(field: str) -> Run:
    def run(window: Window) -> None:
        track = track_of_clip(window.document.project, window.document.selected)
        if track is not None:
            changes = {field: not getattr(track, field)}
            title = _TURNS[field][bool(getattr(track, field))]
            window.document.do(f"{title} {track.name}", lambda p: change_track(p, track.id, **changes))

    return run


def _track_is(field: str) -> When:
    def checked(window: Window) -> bool:
        return bool(getattr(track_of_clip(window.document.project, window.document.selected), field, False))

    return checked


def _move_track(way: int) -> Run:
    def run(window: Window) -> None:
        track = track_of_clip(window.document.project, window.document.selected)
        if track is not None:
            window.document.do(f"Move {track.name}", lambda p: move_track(p, track.id, way))

    return run


def _remove_empty_tracks(window: Window) -> None:
    def edit(project: Project) -> Project:
        for track in project.sequence.tracks:
            if not track.clips:
                project = remove_track(project, track.id)
        return project

    window.document.do("Remove empty tracks", edit)


def _seek(step: int) -> Run:
    def run(window: Window) -> None:
        window.projector.stop()
        window.document.seek(window.document.playhead + step)

    return run


def _go(edge: str) -> Run:
    def run(window: Window) -> None:
        window.projector.stop()
        span = window.document.play_span
        window.document.seek(span.start if edge == "start" else span.end - 1)

    return run


def _play(window: Window) -> None:
    if window.projector.playing:
        window.projector.stop()
    else:
        window.settle()
        window.projector.play()


def _shuttle(way: int) -> Run:
    def run(window: Window) -> None:
        player = window.projector.player
        speed = float(way)
        if window.projector.playing and player.speed * way > 0:
            speed = player.speed * 2 if abs(player.speed) < 8 else player.speed
        window.projector.stop()
        window.projector.play(speed=speed)

    return run


def _range(edge: str) -> Run:
    def run(window: Window) -> None:
        document = window.document
        old = document.range or Span(0, document.length)
        frame = document.playhead
        if edge == "in":
            document.set_range(Span(frame, max(frame + 1, old.end)))
        else:
            document.set_range(Span(min(frame, old.start), frame + 1))

    return run


def rehearse_span(window: Window) -> Span | None:
    """The entrance or exit under the playhead with half a second of run-up; else the clip's stay."""
    document = window.document
    clip = document.clip
    if clip is None or isinstance(clip, SoundClip):
        return None
    spans = move_spans(clip.moves, clip.length, document.rate)
    run_up = document.rate.frames(0.5)
    local = document.playhead - clip.start
    if spans.exit and local > clip.length - 1 - spans.exit - run_up:
        span = Span(max(0, clip.span.end - spans.exit - run_up), clip.span.end + run_up // 2)
    elif spans.entrance and local <= spans.entrance + run_up:
        span = Span(max(0, clip.start - run_up // 2), clip.start + spans.entrance + run_up)
    else:
        span = clip.span
    return span.clipped(Span(0, document.length))


def _rehearse(window: Window) -> None:
    span = rehearse_span(window)
    if span is not None and span.length:
        window.viewer.finish_words()
        window.projector.stop()
        window.document.seek(span.start)
        window.projector.play(span, loop=True)


def _toggle(name: str) -> Run:
    def run(window: Window) -> None:
        setattr(window.viewer, name, not getattr(window.viewer, name))
        window.viewer.update()
        window.refresh_commands()

    return run


COMMANDS: tuple[Command, ...] = (
    Command("new", "New project…", "File", "Ctrl+N", lambda w: w.files.new()),
    Command("open", "Open…", "File", "Ctrl+O", lambda w: w.files.open()),
    Command("demo", "Open the demo", "File", "", lambda w: w.files.open_demo()),
    Command("bring-in", "Bring in media…", "File", "Ctrl+I", lambda w: w.files.bring_in()),
    Command("save", "Save", "File", "Ctrl+S", lambda w: w.files.save()),
    Command("save-as", "Save as…", "File", "Ctrl+Shift+S", lambda w: w.files.save_as()),
    Command("export", "Export…", "File", "Ctrl+E", lambda w: w.open_export()),
    Command("quit", "Quit", "File", "Ctrl+Q", lambda w: w.close()),
    Command("undo", _undo_title, "Edit", "Ctrl+Z", lambda w: w.document.undo(),
            lambda w: w.document.history.undo_title is not None),
    Command("redo", _redo_title, "Edit", "Ctrl+Shift+Z", lambda w: w.document.redo(),
            lambda w: w.document.history.redo_title is not None),
    Command("copy", "Copy", "Edit", "Ctrl+C", lambda w: _done(clipboard.copy(w.document)), _selected),
    Command("cut", "Cut", "Edit", "Ctrl+X", _cut, _selected),
    Command("paste", "Paste at the playhead", "Edit", "Ctrl+V", lambda w: clipboard.paste(w.document)),
    Command("split", "Split at the playhead", "Edit", "S", lambda w: _on_clip("Split", lambda p, i: split_clip(
        p, i, w.document.playhead))(w), _selected),
    Command("duplicate", "Duplicate", "Edit", "Ctrl+D", _duplicate, _selected),
    Command("remove", "Remove", "Edit", "Delete", _on_clip("Remove", remove_clip), _selected),
    Command("remove-gap", "Remove and close the gap", "Edit", "Shift+Delete",
            _on_clip("Remove and close the gap of", remove_clip_and_gap), _selected),
    Command("nudge-left", "Nudge one frame earlier", "Edit", "Ctrl+Left",
            _on_clip("Nudge", lambda p, i: nudge_clip(p, i, -1)), _selected),
    Command("nudge-right", "Nudge one frame later", "Edit", "Ctrl+Right",
            _on_clip("Nudge", lambda p, i: nudge_clip(p, i, 1)), _selected),
    Command("add-words", "Words at the playhead", "Words", "T", _add_words),
    Command("edit-words", "Edit the words in the picture", "Words", "F2", lambda w: w.viewer.edit_words(), _words),
    Command("reverse-entrance", "Entrance, reversed, for the exit", "Words", "", _reverse_entrance,
            lambda w: move_of(w.document.clip, "entrance") is not None),
    Command("hide-track", "Hide or show the track", "Track", "Alt+H", _turn_track("hidden"), _layer,
            _track_is("hidden")),
    Command("mute-track", "Mute or unmute the track", "Track", "Alt+M", _turn_track("muted"), _selected,
            _track_is("muted")),
    Command("lock-track", "Lock or unlock the track", "Track", "Alt+L", _turn_track("locked"), _selected,
            _track_is("locked")),
    Command("track-up", "Move the track towards the viewer", "Track", "Alt+Up", _move_track(1), _selected),
    Command("track-down", "Move the track away from the viewer", "Track", "Alt+Down", _move_track(-1), _selected),
    Command("add-pictures", "Add a track for pictures", "Track", "",
            lambda w: _done(w.document.do("Add a track", lambda p: add_track(p, "picture")))),
    Command("add-sound", "Add a track for sound", "Track", "",
            lambda w: _done(w.document.do("Add a track", lambda p: add_track(p, "sound")))),
    Command("remove-empty", "Remove empty tracks", "Track", "", _remove_empty_tracks,
            lambda w: any(not track.clips for track in w.document.project.sequence.tracks)),
    Command("play", "Play or pause", "Play", "Space", _play),
    Command("back", "Play backwards, again for faster", "Play", "J", _shuttle(-1)),
    Command("pause", "Pause", "Play", "K", lambda w: w.projector.stop()),
    Command("forward", "Play forwards, again for faster", "Play", "L", _shuttle(1)),
    Command("rehearse", "Rehearse the move", "Play", "R", _rehearse, _layer),
    Command("previous-frame", "One frame back", "Play", "Left", _seek(-1)),
    Command("next-frame", "One frame on", "Play", "Right", _seek(1)),
    Command("back-10", "Ten frames back", "Play", "Shift+Left", _seek(-10)),
    Command("on-10", "Ten frames on", "Play", "Shift+Right", _seek(10)),
    Command("to-start", "To the start", "Play", "Home", _go("start")),
    Command("to-end", "To the end", "Play", "End", _go("end")),
    Command("range-in", "Range starts here", "Play", "I", _range("in")),
    Command("range-out", "Range ends here", "Play", "O", _range("out")),
    Command("range-clear", "Clear the range", "Play", "Alt+X", lambda w: w.document.set_range(None),
            lambda w: w.document.range is not None),
    Command("fit", "Fit the picture", "View", "F", lambda w: w.viewer.fit()),
    Command("zoom-in", "Zoom the picture in", "View", "Ctrl++", lambda w: w.viewer.zoom_to(w.viewer.view.scale * 1.25)),
    Command("zoom-out", "Zoom the picture out", "View", "Ctrl+-", lambda w: w.viewer.zoom_to(w.viewer.view.scale / 1.25)),
    Command("zoom-100", "A px for a px", "View", "Ctrl+1", lambda w: w.viewer.zoom_to(1.0)),
    Command("timeline-fit", "Fit the timeline", "View", "Shift+F", lambda w: w.timeline.canvas.fit()),
    Command("timeline-in", "Zoom the timeline in", "View", "+", lambda w: w.timeline.zoom(1.4)),
    Command("timeline-out", "Zoom the timeline out", "View", "-", lambda w: w.timeline.zoom(1 / 1.4)),
    Command("safe", "Safe areas", "View", "Shift+S", _toggle("show_safe"), checked=lambda w: w.viewer.show_safe),
    Command("ghost", "Rest ghost", "View", "G", _toggle("show_ghost"), checked=lambda w: w.viewer.show_ghost),
    Command("find", "Find a command…", "Help", "Ctrl+K", lambda w: w.open_finder()),
    Command("shortcuts", "Shortcuts", "Help", "F1", lambda w: w.open_shortcuts()),
)  # fmt: skip

MENUS = ("File", "Edit", "Words", "Track", "Play", "View", "Help")


def command(identity: str) -> Command:
    """The command with that id."""
    return next(item for item in COMMANDS if item.id == identity)
