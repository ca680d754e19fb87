"""What those who watch will see and read, computed before it is shown."""

from rovix.check.contrast import contrast_ratio, relative_luminance

__all__ = ["contrast_ratio", "relative_luminance"]
