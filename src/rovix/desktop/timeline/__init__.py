"""The timeline: ruler, tracks, clips, playhead."""

from rovix.desktop.timeline.timeline import Timeline

__all__ = ["Timeline"]
