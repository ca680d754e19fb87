"""A picture plan becomes premultiplied BGRA pixels."""

from rovix.paint.blend import blend
from rovix.paint.blur import blur
from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter, Pictures

__all__ = ["LayerCache", "Painter", "Pictures", "blend", "blur"]
