"""What fills a whole frame, or a shape, without a file."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

import msgspec

from rovix.model.channel import KeyedColour, Mix, Number, Share, keyed
from rovix.model.node import Node

if TYPE_CHECKING:
    Radius = float
else:
    Radius = keyed(0, 100, above=True)


class Plain(Node, frozen=True, kw_only=True, tag="plain", tag_field="fill"):
    """One colour."""

    colour: KeyedColour = "#20303a"


class Stop(Node, frozen=True, kw_only=True):
    """A colour at a share (0 to 1) of a gradient's way."""

    at: Share
    colour: KeyedColour


Stops = Annotated[tuple[Stop, ...], msgspec.Meta(min_length=2, max_length=64)]
DAWN = (Stop(at=0.0, colour="#274156"), Stop(at=1.0, colour="#e8b98a"))


class Linear(Node, frozen=True, kw_only=True, tag="linear", tag_field="fill"):
    """A gradient across the box at an angle in degrees clockwise, 0 from left to right.

    Its first and last colour lie on the corners that the angle points away from and at, as in CSS
    Images Level 3. `mix` says where colours are mixed: in sRGB, or in linear light.
    """

    angle: Number = 90.0
    stops: Stops = DAWN
    mix: Mix = "srgb"


class Radial(Node, frozen=True, kw_only=True, tag="radial", tag_field="fill"):
    """A gradient from a point outwards: `x`, `y` and `radius` are shares of the box's sides.

    The point is counted from the box's top left; the radius is an ellipse's, across and down.
    """

    x: Number = 0.5
    y: Number = 0.5
    radius: Radius = 0.7
    stops: Stops = DAWN
    mix: Mix = "srgb"


class Paper(Node, frozen=True, kw_only=True, tag="paper", tag_field="fill"):
    """Fibrous paper grown from a seed: the same on every machine.

    `strength` is how far the grain departs from the colour, as a share of full scale.
    """

    colour: KeyedColour = "#e9dfc8"
    strength: Share = 0.08
    seed: Annotated[int, msgspec.Meta(ge=0, le=2**53)] = 1


Background = Plain | Linear | Radial | Paper
ShapeFill = Plain | Linear | Radial
