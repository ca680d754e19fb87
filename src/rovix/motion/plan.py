"""The picture plan: everything the painter needs for one picture, and nothing else.

All coordinates are px of the sequence's frame, origin at its top left corner; the painter scales
them to the size it is asked for.
Colours are BGRA, 0..255, not premultiplied.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, fields, is_dataclass, replace
from fractions import Fraction
from functools import lru_cache
from hashlib import blake2b
from operator import attrgetter
from struct import Struct
from typing import Any
from weakref import WeakKeyDictionary

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
    frame; `crop` is none, square or round. A `clear` one may be seen through.
    """

    source: str
    time: Fraction | None
    width: float
    height: float
    matrix: Floats
    crop: str
    clear: bool = True


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
class MattePlan(LayerPlan):
    """A layer where another is: by how opaque that one is, or how light; with `hides` where it is not."""

    inner: LayerPlan
    by: LayerPlan | None
    light: bool
    hides: bool

    def inside(self) -> tuple[LayerPlan, ...]:
        return (self.inner,)

    def with_inside(self, plans: tuple[LayerPlan, ...]) -> LayerPlan:
        return replace(self, inner=plans[0])


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


def most_moments(plan: PicturePlan) -> int:
    """How many moments an exposure in a picture has at most; 0 without one."""
    return max(map(_moments, plan.layers), default=0)


def _moments(plan: LayerPlan) -> int:
    if isinstance(plan, ExposurePlan):
        return len(plan.moments)
    return max(map(_moments, plan.inside()), default=0)


def plan_key(plan: object) -> bytes:
    """16 bytes that are equal exactly where the plans would paint the same; -0.0 counts as 0.0."""
    digest = blake2b(digest_size=16)
    _feeder(type(plan))(plan, digest.update)
    return digest.digest()


Feed = Callable[[bytes], None]


_FEEDERS: dict[type, Callable[[Any, Feed], None]] = {}


def _feeder(kind: type) -> Callable[[Any, Feed], None]:
    """How values of a type are given; found once, as keys are made a thousand times a frame."""
    found = _FEEDERS.get(kind)
    if found is None:
        found = _FEEDERS[kind] = _feeder_of(kind)
    return found


def _feeder_of(kind: type) -> Callable[[Any, Feed], None]:
    if issubclass(kind, Layout):
        return lambda value, feed: feed(_layout_key(value))
    if issubclass(kind, GlyphsPlan):
        return lambda value, feed: feed(_glyphs_key(value))
    if issubclass(kind, np.ndarray):
        return _feed_array
    if issubclass(kind, Node) or is_dataclass(kind):
        return _fields_feeder(kind)
    if issubclass(kind, tuple):
        return _feed_items
    if issubclass(kind, float):
        return lambda value, feed: feed(b"f" + _PACKED(value + 0.0))
    return lambda value, feed: _feed_text(repr(value), feed)


_PACKED = Struct("<d").pack


def _feed_array(value: NDArray[Any], feed: Feed) -> None:
    feed(_array_head(value.dtype, value.shape))
    feed(np.ascontiguousarray(value + 0.0 if value.dtype.kind == "f" else value).tobytes())


@lru_cache(maxsize=4096)
def _array_head(kind: np.dtype[Any], shape: tuple[int, ...]) -> bytes:
    return repr((kind.str, shape)).encode()


def _feed_items(value: tuple[object, ...], feed: Feed) -> None:
    feed(b"t%d." % len(value))
    for item in value:
        _feeder(type(item))(item, feed)


def _feed_text(text: str, feed: Feed) -> None:
    raw = text.encode(errors="surrogatepass")
    feed(b"s%d." % len(raw))
    feed(raw)


@lru_cache(maxsize=256)
def _fields_feeder(kind: type) -> Callable[[Any, Feed], None]:
    """What a thing looks like is said by its fields but for the id, which says which it is, and `shown`,
    as only shown ones are here."""
    names = (field.name for field in fields(kind)) if is_dataclass(kind) else kind.__struct_fields__  # type: ignore[attr-defined]
    drawn = [name for name in names if name not in ("id", "shown")]
    head, values = kind.__name__.encode() + b".", attrgetter(*drawn) if drawn else None

    def feed_fields(value: Any, feed: Feed) -> None:
        feed(head)
        if values is None:
            return
        found = values(value) if len(drawn) > 1 else (values(value),)
        for item in found:
            _feeder(type(item))(item, feed)

    return feed_fields


_GLYPHS_KEYS: OrderedDict[int, tuple[GlyphsPlan, bytes]] = OrderedDict()
_KEPT = 512  # plans of words whose keys are kept


def _glyphs_key(plan: GlyphsPlan) -> bytes:
    """What a plan of words draws; kept by its identity, as words at rest have one plan for many frames."""
    found = _GLYPHS_KEYS.get(id(plan))
    if found is not None:
        return found[1]
    digest = blake2b(digest_size=16)
    _fields_feeder(GlyphsPlan)(plan, digest.update)
    _GLYPHS_KEYS[id(plan)] = plan, digest.digest()
    if len(_GLYPHS_KEYS) > _KEPT:
        _GLYPHS_KEYS.popitem(last=False)
    return digest.digest()


_LAYOUT_KEYS: WeakKeyDictionary[Layout, bytes] = WeakKeyDictionary()


def _layout_key(layout: Layout) -> bytes:
    """What a layout draws: its glyphs, where, from which faces. Found once, as it does not change."""
    key = _LAYOUT_KEYS.get(layout)
    if key is None:
        digest = blake2b(digest_size=16)
        for array in (layout.face, layout.glyph, layout.x, layout.y, layout.em, layout.tint):
            digest.update(array.tobytes())
        digest.update(repr((layout.colours, [face.key for face in layout.faces])).encode())
        key = _LAYOUT_KEYS[layout] = digest.digest()
    return key
