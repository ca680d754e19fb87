"""What a closed line belongs to: a mask of a layer, or what a picture is cut to."""

from __future__ import annotations

from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from rovix.desktop.document import Document, Edit
from rovix.edit.effects import put_effect
from rovix.model import Cut, FootageClip, PictureClip, StillClip
from rovix.model.clip_kinds import is_layer
from rovix.model.contour import Contour
from rovix.model.effects.mask import Mask
from rovix.motion import Scene
from rovix.motion.at_frame import at_frame
from rovix.motion.effects.affected import rest_world
from rovix.motion.effects.mask import mask_place

Floats = NDArray[np.float64]
_NEW = Mask(form="drawn")
"""What a new one will be like, as long as it is drawn."""


class Lined(Protocol):
    """A line of the selected layer."""

    said: str
    """What it is the line of, as in 'the mask'."""

    @property
    def address(self) -> str:
        """The channel that it stands in."""

    def line(self) -> Contour | None:
        """The points at the playhead; None where the line is gone."""

    def place(self) -> Floats | None:
        """(3, 3): from px of the line to px of the frame."""

    def drawn(self, line: Contour) -> Edit:
        """The edit that takes a line that was just drawn."""


class _OfLayer:
    def __init__(self, document: Document, clip: str) -> None:
        self._document, self._clip = document, clip

    @property
    def layer(self) -> PictureClip | None:
        found = self._document.clip
        return found if is_layer(found) and found.id == self._clip else None

    @property
    def frame(self) -> int:
        return self._document.clip_frame

    def scene(self) -> Scene:
        return Scene.of(self._document.picture_project)


class MaskLine(_OfLayer):
    """The line of a mask; None is a new one, added when its line is drawn."""

    said = "the mask"

    def __init__(self, document: Document, clip: str, effect: str | None) -> None:
        super().__init__(document, clip)
        self.effect, self._is_new = effect, effect is None

    @property
    def address(self) -> str:
        return f"effects.{self.effect}.contour"

    def _mask(self) -> Mask | None:
        layer = self.layer
        if layer is None:
            return None
        if self._is_new:
            return _NEW
        found = next((e for e in layer.effects if e.id == self.effect and isinstance(e, Mask)), None)
        return None if found is None else at_frame(found, self.frame)

    def line(self) -> Contour | None:
        mask = self._mask()
        return None if mask is None else mask.contour

    def place(self) -> Floats | None:
        layer, mask = self.layer, self._mask()
        if layer is None or mask is None:
            return None
        return mask_place(self.scene(), layer, np.eye(4), mask, float(layer.start + self.frame))

    def drawn(self, line: Contour) -> Edit:
        made = Mask(form="drawn", contour=line)
        self.effect, self._is_new = made.id, False
        return lambda project: put_effect(project, self._clip, made)


class CutLine(_OfLayer):
    """The line that a picture is cut to."""

    said, address = "the form", "cut.contour"

    def _cut(self) -> Cut | None:
        layer = self.layer
        cut = layer.cut if isinstance(layer, FootageClip | StillClip) else None
        return None if cut is None or cut.form != "drawn" else at_frame(cut, self.frame)

    def line(self) -> Contour | None:
        cut = self._cut()
        return None if cut is None else cut.contour

    def place(self) -> Floats | None:
        layer = self.layer
        if layer is None:
            return None
        scene = self.scene()
        return scene.project(rest_world(scene, layer, np.eye(4), float(layer.start + self.frame)))

    def drawn(self, line: Contour) -> Edit:
        raise NotImplementedError("a cut has a line as soon as it is drawn")
