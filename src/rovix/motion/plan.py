"""The picture plan: everything the painter needs for one picture, and nothing else.

All coordinates are px of the sequence's frame, origin at its top left corner; the painter scales
them to the size it is asked for.
Colours are BGRA, 0..255, not premultiplied.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, fields, is_dataclass, replace
from fractions import Fraction
from functools import cache
from hashlib import blake2b

import numpy as np
from numpy.typing import NDArray

from rovix.model import Linear, Node, Paper, Radial
from rovix.motion.steps import Step
from rovix.text import Layout

Floats = NDArray[np.float64]
Bgra = tuple[int, int, int, int]
Paint = Bgra | Linear | Radial
Fill = Paint | Paper
Blur = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Stroke:
    """An outline: `width` px, `side` outside, centre or inside, `join` round, miter or bevel."""

    width: float
    colour: Bgra
    opacity: float
    side: str
    join: str


@dataclass(frozen=True, slots=True, eq=False)
class Mixed:
    """A colour that lies over a fill by shares (n,) of the pieces; `linear` mixes in light."""

    colour: Bgra
    shares: Floats
    linear: bool


@dataclass(frozen=True, slots=True, eq=False)
class FillPart:
    """The letters' faces; a gradient runs over the `block` or over each `letter`. `shares` (n,).

    Each of the `mixes` is a colour laid over by shares (n,), in order, in light or in code values.
    """

    paint: Paint
    over: str
    shares: Floats
    mixes: tuple[Mixed, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class StrokePart:
    """An outline of the letters; `shares` (n,) are the pieces' own, beside the stroke's opacity."""

    stroke: Stroke
    shares: Floats


@dataclass(frozen=True, slots=True, eq=False)
class ShadowPart:
    """Offset, sigma and spread in px of the layer, which go with the pieces' scale; `shares` (n,)."""

    x: float
    y: float
    blur: float
    spread: float
    colour: Bgra
    opacity: float
    shares: Floats


@dataclass(frozen=True, slots=True, eq=False)
class LongShadowPart:
    """To the frame's edge, `angle` in degrees clockwise from rightwards; `shares` (n,)."""

    angle: float
    colour: Bgra
    opacity: float
    shares: Floats


@dataclass(frozen=True, slots=True, eq=False)
class GlowPart:
    """Sigma in px of the layer, which goes with the pieces' scale; `shares` (n,)."""

    size: float
    strength: float
    colour: Bgra
    opacity: float
    shares: Floats


@dataclass(frozen=True, slots=True, eq=False)
class BoxPart:
    """Boxes (k, 4) in px of the layer, each with its matrix (k, 3, 3) and opacity (k,)."""

    paint: Paint
    radius: float
    boxes: Floats
    matrices: Floats
    opacities: Floats


GlyphsPart = FillPart | StrokePart | ShadowPart | LongShadowPart | GlowPart | BoxPart


@dataclass(frozen=True, slots=True, eq=False)
class LayerPlan:
    """What all layers of a picture have: how strongly and by which `blend`, a name of
    :mod:`rovix.model.blend`, they are laid over what is below, and their `blur`, sigmas across and
    down in px of the frame."""

    id: str
    opacity: float = field(default=1.0, kw_only=True)
    blend: str = field(default="normal", kw_only=True)
    blur: Blur = field(default=(0.0, 0.0), kw_only=True)

    def inside(self) -> tuple[LayerPlan, ...]:
        """The plans that this one is made of, the lowest first."""
        return ()

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        """This plan made of others, as many as :meth:`inside` gives."""
        assert not plans, f"a {type(self).__name__} is made of no others"
        return self

    def bare(self) -> LayerPlan:
        """This plan without its own opacity, which what surrounds it has then."""
        return self if self.opacity == 1 else replace(self, opacity=1.0)


