"""Safe areas."""

# EBU R 95 and SMPTE ST 2046-1 for 16:9 pictures, as shares of width and height: the safe action area
# is 93 %, the safe area for words 90 %, each centred. The values are from memory.
ACTION = 0.93
TITLE = 0.90


def safe_rect(size: tuple[int, int], share: float) -> tuple[float, float, float, float]:
    """Left, top, right, bottom in px of the frame."""
    across, down = size[0] * (1 - share) / 2, size[1] * (1 - share) / 2
    return across, down, size[0] - across, size[1] - down
