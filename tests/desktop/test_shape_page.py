"""A shape on one side of a layer, by the menu and the sheet."""


def test_a_line_under_a_layer_is_one_step_and_changes_its_side(window):
    window.document.select("big")
    before = window.document.project
    window.run("line-under")
    line = window.document.clip
    assert (line.form, line.fits.layer, line.fits.side) == ("line", "big", "under")
    window.sheet.open_page("Shape")
    part = window.sheet.page("Shape")._form
    assert part._thick.isVisible()
    assert not part._size.isVisible()
    part._side.setCurrentIndex(part._side.findData("left"))
    part._side.activated.emit(part._side.currentIndex())
    assert window.document.clip.fits.side == "left"
    part._thickness.committed.emit(11.0)
    assert window.document.clip.height == 11.0
    for _ in range(3):
        window.document.undo()
    assert window.document.project == before
