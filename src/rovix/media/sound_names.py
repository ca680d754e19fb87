"""The sounds that come with Rovix for moves, by name."""

PIECE_SOUNDS = {"key": "Key", "tick": "Tick", "knock": "Knock", "drop": "Drop", "thump": "Thump"}
"""What a strike may be, and what it is called."""
SPEED_SOUNDS = {"rush": "Rush of air", "rumble": "Rumble"}
"""What may follow a move's speed."""
