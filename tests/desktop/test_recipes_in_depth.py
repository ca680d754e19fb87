"""Recipes of the job that go into depth, through mattes and behind things, made in the window as an editor would."""

import numpy as np
import pytest
from gestures import CTRL, at, pull
from PySide6.QtCore import Qt
from test_recipes_by_hand import Editor, pixels

from builders import project_of, title
from made_files import video
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.layer_box import LayerBox
from rovix.desktop.sheet.parts import KeyPip
from rovix.edit import clip_by_id
from rovix.edit.tree import replace
from rovix.media.library import MediaLibrary
from rovix.media.probe import probe
from rovix.model import BackgroundClip, FootageClip, Plain, Track, Transition
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from waiting import wait_for

Key = Qt.Key


@pytest.fixture
def made(make_test_window):
    def make(words="Larkmoor", *grounds, length=150, base=None, media=(), **fields):
        clip = title(words, length, id="words", name="words", text={"size": 60.0, **fields})
        project = project_of(*(grounds or (ground("#101418", length),)), clip, media=media)
        window = make_test_window(project, base=base)
        window.timeline.canvas.setFocus()
        return Editor(window)

    return make


def ground(colour, length=150):
    return BackgroundClip(id="ground", name="Ground", length=length, background=Plain(colour=colour))


def depths(editor, frame):
    layer = editor.layer(frame)
    return [piece["z"] for piece in layer["pieces"]] if layer else []


def test_recipe_13_out_of_depth(made):
    """Words come from far off one by one; on exit the whole block flies past the viewer."""
    editor = made("Larkmoor kite day")
    editor.choose()
    editor.search("out of depth")
    editor.card("Out of depth")
    editor.tab("exit")
    editor.card("Past the viewer")
    assert editor.actions <= 12
    spans, last = editor.spans(), editor.words().length - 1
    ways = np.array([depths(editor, frame) for frame in range(spans.entrance + 1)])
    assert (ways[0] <= -4999).all()
    landed = [int(np.flatnonzero(way == 0)[0]) for way in ways.T]
    assert landed == sorted(set(landed))
    gone = depths(editor, last)
    assert len(set(gone)) <= 1, "as a whole"
    assert not (pixels(editor, last) > 60).any(), "past the viewer"


def test_recipe_14_depth_spring(made):
    """Each word from far, over, short of and to its place; a short fade up first."""
    editor = made("Kite day")
    editor.choose()
    editor.search("depth spring")
    editor.card("Depth spring")
    assert editor.actions <= 12
    spans = editor.spans()
    first = [depths(editor, frame)[0] for frame in range(spans.entrance + 1)]
    assert first[0] == min(first) <= -400
    peak = int(np.argmax(first))
    assert first[peak] > 50
    assert min(first[peak:]) < -10
    assert first[-1] == 0
    assert editor.layer(0)["pieces"][0]["opacity"] == 0
    assert editor.layer(peak)["pieces"][0]["opacity"] == 1


def test_recipe_10_slant_unfold(made):
    """From a thin slanted sliver to upright, growing on evenly, then past the viewer between the strokes, with a
    rush that goes with it."""
    editor = made("LARK")
    editor.choose()
    editor.card("Open outwards")
    editor.motion.channels.add("slant")
    editor.actions += 2
    editor.motion.channels.rows[-1].amount.committed.emit(60.0)
    editor.find("drift: grow")
    editor.tab("exit")
    editor.card("Past the viewer")
    editor.pick(editor.motion.sound.speed_sound, editor.motion.sound.speed_sound.itemData(1))
    assert editor.actions <= 12
    spans, last = editor.spans(), editor.words().length - 1
    start, rest = editor.layer(1)["pieces"][0], editor.layer(spans.entrance)["pieces"][0]
    assert start["scale_x"] < 0.3
    assert start["slant"] > 20
    assert (rest["scale_x"], rest["slant"]) == (1.0, 0.0)
    seen = range(spans.entrance, last - spans.exit + 1)
    sizes = [editor.layer(frame)["bounds"][2] - editor.layer(frame)["bounds"][0] for frame in seen]
    steps = np.diff(sizes)
    assert (steps > 0).all()
    assert steps.max() < 1.2 * steps.min() + 0.02, "at an even pace"
    assert not (pixels(editor, last) > 60).any(), "only what is behind it shows"
    # Close before the viewer a letter is larger than the frame, and as sharp as any.
    near = next(f for f in range(last - spans.exit, last) if editor.layer(f)["bounds"] is None
                or editor.layer(f)["bounds"][2] - editor.layer(f)["bounds"][0] > 640)  # fmt: skip
    assert (pixels(editor, near) > 60).any()
    exits = [move for move in editor.words().moves if move.role == "exit"]
    assert exits[0].speed_sound is not None


