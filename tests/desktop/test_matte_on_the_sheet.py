"""The matte's row: another layer and what of it counts, each choice a step."""

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.layer_box import LayerBox
from rovix.edit.tree import clip_by_id
from rovix.model.effects.matte import Through


def matte(window):
    return clip_by_id(window.document.project, "big").effects[0]


def choose(box, data):
    box.setCurrentIndex(box.findData(data))
    box.activated.emit(box.currentIndex())


def test_a_layer_is_chosen_then_its_light_then_nothing(window):
    window.document.select("big")
    window.sheet.open_page("Effects")
    page = window.sheet.page("Effects")
    page.add("matte")
    fields = page.card("matte").fields
    layers = next(box for box in fields.findChildren(LayerBox) if box.accessibleName() == "Shows through")
    points = next(
        box for box in fields.findChildren(DropDown) if box.accessibleName() == "Shows through: where"
    )
    assert points.isHidden()
    choose(layers, "small")
    assert matte(window).through == Through(layer="small", at="alpha")
    assert not points.isHidden()
    choose(points, "light")
    assert matte(window).through.at == "light"
    assert layers.findData("big") == -1
    window.run("undo")
    assert matte(window).through.at == "alpha"
    choose(layers, None)
    assert matte(window).through is None
    window.run("undo")
    window.document.select("small")
    window.run("remove")
    assert matte(window).through is None
    window.run("undo")
    assert matte(window).through == Through(layer="small", at="alpha")
