"""The sheet's Text page: text and type, of the whole layer or of the letters that are selected."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLabel, QPlainTextEdit, QPushButton

from rovix.desktop.document import Document
from rovix.desktop.sheet.colour_button import ColourButton
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.mixed import Mixed
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import ABSENT, MIXED, ClipEdit, Page, plain
from rovix.desktop.sheet.parts import Rows, Segments, Tick, heading
from rovix.desktop.sheet.type_parts import AxisRows, FeatureChecks, words_of
from rovix.edit import change_text
from rovix.edit.own_style import FIELDS, common_style
from rovix.edit.text import set_style
from rovix.model import Clip, Plain, Project, Text
from rovix.model.clip_kinds import has_words
from rovix.motion.at_frame import at_frame
from rovix.text import match_face
from rovix.text.catalogue import axes_of, weights_of

_STANDARD_WEIGHTS = {
    100: "Thin", 200: "Extra light", 300: "Light", 400: "Regular", 500: "Medium",
    600: "Semibold", 700: "Bold", 800: "Extra bold", 900: "Black",
}  # fmt: skip

_ALIGNED = {
    "left": "Left", "centre": "Centre", "right": "Right", "justify": "Justify", "columns": "Columns",
}  # fmt: skip
_COLUMNS = (
    "Roles and names: what stands before a line's tab ends left of the middle, what stands behind it begins "
    "right of it; other lines are centred. Tab types one in the picture."
)


class TextPage(Page):
    """Family, weight, slant, size and colour dress the selected letters, or else the whole layer."""

    name = "Text"
    pick_family = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__(document)
        self._text = _WordsBox()
        self._text.textChanged.connect(self._typed)
        self._text.selectionChanged.connect(self._select_letters)
        self._text.left.connect(self.finish_typing)
        self._build_face()
        self._build_setting()
        self._styled_note = QLabel("", objectName="muted", wordWrap=True)
        self._column.addWidget(self._text)
        self._column.addWidget(self._styled_note)
        for widget in (self._face_rows, self._missing, self._axes, self._letter_rows, self._case):
            self._column.addWidget(widget)
        self._column.addWidget(heading("Lines"))
        for widget in (self._align, self._gap_rows, self._line_rows, self._wrap, self._box_rows):
            self._column.addWidget(widget)
        self._column.addWidget(heading("Figures and letterforms"))
        self._column.addWidget(self._fixed)
        self._column.addWidget(self._features)
        self._column.addStretch(1)
        document.letters_changed.connect(self.refresh)

    def _build_face(self) -> None:
        self.family = QPushButton("", accessibleName="Family", objectName="field")
        self.family.setToolTip("The typeface. Click to see the words in each of them.")
        self.family.clicked.connect(self.pick_family)
        self._weight = DropDown(accessibleName="Weight", toolTip="The weights that this family really has.")
        self._weight.activated.connect(
            lambda _: self.set_style("Change the weight", weight=self._weight.currentData())
        )
        self._any_weight = self._style_field(
            NumberField("Weight", "", 5, 0, low=1, high=1000), "Change the weight", "weight", round
        )
        self._italic = Tick("Italic", "Italic, or slanted where the family has none.")
        self._italic.clicked.connect(lambda on: self.set_style("Slant the words", italic=on))
        self.watch(self._reading("family"), self._show_family)
        self.watch(self._reading("weight"), self._show_weight)
        self.watch(self._reading("italic"), self._italic.show_ticked)
        self._size = self._style_field(
            NumberField("Size", "px", 1, 1, low=1, high=20000), "Change the size", "size", self._share_of_size
        )
        self._colour = self.colour(
            ColourButton("Letters' colour"), "Colour the letters", lambda value: self.restyled(colour=value)
        )
        self._plain = QPushButton("As the layer", objectName="link")
        self._plain.setToolTip("Take off what these letters have of their own.")
        self._plain.clicked.connect(lambda: self.set_style("Clear own style", **dict.fromkeys(FIELDS)))
        self._missing = QLabel("", objectName="problem", wordWrap=True)
        self._axes = AxisRows(self)
        self._face_rows = Rows()
        self._face_rows.add("Family", [self.family])
        self._face_rows.add("Weight", [self._weight, self._any_weight, self._italic])
        self._face_rows.add("Size", [self._size])
        self._own_rows = Rows()
        self._own_rows.add("Colour", [self._colour])
        self._own_rows.add("", [self._plain])
        self._face_rows.add_wide(self._own_rows)

    def _build_setting(self) -> None:
        self._letter_rows, self._line_rows = Rows(), Rows()
        share = {"factor": 100, "low": 0, "high": 2000}
        self._tracking = NumberField("Tracking", "em", 0.01, 3, low=-5, high=50)
        self._leading = NumberField("Leading", "%", 1, 0, **share)
        self._paragraph = NumberField("Paragraph spacing", "%", 1, 0, **share)
        self._keyed(self._letter_rows, "Tracking", self._tracking, "text.tracking")
        self._keyed(self._line_rows, "Leading", self._leading, "text.leading")
        self._keyed(self._line_rows, "Paragraphs", self._paragraph, "text.paragraph")
        self._case = Segments(
            {"as-typed": "As typed", "upper": "ABC", "lower": "abc", "title": "Abc"}, "Case",
            {"upper": "All capitals; the words keep what was typed.", "title": "Each word with a capital."},
        )  # fmt: skip
        self._case.chosen.connect(lambda value: self._set("Change the case", case=value))
        self.watch(plain(lambda clip: clip.text.case), self._case.show_choice)
        self._fixed = Tick("Figures of one width", "For any face, so that counters stand still.")
        self._fixed.clicked.connect(lambda on: self._set("Fix the figures' width", fixed_figures=on))
        self.watch(plain(lambda clip: clip.text.fixed_figures), self._fixed.show_ticked)
        self._features = FeatureChecks(self)
        self._build_lines()

    def _build_lines(self) -> None:
        self._align = Segments(_ALIGNED, "Align", {"columns": _COLUMNS})
        self._align.chosen.connect(lambda value: self._set("Align the words", align=value))
        self.watch(plain(lambda clip: clip.text.align), self._align.show_choice)
        gap = NumberField("Column gap", "em", 0.05, 2, low=0, high=100)
        self._gap = self._field(gap, "Change the column gap", "column_gap")
        self._gap_rows = Rows()
        self._gap_rows.add("Gap", [self._gap])
        self._wrap = Segments(
            {"free": "Free lines", "box": "In a box"}, "Lines",
            {"free": "Lines part where you part them.", "box": "Lines part at the box's width."},
        )  # fmt: skip
        self._wrap.chosen.connect(self._set_wrap)
        self.watch(plain(lambda clip: "free" if clip.text.wrap is None else "box"), self._wrap.show_choice)
        self._width = self._field(
            NumberField("Box width", "px", 5, 0, low=1, high=100_000), "Change the box's width", "wrap"
        )
        self._balance = Tick("Even lines", "As few lines, but about as long as each other.")
        self._balance.clicked.connect(lambda on: self._set("Even the lines", balance=on))
        self.watch(plain(lambda clip: clip.text.balance), self._balance.show_ticked)
        self._box_rows = Rows()
        self._box_rows.add("Width", [self._width])
        self._box_rows.add("", [self._balance])

    @property
    def letters(self) -> tuple[int, int] | None:
        """The letters that a change dresses; None for the whole layer."""
        return self._document.letters

    def _targets(self) -> list[str]:
        """Letters are those of the leading layer."""
        targets = super()._targets()
        return targets[-1:] if self.letters is not None else targets

    def set_style(self, title: str, **changes: Any) -> None:
        """Dress the selected letters, or else the whole layers, as one step."""
        self._do(title, self.restyled(**changes))

    def try_style(self, **changes: Any) -> None:
        """Show them so dressed, as a draft."""
        self._try(self.restyled(**changes))

    def restyled(self, **changes: Any) -> ClipEdit:
        """The edit that dresses the selected letters, or else the whole layer."""
        letters = self.letters
        if letters is not None:
            return lambda project, identity: set_style(project, identity, *letters, **changes)
        return lambda project, identity: change_text(project, identity, **changes)

    def _field(self, field: NumberField, title: str, name: str) -> NumberField:
        return self._bind(
            field,
            title,
            lambda p, identity, value: change_text(p, identity, **{name: value}),
            plain(lambda clip: _absent_or(getattr(clip.text, name))),
        )

    def _style_field(self, field: NumberField, title: str, name: str, made: Any) -> NumberField:
        def edit(project: Project, identity: str, value: float) -> Project:
            return self.restyled(**{name: made(value)})(project, identity)

        return self._bind(field, title, edit, self._reading(name))

    def _reading(self, name: str) -> Callable[[Clip], Any]:
        """What a layer has in a field of its style, or what the selected letters have."""

        def read(clip: Clip) -> Any:
            if not has_words(clip):
                return ABSENT
            words = at_frame(clip.text, self._document.frame_of(clip))
            value = self._own(words, name) if clip is self.clip else getattr(words, name)
            return float(value) if name == "size" and value is not MIXED else value

        return read

    def _share_of_size(self, size: float) -> float:
        """A size in px as selected letters have it: a share of the layer's."""
        clip = self.clip
        return size / clip.text.size if self.letters and has_words(clip) else size

    def set_words(self, title: str, change: Callable[[Text], dict[str, Any]]) -> None:
        """Change fields of the whole layers' words by what each has, as one step."""

        def edit(project: Project, identity: str) -> Project:
            return change_text(project, identity, **change(words_of(project, identity)))

        self._do(title, edit)

    def _set(self, title: str, **changes: Any) -> None:
        self._do(title, lambda project, identity: change_text(project, identity, **changes))

    def _set_wrap(self, choice: str) -> None:
        across = self._document.project.sequence.size[0]
        self._set("Change how lines part", wrap=None if choice == "free" else round(across * 0.8))

    def _typed(self) -> None:
        text, clip = self._text.toPlainText(), self.clip
        if clip is not None:
            self._document.type_words(lambda project: change_text(project, clip.id, content=text))

    def finish_typing(self) -> None:
        """Keep what was typed as one step."""
        if self._document.suspended is None:
            self._document.keep_typed()

    def _select_letters(self) -> None:
        cursor = self._text.textCursor()
        if self._text.hasFocus():
            before = self._text.toPlainText()
            ends = (_index(before, cursor.selectionStart()), _index(before, cursor.selectionEnd()))
            self._document.select_letters(ends)

    def show_clip(self, clip: Clip) -> None:
        if not has_words(clip):
            return
        words = at_frame(clip.text, self.frame)
        if self._text.toPlainText() != words.content:
            self._text.blockSignals(True)
            self._text.setPlainText(words.content)
            self._text.blockSignals(False)
        self._show_face(words)
        self._box_rows.setVisible(words.wrap is not None)
        self._gap_rows.setVisible(words.align == "columns")
        self._show_letters(words)

    def _own(self, words: Text, field: str) -> Any:
        """What the selected letters have in a field, or the layer; `MIXED` when they differ."""
        if self.letters is None:
            return getattr(words, field, None)
        low, high = self.letters
        try:
            own = common_style(words, low, min(high, len(words.content)), field)
        except ValueError:
            return MIXED
        if field == "size":
            return words.size * (own or 1.0)
        return getattr(words, field, None) if own is None else own

    def _known_family(self, words: Text) -> str:
        """The family that faces are looked for in: the letters', or the layer's where they differ."""
        family = self._own(words, "family")
        return words.family if isinstance(family, Mixed) else str(family)

    def _show_face(self, words: Text) -> None:
        known = self._known_family(words)
        # A face with an axis takes any weight between its ends, others those that they have.
        axes = {axis.tag: axis for axis in axes_of(known, words.weight, words.italic)}
        self._weight.setVisible("wght" not in axes)
        self._any_weight.setVisible("wght" in axes)
        self._fill_weights(known, self._own(words, "weight"))
        self._axes.show_axes(tuple(axis for tag, axis in axes.items() if tag != "wght"))
        match = match_face(known, words.weight, words.italic)
        self._missing.setText(f"{known} is not here; Outfit stands in for it." if match.missing else "")
        self._missing.setVisible(match.missing)
        self._features.show_features(match.face)

    def _show_family(self, family: str | Mixed) -> None:
        self.family.setText(str(family))

    def _show_weight(self, weight: int | Mixed) -> None:
        self._weight.show_data(weight)

    def _fill_weights(self, family: str, weight: Any) -> None:
        offered = weights_of(family) or [400, 700]
        if weight is not MIXED and weight not in offered:
            offered = sorted([*offered, weight])
        if offered != [self._weight.itemData(n) for n in range(self._weight.count())]:
            self._weight.clear()
            for value in offered:
                self._weight.addItem(_STANDARD_WEIGHTS.get(value, str(value)), value)

    def _keyed(self, rows: Rows, said: str, field: NumberField, address: str) -> None:
        """A row with a channel's field and its pip."""
        self.channel(field, f"Change the {said.lower()}", lambda: address)
        reset = self.resetting(f"Reset the {said.lower()}", lambda: [address])
        rows.add(said, [field], self.pips.pip(said, lambda: [address]), reset)

    def _look_colour(self) -> str:
        """The colour that the look gives letters without one of their own."""
        clip = self.clip
        look = at_frame(clip.look, self.frame) if has_words(clip) else None
        paint = look.fill.paint if look is not None and look.fill else Plain()
        return paint.colour if isinstance(paint, Plain) else paint.stops[0].colour

    def _show_letters(self, words: Text) -> None:
        self._own_rows.setVisible(self.letters is not None)
        if self.letters is None and len(self.clips()) > 1:
            said = f"The words above are of this layer; all below sets {len(self.clips())} layers."
            self._styled_note.setText(said)
        elif self.letters is None:
            own = len(words.styles)
            parts = "One part has" if own == 1 else f"{own} parts have"
            self._styled_note.setText(f"{parts} a style of their own." if own else "")
        else:
            low, high = self.letters
            part = " ".join(words.content[low:high].split())
            shown = part if len(part) <= 18 else f"{part[:17]}…"
            self._styled_note.setText(f"Sets “{shown}” alone; select nothing to set the whole layer.")
            colour = self._own(words, "colour")
            self._colour.show_colour(colour if isinstance(colour, str) else self._look_colour())
        self._styled_note.setVisible(bool(self._styled_note.text()))


def _absent_or(value: Any) -> Any:
    return ABSENT if value is None else value


def _index(text: str, position: int) -> int:
    """Characters before a position that Qt counts in UTF-16 units."""
    return len(text.encode("utf-16-le")[: 2 * position].decode("utf-16-le", "ignore"))


class _WordsBox(QPlainTextEdit):
    """A text box that says when the cursor has left it."""

    left = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setTabChangesFocus(True)
        self.setAccessibleName("Text")
        self.setPlaceholderText("Type the words here")
        self.setToolTip("The layer's words. Enter starts a new line; select letters to dress only them.")
        self.setFixedHeight(74)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        enter = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if event.key() == Qt.Key.Key_Escape or (enter and control):
            self.clearFocus()  # which keeps what was typed
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        if event.reason() != Qt.FocusReason.PopupFocusReason:
            self.left.emit()
