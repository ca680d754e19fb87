"""The sheet's pages: Words, Look, Place."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import QComboBox, QLabel, QPlainTextEdit, QPushButton, QVBoxLayout

from rovix.desktop.document import Document, Edit
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page
from rovix.desktop.sheet.parts import ColourButton, KeyPip, Rows, Segments, heading
from rovix.edit import change_look, change_place, change_words, clip_by_id, place_value, reset_place
from rovix.edit.place import set_blend
from rovix.edit.tree import replace
from rovix.model import Keys, Outline, SoundClip, TextClip, new_id
from rovix.model.blend import BLEND_MODES
from rovix.text import families, match_face
from rovix.text.catalogue import shipped

_STANDARD_WEIGHTS = {
    100: "Thin", 200: "Extra light", 300: "Light", 400: "Regular", 500: "Medium",
    600: "Semibold", 700: "Bold", 800: "Extra bold", 900: "Black",
}  # fmt: skip


class WordsPage(Page):
    """Text and type."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._text = _WordsBox()
        self._text.setAccessibleName("Words")
        self._text.setPlaceholderText("Type the words here")
        self._text.setToolTip("The layer's words. Enter starts a new line.")
        self._text.setFixedHeight(74)
        self._text.textChanged.connect(self._typed)
        self._text.left.connect(self.finish_typing)
        self._family = QComboBox(accessibleName="Family", toolTip="The words' typeface family.")
        self._family.addItems(families())
        self._family.setMinimumContentsLength(10)
        self._family.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self._family.activated.connect(
            lambda _: self._set("Change the family", family=self._family.currentText())
        )
        self._weight = QComboBox(accessibleName="Weight", toolTip="The weights that this family really has.")
        self._weight.activated.connect(
            lambda _: self._set("Change the weight", weight=self._weight.currentData())
        )
        self._missing = QLabel("", objectName="problem", wordWrap=True)
        self._size = self._field(
            NumberField("Size", "px", 1, 0, low=1, high=20000), "Change the size", "size"
        )
        self._tracking = self._field(
            NumberField("Tracking", "em", 0.01, 3, low=-5, high=50), "Change the tracking", "tracking"
        )
        self._leading = self._field(
            NumberField("Leading", "%", 1, 0, factor=100, low=0, high=2000), "Change the leading", "leading"
        )
        self._align = Segments({"left": "Left", "centre": "Centre", "right": "Right"}, "Align")
        self._align.chosen.connect(lambda value: self._set("Align the words", align=value))
        rows = Rows()
        rows.add("Family", [self._family])
        rows.add("Weight", [self._weight])
        rows.add_wide(self._missing)
        rows.add("Size", [self._size])
        rows.add("Tracking", [self._tracking], reset=lambda: self._set("Reset the tracking", tracking=0.0))
        rows.add("Leading", [self._leading], reset=lambda: self._set("Reset the leading", leading=1.2))
        self._column.addWidget(heading("Words", "double-click them in the picture"))
        self._column.addWidget(self._text)
        self._column.addWidget(rows)
        self._column.addWidget(self._align)
        self._column.addStretch(1)

    def _field(self, field: NumberField, title: str, name: str) -> NumberField:
        return self._bind(field, title, lambda p, value: change_words(p, self._id, **{name: value}))

    def _set(self, title: str, **changes: Any) -> None:
        self._do(title, lambda project: change_words(project, self._id, **changes))

    def _typed(self) -> None:
        text = self._text.toPlainText()
        self._document.typing = True
        self._try(lambda project: change_words(project, self._id, text=text))

    def finish_typing(self) -> None:
        """Keep what was typed as one step."""
        if self._document.typing and self._document.suspended is None:
            self._document.keep("Change the words")

    def look_again(self) -> None:
        clip = self._document.clip
        if not isinstance(clip, TextClip):
            return
        words = clip.words
        if self._text.toPlainText() != words.text:
            self._text.blockSignals(True)
            self._text.setPlainText(words.text)
            self._text.blockSignals(False)
        self._show_type(words)
        self._size.show_value(words.size)
        self._tracking.show_value(words.tracking)
        self._leading.show_value(words.leading)
        self._align.show_choice(words.align)

    def _show_type(self, words: Any) -> None:
        if self._family.currentText() != words.family or self._family.count() == 0:
            if self._family.findText(words.family) < 0:
                self._family.addItem(words.family)
            self._family.setCurrentText(words.family)
            self._weight.clear()
        if self._weight.count() == 0:
            for weight in _weights(words.family):
                self._weight.addItem(_STANDARD_WEIGHTS.get(weight, str(weight)), weight)
        if self._weight.findData(words.weight) < 0:
            self._weight.addItem(str(words.weight), words.weight)
        self._weight.setCurrentIndex(self._weight.findData(words.weight))
        missing = match_face(words.family, words.weight, words.italic).missing
        self._missing.setText(f"{words.family} is not here; Outfit stands in for it." if missing else "")
        self._missing.setVisible(missing)


