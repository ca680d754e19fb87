"""The picture, and everything done in it by hand."""

from rovix.desktop.viewer.viewer import Viewer

__all__ = ["Viewer"]
