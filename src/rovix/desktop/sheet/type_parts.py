"""Parts of the Text page that depend on the face: its axes, and the features it has."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from rovix.desktop.sheet.mixed import ABSENT
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.parts import Rows, Tick
from rovix.edit import change_text, clip_by_id
from rovix.model import Clip, Project, Text
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

    def show_axes(self, axes: tuple[AxisRange, ...]) -> None:
        """Offer these axes."""
        self.setVisible(bool(axes))
        if axes != self._axes:
            self._axes = axes
            self._rebuild()

    def _rebuild(self) -> None:
        if self._rows is not None:
            self._page.forget(self._rows)
            self._rows.hide()
            self._rows.deleteLater()
        self._rows, self._fields = Rows(), {}
        for axis in self._axes:
            step = 1.0 if axis.high - axis.low > 10 else 0.05
            field = NumberField(axis.name, "", step, 0 if step == 1 else 2, low=axis.low, high=axis.high)
            title = f"Change the {axis.name.lower()}"
            read = partial(_axis_of, axis)
            self._fields[axis.tag] = self._page._bind(field, title, partial(_with_axis, axis.tag), read)
            reset = f"Reset the {axis.name.lower()}"
            self._rows.add(
                axis.name,
                [field],
                reset=partial(self._reset, axis.tag, reset),
            )
        self._column.addWidget(self._rows)

    def _reset(self, tag: str, title: str) -> None:
        self._page.set_words(title, lambda words: {"axes": _other_axes(words, tag)})

    def field(self, tag: str) -> NumberField:
        """The field of an axis."""
        return self._fields[tag]


def _axis_of(axis: AxisRange, clip: Clip) -> Any:
    """What a layer's words have of an axis."""
    if not has_words(clip):
        return ABSENT
    return next((own.value for own in clip.text.axes if own.tag == axis.tag), axis.default)


def _with_axis(tag: str, project: Project, identity: str, value: float) -> Project:
    others = _other_axes(words_of(project, identity), tag)
    made = sorted([*others, Axis(tag=tag, value=value)], key=lambda axis: axis.tag)
    return change_text(project, identity, axes=tuple(made))


def _other_axes(words: Text, tag: str) -> tuple[Axis, ...]:
    return tuple(axis for axis in words.axes if axis.tag != tag)


def words_of(project: Project, identity: str) -> Text:
    """The words of a clip."""
    clip = clip_by_id(project, identity)
    return clip.text if has_words(clip) else Text()


class FeatureChecks(QWidget):
    """A box to tick for each feature that the face has."""

    def __init__(self, page: TextPage) -> None:
        super().__init__()
        self._page = page
        self._tags: tuple[str, ...] = ()
        self._boxes: dict[str, Tick] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setVerticalSpacing(5)

    def show_features(self, face: Face) -> None:
        """Offer the features of a face."""
        tags = features_in(face)
        self.setVisible(bool(tags))
        if tags != self._tags:
            self._tags = tags
            self._rebuild()

    def box(self, tag: str) -> Tick:
        """The box of a feature."""
        return self._boxes[tag]

    def _rebuild(self) -> None:
        self._page.forget(self)
        for box in self._boxes.values():
            box.hide()
            box.deleteLater()
        self._boxes = {}
        for number, tag in enumerate(self._tags):
            box = Tick(NAMES[tag], f"{NAMES[tag]}, OpenType feature '{tag}'.")
            box.clicked.connect(lambda on, t=tag: self._set(t, on))
            self._page.watch(partial(_has_feature, tag), box.show_ticked)
            self._boxes[tag] = box
            self._grid.addWidget(box, number, 0)

    def _set(self, tag: str, on: bool) -> None:
        def changed(words: Text) -> dict[str, Any]:
            kept = [feature for feature in words.features if feature.tag != tag]
            if on != (tag in ON_BY_ITSELF):
                kept.append(Feature(tag=tag, value=int(on)))
            return {"features": tuple(sorted(kept, key=lambda feature: feature.tag))}

        self._page.set_words(f"Turn {NAMES[tag].lower()} {'on' if on else 'off'}", changed)


def _has_feature(tag: str, clip: Clip) -> Any:
    if not has_words(clip):
        return ABSENT
    values = {feature.tag: feature.value for feature in clip.text.features}
    return bool(values.get(tag, tag in ON_BY_ITSELF))
