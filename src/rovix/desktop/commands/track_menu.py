"""Track: what is seen and heard, order, height."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.commands.command import Command, Run, When, done, has_track, selected_track
from rovix.desktop.timeline.headers import TURNS
from rovix.edit.tracks import add_track, change_track, move_track, remove_track, scale_heights
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _turn_track(field: str) -> Run:
    def run(window: Frame) -> None:
        track = selected_track(window)
        if track is not None:
            changes = {field: not getattr(track, field)}
            title = TURNS[field][bool(getattr(track, field))]
            window.document.do(f"{title} {track.name}", lambda p: change_track(p, track.id, **changes))

    return run


def _track_is(field: str) -> When:
    return lambda window: bool(getattr(selected_track(window), field, False))


def _move_track(way: int) -> Run:
    def run(window: Frame) -> None:
        track = selected_track(window)
        if track is not None:
            window.document.do(f"Move {track.name}", lambda p: move_track(p, track.id, way))

    return run


def _heights(factor: float) -> Run:
    def run(window: Frame) -> None:
        said = "Taller tracks" if factor > 1 else "Lower tracks"
        window.document.do(said, lambda p: scale_heights(p, factor))

    return run


def _shows(window: Frame) -> bool:
    """Whether it is a track of pictures, which can be hidden."""
    track = selected_track(window)
    return track is not None and track.kind == "picture"


def _rename(window: Frame) -> None:
    track = selected_track(window)
    if track is not None:
        window.timeline.canvas.rename_track(track)


def _remove_track(window: Frame) -> None:
    track = selected_track(window)
    if track is not None:
        window.document.do(f"Remove {track.name}", lambda p: remove_track(p, track.id))


def _is_empty(window: Frame) -> bool:
    track = selected_track(window)
    return track is not None and not track.clips


def _remove_empty_tracks(window: Frame) -> None:
    def edit(project: Project) -> Project:
        for track in project.sequence.tracks:
            if not track.clips:
                project = remove_track(project, track.id)
        return project

    window.document.do("Remove empty tracks", edit)


TRACK = (
    Command("hide-track", "Hide or show the track", "Track", "Alt+H", _turn_track("hidden"), _shows,
            _track_is("hidden")),
    Command("mute-track", "Mute or unmute the track", "Track", "Alt+M", _turn_track("muted"), has_track,
            _track_is("muted")),
    Command("solo-track", "Hear only this track", "Track", "Alt+O", _turn_track("solo"), has_track,
            _track_is("solo")),
    Command("lock-track", "Lock or unlock the track", "Track", "Alt+L", _turn_track("locked"), has_track,
            _track_is("locked")),
    Command("track-up", "Move the track towards the viewer", "Track", "", _move_track(1), has_track, ruled=True),
    Command("track-down", "Move the track away from the viewer", "Track", "", _move_track(-1), has_track),
    Command("taller", "Taller tracks", "Track", "Alt+=", _heights(1.25)),
    Command("lower", "Lower tracks", "Track", "Alt+-", _heights(0.8)),
    Command("add-pictures", "Add a track for pictures", "Track", "",
            lambda w: done(w.document.do("Add a track", lambda p: add_track(p, "picture"))), ruled=True),
    Command("add-sound", "Add a track for sound", "Track", "",
            lambda w: done(w.document.do("Add a track", lambda p: add_track(p, "sound")))),
    Command("rename-track", "Rename the track…", "Track", "", _rename, has_track),
    Command("remove-track", "Remove the track, which is empty", "Track", "", _remove_track, _is_empty),
    Command("remove-empty", "Remove empty tracks", "Track", "", _remove_empty_tracks,
            lambda w: any(not track.clips for track in w.document.project.sequence.tracks)),
)  # fmt: skip
