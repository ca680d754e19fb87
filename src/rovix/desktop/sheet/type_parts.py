"""Parts of the Text page that depend on the face: its axes, and the features it has."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QCheckBox, QGridLayout, QVBoxLayout, QWidget

from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows
from rovix.edit import change_text, clip_by_id
from rovix.model import Project, Text
from rovix.model.clip_kinds import has_words
from rovix.model.text import Axis, Feature
from rovix.text import Face
from rovix.text.face import AxisRange
from rovix.text.features import NAMES, ON_BY_ITSELF, features_in

if TYPE_CHECKING:
    from rovix.desktop.sheet.text_page import TextPage


class AxisRows(QWidget):
    """A field for each axis of a variable face, the weight's left out."""

    def __init__(self, page: TextPage) -> None:
        super().__init__()
        self._page = page
        self._axes: tuple[AxisRange, ...] = ()
        self._fields: dict[str, NumberField] = {}
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._rows: Rows | None = None

    def show_axes(self, words: Text, axes: tuple[AxisRange, ...]) -> None:
        self.setVisible(bool(axes))
        if axes != self._axes:
            self._axes = axes
            self._rebuild()
        values = {axis.tag: axis.value for axis in words.axes}
        for axis in axes:
            self._fields[axis.tag].show_value(values.get(axis.tag, axis.default))

    def _rebuild(self) -> None:
        if self._rows is not None:
            self._rows.hide()
            self._rows.deleteLater()
        self._rows, self._fields = Rows(), {}
        for axis in self._axes:
            step = 1.0 if axis.high - axis.low > 10 else 0.05
            field = NumberField(axis.name, "", step, 0 if step == 1 else 2, low=axis.low, high=axis.high)
            title = f"Change the {axis.name.lower()}"
            self._fields[axis.tag] = self._page._bind(field, title, _axis_edit(self._page, axis.tag))
            reset = f"Reset the {axis.name.lower()}"
            self._rows.add(
                axis.name,
                [field],
                reset=partial(self._reset, axis.tag, reset),
            )
        self._column.addWidget(self._rows)

    def _reset(self, tag: str, title: str) -> None:
        self._page._do(title, _without(self._page, tag))

    def field(self, tag: str) -> NumberField:
        """The field of an axis."""
        return self._fields[tag]


def _axis_edit(page: TextPage, tag: str):  # type: ignore[no-untyped-def]
    def edit(project: Project, value: float) -> Project:
        others = [axis for axis in _words(project, page._id).axes if axis.tag != tag]
        made = sorted([*others, Axis(tag=tag, value=value)], key=lambda axis: axis.tag)
        return change_text(project, page._id, axes=tuple(made))

    return edit


def _without(page: TextPage, tag: str):  # type: ignore[no-untyped-def]
    def edit(project: Project) -> Project:
        axes = tuple(axis for axis in _words(project, page._id).axes if axis.tag != tag)
        return change_text(project, page._id, axes=axes)

    return edit


def _words(project: Project, identity: str) -> Text:
    clip = clip_by_id(project, identity)
    return clip.text if has_words(clip) else Text()


class FeatureChecks(QWidget):
    """A box to tick for each feature that the face has."""

    def __init__(self, page: TextPage) -> None:
        super().__init__()
        self._page = page
        self._tags: tuple[str, ...] = ()
        self._boxes: dict[str, QCheckBox] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setVerticalSpacing(5)

    def show_features(self, words: Text, face: Face) -> None:
        tags = features_in(face)
        self.setVisible(bool(tags))
        if tags != self._tags:
            self._tags = tags
            self._rebuild()
        values = {feature.tag: feature.value for feature in words.features}
        for tag, box in self._boxes.items():
            box.setChecked(bool(values.get(tag, tag in ON_BY_ITSELF)))

    def box(self, tag: str) -> QCheckBox:
        """The box of a feature."""
        return self._boxes[tag]

    def _rebuild(self) -> None:
        for box in self._boxes.values():
            box.hide()
            box.deleteLater()
        self._boxes = {}
        for number, tag in enumerate(self._tags):
            box = QCheckBox(NAMES[tag], toolTip=f"{NAMES[tag]}, OpenType feature '{tag}'.")
            box.clicked.connect(lambda on, t=tag: self._set(t, on))
            self._boxes[tag] = box
            self._grid.addWidget(box, number, 0)

    def _set(self, tag: str, on: bool) -> None:
        clip = self._page._document.clip
        assert has_words(clip)
        kept = [feature for feature in clip.text.features if feature.tag != tag]
        if on != (tag in ON_BY_ITSELF):
            kept.append(Feature(tag=tag, value=int(on)))
        title = f"Turn {NAMES[tag].lower()} {'on' if on else 'off'}"
        self._page.set_words(title, features=tuple(sorted(kept, key=lambda feature: feature.tag)))
