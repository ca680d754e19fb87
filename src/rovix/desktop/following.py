"""What moves in footage followed: asked for in the picture, done beside editing, put into the timeline."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from rovix.desktop.document import Edit
from rovix.desktop.footage_shown import FootageShown, footage_here
from rovix.desktop.long_work import LongWork
from rovix.desktop.viewer.box_hand import Box, BoxHand
from rovix.edit.areas import add_area, area_of, follow_on
from rovix.edit.following import follow
from rovix.edit.levels import Level, focused, unfocused
from rovix.edit.tree import clip_by_id
from rovix.model import AreaClip, FootageClip, Project
from rovix.motion import Scene
from rovix.motion.quads import layer_quads
from rovix.motion.scene import world_of
from rovix.motion.seen import Spot, file_box, seen_at
from rovix.time.timecode import timecode

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame
    from rovix.engine.following import Region
    from rovix.vision.region_tracker import Place

_WORK = "rovix.engine.following:follow_for_the_window"
HINT = "Drag a box round what is to be followed, or click a point of it. Escape leaves."


def ask_area(window: Frame, grows: bool, turns: bool, stuck: str | None = None) -> None:
    """Have a box dragged out and follow what is in it; `stuck` is a layer that then follows the area."""
    footage = footage_here(window.document)
    if footage is None:
        window.document.problem.emit("There is no footage at the playhead; put it on some first.")
        return
    identity = footage.id

    def take(box: Box) -> None:
        # Where the playhead is by now, which may have been moved to see it better.
        own = clip_by_id(window.document.project, identity)
        frame = window.document.playhead - own.start if own is not None else -1
        begin_following(window, identity, frame, box, grows, turns, stuck)

    window.viewer.take_up(BoxHand(HINT, take))


def stick(window: Frame, identity: str) -> None:
    """Let a layer stick to what is under it in the footage at the playhead."""
    document = window.document
    clip, footage = clip_by_id(document.project, identity), footage_here(window.document)
    if footage is None or clip is None:
        document.problem.emit("There is no footage under it at the playhead; put it on some first.")
        return
    scene = Scene.of(document.project)
    at = document.frame_of(clip)
    quads = layer_quads(scene, clip, at, world_of(scene, clip, clip.start + at))  # type: ignore[arg-type]
    (left, top), (right, bottom) = quads.rest.min(axis=0).tolist(), quads.rest.max(axis=0).tolist()
    frame = document.playhead - footage.start
    begin_following(window, footage.id, frame, (left, top, right, bottom), True, True, identity)


def _spots(shown: FootageShown, found: dict[int, Place]) -> dict[int, tuple[Spot, float]]:
    """Places by the frames of the clip that they are shown in."""
    made = {}
    for frame, file in enumerate(shown.files):
        place = found.get(file)
        if place is not None:
            spot = seen_at(shown.scene, shown.matrix(frame), place.x, place.y, place.rotation)
            made[frame] = Spot(spot.x, spot.y, spot.size * place.scale, spot.turn), place.confidence
    return made


def begin_following(
    window: Frame, footage: str, frame: int, box: Box, grows: bool, turns: bool, stuck: str | None
) -> None:
    """Follow what is in a box (left, top, right, bottom in px of the frame) of footage at a frame of it; a
    layer that is to be `stuck` then follows what comes of it."""
    from rovix.engine.following import Region
    from rovix.vision.alignment import Freedom

    document = window.document
    clip = clip_by_id(document.project, footage)
    if not isinstance(clip, FootageClip) or not 0 <= frame < clip.length:
        document.problem.emit("The footage is not seen at the playhead; go to where it is.")
        return
    shown = FootageShown(document.project, document.base, footage)
    freedom = Freedom(grows, turns)
    own = _in_file(window, shown, frame, box)
    if own is None:
        return
    region = Region(shown.files[frame], own, freedom, "both", min(shown.files), max(shown.files))
    wanted = _Wanted(document.level, footage, region, stuck)

    def done(found: dict[int, Place]) -> None:
        _put(window, wanted, found)

    title = f"Following in {shown.media.title}"
    window.session.run(LongWork(window, title, (_WORK, shown.path, region), done))


def _in_file(window: Frame, shown: FootageShown, frame: int, box: Box) -> Box | None:
    """A box of the frame as one of the file; None, which is told, where nothing of it is seen."""
    back = shown.back(frame)
    own = None if back is None else file_box(back, shown.media, box)
    if own is None:
        window.document.problem.emit("The footage is not seen there: it is edge on, or behind the viewer.")
    return own


@dataclass(frozen=True, slots=True)
class _Wanted:
    """What was asked for: in footage of an open level, for a layer that is to follow it or none."""

    level: Level
    footage: str
    region: Region
    stuck: str | None


def _put(window: Frame, wanted: _Wanted, found: dict[int, Place]) -> None:
    """Put what was followed into the timeline, as the footage is shown by now."""
    document, region = window.document, wanted.region
    view = focused(document.whole, wanted.level)
    if not isinstance(clip_by_id(view, wanted.footage), FootageClip):
        document.problem.emit("The footage that it was followed in is gone.")
        return
    shown = FootageShown(view, document.base, wanted.footage)
    if region.frame not in shown.files:
        document.problem.emit("The frame that it was picked in is not shown any more; follow it again.")
        return
    picked = shown.files.index(region.frame)
    spots = _one_stretch(_spots(shown, found), picked)
    x, y, width, height = region.box
    size = seen_at(shown.scene, shown.matrix(picked), x + width / 2, y + height / 2).size
    made = [""]

    def edit(project: Project) -> Project:
        project, made[0] = add_area(
            project, wanted.footage, (width * size, height * size), picked, spots,
            region.freedom.scale, region.freedom.rotation,
        )  # fmt: skip
        if wanted.stuck is not None and clip_by_id(project, wanted.stuck) is not None:
            project = follow(project, wanted.stuck, made[0], shown.clip.start + picked)
        return project

    said = "Follow in the footage" if wanted.stuck is None else "Stick to the footage"
    if _do_at(window, wanted.level, said, edit):
        if document.level == wanted.level:
            document.select(made[0] if wanted.stuck is None else wanted.stuck)
        _say_end(window, made[0], shown, spots)


def _do_at(window: Frame, level: Level, title: str, edit: Edit) -> bool:
    """A step on a level that need not be the open one any more."""
    document = window.document
    return document.do_whole(title, lambda whole: unfocused(whole, level, edit(focused(whole, level))))


def _one_stretch(spots: dict[int, tuple[Spot, float]], picked: int) -> dict[int, tuple[Spot, float]]:
    """Those around the picked frame without a gap."""
    first = last = picked
    while first - 1 in spots:
        first -= 1
    while last + 1 in spots:
        last += 1
    return {frame: spots[frame] for frame in range(first, last + 1)}


def _say_end(window: Frame, area: str, shown: FootageShown, spots: dict[int, tuple[Spot, float]]) -> None:
    """Ask what to do where it was lost before the end of the footage."""
    first, last = min(spots), max(spots)
    ways = [("forwards", last)] * (last < shown.clip.length - 1) + [("backwards", first)] * (first > 0)
    for way, frame in ways:
        at = shown.clip.start + frame

        def go(at: int = at) -> None:
            window.document.select(area)
            window.document.seek(at)

        window.session.offer(
            f"Lost {way} at {timecode(at, window.document.rate)}",
            "Go there, move the area onto it by hand, then Clip > Follow > Follow on from here. Or leave it.",
            {"Go there": go, "Leave it": lambda: None},
        )


def follow_on_from_here(window: Frame, way: str) -> None:
    """Follow again from where the selected area is at the playhead, in its footage."""
    from rovix.engine.following import Region
    from rovix.vision.alignment import Freedom

    document = window.document
    area = document.clip
    if not isinstance(area, AreaClip) or area.seen_in is None:
        document.problem.emit("Select a tracked area whose footage is still there.")
        return
    shown = FootageShown(document.project, document.base, area.seen_in)
    at = document.clip_frame
    frame = area.start + at - shown.clip.start
    if not 0 <= frame < shown.clip.length:
        document.problem.emit("The area is beside its footage here; go to where that is seen.")
        return
    quads = layer_quads(shown.scene, area, at, world_of(shown.scene, area, area.start + at))
    (left, top), (right, bottom) = quads.rest.min(axis=0).tolist(), quads.rest.max(axis=0).tolist()
    own = _in_file(window, shown, frame, (left, top, right, bottom))
    if own is None:
        return
    region = Region(
        shown.files[frame], own, Freedom(area.grows, area.turns), way, min(shown.files), max(shown.files),  # type: ignore[arg-type]
    )  # fmt: skip
    identity, level = area.id, document.level

    def done(found: dict[int, Place]) -> None:
        spots = _one_stretch(_spots(shown, found), frame)

        def edit(project: Project) -> Project:
            shift = shown.clip.start - area_of(project, identity).start
            inside = {n + shift: spot for n, spot in spots.items()}
            return follow_on(project, identity, inside, frame + shift, way)

        _do_at(window, level, "Follow on", edit)

    title = f"Following on in {shown.media.title}"
    window.session.run(LongWork(window, title, (_WORK, shown.path, region), done))
