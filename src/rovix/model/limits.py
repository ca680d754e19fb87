"""How large a number and how long a text of a project may be: every one is finite and can be drawn."""

from __future__ import annotations

from typing import Annotated

import msgspec

Frame = Annotated[int, msgspec.Meta(ge=-100_000_000, le=100_000_000)]
"""A frame that may lie before the first."""
Amount = Annotated[float, msgspec.Meta(ge=-1e9, le=1e9)]
"""A value of whatever unit its channel has."""
Far = Annotated[float, msgspec.Meta(ge=-10_000_000, le=10_000_000)]
"""px, degrees, or shares of something."""
Name = Annotated[str, msgspec.Meta(max_length=1000)]
Curve = Annotated[str, msgspec.Meta(max_length=10_000)]
"""An easing by its name or CSS text."""

MOST_LETTERS = 100_000
"""Characters of one text layer."""
MOST_CLIPS = 20_000
"""Clips of a project, those in groups counted too."""
MOST_SHOWN = 50_000
"""Clips that a sequence shows, those of sequences in it counted as often as they are shown."""
DEEPEST = 64
"""Groups in groups, sequences in sequences, layers that follow layers."""