def test_recipe_4_flip_card(made):
    """A box tips in one way and outlined words the other; the box turns on, and its edge uncovers filled words."""
    editor = made("KITE")
    editor.choose()
    editor.shortcut(Key.Key_B)
    box = editor.document.selected
    editor.card("Lines unfold")
    editor.choose()
    editor.card("Hung sign")
    editor.tab("look")
    editor.search("wire")
    editor.card("Night wire")
    editor.window.timeline.canvas.setFocus()
    editor.shortcut(Key.Key_C, CTRL)
    editor.shortcut(Key.Key_Home)
    editor.shortcut(Key.Key_V, CTRL)
    top = editor.document.selected
    editor.window.shelf._search.clear()
    editor.card("Quiet")
    editor.find("add effect: wipe")
    effects = editor.window.sheet.page("Effects")
    editor.click(effects.card("wipe").head)
    fields = effects.card("wipe").fields
    (layers,) = fields.findChildren(LayerBox)
    editor.actions += 2
    layers.setCurrentIndex(layers.findData(box))
    layers.chosen.emit(box)
    points = next(b for b in fields.findChildren(DropDown) if b.accessibleName() == "Edge follows: where")
    editor.pick(points, "top-edge")
    angle = next(f for f in fields._numbers.items() if f[0] == "angle")[1]
    editor.set(angle, "90")
    editor.document.select(box)
    transform = editor.window.sheet.page("Transform")
    field = next(
        f for f in transform.findChildren(type(angle)) if f.accessibleName().startswith("Rotation X")
    )
    for frame, degrees in ((60, "0"), (80, "180")):
        editor.document.seek(frame)
        editor.actions += 1
        if frame == 60:
            editor.click(next(p for p in transform.findChildren(KeyPip) if "otation X" in p.accessibleName()))
        editor.set(field, degrees)
    assert editor.actions <= 40
    tips = [
        editor.layer(frame, name)["pieces"][0]["rotation_x"] for name in (box, "words") for frame in (0, 40)
    ]
    assert tips[0] > 45
    assert tips[2] < -45
    assert tips[1] == pytest.approx(0, abs=1)
    assert clip_by_id(editor.document.project, top).effects[0].follows.layer == box
    # How much of the filled words shows: none before the box turns on, more and more, then all.
    alone = [_of_layer(editor, top, frame) for frame in (55, 70, 73, 76, 90)]
    assert alone[0] == 0
    assert 0 < alone[1] <= alone[2] <= alone[3] <= alone[4]
    assert alone[2] < alone[4]


def _of_layer(editor, name, frame):
    """Px that a layer changes."""
    project = editor.document.project
    hidden = [replace(t, hidden=any(c.id == name for c in t.clips)) for t in project.sequence.tracks]
    sequence = replace(project.sequence, tracks=tuple(hidden))
    without = replace(project, sequences=(sequence, *project.sequences[1:]))
    seen = [Painter(None).paint(picture_plan(p, frame)).astype(int) for p in (project, without)]
    return int((np.abs(seen[0] - seen[1]).max(axis=2) > 40).sum())


