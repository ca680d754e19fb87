"""Clip: trimming, slipping, groups, how clips follow each other and run through their material."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from rovix.desktop.commands.command import (
    Command,
    ManyEdit,
    Run,
    heard,
    layer,
    making,
    on_each,
    on_selection,
    selected,
    several,
    timed,
)
from rovix.edit import clip_by_id, set_move_length, trim_end, trim_start
from rovix.edit.clips import slip
from rovix.edit.groups import group_clips, ungroup
from rovix.edit.media_list import set_deinterlaced
from rovix.edit.playing import freeze, play_backwards, play_there_and_back, play_times
from rovix.edit.selected_clips import STAGGERED, chain_landings, stagger_clips
from rovix.edit.selected_clips import on_each as done_to_each
from rovix.edit.sound import change_sound
from rovix.edit.transitions import KINDS, set_transition, transition_near
from rovix.edit.tree import clip_of, title_of
from rovix.errors import RovixError
from rovix.model import Clip, FootageClip, Media, Project
from rovix.model.clip_kinds import holds_tracks, is_nesting, is_played

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

FROZEN_SECONDS = 2.0


def _trim(edge: str) -> Run:
    def run(window: Frame) -> None:
        frame = window.document.playhead
        edit = trim_start if edge == "start" else trim_end
        on_selection(
            f"Trim the {edge} of", lambda p, ids: done_to_each(ids, lambda q, i: edit(q, i, frame))(p)
        )(window)

    return run


def _file_of(window: Frame) -> Media:
    """The file that the selected clip plays."""
    clip, project = window.document.clip, window.document.project
    assert isinstance(clip, FootageClip)
    return next(media for media in project.media if media.id == clip.media)


def _interlaced(window: Frame) -> bool:
    return isinstance(window.document.clip, FootageClip) and _file_of(window).interlaced


def _deinterlace(window: Frame) -> None:
    media = _file_of(window)
    on = not media.deinterlaced
    name = f"Deinterlace {media.title}" if on else f"Leave {media.title} interlaced"
    window.document.do(name, lambda project: set_deinterlaced(project, media.id, on))


def _slip(frames: int) -> Run:
    return on_each("Slip", lambda project, identity: slip(project, identity, frames))


def _fade(edge: str) -> Run:
    def run(window: Frame) -> None:
        document, clip = window.document, window.document.clip
        if clip is None or document.playhead not in clip.span:
            document.problem.emit("Put the playhead inside the clip: the fade goes to it.")
            return
        on_each(
            "Fade in" if edge == "fade_in" else "Fade out", lambda p, i: _faded(p, i, edge, document.playhead)
        )(window)

    return run


def _move_edge(role: str) -> Run:
    def run(window: Frame) -> None:
        document, clip = window.document, window.document.clip
        if clip is None or document.playhead not in clip.span:
            document.problem.emit("Put the playhead inside the layer: the move ends or begins there.")
            return
        on_each(f"Change the {role} of", lambda p, i: _landed(p, i, role, document.playhead))(window)

    return run


def _inside(project: Project, identity: str, playhead: int) -> Clip:
    clip = clip_of(project, identity)
    if playhead not in clip.span:
        raise RovixError(f"The playhead is not inside '{title_of(clip)}'.")
    return clip


def _faded(project: Project, identity: str, edge: str, playhead: int) -> Project:
    clip = _inside(project, identity, playhead)
    frames = playhead - clip.start if edge == "fade_in" else clip.span.end - playhead
    return change_sound(project, identity, **{edge: frames})


def _landed(project: Project, identity: str, role: str, playhead: int) -> Project:
    clip = _inside(project, identity, playhead)
    local = playhead - clip.start
    return set_move_length(project, identity, role, local if role == "entrance" else clip.length - 1 - local)


def _stagger_clips(from_top: bool) -> Run:
    def run(window: Frame) -> None:
        frames = window.ask_number(
            "Stagger clips", "Frames between two layers", STAGGERED, -10_000, 10_000, "f"
        )
        if frames is not None:
            edit = lambda p, ids: stagger_clips(p, ids, round(frames), from_top)  # noqa: E731
            on_selection("Stagger clips", edit)(window)

    return run


def _group(window: Frame) -> None:
    making("Group", lambda p, ids: _one(group_clips(p, ids)))(window)


def _one(made: tuple[Project, str]) -> tuple[Project, list[str]]:
    return made[0], [made[1]]


def _ungroup(project: Project, identities: tuple[str, ...]) -> tuple[Project, list[str]]:
    freed: list[str] = []
    for identity in identities:
        if holds_tracks(clip_by_id(project, identity)):
            project, ids = ungroup(project, identity)
            freed += ids
    return project, freed


def opens(window: Frame) -> bool:
    """Whether the selected clip has tracks of its own to open."""
    return is_nesting(window.document.clip)


def _group_selected(window: Frame) -> bool:
    return holds_tracks(window.document.clip)


def _times(window: Frame) -> None:
    times = window.ask_number("Play several times", "How many times", 2, 0.01, 10_000, "×")
    if times is not None:
        on_each("Repeat", lambda p, i: play_times(p, i, times))(window)


def _freeze(window: Frame) -> None:
    document = window.document
    frames = document.rate.length(FROZEN_SECONDS)
    on_each("Freeze a frame of", lambda p, i: freeze(p, i, document.playhead, frames))(window)


def _join(kind: str) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        identity = transition_near(document.project, document.selected or "", document.playhead)
        if identity is None:
            document.problem.emit("No clip touches this one. Move one up to the other first.")
            return
        title = f"{KINDS[kind]} at the cut" if kind != "cut" else "Cut without a transition"
        if document.do(title, lambda p: set_transition(p, identity, kind)):
            document.select(identity)

    return run


def _rename(window: Frame) -> None:
    window.timeline.canvas.rename_clip()


def _on_each(edit: Callable[[Project, str], Project]) -> ManyEdit:
    return lambda project, ids: done_to_each(ids, edit)(project)


CLIP = (
    Command("rename", "Rename…", "Clip", "Shift+F2", _rename, selected),
    Command("trim-start", "Trim the start to the playhead", "Clip", "Ctrl+[", _trim("start"), selected, ruled=True, under="Trim and slip"),
    Command("trim-end", "Trim the end to the playhead", "Clip", "Ctrl+]", _trim("end"), selected, under="Trim and slip"),
    Command("slip-back", "Slip: show material a frame earlier", "Clip", "Alt+,", _slip(-1), timed, under="Trim and slip"),
    Command("slip-on", "Slip: show material a frame later", "Clip", "Alt+.", _slip(1), timed, under="Trim and slip"),
    Command("entrance-here", "Entrance lands at the playhead", "Clip", "Shift+[", _move_edge("entrance"), layer, under="Trim and slip"),
    Command("exit-here", "Exit leaves at the playhead", "Clip", "Shift+]", _move_edge("exit"), layer, under="Trim and slip"),
    Command("fade-in-here", "Sound fades in up to the playhead", "Clip", "Alt+[", _fade("fade_in"), heard, under="Trim and slip"),
    Command("fade-out-here", "Sound fades out from the playhead", "Clip", "Alt+]", _fade("fade_out"), heard, under="Trim and slip"),
    Command("stagger-clips", "Stagger clips, bottom first…", "Clip", "", _stagger_clips(False), several, ruled=True, under="Put in order"),
    Command("stagger-clips-down", "Stagger clips, top first…", "Clip", "", _stagger_clips(True), several, under="Put in order"),
    Command("chain", "Start each when the one before lands", "Clip", "",
            on_selection("Start on landings", lambda p, ids: chain_landings(p, ids)), several, under="Put in order"),
    Command("group", "Group", "Clip", "Ctrl+G", _group, selected, ruled=True),
    Command("ungroup", "Ungroup", "Clip", "Ctrl+Shift+G", making("Ungroup", _ungroup), _group_selected),
    Command("open-group", "Open", "Clip", "Ctrl+Return", lambda w: w.open_selected(), opens),
    Command("close-group", "Close the open group", "Clip", "Ctrl+Backspace", lambda w: w.close_group(),
            lambda w: bool(w.document.level.groups)),
    Command("backwards", "Play backwards", "Clip", "", on_selection("Turn round", _on_each(play_backwards)), timed,
            lambda w: is_played(w.document.clip) and w.document.clip.playing.backwards, ruled=True, under="Playing"),
    Command("and-back", "Play there and back", "Clip", "",
            on_selection("There and back:", _on_each(play_there_and_back)), timed,
            lambda w: is_played(w.document.clip) and w.document.clip.playing.and_back, under="Playing"),
    Command("times", "Play several times…", "Clip", "", _times, timed, under="Playing"),
    Command("deinterlace", "Deinterlace", "Clip", "", _deinterlace, _interlaced,
            lambda w: _interlaced(w) and _file_of(w).deinterlaced, under="Playing"),
    Command("freeze", "Freeze the frame at the playhead", "Clip", "", _freeze, timed, under="Playing"),
    *(
        Command(f"transition-{kind}", f"Transition: {said.lower()}", "Clip", "Ctrl+J" if kind == "dissolve" else "",
                _join(kind), layer, under="Transition")
        for kind, said in KINDS.items()
    ),
)  # fmt: skip
