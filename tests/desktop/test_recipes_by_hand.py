"""Recipes of the job made in the window, as an editor would, in at most twelve actions each (the crawl in
four). An action is one click, drag, shortcut or typed run. What comes out is read from `describe` or pictures."""

import numpy as np
import pytest
from gestures import CTRL, LEFT, at
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from test_action_counts import Hands

from builders import project_of, title
from rovix.desktop.dialogs.drift_window import DriftWindow
from rovix.desktop.dialogs.finder import Finder
from rovix.desktop.dialogs.font_picker import FontPicker
from rovix.edit import clip_by_id, move_of
from rovix.model import BackgroundClip, Plain, ShapeClip, Transform
from rovix.motion import Scene, clip_spans, describe, picture_plan
from rovix.paint.painter import Painter
from waiting import wait_for

Key = Qt.Key


class Editor(Hands):
    """Hands that know where things are."""

    @property
    def document(self):
        return self.window.document

    @property
    def motion(self):
        return self.window.sheet.page("Motion")

    def choose(self, name="words", modifiers=None):
        point = at(self.window, name, clip_by_id(self.document.project, name).start + 30)
        self.click(self.window.timeline.canvas, point, *([] if modifiers is None else [modifiers]))

    def tab(self, role):
        self.click(self.window.shelf._tabs[role])

    def card(self, name):
        self.click(self.window.shelf.card(name))

    def search(self, text):
        self.click(self.window.shelf._search)
        self.type(text)

    def find(self, text):
        """The finder: its shortcut, and a typed run with Enter."""
        self.shortcut(Key.Key_K, CTRL)
        finder = self.window.findChildren(Finder)[-1]
        self.actions += 1
        QTest.keyClicks(finder.field, text)
        QTest.keyClick(finder.field, Key.Key_Return)
        QTest.qWait(5)

    def set(self, field, text):
        """A number: a click into the field, and a typed run with Enter."""
        self.actions += 2
        QTest.mouseClick(field, LEFT)
        field._edit.selectAll()
        QTest.keyClicks(field._edit, text)
        QTest.keyClick(field._edit, Key.Key_Return)
        QTest.qWait(5)

    def pick(self, box, data):
        """A choice of a list: a click that opens it, and one on the choice."""
        self.actions += 2
        box.setCurrentIndex(box.findData(data))
        box.activated.emit(box.currentIndex())
        QTest.qWait(5)

    def fold(self, fold):
        self.click(fold.head)

    def words(self):
        return clip_by_id(self.document.project, "words")

    def layer(self, frame, name="words"):
        found = describe(self.document.project, frame)["layers"]
        return next((layer for layer in found if layer["id"] == name), None)

    def spans(self):
        return clip_spans(self.words(), self.document.rate)


@pytest.fixture
def made(make_test_window):
    def make(words="Larkmoor", *more, length=150, **fields):
        clip = title(words, length, id="words", name="words", text={"size": 60.0, **fields})
        ground = BackgroundClip(id="ground", name="Ground", length=length, background=Plain(colour="#101418"))
        window = make_test_window(project_of(ground, clip, *more))
        window.timeline.canvas.setFocus()
        return Editor(window)

    return make


def pixels(editor, frame):
    return Painter(None).paint(picture_plan(editor.document.project, frame))[..., :3].astype(int)


def test_recipe_2_fly_through(made):
    """From just below the frame to rest in 0.3 s, a slow drift up, a small pull back, out over the top."""
    editor = made()
    editor.choose()
    editor.card("Up from below")
    editor.set(editor.motion._length, "0.3")
    editor.tab("exit")
    editor.card("Up and away")
    editor.find("drift: slide, turn")
    dialog = editor.window.findChild(DriftWindow)
    editor.set(dialog.fields["y"], "-18")
    editor.answer(dialog)
    assert editor.actions <= 12
    spans, last = editor.spans(), editor.words().length - 1
    assert spans.entrance == 9
    assert 180 <= editor.layer(0)["bounds"][1] < 184, "just below the frame"
    place = editor.words().transform.y
    assert [(key.frame, key.value) for key in place.keys] == [(9, 0.0), (last - spans.exit, -18.0)]
    ways = [editor.layer(frame)["pieces"][0]["y"] for frame in range(last - spans.exit, last + 1)]
    assert ways[0] == pytest.approx(-18)
    assert max(ways) > -17, "pulled back first"
    assert editor.layer(last)["bounds"][3] <= -180


