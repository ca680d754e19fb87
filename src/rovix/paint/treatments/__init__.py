"""Treatments as done to pixels."""

from rovix.paint.treatments.apply import Drawing, treated

__all__ = ["Drawing", "treated"]
