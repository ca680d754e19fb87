"""A picture plan becomes premultiplied BGRA pixels."""

from rovix.paint.cache import LayerCache
from rovix.paint.painter import Painter, Pictures

__all__ = ["LayerCache", "Painter", "Pictures"]
