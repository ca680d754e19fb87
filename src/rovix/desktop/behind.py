"""Words behind a thing in footage: a stroke over it, a matte made beside editing, a group over the words."""

from __future__ import annotations

import os
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from rovix.desktop.footage_shown import FootageShown, footage_here
from rovix.desktop.long_work import LongWork
from rovix.desktop.viewer.matte_shade import MatteShade
from rovix.desktop.viewer.stroke_hand import Drawn, StrokeHand
from rovix.edit.behind import change_matte, cut_out_in, put_behind
from rovix.edit.levels import Level, focused, unfocused
from rovix.edit.tree import clip_by_id, replace
from rovix.engine.matte_files import matte_folder, matte_name
from rovix.model import FootageClip, Media, Project
from rovix.model.clip_kinds import is_layer
from rovix.model.cut_out import CutOut, Stroke
from rovix.motion.transform import mapped

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_WORK = "rovix.engine.cut_outs:make_matte"
_ASK = "Drag a stroke over the thing that is to be in front; with Shift, a box round it. Escape leaves."
_CORRECT = "Drag over what belongs to it, with Shift over what does not. Del takes back, Enter makes it anew."


def ask_behind(window: Frame) -> None:
    """Have a stroke drawn over a thing; the selected layers then pass behind it."""
    document, footage = window.document, footage_here(window.document)
    layers = tuple(i for i in document.selection if _passes(document.project, i))
    if not layers or footage is None:
        said = "Select the words first" if not layers else "Put the playhead on footage first"
        document.problem.emit(f"{said}: they pass behind a thing that is seen in the footage under them.")
        return
    identity = footage.id
    window.viewer.take_up(
        StrokeHand(_ASK, lambda: document.playhead, lambda drawn: _cut(window, identity, layers, drawn[0]))
    )


def _passes(project: Project, identity: str) -> bool:
    clip = clip_by_id(project, identity)
    return is_layer(clip) and not isinstance(clip, FootageClip)


def _cut(window: Frame, footage: str, layers: tuple[str, ...], drawn: Drawn) -> None:
    """Begin the matte of what was drawn over, for as long as layers and footage are seen together."""
    document = window.document
    shown = FootageShown(document.project, document.base, footage)
    frame = drawn.frame - shown.clip.start
    if not 0 <= frame < shown.clip.length:
        document.problem.emit("The footage is not seen at the playhead; draw where it is.")
        return
    points = _in_file(shown, frame, drawn.points)
    clips = [clip for clip in (clip_by_id(document.project, i) for i in layers) if clip is not None]
    first = max(0, min(clip.start for clip in clips) - shown.clip.start)
    last = min(shown.clip.length, max(clip.end for clip in clips) - shown.clip.start)
    files = shown.files[first:last]
    if points is None or not files:
        document.problem.emit("The words and the footage are not seen together; move them first.")
        return
    picked = shown.files[frame]
    made = CutOut(
        footage=shown.media.id,
        digest=shown.media.digest,
        frame=picked,
        first=min(*files, picked),
        last=max(*files, picked),
    )
    if drawn.box:
        made = replace(made, box=_box(points, shown.media))
    else:
        made = replace(made, strokes=(_stroke(shown, frame, drawn, points),))
    level = document.level

    def done(matte: Media) -> None:
        _put(window, level, footage, layers, matte)

    _make(window, shown, made, done)


def _put(window: Frame, level: Level, footage: str, layers: tuple[str, ...], matte: Media) -> None:
    document, made = window.document, [""]

    def edit(whole: Project) -> Project:
        view, made[0] = put_behind(focused(whole, level), layers, footage, matte)
        return unfocused(whole, level, view)

    if document.do_whole("Put behind the thing", edit) and document.level == level:
        document.select(made[0])


def _make(window: Frame, shown: FootageShown, made: CutOut, done: Any) -> None:
    """Make a matte beside editing, hatched over the picture as far as there is one."""
    document = window.document
    folder = matte_folder(document.path)
    out = folder / matte_name(shown.media, made)
    shade = MatteShade(document, shown)
    window.viewer.show_shade(shade)

    def grown(parts: list[Any]) -> None:
        shade.add(parts)
        window.viewer.update()

    def counted(matte: Media) -> None:
        # The project may have got another folder meanwhile.
        done(replace(matte, path=Path(os.path.relpath(out, document.base)).as_posix()))

    work = (_WORK, shown.path, made, out, document.base)
    job = LongWork(window, f"Cutting out of {shown.media.title}", work, counted, grown)
    job.ended.connect(lambda: window.viewer.show_shade(None, shade))
    window.session.run(job)


