"""Files in and out of pixels and samples."""

from rovix.media.errors import MediaError
from rovix.media.library import MediaLibrary
from rovix.media.mix import Mixer
from rovix.media.probe import digest_of, probe
from rovix.media.samples import SAMPLE_RATE

__all__ = ["SAMPLE_RATE", "MediaError", "MediaLibrary", "Mixer", "digest_of", "probe"]
