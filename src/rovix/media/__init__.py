"""Files in and out of pixels and samples."""

from rovix.media.errors import MediaError
from rovix.media.library import MediaLibrary
from rovix.media.mix import SAMPLE_RATE, mix
from rovix.media.probe import digest_of, probe

__all__ = ["SAMPLE_RATE", "MediaError", "MediaLibrary", "digest_of", "mix", "probe"]
