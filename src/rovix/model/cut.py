"""The form that a picture is cut to, and where the picture lies in it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from rovix.model.channel import Number, keyed
from rovix.model.contour import Contour, box_contour
from rovix.model.node import Node
from rovix.model.shape import Extent, Radius

if TYPE_CHECKING:
    Zoom = float
else:
    Zoom = keyed(0.01, 100)


class Cut(Node, frozen=True, kw_only=True):
    """A box of `width` by `height` px with corners rounded by a `radius`, an ellipse, or a `drawn` contour
    about the same middle. The picture's own middle lies at `x`, `y` px from it, the picture `zoom` times
    as large."""

    form: Literal["box", "ellipse", "drawn"] = "box"
    width: Extent = 600.0
    height: Extent = 600.0
    radius: Radius = 0.0
    contour: Contour = box_contour(600.0, 600.0)
    x: Number = 0.0
    y: Number = 0.0
    zoom: Zoom = 1.0