def test_recipe_3_slot(made):
    """Letters rise out of an unseen edge one after another, sink back the first letter first; motion blur."""
    editor = made("KITE")
    editor.choose()
    editor.card("Out of the slot")
    editor.tab("exit")
    editor.card("Back into the slot")
    editor.find("motion blur of the clip")
    editor.click(editor.window.sheet.page("Clip")._blur._choice._buttons["on"])
    assert editor.actions <= 12
    rest = np.flatnonzero((pixels(editor, 70) > 40).any(axis=(1, 2)))
    spans, last = editor.spans(), editor.words().length - 1
    for frame in (3, spans.entrance // 2, last - spans.exit // 2):
        rows = np.flatnonzero((pixels(editor, frame) > 40).any(axis=(1, 2)))
        assert not len(rows) or rows.max() <= rest.max() + 1, frame
    coming = [piece["y"] for piece in editor.layer(spans.entrance // 3)["pieces"]]
    assert coming == sorted(coming)
    going = [piece["y"] for piece in editor.layer(last - spans.exit // 2)["pieces"]]
    assert going == sorted(going, reverse=True)
    assert editor.words().shutter.on


def test_recipe_8_turn_and_open(made):
    """Gradient words make one full turn, then their tracking opens and closes."""
    editor = made("KITES")
    editor.choose()
    editor.tab("look")
    editor.card("Low sun")
    editor.tab("entrance")
    editor.card("Whirl")
    editor.tab("loop")
    editor.card("Part and close")
    editor.set(editor.motion._beats._count, "1")
    assert editor.actions <= 12
    spans = editor.spans()
    turns = [editor.layer(frame)["pieces"][0]["rotation_z"] for frame in range(spans.entrance + 1)]
    assert (turns[0], turns[-1]) == (pytest.approx(-360), 0.0)
    assert turns == sorted(turns)
    apart = [editor.layer(frame)["pieces"][0]["tracking"] for frame in range(spans.entrance, 150)]
    assert apart[0] == apart[-1] == 0
    peak = int(np.argmax(apart))
    assert apart[peak] > 0.1
    assert apart[:peak] == sorted(apart[:peak])
    assert apart[peak:] == sorted(apart[peak:], reverse=True), "once"
    assert type(editor.words().look.fill.paint).__name__ in ("Linear", "Radial")


def test_recipe_9_typing_by_count(made):
    """Letters appear one after another over a chosen length, a key sound on each."""
    editor = made("Kites at noon")
    editor.choose()
    editor.search("typed with")
    editor.card("Typed with clicks")
    editor.click(editor.motion.pace.by._buttons["span"])
    editor.set(editor.motion._length, "2")
    assert editor.actions <= 12
    move = move_of(editor.words(), "entrance")
    assert move.pace is None
    assert editor.spans().entrance == 60
    assert move.piece_sound is not None
    shown = [sum(piece["shown"] for piece in editor.layer(frame)["pieces"]) for frame in (0, 30, 60)]
    assert shown[0] <= 1 < shown[1] < shown[2] == len(editor.layer(60)["pieces"])


def test_recipe_16_typewriter(made):
    """Stepped letters in an uneven rhythm of 3 to 9 frames, a typewriter's face on paper, a key sound on each."""
    editor = made("Bring a long line")
    editor.choose()
    editor.search("by hand")
    editor.card("By hand, unevenly")
    editor.fold(editor.motion.sounding)
    editor.pick(editor.motion.sound.piece_sound, "key")
    editor.shortcut(Key.Key_T, CTRL)
    picker = editor.window.findChild(FontPicker)
    editor.actions += 1
    QTest.keyClicks(picker._search, "courier prime")
    QTest.keyClick(picker._search, Key.Key_Return)
    editor.window.activateWindow()
    assert wait_for(lambda: editor.window.isActiveWindow(), 2000)
    editor.find("paper background")
    assert editor.actions <= 12
    words, move = editor.words(), move_of(editor.words(), "entrance")
    assert words.text.family == "Courier Prime"
    assert move.piece_sound.sound == "key"
    starts = np.sort(Scene.of(editor.document.project).motion(words).timings[0].times.starts)
    gaps = np.diff(starts)
    assert gaps.min() >= 3
    assert set(gaps[gaps <= 9].tolist()) <= set(range(3, 10))
    assert any(
        isinstance(c, BackgroundClip) and c.name == "Paper"
        for t in editor.document.project.sequence.tracks
        for c in t.clips
    )


def test_recipe_20_carried_reveal(made):
    """A logo shrinks from large, rolls to the words' far end and back; they appear behind it."""
    logo = ShapeClip(id="logo", name="logo", form="ellipse", length=150, width=40.0, height=40.0,
                     fill=Plain(colour="#f2b13c"), transform=Transform(x=-80.0, y=90.0))  # fmt: skip
    editor = made("KITES", logo)
    editor.choose()
    editor.choose("logo", CTRL)
    editor.find("roll over the words")
    assert editor.actions <= 12
    seen = [editor.layer(frame, "logo")["bounds"] for frame in range(0, 100)]
    widths = [high - low for low, _, high, _ in seen]
    assert widths[0] == pytest.approx(3 * widths[15], rel=0.02)
    middles = [(low + high) / 2 for low, _, high, _ in seen]
    far = int(np.argmax(middles))
    rest = editor.layer(140)["bounds"]
    assert middles[far] == pytest.approx(rest[2] + 20, abs=2)
    assert middles[-1] == pytest.approx(rest[0] - 20, abs=2)
    # Nothing until it turns back; then what is right of it, all of it at last.
    white = lambda frame: (pixels(editor, frame) > 200).all(axis=2)  # noqa: E731
    assert not white(far - 4).any()
    whole = white(140)
    for frame in (far + 10, far + 18):
        columns = np.flatnonzero(white(frame).any(axis=0))
        assert columns.min() >= 320 + middles[frame] - 1.5
        assert 0 < white(frame).sum() < whole.sum()
    roll = clip_by_id(editor.document.project, "logo").transform.rotation_z
    way, turned = middles[far] - middles[15], roll.keys[1].value - roll.keys[0].value
    assert turned == pytest.approx(np.degrees(way / 20), rel=0.02), "without slipping"


def test_recipe_21_line_reveal(made):
    """A line grows to full width, words rise out of it, later sink back, the line closes."""
    editor = made("KITES")
    editor.choose()
    editor.card("Lines out of edges")
    editor.set(editor.motion.pace.wait, "0.4")
    editor.tab("exit")
    editor.card("Back into edges")
    editor.set(editor.motion.pace.wait, "0.4")
    editor.shortcut(Key.Key_B, Qt.KeyboardModifier.ShiftModifier)
    editor.card("Close to the middle")
    editor.tab("entrance")
    editor.card("Open outwards")
    assert editor.actions <= 12
    line = editor.document.clip
    spans, last = editor.spans(), editor.words().length - 1
    words = editor.layer(70)["bounds"]
    widths = [b[2] - b[0] if (b := editor.layer(f, line.id)["bounds"]) else 0.0 for f in range(last + 1)]
    assert widths[70] == pytest.approx(words[2] - words[0], abs=6)
    assert widths[0] < 2
    assert widths[last] < 2
    assert editor.layer(70, line.id)["bounds"][1] > words[3]
    assert widths[14] > 0.9 * widths[70], "the line is there before the words rise"
    assert editor.layer(12)["bounds"] is None
    assert editor.layer(last - 9)["bounds"] is None
    assert spans.entrance < 70 < last - spans.exit


def test_recipe_25_crawl(made):
    """One long line on a box, from just beyond the right edge to just beyond the left; its speed is said."""
    editor = made("Kite repairs at noon, the long line race at three, and tea all day on the hill")
    editor.choose()
    editor.tab("crossing")
    editor.card("Crawl left")
    editor.shortcut(Key.Key_B)
    assert editor.actions <= 4
    box = editor.document.clip
    assert box.fits.layer == "words"
    last = editor.words().length - 1
    plain = pixels(editor, 0)
    assert editor.layer(0)["bounds"] is None or editor.layer(0)["bounds"][0] >= 320 - 0.5
    assert editor.layer(last)["bounds"] is None or editor.layer(last)["bounds"][2] <= -320 + 0.5
    assert plain.shape[2] == 3
    editor.document.select("words")
    QTest.qWait(5)
    said = editor.motion.crossing.said.text()
    assert "px a second" in said
    assert "words a minute" in said


def test_recipe_26_typed_page(made):
    """Many lines typed in turn, the one being typed kept at mid height, each change of line a step."""
    editor = made("wind\nkites\nhill\ntea", length=300, leading=1.5)
    editor.choose()
    editor.search("page")
    editor.card("Page after page")
    editor.fold(editor.motion.typed)
    editor.click(editor.motion.typing._middle)
    assert editor.actions <= 12
    words = editor.words()
    layout = Scene.of(editor.document.project).motion(words).subject.layout
    last, cap = layout.lines[-1].baseline, layout.lines[-1].cap
    assert words.transform.y == pytest.approx(-(last - cap / 2), abs=1e-3)
    ways = [editor.layer(frame)["pieces"][0]["y"] for frame in range(editor.spans().entrance + 1)]
    steps = sorted(set(np.round(ways, 3)), reverse=True)
    assert len(steps) == 4
    assert np.diff(steps) == pytest.approx([-90.0] * 3)


def test_recipe_28_flicker(made):
    """Letters in shuffled order, 3 frames apart, off and on every 6 frames, stepped; fill 2 frames after the
    outline; stacked glows on a dark ground."""
    editor = made("KITE")
    editor.choose()
    editor.search("struck")
    editor.card("Struck lights")
    editor.set(editor.motion.pace.piece, "20f")
    editor.set(editor.motion.pace.stagger, "3f")
    editor.tab("look")
    editor.card("Lit tubes")
    editor.find("plain background")
    assert editor.actions <= 12
    timing = Scene.of(editor.document.project).motion(editor.words()).timings[0]
    assert np.diff(np.sort(timing.times.starts)) == pytest.approx([3.0] * 3)
    first = int(np.argmin(timing.times.starts))
    assert first != 0
    start = int(timing.times.starts.min())
    assert start == 0
    edges, fills = (
        [editor.layer(frame)["pieces"][first][name] for frame in range(25)]
        for name in ("outline_opacity", "fill_opacity")
    )
    assert edges == [0.0] * 6 + [1.0] * 6 + [0.0] * 6 + [1.0] * 7
    assert fills.index(1.0) - edges.index(1.0) == 2
    assert set(fills) == {0.0, 1.0}
    glows = [part for part in editor.words().look.parts if type(part).__name__ == "Glow"]
    assert len(glows) == 3
