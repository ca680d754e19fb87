"""`make screenshots`: the main views from the demo, each at 1280 x 800, into docs/screenshots."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from itertools import pairwise
from pathlib import Path
from tempfile import TemporaryDirectory

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Nothing of the user's own, such as projects opened last, belongs into a picture.
os.environ["XDG_CONFIG_HOME"] = os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = os.environ["XDG_STATE_HOME"]

from PIL import Image
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton, QScrollArea, QSplitter, QWidget

from rovix.demo.scripts import contact_sheet
from rovix.desktop.app import make_application, make_window
from rovix.desktop.dialogs.captions_window import CaptionsWindow
from rovix.desktop.dialogs.checks_window import ChecksWindow
from rovix.desktop.dialogs.export_window import ExportWindow
from rovix.desktop.filling import fill_from_table
from rovix.desktop.following import begin_following
from rovix.desktop.viewer.line_hand import LineHand
from rovix.desktop.viewer.lined import MaskLine
from rovix.desktop.window import Window
from rovix.edit import change_move, change_text, change_transform
from rovix.edit.address import put_held
from rovix.edit.effects import put_effect
from rovix.edit.look import set_look
from rovix.edit.tree import replace, replace_clip
from rovix.exchange import CAPTION_FORMATS
from rovix.exchange.captions import read_captions
from rovix.model import Fill, Key, Keys, Look, MotionPath, PathKey, Plain, Project
from rovix.model.delivery import Delivery
from rovix.model.effects.blur import Blur
from rovix.model.effects.echo_trail import EchoTrail
from rovix.model.effects.fill_sweep import FillSweep
from rovix.model.effects.mask import Mask, Pinned
from rovix.model.effects.wrap_around import WrapAround
from rovix.motion import picture_plan
from rovix.paint.painter import Painter
from rovix.time import Span

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"
PATIENCE = 4000  # ms for workers to start and cards to be drawn


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    make_application()
    window = make_window()
    window.show()
    window.document.select("title")
    window.document.seek(62)
    QTest.qWait(PATIENCE)
    _wait_for_files(window)
    _save(window, "main-window")
    _dressed(window)
    _look(window)
    _place(window)
    _stages_and_roll(window)
    _captions(window)
    _entrances(window)
    _move_controls(window)
    _comparison(window)
    _media(window)
    _timeline(window)
    _lanes(window)
    _motion_path(window)
    _effects(window)
    _titles(window)
    _checks(window)
    _masks(window)
    _matte(window)
    _export(window)
    window.shut_down()
    _contact_sheet()


def _save(widget: QWidget, name: str) -> None:
    widget.grab().save(str(FOLDER / f"{name}.png"))


def _lanes(window: Window) -> None:
    """An opened clip with its curves, and the picker of curves."""
    document = window.document
    document.select("title")
    document.seek(70)
    last = document.clip.length - 1
    down = (
        Key(frame=0, value=700.0, curve="tangents", after=(3.0, -600.0)),
        Key(frame=15, value=-40.0, curve="tangents", before=(6.0, 60.0), after=(20.0, 10.0)),
        Key(frame=150, value=-64.0, curve="tangents", before=(10.0, 0.0), after=(9.0, 30.0)),
        Key(frame=last, value=-700.0, before=(6.0, 420.0)),
    )
    across = (Key(frame=0, value=0.4, curve="spring(damping 12)"), Key(frame=24, value=1.0, curve="smooth"),
              Key(frame=last, value=1.12))  # fmt: skip
    tracking = (Key(frame=0, value=0.35, curve="cubic-out"), Key(frame=40, value=0.02))
    keys = {"transform.y": down, "transform.scale_x": across, "text.tracking": tracking}
    held = {address: Keys(keys=own) for address, own in keys.items()}
    document.do("Key", lambda p: put_held(without_moves(p), "title", held))
    window.run("lanes")
    window.run("speed-line")
    document.keys.set([("title", "transform.y", 15), ("title", "transform.y", 150)])
    QTest.qWait(2500)
    _save(window, "lanes")
    document.undo()


def without_moves(project: Project) -> Project:
    return replace_clip(project, "title", lambda clip: replace(clip, moves=()))


def _effects(window: Window) -> None:
    """Effects in their order, and a wipe whose edge follows a layer."""
    document = window.document
    document.select("title")
    run = Keys(keys=(Key(frame=0, value=0.0, curve="cubic-out"), Key(frame=60, value=3.0)))
    soft = Keys(keys=(Key(frame=0, value=40.0, curve="cubic-out"), Key(frame=60, value=0.0)))
    order = (
        FillSweep(way="blocks", share=0.6, paint=Plain(colour="#d9532c")), WrapAround(x=run, unit="frame"),
        EchoTrail(copies=4, gap=2.0, strength=0.6), Blur(along=soft),
    )  # fmt: skip
    document.do(
        "Effects", lambda p: replace_clip(without_moves(p), "title", lambda c: replace(c, effects=order))
    )
    document.seek(36)
    _open(window, "Effects")
    QTest.qWait(3000)
    _save(window, "effects")
    document.undo()
    _open(window, "Motion")


def _motion_path(window: Window) -> None:
    """A path in the viewer, a point of it selected."""
    document = window.document
    path = MotionPath(keys=(
        PathKey(frame=0, x=-700.0, y=300.0, curve="cubic-out", after=(120.0, -420.0)),
        PathKey(frame=40, x=0.0, y=-64.0, before=(-260.0, -60.0), after=(200.0, 46.0)),
        PathKey(frame=120, x=60.0, y=-40.0, curve="cubic-in"),
        PathKey(frame=160, x=700.0, y=-330.0, before=(-260.0, 90.0)),
    ))  # fmt: skip
    held = {"transform.path": path, "transform.scale_x": 0.5, "transform.scale_y": 0.5, "transform.y": 0.0}
    document.do("Path", lambda p: put_held(without_moves(p), "title", held))
    document.seek(45)
    window.viewer.show_path = True
    document.keys.set([("title", "transform.path", 40)])
    QTest.qWait(2500)
    _save(window, "motion-path")
    window.viewer.show_path = False
    document.undo()
    window.run("speed-line")
    window.run("lanes")


def _dressed(window: Window) -> None:
    """The Text page while letters are selected in the picture."""
    _open(window, "Text")
    window.viewer.edit_words()
    QTest.keyClick(window.viewer, Qt.Key.Key_Home)
    for _ in range(4):
        QTest.keyClick(window.viewer, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    window.sheet.page("Text").set_style("Colour the letters", colour="#e0522a")
    QTest.qWait(2500)
    _save(window, "text")
    window.viewer.finish_words()
    window.run("undo")


def _look(window: Window) -> None:
    """The Look page with several parts, and the looks in the shelf."""
    _open(window, "Look")
    page = window.sheet.page("Look")
    page.add("glow")
    page.add("box")
    for kind in ("fill", "glow", "box"):
        page.card(kind).head.opened.emit()
    page.card("shadow").head.opened.emit()
    window.run("show-looks")
    QTest.qWait(3500)
    _save(window, "look")
    window.run("undo")
    window.run("undo")
    _open(window, "Motion")
    window.shelf.open_role("entrance")


def _place(window: Window) -> None:
    """A layer in the middle of a drag, caught on the frame's middle."""
    document, viewer = window.document, window.viewer
    document.select("date")
    _open(window, "Transform")
    QTest.qWait(800)
    quads = viewer._quads()
    start = viewer.view.to_view(*quads.rest.mean(axis=0).tolist()).toPoint()
    QTest.mousePress(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    for way in ((3, 8), (2, 16)):
        QTest.mouseMove(viewer, start + QPoint(*way))
    QTest.qWait(1200)
    _save(window, "transform")
    QTest.mouseRelease(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    while document.history.undo_title:
        document.undo()
    document.select("title")


def _stages_and_roll(window: Window) -> None:
    """Credits that roll, their lines coming by pace in two stages."""
    document, page = window.document, window.sheet.page("Motion")
    _make_room(window, 700, 200)
    _open(window, "Motion")
    document.select("wind")
    steps = document.history.undo_title
    document.do("Retype", lambda p: change_text(p, "wind", content=_CREDITS, size=64.0, align="columns"))
    document.do("To the middle", lambda p: change_transform(p, "wind", 0, x=0.0, y=0.0))
    window.shelf.apply_move(window.shelf.deck.names().index("Lines rise"))
    window.shelf.apply_move(window.shelf.deck.names().index("Wide to true"), on_top=True)
    later = document.clip.moves[-1].id
    document.do("After", lambda p: change_move(p, "wind", later, after=True, wait=0.2))
    window.run("cross-up")
    document.seek(document.clip.start + 70)
    window.shelf.open_role("crossing")
    document.tune(later)
    QTest.qWait(PATIENCE)
    _save(window, "stages-and-roll")
    window.shelf.open_role("entrance")
    page.crossed.open(False)
    while document.history.undo_title != steps:
        document.undo()
    _make_room(window, 400, 320)


_CREDITS = "Larkmoor Kite Day\n\nWritten by\tJo Marrow\nMusic\tThe Larkmoor Band\nKites\tSchool on the hill"
_CAPTIONS = """WEBVTT

00:00:01.000 --> 00:00:03.400
<00:00:01.000>Kites <00:00:01.350>rise <00:00:01.800>over <00:00:02.100>the <00:00:02.300>hill

00:00:03.600 --> 00:00:07.000
and stay up all afternoon, whatever the wind over the harbour has to say about it

00:00:07.200 --> 00:00:09.000 line:12%
<i>Bring a long string</i>
"""


def _captions(window: Window) -> None:
    """Captions before they are brought in."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / "kite-day.vtt"
        path.write_text(_CAPTIONS, encoding="utf-8")
        window.document.select("date")
        dialog = CaptionsWindow(window, path, read_captions(path, CAPTION_FORMATS))
        dialog.show()
        QTest.qWait(300)
        _save(dialog, "captions")
        dialog.reject()
    window.document.select("title")


def _contact_sheet() -> None:
    """Twenty samples in many scripts, drawn by the painter alone."""
    pixels = Painter(None).paint(picture_plan(contact_sheet(), 0))
    Image.fromarray(pixels[..., 2::-1]).save(FOLDER.parent / "scripts.png")


def _entrances(window: Window) -> None:
    """The shelf of entrances."""
    _make_room(window, 900, 100)
    window.document.select("title")
    window.document.seek(23)
    window.shelf.open_role("entrance")
    QTest.mouseClick(window.shelf.card("Out of the slot"), Qt.MouseButton.LeftButton)
    card = window.shelf.card("Out of the slot")
    cards = next(area for area in window.shelf.findChildren(QScrollArea) if area.isAncestorOf(card))
    QTest.qWait(2 * PATIENCE)
    cards.ensureWidgetVisible(window.shelf.card("Lights on"), 0, 40)
    QTest.qWait(300)
    _save(window, "entrances")
    window.document.undo()
    cards.verticalScrollBar().setValue(0)


def _move_controls(window: Window) -> None:
    """A typed move with what it moves and how it sounds."""
    _make_room(window, 900, 100)
    _open(window, "Motion")
    document, controls = window.document, window.sheet.page("Motion")
    document.select("string")
    steps = document.history.undo_title
    QTest.mouseClick(window.shelf.card("By hand, unevenly"), Qt.MouseButton.LeftButton)
    controls.channels.add("blur")
    controls.channels.add("colour")
    for fold in (controls.moving, controls.typed):
        fold.open()
    document.seek(document.clip.start + 26)
    QTest.qWait(PATIENCE)
    QTest.qWait(300)
    _save(window, "move-controls")
    while document.history.undo_title != steps:
        document.undo()
    for fold in (controls.moving, controls.typed):
        fold.open(False)


def _comparison(window: Window) -> None:
    """Moves side by side in the viewer."""
    _make_room(window, 900, 100)
    document, line_up = window.document, window.viewer.comparison
    document.select("title")
    window.run("compare")
    line_up.begin(line_up.which, "moves", 6)
    QTest.qWait(1500)
    window.projector.stop()
    document.seek(document.clip.start + 9)
    QTest.qWait(PATIENCE)
    _save(window, "compare")
    line_up.end()
    _make_room(window, 400, 320)
    QTest.qWait(500)


def _open(window: Window, *pages: str) -> None:
    """Open these pages of the sheet and fold the others."""
    for page in set(window.sheet.opened) - set(pages):
        window.sheet.close_page(page)
    for page in pages:
        window.sheet.open_page(page)
    QTest.qWait(50)


def _make_room(window: Window, *heights: int) -> None:
    """Give the picture, and the timeline, so much."""
    splitter = next(
        splitter
        for splitter in window.findChildren(QSplitter)
        if splitter.orientation() == Qt.Orientation.Vertical and splitter.isAncestorOf(window.timeline)
    )
    splitter.setSizes(list(heights))


def _media(window: Window) -> None:
    """The bin, and the sheet of a box that hugs words."""
    window.document.select("wind-box")
    window.document.seek(300)
    _open(window, "Shape")
    window.shelf.open_media()
    _wait_for_files(window)
    _save(window, "media-and-shape")


def _wait_for_files(window: Window) -> None:
    """Until the strips of the footage are there, and a little for what else was under way."""
    for _ in range(60):
        QTest.qWait(500)
        if all(window.thumbnails.strip(m) for m in window.document.whole.media if m.kind == "footage"):
            break
    QTest.qWait(2500)


def _timeline(window: Window) -> None:
    """The timeline in full use: several clips selected, a join, a group, markers, a range, sounds."""
    document = window.document
    document.select("date", "title")
    window.run("group")
    document.do("Name it", lambda p: replace_clip(p, document.selected, lambda c: replace(c, name="Opening")))
    document.select("bed")
    document.seek(250)
    _open(window, "Sound")
    window.sheet.page("Sound").pips.of("sound.gain").pressed.emit()
    document.set_range(Span(90, 330))
    document.select("hill", "bed", "crossing")
    _open(window, "Clip")
    QTest.qWait(3500)
    _save(window, "timeline-in-use")
    while document.history.undo_title:
        document.undo()
    document.set_range(None)
    window.shelf.open_role("entrance")


def _titles(window: Window) -> None:
    """The shelf of titles with words of the demo, and a table whose rows fill one, in front of it."""
    document = window.document
    document.select("title")
    document.seek(62)
    window.shelf.open_role("title")
    QTest.qWait(PATIENCE)
    with TemporaryDirectory() as folder:
        table = Path(folder) / "kite-makers.csv"
        rows = ("Ada Pell,The red delta", "Søren Ås,Box kite no. 4", "J. Morrow,The long tail,late",
                "Ιris Vell,Paper swallow and its three small children", "Tom Hale,Wind meter")  # fmt: skip
        table.write_text("\n".join(("Name,Role,length", *rows)), encoding="utf-8")
        dialog = fill_from_table(window, table, window.shelf.decks["title"].items)
        dialog.table.selectRow(3)
        dialog.folder.setText("~/kite-makers")
        QTest.qWait(2500)
        both = window.grab()
        painter = QPainter(both)
        painter.drawPixmap(20, 120, dialog.grab())
        painter.end()
        both.save(str(FOLDER / "titles.png"))
        dialog.close()
    window.shelf.open_role("entrance")


def _checks(window: Window) -> None:
    """The list of checks over marks on clips, and the contrast of the chosen words in the viewer."""
    document = window.document
    pale = Look(parts=(Fill(id="pale", paint=Plain(colour="#e8f0ea")),))
    document.do("Pale", lambda p: set_look(change_transform(p, "title", 0, x=180.0), "date", pale))
    document.select("date")
    document.seek(96)
    _make_room(window, 440, 360)
    window.checks.begin()
    window.viewer.contrast.turn(True)
    window.run("checks")
    dialog = window.findChild(ChecksWindow)
    QTest.qWait(1500)
    _wait(lambda: window.checks.share is None and window.viewer.contrast.is_shown)
    QTest.qWait(300)
    both = window.grab()
    painter = QPainter(both)
    dialog.resize(470, 330)
    QTest.qWait(100)
    painter.drawPixmap(window.width() - 482, 440, dialog.grab())
    painter.end()
    both.save(str(FOLDER / "checks.png"))
    dialog.close()
    window.viewer.contrast.turn(False)
    window.checks.close()
    document.undo()


def _masks(window: Window) -> None:
    """A mask drawn over footage, staying on an area that was followed there."""
    document, before = window.document, window.document.history.committed
    document.select("crossing")
    document.seek(366)
    begin_following(window, "crossing", 156, (1340.0, 330.0, 1570.0, 690.0), True, True, None)
    _wait(lambda: not window.session.is_busy)
    _answer(window, "Leave it")
    area = document.selected
    assert area is not None
    line = tuple(
        (float(x), float(y), -30.0 * down, 30.0 * across, 30.0 * down, -30.0 * across)
        for x, y, across, down in ((0, -260, -1, 0), (170, -60, 0, -1), (0, 300, 1, 0), (-170, -60, 0, 1))
    )
    mask = Mask(form="drawn", contour=line, on=Pinned(layer=area), feather=4.0)
    document.do("Mask", lambda p: put_effect(p, "crossing", mask))
    document.select("crossing")
    _open(window, "Effects")
    window.viewer.take_up(LineHand(document, "crossing", MaskLine(document, "crossing", mask.id)))
    QTest.qWait(3000)
    _save(window, "masks")
    window.viewer.take_up(None)
    _back_to(window, before)


def _matte(window: Window) -> None:
    """A matte that grows over the thing that words are put behind."""
    document = window.document
    document.select("wind-box", "wind")
    document.seek(330)
    QTest.qWait(1500)
    window.run("behind")
    viewer = window.viewer
    stroke = [(1065, 360), (1000, 450), (1060, 480), (1130, 470), (1060, 600), (1045, 690)]
    points = [viewer.view.to_view(*spot).toPoint() for spot in stroke]
    QTest.mousePress(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, points[0])
    for first, second in pairwise(points):
        for share in (0.25, 0.5, 0.75, 1.0):
            QTest.mouseMove(viewer, first + (second - first) * share)
    QTest.mouseRelease(viewer, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, points[-1])
    QTest.qWait(9000)
    _save(window, "matte")
    _answer(window, "Cancel")
    document.select("title")


def _answer(window: Window, said: str) -> None:
    """Take a choice of the messages, where one offers it."""
    for button in window.messages.findChildren(QPushButton):
        if button.text() == said:
            button.click()


def _back_to(window: Window, project: Project) -> None:
    while window.document.history.committed is not project:
        window.document.undo()
    window.document.select("title")
    _open(window, "Motion")


def _export(window: Window) -> None:
    with tempfile.TemporaryDirectory() as folder:
        export = window.open_export()
        export.out.setText(str(Path(folder) / "kite-day.mp4"))
        _some_exports(export, Path(folder))
        _wait(lambda: (at := window.exports.at_work) is not None and at.done > 140 and bool(at.left))
        export.out.setText("~/Videos/larkmoor-kite-day.mp4")
        _wait(lambda: export.left.text().startswith("About"))
        _save(export, "export")
        for item in list(window.exports.items):
            window.exports.remove(item)
        export.hide()


def _some_exports(export: ExportWindow, folder: Path) -> None:
    """One that is done, one at work, two that wait, one of them paused."""
    exports = export._exports
    for name, codec, size in (
        ("kite-day-words.wav", "wav", None), ("kite-day.mp4", "h264", (1280, 720)),
        ("kite-day-for-the-editor.mov", "prores-4444", None), ("kite-day-small.webm", "av1", (640, 360)),
    ):  # fmt: skip
        export.out.setText(str(folder / name))
        export.choices.show_how(Delivery(size, codec))
        export.start()
        if codec == "wav":
            _wait(lambda: exports.items[0].state == "done")
    exports.pause(exports.items[3])
    export.choices.show_how(Delivery(codec="h264", quality="good", loudness=-14.0))


def _wait(until: Callable[[], bool]) -> None:
    for _ in range(1200):
        if until():
            return
        QTest.qWait(50)
    raise RuntimeError("what was to be shown did not come")


if __name__ == "__main__":
    main()