def correct(window: Frame) -> None:
    """Have strokes drawn over the matte of the selected group, and make it anew with them."""
    document = window.document
    matte = cut_out_in(document.project, document.selected)
    shown = None if matte is None else _footage_of(window, matte)
    if matte is None or matte.cut_out is None or shown is None:
        document.problem.emit(
            "Select the group 'In front' that was made for the words, its footage on screen."
        )
        return
    made, source = matte.cut_out, shown
    shade = MatteShade(document, source)
    window.viewer.show_shade(shade)
    hand = StrokeHand(
        _CORRECT, lambda: document.playhead, lambda drawn: _again(window, source, matte, made, drawn),
        several=True, known=lambda: _known(source, made),
        over=lambda: window.viewer.show_shade(None, shade),
    )  # fmt: skip
    window.viewer.take_up(hand)
    _Outlined(window, shade, source, document.base / matte.path)


def _footage_of(window: Frame, matte: Media) -> FootageShown | None:
    """The footage that a matte was cut out of, where it is shown at the playhead on the open tracks."""
    document = window.document
    cut_out = matte.cut_out
    for track in document.project.sequence.tracks:
        for other in track.clips:
            seen = isinstance(other, FootageClip) and cut_out is not None and other.media == cut_out.footage
            if seen and document.playhead in other.span:
                return FootageShown(document.project, document.base, other.id)
    return None


def _again(window: Frame, shown: FootageShown, old: Media, made: CutOut, drawn: list[Drawn]) -> None:
    strokes = list(made.strokes)
    for one in drawn:
        frame = one.frame - shown.clip.start
        points = _in_file(shown, frame, one.points) if 0 <= frame < shown.clip.length else None
        if points is not None:
            strokes.append(_stroke(shown, frame, one, points))
    fresh = replace(made, strokes=tuple(strokes))
    document = window.document

    def done(matte: Media) -> None:
        document.do_whole("Correct the matte", lambda project: change_matte(project, old, matte))

    _make(window, shown, fresh, done)


def remake(window: Frame, mattes: list[Media]) -> None:
    """Make mattes again whose files are gone: nobody is asked twice."""
    document = window.document
    for matte in mattes:
        cut_out = matte.cut_out
        source = next(
            (m for m in document.whole.media if cut_out is not None and m.id == cut_out.footage), None
        )
        if cut_out is None or source is None:
            continue

        def done(_: Media) -> None:
            # The same file as before: what was drawn without it is drawn again.
            document.refresh_media()

        work = (_WORK, document.base / source.path, cut_out, document.base / matte.path, document.base)
        window.session.run(LongWork(window, f"Cutting out of {source.title} again", work, done))


class _Outlined:
    """Shows the outline of a matte's file at the playhead as long as strokes are drawn over it."""

    def __init__(self, window: Frame, shade: MatteShade, shown: FootageShown, path: Path) -> None:
        self._window, self._shade, self._shown, self._path = window, shade, shown, path
        window.document.playhead_moved.connect(self._look)
        self._look()

    def _look(self) -> None:
        viewer, document = self._window.viewer, self._window.document
        if viewer.shade is not self._shade or not isinstance(viewer.hand, StrokeHand):
            document.playhead_moved.disconnect(self._look)
            viewer.show_shade(None, self._shade)
            return
        frame = document.playhead - self._shown.clip.start
        if 0 <= frame < self._shown.clip.length and not document.playing:
            self._read(self._shown.files[frame])

    def _read(self, file: int) -> None:
        from rovix.engine.matting import outlines_in  # the codecs load when they are first asked for

        if not self._shade.knows(file):
            self._shade.add([(file, outlines_in(self._path, file))])
            self._window.viewer.update()


def _known(shown: FootageShown, made: CutOut) -> list[Drawn]:
    """The strokes of a matte so far, where they are seen at the playhead."""
    found = []
    for stroke in made.strokes:
        if stroke.frame in shown.files:
            frame = shown.files.index(stroke.frame)
            points = mapped(shown.matrix(frame), np.array(stroke.points, dtype=np.float64)).tolist()
            width = stroke.width * _size(shown, frame)
            found.append(Drawn(shown.clip.start + frame, [(x, y) for x, y in points], width, stroke.belongs))
    return found


def _size(shown: FootageShown, frame: int) -> float:
    """How many px of the picture one of the file is."""
    return float(np.sqrt(abs(np.linalg.det(shown.matrix(frame)[:2, :2]))))


def _in_file(
    shown: FootageShown, frame: int, points: list[tuple[float, float]]
) -> list[tuple[float, float]] | None:
    back = shown.back(frame)
    if back is None:
        return None
    found = mapped(back, np.array(points, dtype=np.float64))
    size = np.array([shown.media.width or 1, shown.media.height or 1], dtype=np.float64)
    return [(round(x, 2), round(y, 2)) for x, y in np.clip(np.nan_to_num(found), 0, size).tolist()]


def _box(points: list[tuple[float, float]], media: Media) -> tuple[float, float, float, float]:
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    return float(low[0]), float(low[1]), float(high[0] - low[0]), float(high[1] - low[1])


def _stroke(shown: FootageShown, frame: int, drawn: Drawn, points: list[tuple[float, float]]) -> Stroke:
    width = round(max(1.0, drawn.width / _size(shown, frame)), 2)
    return Stroke(frame=shown.files[frame], points=tuple(points), width=width, belongs=drawn.belongs)
