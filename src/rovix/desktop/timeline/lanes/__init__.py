"""Lanes: the channels of opened clips, their curves drawn to scale under the clip."""

from rovix.desktop.timeline.lanes.lanes import Lanes

__all__ = ["Lanes"]