def _weights(family: str) -> list[int]:
    styles = shipped().get(family)
    if styles is None:
        return [400, 700]
    found: set[int] = set()
    for style in styles:
        whole = range(max(100, style.low), style.high + 1, 100)
        found |= set(whole) if style.low < style.high else {style.low}
    return sorted(found)


class _WordsBox(QPlainTextEdit):
    """A text box that says when the cursor has left it."""

    left = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setTabChangesFocus(True)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        if event.reason() != Qt.FocusReason.PopupFocusReason:
            self.left.emit()


class LookPage(Page):
    """Fill and outlines."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._fill = ColourButton("Fill")
        self._fill.chosen.connect(lambda value: self._set("Change the fill", fill=value))
        self._opacity = self._bind(
            NumberField("Fill opacity", "%", 1, 0, factor=100, low=0, high=100),
            "Change the fill's opacity",
            lambda p, value: change_look(p, self._id, fill_opacity=value),
        )
        rows = Rows()
        rows.add("Fill", [self._fill])
        rows.add(
            "Opacity", [self._opacity], reset=lambda: self._set("Reset the fill's opacity", fill_opacity=1.0)
        )
        self._column.addWidget(heading("Fill"))
        self._column.addWidget(rows)
        self._column.addWidget(heading("Outlines", "the first lies nearest"))
        self._list = QVBoxLayout()
        self._list.setSpacing(10)
        self._column.addLayout(self._list)
        self._empty = QLabel("No outline yet.", objectName="muted")
        self._column.addWidget(self._empty)
        add = QPushButton("Add an outline", toolTip="Put another outline round the letters.")
        add.clicked.connect(self._add)
        self._column.addWidget(add, 0, Qt.AlignmentFlag.AlignLeft)
        self._column.addStretch(1)
        self._rows: list[_OutlineRows] = []

    def _set(self, title: str, **changes: Any) -> None:
        self._do(title, lambda project: change_look(project, self._id, **changes))

    def outlines(self) -> tuple[Outline, ...]:
        """The outlines of the last step, whatever draft is shown."""
        clip = clip_by_id(self._document.committed, self._document.selected)
        return clip.look.outlines if isinstance(clip, TextClip) else ()

    def _add(self) -> None:
        outlines = self.outlines()
        width = (outlines[-1].width if outlines else 0.0) + 6.0
        self._set("Add an outline", outlines=(*outlines, Outline(id=new_id(), width=width)))

    def change_outline(self, identity: str, title: str, draft: bool, **changes: Any) -> None:
        """Change one outline, as a draft or as a step."""
        outlines = tuple(replace(o, **changes) if o.id == identity else o for o in self.outlines())
        edit = lambda project: change_look(project, self._id, outlines=outlines)  # noqa: E731
        if draft:
            self._try(edit)
        else:
            self._do(title, edit)

    def remove_outline(self, identity: str) -> None:
        self._set("Remove an outline", outlines=tuple(o for o in self.outlines() if o.id != identity))

    def look_again(self) -> None:
        clip = self._document.clip
        if not isinstance(clip, TextClip):
            return
        self._fill.show_colour(clip.look.fill)
        self._opacity.show_value(clip.look.fill_opacity)
        self._empty.setVisible(not clip.look.outlines)
        if [row.identity for row in self._rows] != [outline.id for outline in clip.look.outlines]:
            self._rebuild(clip.look.outlines)
        for row, outline in zip(self._rows, clip.look.outlines, strict=True):
            row.look_again(outline)

    def _rebuild(self, outlines: tuple[Outline, ...]) -> None:
        for row in self._rows:
            row.hide()
            row.deleteLater()
        self._rows = [_OutlineRows(self, outline.id, self._document) for outline in outlines]
        for row in self._rows:
            self._list.addWidget(row)


class _OutlineRows(Rows):
    """The fields of one outline."""

    def __init__(self, page: LookPage, identity: str, document: Document) -> None:
        super().__init__()
        self.identity = identity
        self._colour = ColourButton("Outline colour")
        self._colour.chosen.connect(
            lambda value: page.change_outline(identity, "Colour the outline", False, colour=value)
        )
        self._width = NumberField("Outline width", "px", 0.5, 1, low=0.1, high=2000)
        self._opacity = NumberField("Outline opacity", "%", 1, 0, factor=100, low=0, high=100)
        for field, name, title in (
            (self._width, "width", "Change the outline's width"),
            (self._opacity, "opacity", "Change the outline's opacity"),
        ):
            field.tried.connect(lambda v, n=name, t=title: page.change_outline(identity, t, True, **{n: v}))
            field.committed.connect(
                lambda v, n=name, t=title: page.change_outline(identity, t, False, **{n: v})
            )
            field.dropped.connect(document.drop)
        self._side = Segments({"outside": "Outside", "centre": "Centre", "inside": "Inside"}, "Side")
        self._side.chosen.connect(
            lambda value: page.change_outline(identity, "Move the outline's side", False, side=value)
        )
        remove = QPushButton("Remove", objectName="link", toolTip="Take this outline away.")
        remove.clicked.connect(lambda: page.remove_outline(identity))
        self.add("Colour", [self._colour])
        self.add("Width", [self._width])
        self.add("Opacity", [self._opacity])
        self.add_wide(self._side)
        self.add("", [remove])

    def look_again(self, outline: Outline) -> None:
        self._colour.show_colour(outline.colour)
        self._width.show_value(outline.width)
        self._opacity.show_value(outline.opacity)
        self._side.show_choice(outline.side)


_PLACE_ROWS = (
    ("Position", (("x", "px", 1, 1, 1.0), ("y", "px", 1, 1, 1.0))),
    ("Scale", (("scale_x", "%", 1, 1, 100.0), ("scale_y", "%", 1, 1, 100.0))),
    ("Turn", (("turn", "°", 0.5, 1, 1.0),)),
    ("Slant", (("slant", "°", 0.5, 1, 1.0),)),
    ("Tip, swing", (("tip", "°", 0.5, 1, 1.0), ("swing", "°", 0.5, 1, 1.0))),
    ("Depth", (("depth", "px", 2, 0, 1.0),)),
    ("Opacity", (("opacity", "%", 1, 0, 100.0),)),
)
_SAID = {
    "x": "Position across", "y": "Position down", "scale_x": "Scale across", "scale_y": "Scale down",
    "turn": "Turn", "slant": "Slant", "tip": "Tip", "swing": "Swing", "depth": "Depth", "opacity": "Opacity",
}  # fmt: skip
_LIMITS = {"opacity": (0, 100), "slant": (-89, 89)}


class PlacePage(Page):
    """Where the layer rests. A row that is animated gets a key on the frame shown above it."""

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._fields: dict[str, NumberField] = {}
        self._pips: dict[str, KeyPip] = {}
        self._key_frame = QLabel("", objectName="muted", wordWrap=True)
        rows = Rows()
        for name, parts in _PLACE_ROWS:
            names = tuple(part[0] for part in parts)
            pip = self._pips[names[0]] = KeyPip()
            for channel, unit, step, decimals, factor in parts:
                low, high = _LIMITS.get(channel, (None, None))
                field = NumberField(_SAID[channel], unit, step, decimals, factor, low, high)
                title = f"Change the {_SAID[channel].lower()}"
                self._fields[channel] = self._bind(field, title, self._edit(channel))
            rows.add(name, [self._fields[n] for n in names], pip, self._resetter(name, names))
        self._blend = QComboBox(accessibleName="Blend")
        self._blend.setToolTip("How the layer is laid over what is below; its opacity is the strength.")
        for mode in BLEND_MODES:
            self._blend.addItem(mode.replace("-", " ").capitalize(), mode)
        self._blend.activated.connect(lambda _: self._set_blend())
        blend = Rows()
        blend.add("Blend", [self._blend], reset=lambda: self._do("Reset the blend", self._blend_to("normal")))
        self._column.addWidget(heading("Rest place", "where the layer lands"))
        self._column.addWidget(rows)
        self._column.addWidget(self._key_frame)
        self._column.addWidget(blend)
        self._column.addStretch(1)

    def _set_blend(self) -> None:
        mode = self._blend.currentData()
        self._do(f"Blend by {self._blend.currentText().lower()}", self._blend_to(mode))

    def _blend_to(self, mode: str) -> Edit:
        return lambda project: set_blend(project, self._id, mode)

    def _resetter(self, name: str, channels: tuple[str, ...]) -> Callable[[], None]:
        title = f"Reset {name.lower()}"
        return lambda: self._do(title, lambda project: reset_place(project, self._id, *channels))

    def _edit(self, channel: str) -> Any:
        frame = lambda: self._document.clip_frame  # noqa: E731
        return lambda project, value: change_place(project, self._id, frame(), **{channel: value})

    def look_again(self) -> None:
        clip = self._document.clip
        if clip is None or isinstance(clip, SoundClip):
            return
        self._blend.setCurrentIndex(self._blend.findData(clip.blend))
        frame = self._document.clip_frame
        for channel, field in self._fields.items():
            field.show_value(place_value(clip.place, channel, frame))
        animated = False
        for _, parts in _PLACE_ROWS:
            channels = [getattr(clip.place, part[0]) for part in parts]
            keyed = [channel for channel in channels if isinstance(channel, Keys)]
            here = any(key.frame == frame for channel in keyed for key in channel.keys)
            self._pips[parts[0][0]].show_state("key" if here else "animated" if keyed else "none")
            animated = animated or bool(keyed)
        self._key_frame.setText(
            f"Animated rows get a key at layer frame {frame} when you change them." if animated else ""
        )