@dataclass(frozen=True, slots=True, eq=False)
class GlyphsPlan(LayerPlan):
    """Words: homographies (n, 3, 3) of the pieces and their opacities (n,), over a layout at rest;
    and the parts of their look, the lowest first.

    `windows` has for each piece the polygons (k, 2), px of the picture, that it shows within; none at
    all where no piece is cut.
    """

    layout: Layout
    of_glyph: NDArray[np.int64]
    matrices: Floats
    opacities: Floats
    parts: tuple[GlyphsPart, ...]
    windows: tuple[tuple[Floats, ...], ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class ImagePlan(LayerPlan):
    """A picture from a file: `source` names it, `time` is in seconds of a video, None for a still.

    `matrix` (3, 3) takes the picture resting around the origin, `width` by `height` px, to the
    frame; `crop` is none, square or round.
    """

    source: str
    time: Fraction | None
    width: float
    height: float
    matrix: Floats
    crop: str


@dataclass(frozen=True, slots=True, eq=False)
class BackgroundPlan(LayerPlan):
    """A fill over a rectangle of `width` by `height` px around the origin."""

    fill: Fill
    width: float
    height: float
    matrix: Floats


@dataclass(frozen=True, slots=True, eq=False)
class ShapePlan(LayerPlan):
    """A box, line or ellipse of `width` by `height` px around the origin, corners of `radius` px."""

    form: str
    width: float
    height: float
    radius: float
    fill: Fill | None
    fill_opacity: float
    stroke: Stroke | None
    outline_opacity: float
    matrix: Floats


@dataclass(frozen=True, slots=True, eq=False)
class GroupPlan(LayerPlan):
    """Layers that are laid over each other first, then over what lies below as one.

    With a `frame` (width, height) they are cut to it; `matrix` (3, 3) takes it to the picture's.
    """

    layers: tuple[LayerPlan, ...]
    frame: tuple[int, int] | None = None
    matrix: Floats | None = None

    @property
    def is_plain(self) -> bool:
        """Whether its layers may as well be laid over what is below one by one."""
        return self.opacity >= 1 and self.frame is None and self.blend == "normal" and not any(self.blur)

    def inside(self) -> tuple[LayerPlan, ...]:
        return self.layers

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        return replace(self, layers=plans)


@dataclass(frozen=True, slots=True, eq=False)
class TransitionPlan(LayerPlan):
    """Two layers, the one before giving way: `share` (0 to 1) says how far.

    `kind` is dissolve, slide, wipe or dip; `angle`, in degrees clockwise from rightwards, is the
    way that a slide and a wipe's edge travel over the frame of `size` px; `feather` in px is the
    edge's width; `colour` is what a dip passes through.
    """

    kind: str
    share: float
    before: LayerPlan | None
    after: LayerPlan | None
    size: tuple[int, int]
    angle: float
    feather: float
    colour: Bgra

    def inside(self) -> tuple[LayerPlan, ...]:
        return tuple(plan for plan in (self.before, self.after) if plan is not None)

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        left = iter(plans)
        before = None if self.before is None else next(left)
        return replace(self, before=before, after=None if self.after is None else next(left))


@dataclass(frozen=True, slots=True, eq=False)
class ExposurePlan(LayerPlan):
    """The mean of a layer's pictures at several moments, each with its own opacity; None shows nothing.

    `smear` is the way in px of the frame that fills the gaps between them; (0, 0) none.
    """

    moments: tuple[LayerPlan | None, ...]
    smear: tuple[float, float] = (0.0, 0.0)

    def inside(self) -> tuple[LayerPlan, ...]:
        return tuple(plan for plan in self.moments if plan is not None)

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        left = iter(plans)
        return replace(self, moments=tuple(None if plan is None else next(left) for plan in self.moments))


@dataclass(frozen=True, slots=True, eq=False)
class StepPlan(LayerPlan):
    """A layer with one step of an effect done to its picture."""

    inner: LayerPlan
    step: Step

    def inside(self) -> tuple[LayerPlan, ...]:
        return (self.inner,)

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        return replace(self, inner=plans[0])


@dataclass(frozen=True, slots=True, eq=False)
class EchoPlan(LayerPlan):
    """Copies of a layer laid over each other by `mode`, the first lowest; each with its strength."""

    copies: tuple[tuple[LayerPlan, float], ...]
    mode: str

    def inside(self) -> tuple[LayerPlan, ...]:
        return tuple(plan for plan, _ in self.copies)

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        strengths = (strength for _, strength in self.copies)
        return replace(self, copies=tuple(zip(plans, strengths, strict=True)))


@dataclass(frozen=True, slots=True, eq=False)
class SweepPlan(LayerPlan):
    """A layer, and where polygons cover it another of the same shape; soft by a sigma in px."""

    under: LayerPlan
    over: LayerPlan
    polygons: tuple[Floats, ...]
    feather: float

    def inside(self) -> tuple[LayerPlan, ...]:
        return self.under, self.over

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        return replace(self, under=plans[0], over=plans[1])


@dataclass(frozen=True, slots=True, eq=False)
class PicturePlan:
    """A whole picture: the frame's size, the ground under everything, the layers from below."""

    size: tuple[int, int]
    background: Bgra
    layers: tuple[LayerPlan, ...]


def sources(plan: LayerPlan) -> Iterator[tuple[str, Fraction | None]]:
    """The pictures of files that a plan asks for: which file, and seconds of a video."""
    if isinstance(plan, ImagePlan):
        yield plan.source, plan.time
    for part in plan.inside():
        yield from sources(part)


def plan_key(plan: object) -> bytes:
    """16 bytes that are equal exactly where the plans would paint the same; -0.0 counts as 0.0."""
    digest = blake2b(digest_size=16)
    for part in _parts(plan):
        digest.update(len(part).to_bytes(4, "little"))
        digest.update(part)
    return digest.digest()


def _parts(value: object) -> Iterator[bytes]:
    if isinstance(value, Layout):
        yield layout_key(value)
    elif isinstance(value, np.ndarray):
        yield str((value.dtype.str, value.shape)).encode()
        yield np.ascontiguousarray(value + 0.0 if value.dtype.kind == "f" else value).tobytes()
    elif isinstance(value, Node) or is_dataclass(value):
        yield type(value).__name__.encode()
        for name in _drawn_fields(type(value)):  # type: ignore[arg-type]
            yield from _parts(getattr(value, name))
    elif isinstance(value, tuple):
        yield str(len(value)).encode()
        for item in value:
            yield from _parts(item)
    else:
        yield repr(value + 0.0 if isinstance(value, float) else value).encode()


@cache
def _drawn_fields(kind: type) -> tuple[str, ...]:
    """The fields that say what a thing looks like: the id says which it is, and only shown ones are here."""
    names = (field.name for field in fields(kind)) if is_dataclass(kind) else kind.__struct_fields__  # type: ignore[attr-defined]
    return tuple(name for name in names if name not in ("id", "shown"))


def layout_key(layout: Layout) -> bytes:
    """What a layout draws: its glyphs, where, from which faces."""
    digest = blake2b(digest_size=16)
    for array in (layout.face, layout.glyph, layout.x, layout.y, layout.em, layout.tint):
        digest.update(array.tobytes())
    digest.update(repr((layout.colours, [face.key for face in layout.faces])).encode())
    return digest.digest()