def test_recipe_15_difference_words(made):
    """Words cut in one after another over two shots that change, in difference blend, through their join."""
    first = BackgroundClip(id="one", length=70, background=Plain(colour="#204060"))
    second = BackgroundClip(
        id="two", start=70, length=80, background=Plain(colour="#c0a060"),
        transition=Transition(kind="dissolve", length=20 / 30),
    )  # fmt: skip
    editor = made("KITE DAY", first)
    document = editor.document
    track = document.project.sequence.tracks[0]
    joined = Track(id=track.id, clips=(first, second))
    document.do(
        "Two shots",
        lambda p: replace(p, sequences=(replace(p.sequence, tracks=(joined, p.sequence.tracks[1])),)),
    )
    editor.choose()
    editor.search("word by word")
    editor.card("Word by word")
    transform = editor.window.sheet.page("Transform")
    editor.pick(transform._blend, "difference")
    editor.find("split into words")
    assert editor.actions <= 12
    words = [c for t in document.project.sequence.tracks[1:] for c in t.clips]
    assert [clip.text.content for clip in words] == ["KITE", "DAY"]
    assert {clip.blend for clip in words} == {"difference"}
    assert words[0].start < words[1].start
    bare = editor.document.project
    for frame in (50, 68, 74, 110):
        with_words = pixels(editor, frame)
        under = _without_words(bare, frame)
        changed = np.abs(with_words - under).max(axis=2) > 0
        # As W3C Compositing and Blending Level 1 has it: how far the colours of words and ground are apart.
        apart = np.abs(np.array([0xEA, 0xF8, 0xFF]) - under)
        ink = (np.abs(with_words - apart).max(axis=2) <= 2) & changed
        assert ink.sum() > 0.5 * changed.sum() > 200, frame


def _without_words(project, frame):
    kept = replace(project.sequence, tracks=project.sequence.tracks[:1])
    return Painter(None).paint(picture_plan(replace(project, sequences=(kept,)), frame))[..., :3].astype(int)


def frame_of_film(n):
    picture = np.full((180, 320, 3), (70, 120, 200), np.uint8)
    picture[60:130, 60 + 2 * n : 130 + 2 * n] = (220, 60, 40)
    return picture


def test_recipe_27_behind_the_subject(made, tmp_path, monkeypatch):
    """Words pass behind a moving thing: one stroke over it."""
    monkeypatch.setattr("rovix.engine.matte_files.user_data_path", lambda *_: tmp_path / "data")
    film = video(tmp_path / "film.mkv", [frame_of_film(n) for n in range(40)], codec="ffv1", pix_fmt="bgr0")
    media = replace(probe(film, tmp_path), id="m")
    editor = made(
        "MMMMMM", FootageClip(id="film", media="m", length=40), length=40, base=tmp_path, media=(media,)
    )
    editor.document.seek(20)
    editor.click(editor.window.timeline.canvas, at(editor.window, "words", 20))
    editor.find("put behind a thing")
    viewer = editor.window.viewer
    x, y = 2 * (95 + 2 * 20), 190
    pull(viewer, viewer.view.to_view(x - 40, y - 40), viewer.view.to_view(x + 40, y + 40))
    editor.actions += 1
    assert wait_for(lambda: not editor.window.session.is_busy, 30_000)
    assert editor.actions <= 6
    drawn = MediaPainter(editor.document.project, tmp_path)
    under = drawn.picture(20, 1)
    found = drawn.picture(20)
    inside = np.zeros(found.shape[:2], bool)
    inside[2 * 62 : 2 * 128, 2 * (62 + 40) : 2 * (128 + 40)] = True
    apart = np.abs(found - under).max(axis=2) > 24
    assert apart[~inside].sum() > 500, "words beside it"
    assert apart[inside].mean() < 0.02, "it is in front of them"


class MediaPainter:
    """Draws a project's pictures, or those of its lowest tracks alone, with their files."""

    def __init__(self, project, base):
        self._project, self._base = project, base

    def picture(self, frame, tracks=None):
        kept = self._project.sequence.tracks[:tracks]
        project = replace(self._project, sequences=(replace(self._project.sequence, tracks=kept),))
        painter = Painter(MediaLibrary(project, self._base))
        return painter.paint(picture_plan(project, frame))[..., :3].astype(int)
