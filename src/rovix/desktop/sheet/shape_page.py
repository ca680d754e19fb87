"""The sheet's Shape page for grounds and shapes: form, size, fill, outline, what it fits."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from rovix.desktop.document import Document
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.layer_box import LayerBox
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page, plain
from rovix.desktop.sheet.paint_fields import PAINTS, PaintFields
from rovix.desktop.sheet.parts import Rows, Segments, heading
from rovix.edit.following import layers_of
from rovix.edit.shapes import change_outline, change_shape, edit_fill, fill_field
from rovix.edit.tree import clip_of, replace
from rovix.model import Clip, Fits, Project, ShapeClip
from rovix.model.clip_kinds import is_filled
from rovix.model.shape import FitSide
from rovix.motion.at_frame import layer_at


class ShapePage(Page):
    """What a ground or a shape looks like."""

    name = "Shape"

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._form = _FormPart(self)
        self._fill = _FillPart(self)
        self._outline = _OutlinePart(self)
        for part in (self._form, self._fill, self._outline):
            self._column.addWidget(part)
        self._column.addWidget(self.pips.note)
        self._column.addStretch(1)

    def field(self, field: NumberField, title: str, name: str) -> NumberField:
        """A field bound to one of the shape's own channels."""
        return self.channel(field, title, lambda: name)

    def show_clip(self, clip: Clip) -> None:
        if is_filled(clip):
            shown = layer_at(clip, self.frame)
            for part in (self._form, self._fill, self._outline):
                part.show_clip(shown)


class _Part(QWidget):
    def __init__(self, page: ShapePage) -> None:
        super().__init__()
        self.page = page
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(7)

    def keyed(self, rows: Rows, said: str, fields: list[QWidget], *addresses: str) -> None:
        """A row of fields with a pip for their channels."""
        reset = self.page.resetting(f"Reset {said.lower()}", lambda: addresses)
        rows.add(said, fields, self.page.pips.pip(said, lambda: addresses), reset)


_SIDES: dict[FitSide, str] = {
    "all": "Round it", "under": "Under it", "over": "Over it", "left": "Left of it", "right": "Right of it",
}  # fmt: skip


class _FormPart(_Part):
    """Form, size, corners, and the layer that it fits."""

    def __init__(self, page: ShapePage) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__(page)
        self._form = Segments({"box": "Box", "line": "Line", "ellipse": "Ellipse"}, "Form")
        self._form.chosen.connect(
            lambda value: page._do("Change the form", lambda p, i: change_shape(p, i, form=value))
        )
        page.watch(plain(lambda clip: clip.form), self._form.show_choice)
        self._width = page.field(
            NumberField("Width", "px", 1, 1, low=0.1, high=100_000), "Change the width", "width"
        )
        self._height = page.field(
            NumberField("Height", "px", 1, 1, low=0.1, high=100_000), "Change the height", "height"
        )
        self._radius = page.field(
            NumberField("Corner radius", "px", 1, 1, low=0, high=50_000), "Round the corners", "radius"
        )
        tip = "The layer whose words or picture it goes round."
        self._fitted = LayerBox("Fits", tip)
        self._fitted.chosen.connect(lambda _: self._fits(self._fitted.currentData()))
        self._margins = [self._margin("margin_x", "Margin across"), self._margin("margin_y", "Margin down")]
        self._size = Rows()
        self.keyed(self._size, "Width, height", [self._width, self._height], "width", "height")
        rounded = Rows()
        self.keyed(rounded, "Corners", [self._radius], "radius")
        rounded.add("Fits", [self._fitted])
        tip = "Round the layer, or along one side of it."
        self._side = DropDown(accessibleName="Where it fits", toolTip=tip)
        for side, said in _SIDES.items():
            self._side.addItem(said, side)
        self._side.activated.connect(lambda _: self._fits(side=self._side.currentData()))
        page.watch(plain(lambda clip: clip.fits.side if clip.fits else "all"), self._side.show_data)
        self._thickness = page.field(
            NumberField("Thickness", "px", 1, 1, low=0.1, high=100_000), "Change the thickness", "height"
        )
        self._thick = Rows()
        self._thick.add("Thickness", [self._thickness])
        self._around = Rows()
        self._around.add("Where", [self._side])
        self.keyed(self._around, "Margins", list(self._margins), "fits.margin_x", "fits.margin_y")
        for widget in (heading("Shape"), self._form, self._size, rounded, self._around, self._thick):
            self.column.addWidget(widget)

    def _margin(self, name: str, said: str) -> NumberField:
        field = NumberField(said, "px", 1, 1, low=-10_000, high=100_000)
        return self.page.channel(field, f"Change the {said.lower()}", lambda: f"fits.{name}")

    def _fits(self, target: str | None = "", side: FitSide | None = None) -> None:
        """Fit another layer, none, or the same one at another side."""

        def edit(project: Project, identity: str) -> Project:
            own = getattr(clip_of(project, identity), "fits", None)
            if side is not None:
                beside = None if own is None else replace(own, side=side)
                return change_shape(project, identity, fits=beside)
            fits = None if target is None else replace(own, layer=target) if own else Fits(layer=target)
            return change_shape(project, identity, fits=fits)

        titles = {True: "Change where it fits", False: "Free the shape" if target is None else "Fit a layer"}
        self.page._do(titles[side is not None], edit)

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(isinstance(clip, ShapeClip))
        if not isinstance(clip, ShapeClip):
            return
        self._size.setVisible(clip.fits is None)
        self._around.setVisible(clip.fits is not None)
        self._thick.setVisible(clip.fits is not None and clip.fits.side != "all")
        self._show_layers(clip)

    def _show_layers(self, clip: ShapeClip) -> None:
        """The layers that can be fitted: those that do not follow or fit this one."""
        layers = layers_of(self.page._document.project, without=clip.id)
        free = [layer for layer in layers if not _tied_to(layer, clip.id)]
        self._fitted.show_layers(free, clip.fits.layer if clip.fits else None)


