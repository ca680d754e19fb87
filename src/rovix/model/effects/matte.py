"""A layer that shows where another one is."""

from __future__ import annotations

from typing import Annotated, Literal

from rovix.model.effects.effect import Effect
from rovix.model.effects.rows import Facts, OtherLayer, Switch
from rovix.model.node import Node
from rovix.model.reference import refers


class Through(Node, frozen=True, kw_only=True):
    """A layer that another shows through: `at` how opaque, or how light, it is."""

    layer: Annotated[str, refers("layer", "show through")]
    at: Literal["alpha", "light"] = "alpha"


class Matte(Effect, frozen=True, kw_only=True, tag="matte"):
    """Shows the layer where another one is, as that one is at the moment, with its moves and effects; with
    `hides` where that one is not. The other may be hidden itself. `light` is BT.709's luma."""

    facts = Facts(
        "Matte",
        7,
        (
            OtherLayer(
                "through", "Shows through", {"alpha": "how opaque it is", "light": "how light it is"},
                "The layer that this one shows through. Hide its track and only this one is seen.",
                "What of that layer counts.",
                Through, "By",
            ),
            Switch("hides", "Shows outside", "Shows where that layer is not, instead of where it is."),
        ),
        {},
        lambda matte: "through a layer" if matte.through else "through nothing",
    )  # fmt: skip

    through: Through | None = None
    hides: bool = False
