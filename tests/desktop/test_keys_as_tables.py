"""Keys written as CSV and brought in, by the menu."""

from PySide6.QtWidgets import QFileDialog

from rovix.edit import clip_by_id
from rovix.edit.address import put_held
from rovix.model import Key, Keys

MADE = Keys(id="k", keys=(Key(frame=4, value=-30.0, curve="back-out"), Key(frame=20, value=0.0)))


def test_written_and_brought_into_another_layer_and_undone(window, tmp_path, monkeypatch):
    path = tmp_path / "keys.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(path), ""))
    window.document.do("Key", lambda p: put_held(p, "big", {"transform.x": MADE}))
    window.document.select("big")
    window.run("keys-csv-out")
    assert path.read_text().splitlines()[1].startswith("transform.x,4,0.133333,-30.0,,back-out")
    before = window.document.project
    window.document.select("small")
    window.run("keys-csv-in")
    held = clip_by_id(window.document.project, "small").transform.x
    assert [(key.frame, key.value, key.curve) for key in held.keys] == [
        (4, -30.0, "back-out"),
        (20, 0.0, "linear"),
    ]
    assert len(window.document.keys) == 2
    window.document.undo()
    assert window.document.project == before


def test_a_damaged_table_changes_nothing_and_is_said(window, tmp_path):
    said, before = [], window.document.project
    window.document.problem.connect(said.append)
    window.document.select("big")
    path = tmp_path / "bad.csv"
    path.write_text("channel,frame,value\ntransform.x,0,far\n")
    window.bring_keys(path)
    assert said == ["bad.csv: Row 2: 'far' under value is no number."]
    path.write_text("channel,frame,value\nnothing.here,0,1\n")
    window.bring_keys(path)
    assert "no channels" in said[-1]
    assert window.document.project == before
