"""The channels of moves, a row each: all that is said of one, for evaluating, editing and showing it."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf
from typing import Literal

How = Literal["add", "multiply", "variance", "smaller", "larger", "over", "last"]
Group = Literal["Way", "Seen", "Soft", "Edges", "Letters"]
Far = tuple[float, str]
"""A value and what it is counted in, as in an amount of a move."""


@dataclass(frozen=True, slots=True)
class MoveChannel:
    """What a channel is called, under which heading it is offered, and the unit it is shown in.

    Departures of several moves combine by `how`, within `low` and `high`: `add` from 0; `multiply`,
    factors around 1; `variance`, blurs, of which the squares add up; `smaller` from 1 and `larger`
    from 0, the one that goes farthest; `over`, shares, each of what the one before left; `last`, the
    last that is not neutral. A `stepped` one holds through a frame. One that `acts_on` others has no
    values of its own. Where amounts are lengths, `axis` says across (0) or down (1); `units` are those
    that only it has. A new one departs by `away`, in a loop by `beating`. `by_letter` makes the
    letters pieces of their own; what does not `shake` cannot be drawn at random.
    """

    label: str
    group: Group
    unit: Literal["px", "%", "°", "em", ""] = "px"
    how: How = "add"
    low: float = -inf
    high: float = inf
    stepped: bool = False
    acts_on: tuple[str, ...] = ()
    axis: Literal[0, 1] | None = None
    units: tuple[str, ...] = ()
    away: Far = (0.0, "px")
    beating: Far | None = None
    by_letter: bool = False
    shakes: bool = True

    @property
    def neutral(self) -> float:
        """The value that changes nothing."""
        return 1.0 if self.how in ("multiply", "smaller") else 0.0


def _angle(label: str, away: float, beating: float) -> MoveChannel:
    return MoveChannel(label, "Way", "°", away=(away, "px"), beating=(beating, "px"))


def _scale(label: str, *acts_on: str) -> MoveChannel:
    return MoveChannel(label, "Way", "%", "multiply", 0.0, acts_on=acts_on, beating=(1.1, "px"))


def _strength(label: str) -> MoveChannel:
    return MoveChannel(label, "Seen", "%", "multiply", 0.0, 1.0)


def _edge(label: str, axis: Literal[0, 1]) -> MoveChannel:
    return MoveChannel(label, "Edges", axis=axis, away=(0.5, "piece"))


def _wrap(label: str, axis: Literal[0, 1]) -> MoveChannel:
    return MoveChannel(label, "Edges", axis=axis, away=(1.0, "frame"))


_MOST_BLUR = 1000.0  # as much as a layer at rest may be blurred

MOVE_CHANNELS: dict[str, MoveChannel] = {
    "x": MoveChannel("Position X", "Way", axis=0, units=("off-frame",), away=(1.0, "off-frame"),
                     beating=(0.2, "em")),
    "y": MoveChannel("Position Y", "Way", axis=1, units=("off-frame",), away=(1.0, "em"),
                     beating=(-0.2, "em")),
    "z": MoveChannel("Position Z", "Way", axis=1, away=(-1000.0, "px"), beating=(-200.0, "px")),
    "scale": _scale("Scale", "scale_x", "scale_y"),
    "scale_x": _scale("Scale X"),
    "scale_y": _scale("Scale Y"),
    "rotation_z": _angle("Rotation Z", -90.0, 8.0),
    "rotation_x": _angle("Rotation X", 90.0, 30.0),
    "rotation_y": _angle("Rotation Y", 90.0, 30.0),
    "slant": _angle("Slant", 30.0, 10.0),
    "opacity": _strength("Opacity"),
    "fill_opacity": _strength("Fill opacity"),
    "outline_opacity": _strength("Outline opacity"),
    "shadow_opacity": _strength("Shadow"),
    "glow_opacity": _strength("Glow"),
    "colour": MoveChannel("Colour", "Seen", "%", "over", 0.0, 1.0, away=(1.0, "px"), shakes=False),
    "blur": MoveChannel("Blur", "Soft", how="variance", low=0.0, high=_MOST_BLUR,
                        acts_on=("blur_x", "blur_y"), away=(20.0, "px"), beating=(6.0, "px")),
    "blur_x": MoveChannel("Blur X", "Soft", how="variance", low=0.0, high=_MOST_BLUR, axis=0,
                               away=(20.0, "px")),
    "blur_y": MoveChannel("Blur Y", "Soft", how="variance", low=0.0, high=_MOST_BLUR, axis=1,
                             away=(20.0, "px")),
    "echo": MoveChannel("Echo trail", "Soft", "%", "larger", 0.0, 1.0, away=(0.6, "px"), shakes=False),
    "wipe": MoveChannel("Wipe", "Edges", "%", "smaller", 0.0, 1.0, shakes=False),
    "open_left": _edge("Left edge", 0),
    "open_top": _edge("Top edge", 1),
    "open_right": _edge("Right edge", 0),
    "open_bottom": _edge("Bottom edge", 1),
    "offset_x": _wrap("Wrap-around X", 0),
    "offset_y": _wrap("Wrap-around Y", 1),
    "tracking": MoveChannel("Tracking", "Letters", "em", away=(0.3, "px"), beating=(0.1, "px"),
                            by_letter=True),
    "typed": MoveChannel("Typed share", "Letters", "%", "smaller", 0.0, 1.0, stepped=True, by_letter=True,
                         shakes=False),
    "letters": MoveChannel("Letters swapped", "Letters", "%", "last", 0.0, stepped=True, away=(1.0, "px"),
                           by_letter=True, shakes=False),
    "figures": MoveChannel("Figures", "Letters", "", "last", stepped=True, units=("number",),
                           away=(0.0, "number"), by_letter=True, shakes=False),
}  # fmt: skip