def _tied_to(clip: Any, identity: str) -> bool:
    fits = getattr(clip, "fits", None)
    return clip.parent == identity or (fits is not None and fits.layer == identity)


class _FillPart(_Part):
    """Plain, gradient or paper, with its colours."""

    def __init__(self, page: ShapePage) -> None:
        super().__init__(page)
        self._paint = PaintFields(page, "Fill", PAINTS | {"paper": "Paper"}, self._edit, self._address)
        self._opacity = page.field(
            NumberField("Fill opacity", "%", 1, 0, factor=100, low=0, high=100),
            "Change the fill's opacity",
            "fill_opacity",
        )
        self._more = Rows()
        self.keyed(self._more, "Opacity", [self._opacity], "fill_opacity")
        for widget in (heading("Fill"), self._paint, self._more):
            self.column.addWidget(widget)

    def _address(self) -> str:
        clip = self.page.clip
        return fill_field(clip) if is_filled(clip) else "fill"

    def _edit(self, project: Project, identity: str, change: Callable[[Any], Any]) -> Project:
        return edit_fill(project, identity, change)

    def show_clip(self, clip: Clip) -> None:
        fill = getattr(clip, fill_field(clip))
        shape = isinstance(clip, ShapeClip)
        self._paint.offer({"none", "plain", "linear", "radial"} if shape else {*PAINTS, "paper"} - {"none"})
        self._paint.show_paint(fill)
        self._more.setVisible(shape and fill is not None)


class _OutlinePart(_Part):
    """The line along a shape's edge."""

    def __init__(self, page: ShapePage) -> None:
        super().__init__(page)
        self._colour = page.colour(
            ColourButton("Outline colour"), "Colour the outline",
            lambda value: page.setting({"outline.colour": value}),
        )  # fmt: skip
        page.watch(lambda clip: page.value_in(clip, "outline.colour"), self._colour.show_colour)
        self._width = self._number(NumberField("Outline width", "px", 0.5, 1, low=0.1, high=2000), "width")
        self._opacity = self._number(
            NumberField("Outline opacity", "%", 1, 0, factor=100, low=0, high=100), "opacity"
        )
        self._side = Segments({"outside": "Outside", "centre": "Centre", "inside": "Inside"}, "Side")
        self._side.chosen.connect(
            lambda value: page._do("Move the outline's side", lambda p, i: change_outline(p, i, side=value))
        )
        page.watch(plain(lambda clip: clip.outline.side), self._side.show_choice)
        self._add = QPushButton("Add an outline", objectName="link", toolTip="A line along the shape's edge.")
        self._add.clicked.connect(lambda: page._do("Add an outline", change_outline))
        self._remove = QPushButton("Remove the outline", objectName="link", toolTip="Take the line away.")
        self._remove.clicked.connect(
            lambda: page._do("Remove the outline", lambda p, i: change_shape(p, i, outline=None))
        )
        self._rows = Rows()
        self.keyed(self._rows, "Colour", [self._colour], "outline.colour")
        self.keyed(self._rows, "Width", [self._width], "outline.width")
        self.keyed(self._rows, "Opacity", [self._opacity], "outline.opacity")
        self._rows.add_wide(self._side)
        for widget in (heading("Outline"), self._rows):
            self.column.addWidget(widget)
        for button in (self._add, self._remove):
            self.column.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)

    def _number(self, field: NumberField, name: str) -> NumberField:
        return self.page.channel(field, f"Change the outline's {name}", lambda: f"outline.{name}")

    def show_clip(self, clip: Clip) -> None:
        self.setVisible(isinstance(clip, ShapeClip))
        outline = clip.outline if isinstance(clip, ShapeClip) else None
        self._rows.setVisible(outline is not None)
        self._remove.setVisible(outline is not None)
        self._add.setVisible(outline is None)
